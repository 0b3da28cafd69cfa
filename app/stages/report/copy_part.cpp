#include "app/stages/report/copy_part.h"

#include "render/figure_store.h"
#include "render/text.h"

#include <QApplication>
#include <QClipboard>
#include <QMenu>
#include <QMimeData>

namespace pyro {
namespace {

// A blank for what would begin another cell.
QString cellText(const std::string& text) { return q(text).replace('\t', ' ').replace('\n', ' '); }

QStringList titlesOf(const ShownTable& table) {
    QStringList out;
    for (const auto& column : table.columns)
        out.append(cellText(column.title));
    return out;
}

} // namespace

QMimeData* mimeOf(const ShownTable& table) {
    QString text = titlesOf(table).join('\t') + "\n";
    QString html = "<table><thead><tr>";
    for (const auto& column : table.columns)
        html += "<th>" + q(column.title).toHtmlEscaped() + "</th>";
    html += "</tr></thead><tbody>";
    for (const auto& row : table.rows) {
        QStringList cells;
        html += "<tr>";
        for (std::size_t i = 0; i < table.columns.size(); ++i) {
            const auto cell = i < row.size() ? row[i] : std::string();
            cells.append(cellText(cell));
            html += QString(table.columns[i].isNumber ? "<td align=\"right\">" : "<td>") + q(cell).toHtmlEscaped() +
                    "</td>";
        }
        text += cells.join('\t') + "\n";
        html += "</tr>";
    }
    auto* data = new QMimeData;
    data->setText(text);
    data->setHtml(html + "</tbody></table>");
    return data;
}

QMimeData* mimeOf(const ReportPicture& picture) {
    auto* data = new QMimeData;
    FigureStore store;
    const auto size = store.sizeOf(picture);
    data->setImageData(store.image(picture, std::max(1600, static_cast<int>(size.width()))));
    if (picture.drawing)
        data->setData("image/svg+xml", QByteArray::fromStdString(picture.drawing->svg()));
    return data;
}

void addCopyActions(QMenu& menu, const ReportPart& part) {
    const auto copy = [](QMimeData* data) { QApplication::clipboard()->setMimeData(data); };
    if (part.kind == ReportPart::Kind::Table || part.kind == ReportPart::Kind::Facts)
        menu.addAction("Copy table", [copy, table = part.table] { copy(mimeOf(table)); });
    if (part.picture.isThere())
        menu.addAction("Copy picture", [copy, picture = part.picture] { copy(mimeOf(picture)); });
    if (!part.runs.empty())
        menu.addAction("Copy text", [text = q(plainText(part.runs))] { QApplication::clipboard()->setText(text); });
}

} // namespace pyro
