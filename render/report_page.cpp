#include "render/report_page.h"

#include "core/feedback/counted.h"
#include "core/report/shown/shown_table.h"
#include "core/thermal/whole_heat.h"
#include "render/drawing_file.h"
#include "render/paper.h"
#include "render/text.h"
#include "render/verdict_mark.h"

#include <QAbstractTextDocumentLayout>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QTextFrame>
#include <QUrl>
#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

// Lengths of the layout are dots of 300 to the inch, so that letters stand where the printer puts them.
constexpr double layoutDpi = 300;
constexpr double dots(double millimetres) { return millimetres / 25.4 * layoutDpi; }
constexpr double mostPictureHeightMm = 100;

QString dotsText(double millimetres) { return QString::number(static_cast<int>(dots(millimetres))); }
// Points of type.
QString size(double points) { return QString("font-size:%1px").arg(static_cast<int>(points / 72 * layoutDpi)); }

QString escaped(const std::string& words) { return q(words).toHtmlEscaped(); }

QImage markOf(Verdict verdict) {
    QImage mark(96, 96, QImage::Format_ARGB32_Premultiplied);
    mark.fill(Qt::transparent);
    QPainter painter(&mark);
    painter.setRenderHint(QPainter::Antialiasing);
    drawVerdict(painter, {4, 4, 88, 88}, verdict);
    return mark;
}

QString markTag(const std::string& verdict, double millimetres) {
    return QString("<img src='verdict-%1' width='%2' height='%2'>").arg(q(verdict), dotsText(millimetres));
}

QString title(const QString& words) {
    return QString("<p style='%1; font-weight:600; margin-top:%2px; margin-bottom:%3px'>%4</p>")
        .arg(size(12), dotsText(5), dotsText(1.5), words);
}

QString rule() {
    return QString("<table width='100%' cellspacing='0' cellpadding='0'><tr><td bgcolor='#D8D3CA' "
                   "style='font-size:2px'>&nbsp;</td></tr></table>");
}

// `front`: an image before the first cell of each row; empty: none.
QString tableOf(const ShownTable& table, const std::vector<QString>& front) {
    QString html = QString("<table width='100%' cellspacing='0' cellpadding='%1'><thead><tr>").arg(dotsText(0.85));
    if (!front.empty())
        html += QString("<th width='%1'></th>").arg(dotsText(4));
    // Words stand off the numbers before them.
    const auto side = [&](std::size_t column) {
        return table.columns[column].isNumber ? QString("align='right'")
                                              : QString("align='left' style='padding-left:%1px'").arg(dotsText(2));
    };
    for (std::size_t column = 0; column < table.columns.size(); ++column)
        html += QString("<th %1><span style='%2; color:#777B80; font-weight:600'>%3</span></th>")
                    .arg(side(column), size(8), escaped(table.columns[column].title));
    html += "</tr></thead>";
    for (std::size_t row = 0; row < table.rows.size(); ++row) {
        html += "<tr>";
        if (!front.empty())
            html += "<td>" + front[row] + "</td>";
        for (std::size_t column = 0; column < table.columns.size(); ++column)
            html += QString("<td %1><span style='%2'>%3</span></td>")
                        .arg(side(column), size(9), escaped(table.rows[row][column]));
        html += "</tr>";
    }
    return html + "</table>";
}

QString factsOf(const std::vector<std::pair<std::string, std::string>>& facts) {
    QString html = QString("<table width='100%' cellspacing='0' cellpadding='%1'>").arg(dotsText(0.6));
    for (const auto& [name, value] : facts)
        html += QString("<tr><td width='%1' style='%2; color:#777B80'>%3</td><td style='%2'>%4</td></tr>")
                    .arg(dotsText(32), size(9), escaped(name), escaped(value));
    return html + "</table>";
}

// Tables take no margins; a line of this height stands between them.
QString gap(double millimetres) { return QString("<p style='font-size:%1px'>&nbsp;</p>").arg(dotsText(millimetres)); }

QString head(const ReportContent& content) {
    const std::string verdict(verdictName(content.readings->verdict()));
    const QString by = escaped(content.date) +
                       (content.preparedBy.empty() ? QString() : ", prepared by " + escaped(content.preparedBy));
    return QString("<table width='100%' cellspacing='0' cellpadding='0'><tr><td><span style='%1; font-weight:700'>%2"
                   "</span></td><td align='right'><span style='%1; font-weight:700'>%3 %4</span></td></tr></table>"
                   "<p style='%5; color:#777B80; margin-top:%6px'>%7</p>")
               .arg(size(18), escaped(content.title), markTag(verdict, 5), q(verdict), size(9), dotsText(1.5), by) +
           gap(1) + rule() + gap(1);
}

QString facts(const ReportContent& content) {
    const auto& readings = *content.readings;
    std::uint64_t cells = 0;
    for (const auto& part : readings.parts)
        cells += part.cells;
    std::vector<std::pair<std::string, std::string>> told{{"Case", content.entry->name}};
    if (content.cases.size() > 1) {
        std::vector<std::string> each;
        for (const auto& one : content.cases)
            each.push_back(fmt::format("{} {}", one.name, verdictName(verdictOfCases({one}))));
        told.emplace_back("All cases",
                          fmt::format("{}: {}", verdictName(verdictOfCases(content.cases)), fmt::join(each, ", ")));
    }
    told.emplace_back("File", content.entry->file); // as the survey names it: no folder of a machine on a page
    told.emplace_back("Extent", fmt::format("{}, {}, {}", counted(readings.parts.size(), "part"),
                                            counted(readings.boundaries.size(), "boundary"), counted(cells, "cell")));
    if (readings.time)
        told.emplace_back("Time", fmt::format("{:g} s", *readings.time));
    if (readings.symmetry != 1)
        told.emplace_back("Symmetry",
                          fmt::format("the model is 1/{:g} of the whole, for which flows, powers and chi are told",
                                      readings.symmetry));
    if (const auto& balance = readings.balance)
        told.emplace_back("Heat balance", balanceText(*balance));
    if (!content.note.empty())
        told.emplace_back("Note", content.note);
    return factsOf(told);
}

QString pictureBlock(const ReportContent& content) {
    if (content.picture.isNull())
        return {};
    const double ratio = static_cast<double>(content.picture.height()) / content.picture.width();
    const double width = std::min(textWidthMm, mostPictureHeightMm / ratio);
    return QString("<p align='center' style='margin-top:%1px; margin-bottom:%1px'>"
                   "<img src='picture' width='%2' height='%3'></p><p style='%4; color:#777B80'>%5</p>")
        .arg(dotsText(1.5), dotsText(width), dotsText(width * ratio), size(8.5), escaped(content.pictureCaption));
}

QString verdicts(const ReportContent& content) {
    const auto& limits = content.readings->limits;
    if (limits.empty())
        return title("Verdicts") + QString("<p style='%1; color:#777B80'>No limits are defined, so nothing is judged."
                                           "</p>")
                                       .arg(size(9));
    auto table = shownLimits(*content.survey, *content.entry, limits, content.unit);
    std::vector<QString> marks; // say the verdict already, so that the name comes first
    for (const auto& row : table.rows)
        marks.push_back(markTag(row[0], 3));
    std::swap(table.columns[0], table.columns[1]);
    for (auto& row : table.rows)
        std::swap(row[0], row[1]);
    return title("Verdicts") + tableOf(table, marks);
}

// What transmittances are the sums of.
QString transmittances(const ReportContent& content) {
    QString html;
    for (const auto& gauge : content.readings->gauges) {
        if (!gauge.derivation || !gauge.value || gauge.derivation->terms.empty())
            continue;
        html += QString("<p style='%1; margin-top:%2px'><b>%3 &nbsp; %4</b> &nbsp; <span style='color:#777B80'>%5"
                        "</span></p>")
                    .arg(size(9), dotsText(2), escaped(gauge.id), escaped(formatSi(*gauge.value, gauge.unit)),
                         escaped(gauge.reference));
        html += tableOf(shownTerms(gauge), {});
    }
    return html.isEmpty() ? html : title("Transmittances") + html;
}

// A line of text under a heading.
QString lineOf(const std::string& text) {
    return QString("<p style='%1; color:#777B80'>%2</p>").arg(size(9), escaped(text));
}

// What each variant changed against the baseline.
QString compared(const ReportContent& content) {
    if (content.run == nullptr || !content.run->compare)
        return {};
    const auto& all = *content.run->compare;
    if (!all.why.empty())
        return title("Compared") + lineOf(all.why);
    QString html;
    for (const auto& name : all.cases) {
        if (name == all.baseline)
            continue;
        const auto one = comparedAlone(all, name);
        html += title(q(name + " against " + all.baseline)) +
                tableOf(shownCompare(*content.survey, one, comparedRows(*content.survey, one, CompareOrder::Worse),
                                     content.unit),
                        {});
    }
    for (const auto& remark : all.remarks)
        html += lineOf(remark);
    return html;
}

// Sweep, meshes of different fineness and measured data.
QString together(const ReportContent& content) {
    QString html;
    if (content.run == nullptr)
        return html;
    if (content.run->sweep) {
        html += title("Sweep");
        for (const auto& sentence : sweepSentences(*content.survey, *content.run->sweep))
            html += lineOf(sentence);
    }
    for (const auto& study : content.run->grids) {
        html += title("Grid convergence");
        html += study.why.empty() ? tableOf(shownGrids(*content.survey, study, content.unit), {}) : lineOf(study.why);
    }
    for (const auto& one : content.run->cases)
        for (const auto& reading : one.measured) {
            html += title(q("Measured, " + reading.id + ", against " + one.name)) + lineOf(measuredText(reading));
            for (const auto& note : reading.notes)
                html += lineOf(note);
            if (reading.why.empty())
                html += tableOf(shownMeasured(reading, content.unit), {});
        }
    return html;
}

// What is still to be followed up.
QString findings(const ReportContent& content) {
    ShownTable table{{{"Severity"}, {"Finding"}}, {}};
    for (const auto& finding : content.findings)
        table.rows.push_back({std::string(severityName(finding.severity)) + ", " + finding.state, finding.text});
    return table.rows.empty() ? QString() : title("Findings") + tableOf(table, {});
}

} // namespace

ReportPages::ReportPages(const ReportContent& content)
    : m_foot("Values are extremes over the stored values of each part or boundary; margins are temperature "
             "differences.") {
    layOut(content);
}

void ReportPages::layOut(const ReportContent& content) {
    QFont font("Inter");
    // The font's contextual hyphens beside digits cannot be copied out of a PDF; Latin text needs no shaping.
    font.setStyleStrategy(QFont::PreferNoShaping);
    m_document.setDefaultFont(font);
    m_document.setUseDesignMetrics(true);
    m_document.setDocumentMargin(0);
    m_document.setPageSize({dots(pageWidthMm), dots(pageHeightMm)});
    for (const auto verdict : {Verdict::Within, Verdict::Tight, Verdict::Over, Verdict::Unknown})
        m_document.addResource(QTextDocument::ImageResource, QUrl("verdict-" + q(std::string(verdictName(verdict)))),
                               markOf(verdict));
    m_document.addResource(QTextDocument::ImageResource, QUrl("picture"), content.picture);
    m_document.setHtml("<body style='color:#22262B'>" + head(content) + facts(content) + pictureBlock(content) +
                       verdicts(content) + transmittances(content) + compared(content) + together(content) +
                       findings(content) + "</body>");
    auto frame = m_document.rootFrame()->frameFormat();
    frame.setMargin(dots(marginMm));
    frame.setBottomMargin(dots(marginMm + footMm));
    m_document.rootFrame()->setFrameFormat(frame);
    m_document.setMetaInformation(QTextDocument::DocumentTitle, q(content.title));
}

void ReportPages::draw(QPainter& painter, int page, double dpi) const {
    painter.save();
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform | QPainter::TextAntialiasing);
    painter.scale(dpi / layoutDpi, dpi / layoutDpi);
    const double height = dots(pageHeightMm);
    painter.save();
    painter.translate(0, -page * height);
    QAbstractTextDocumentLayout::PaintContext context;
    context.clip = {0, page * height, dots(pageWidthMm), height - dots(marginMm)};
    context.palette.setColor(QPalette::Text, QColor(0x22, 0x26, 0x2B));
    painter.setClipRect(context.clip);
    m_document.documentLayout()->draw(&painter, context);
    painter.restore();
    auto font = m_document.defaultFont();
    font.setPixelSize(static_cast<int>(8.0 / 72 * layoutDpi));
    painter.setFont(font);
    const double foot = height - dots(marginMm);
    painter.setPen(QPen(QColor(0xD8, 0xD3, 0xCA), dots(0.2)));
    painter.drawLine(QPointF(dots(marginMm), foot), QPointF(dots(pageWidthMm - marginMm), foot));
    painter.setPen(QColor(0x77, 0x7B, 0x80));
    const QRectF line(dots(marginMm), foot + dots(1), dots(textWidthMm), dots(5));
    painter.drawText(line, Qt::AlignLeft | Qt::AlignVCenter, m_foot);
    if (count() > 1)
        painter.drawText(line, Qt::AlignRight | Qt::AlignVCenter, QString("page %1 of %2").arg(page + 1).arg(count()));
    painter.restore();
}

QImage ReportPages::picture(int page, double dpi) const {
    QImage image(static_cast<int>(pageWidthMm / 25.4 * dpi), static_cast<int>(pageHeightMm / 25.4 * dpi),
                 QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    draw(painter, page, dpi);
    return image;
}

Done ReportPages::writePdf(const std::filesystem::path& file) const {
    return pyro::writePdf("the report", file, [&](QPdfWriter& writer) {
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins({});
        writer.setTitle(m_document.metaInformation(QTextDocument::DocumentTitle));
        writer.setResolution(static_cast<int>(layoutDpi));
        QPainter painter;
        if (!painter.begin(&writer))
            return false;
        for (int page = 0; page < count(); ++page) {
            if (page > 0 && !writer.newPage())
                return false;
            draw(painter, page, layoutDpi);
        }
        return painter.end();
    });
}

} // namespace pyro
