#include "render/report_layout.h"

#include "render/colours.h"
#include "render/paper.h"
#include "render/text.h"
#include "render/verdict_mark.h"

#include <QAbstractTextDocumentLayout>
#include <QPainter>
#include <QTextCursor>
#include <QTextList>
#include <QTextObjectInterface>
#include <QTextTable>
#include <algorithm>

namespace pyro {
namespace {

constexpr double highestFigureMm = 215;
constexpr double highestLogoMm = 14;
constexpr int figureType = QTextFormat::UserObject + 1;
constexpr int figureProperty = QTextFormat::UserProperty + 1; // which one
constexpr int widthProperty = QTextFormat::UserProperty + 2;  // mm
constexpr int heightProperty = QTextFormat::UserProperty + 3;

// Draws the pictures of a text by lines and letters where they have them.
class FigureObject : public QObject, public QTextObjectInterface {
public:
    FigureObject(FigureStore& store, std::vector<const ReportPicture*> figures, QObject* parent)
        : QObject(parent), m_store(store), m_figures(std::move(figures)) {}
    void* qt_metacast(const char* name) override { // what moc makes of Q_INTERFACES
        if (qstrcmp(name, qobject_interface_iid<QTextObjectInterface*>()) == 0)
            return static_cast<QTextObjectInterface*>(this);
        return QObject::qt_metacast(name);
    }
    QSizeF intrinsicSize(QTextDocument* text, int, const QTextFormat& format) override {
        const auto* device = text->documentLayout()->paintDevice();
        const double perMm = (device != nullptr ? device->logicalDpiY() : 96) / 25.4;
        return {format.doubleProperty(widthProperty) * perMm, format.doubleProperty(heightProperty) * perMm};
    }
    void drawObject(QPainter* painter, const QRectF& box, QTextDocument*, int, const QTextFormat& format) override {
        const auto& picture = *m_figures[static_cast<std::size_t>(format.intProperty(figureProperty))];
        if (m_store.draw(*painter, box, picture))
            return;
        painter->save();
        painter->setPen(QPen(theme::line, box.width() / 600, Qt::DashLine));
        painter->drawRect(box);
        painter->setPen(theme::faint);
        painter->drawText(box.adjusted(0.02 * box.width(), 0, -0.02 * box.width(), 0),
                          Qt::AlignCenter | Qt::TextWordWrap, q(picture.why));
        painter->restore();
    }

private:
    FigureStore& m_store;
    std::vector<const ReportPicture*> m_figures;
};

// Builds a text document; its lengths are dots of 96 to the inch, which the layout scales to a device.
class TextBuilder {
public:
    TextBuilder(QTextDocument& text, FigureStore& store) : m_text(text), m_store(store), m_cursor(&text) {
        QFont font("Inter");
        // The font's contextual hyphens beside digits cannot be copied out of a PDF; Latin text needs no shaping.
        font.setStyleStrategy(QFont::PreferNoShaping);
        font.setPointSizeF(9.5);
        text.setDefaultFont(font);
    }
    LaidOut add(const ReportDocument& document, const std::set<std::size_t>& breaks) {
        const auto captions = captionsOf(document);
        m_cursor.beginEditBlock(); // laid out once, at the end
        for (std::size_t i = 0; i < document.parts.size(); ++i) {
            m_break = m_break || breaks.contains(i);
            m_part = i;
            m_out.parts.push_back(m_cursor.position() + (m_first ? 0 : 1));
            add(document.parts[i], captions[i], document);
        }
        m_text.documentLayout()->registerHandler(figureType, new FigureObject(m_store, std::move(m_figures), &m_text));
        m_cursor.endEditBlock();
        for (std::size_t i = 0; i < m_headings.size(); ++i)
            if (const auto listed = m_listed.find(m_headings[i]); listed != m_listed.end())
                m_out.headings[i].listed = listed->second;
        return std::move(m_out);
    }

private:
    static double dots(double millimetres) { return millimetres / 25.4 * 96; }

    QTextCharFormat letters(double points, const QColor& colour, bool bold = false) const {
        QTextCharFormat format;
        format.setFontFamilies({"Inter"});
        format.setFontPointSize(points);
        format.setForeground(colour);
        if (bold)
            format.setFontWeight(QFont::DemiBold);
        return format;
    }
    QTextBlockFormat block(double before, double after) const {
        QTextBlockFormat format;
        format.setTopMargin(dots(before));
        format.setBottomMargin(dots(after));
        if (m_break)
            format.setPageBreakPolicy(QTextFormat::PageBreak_AlwaysBefore);
        return format;
    }
    void begin(const QTextBlockFormat& format) {
        if (m_first)
            m_cursor.setBlockFormat(format);
        else
            m_cursor.insertBlock(format);
        m_first = false;
        m_break = false;
    }
    void insert(const std::vector<TextRun>& runs, const QTextCharFormat& plain) {
        for (const auto& run : runs) {
            auto format = plain;
            if (run.bold)
                format.setFontWeight(QFont::Bold);
            format.setFontItalic(run.italic);
            if (run.code)
                format.setFontFamilies({"monospace"});
            if (!run.link.empty()) {
                format.setAnchor(true);
                format.setAnchorHref(q(run.link));
            }
            m_cursor.insertText(q(run.text), format);
        }
    }

    void add(const ReportPart& part, const std::string& caption, const ReportDocument& document) {
        switch (part.kind) {
        case ReportPart::Kind::Title:
            addTitle(part);
            break;
        case ReportPart::Kind::Heading:
            addHeading(part);
            break;
        case ReportPart::Kind::Paragraph:
            begin(block(0.8, 0.8));
            insert(part.runs, letters(9.5, part.faint ? theme::faint : theme::ink));
            break;
        case ReportPart::Kind::Item: {
            begin(block(0.3, 0.3));
            QTextListFormat list;
            list.setStyle(QTextListFormat::ListDisc);
            m_cursor.createList(list);
            insert(part.runs, letters(9.5, theme::ink));
            break;
        }
        case ReportPart::Kind::Table:
            addTable(part, q(caption));
            break;
        case ReportPart::Kind::Facts:
            addFacts(part);
            break;
        case ReportPart::Kind::Picture:
            addPicture(part, q(caption));
            break;
        case ReportPart::Kind::PageBreak:
            m_break = true;
            break;
        case ReportPart::Kind::Signatures:
            addSignatures(part);
            break;
        case ReportPart::Kind::Contents:
            addContents(document);
            break;
        }
    }
    // Every heading but that of the contents; pages draw their numbers beside them.
    void addContents(const ReportDocument& document) {
        for (const auto at : listedHeadings(document)) {
            const auto& heading = document.parts[at];
            auto format = block(0.4, 0.4);
            format.setLeftMargin(dots(4.0 * (heading.level - 1)));
            begin(format);
            insert(heading.runs, letters(9.5, theme::ink));
            m_listed[&heading] = m_cursor.position();
        }
    }
    void addTitle(const ReportPart& part) {
        if (part.picture.isThere()) {
            auto side = block(0, 2);
            side.setAlignment(Qt::AlignRight);
            begin(side);
            const auto size = m_store.sizeOf(part.picture);
            const double width = std::min(textWidthMm / 3, highestLogoMm * size.width() / std::max(1.0, size.height()));
            insertFigure(part.picture, width, width * size.height() / std::max(1.0, size.width()));
        }
        auto format = block(0, 1);
        format.setHeadingLevel(1);
        begin(format);
        insert(part.runs, letters(18, theme::ink, true));
        if (part.mark)
            m_cursor.insertText("   " + q(std::string(verdictName(*part.mark))),
                                letters(18, verdictColour(*part.mark), true));
    }
    void addHeading(const ReportPart& part) {
        auto format = block(5, 1.5);
        format.setHeadingLevel(std::min(6, part.level + 1));
        format.setNonBreakableLines(true);
        begin(format);
        m_headings.push_back(&part);
        m_out.kept.emplace_back(m_cursor.position(), m_part);
        m_out.headings.push_back({m_cursor.position(), q(plainText(part.runs)), part.level});
        insert(part.runs, letters(std::max(9.5, 14.0 - 2 * part.level), theme::ink, true));
    }
    QTextTableFormat tableFormat() const {
        QTextTableFormat format;
        format.setBorder(0);
        format.setCellPadding(dots(0.7));
        format.setCellSpacing(0);
        format.setWidth(QTextLength(QTextLength::PercentageLength, 100));
        return format;
    }
    void cell(QTextTable* table, int row, int column, const QString& words, const QTextCharFormat& format, bool right) {
        auto at = table->cellAt(row, column);
        auto cursor = at.firstCursorPosition();
        QTextBlockFormat side;
        side.setAlignment(right ? Qt::AlignRight : Qt::AlignLeft);
        cursor.setBlockFormat(side);
        cursor.insertText(words, format);
    }
    void addTable(const ReportPart& part, const QString& caption) {
        if (!caption.isEmpty()) {
            begin(block(2.5, 0.5));
            m_out.kept.emplace_back(m_cursor.position(), m_part);
            m_cursor.insertText(caption, letters(8.5, theme::faint));
        }
        if (part.table.columns.empty())
            return;
        begin(block(0, 0));
        auto format = tableFormat();
        format.setHeaderRowCount(1);
        auto* table = m_cursor.insertTable(static_cast<int>(part.table.rows.size()) + 1,
                                           static_cast<int>(part.table.columns.size()), format);
        for (std::size_t i = 0; i < part.table.columns.size(); ++i)
            cell(table, 0, static_cast<int>(i), q(part.table.columns[i].title), letters(8, theme::faint, true),
                 part.table.columns[i].isNumber);
        for (std::size_t row = 0; row < part.table.rows.size(); ++row) {
            const auto colour = row < part.marks.size() && part.marks[row] ? verdictColour(*part.marks[row])
                                                                           : theme::ink;
            for (std::size_t i = 0; i < std::min(part.table.rows[row].size(), part.table.columns.size()); ++i)
                cell(table, static_cast<int>(row) + 1, static_cast<int>(i), q(part.table.rows[row][i]),
                     letters(9, i == 0 ? colour : theme::ink, i == 0 && colour != theme::ink),
                     part.table.columns[i].isNumber);
        }
        leave();
    }
    void addFacts(const ReportPart& part) {
        begin(block(0, 0));
        auto format = tableFormat();
        format.setColumnWidthConstraints(
            {QTextLength(QTextLength::PercentageLength, 20), QTextLength(QTextLength::PercentageLength, 80)});
        auto* table = m_cursor.insertTable(static_cast<int>(part.table.rows.size()), 2, format);
        for (std::size_t row = 0; row < part.table.rows.size(); ++row) {
            cell(table, static_cast<int>(row), 0, q(part.table.rows[row][0]), letters(9, theme::faint), false);
            cell(table, static_cast<int>(row), 1, q(part.table.rows[row][1]), letters(9, theme::ink), false);
        }
        leave();
    }
    void addSignatures(const ReportPart& part) {
        begin(block(18, 0));
        auto* table = m_cursor.insertTable(1, static_cast<int>(part.table.columns.size()), tableFormat());
        for (std::size_t i = 0; i < part.table.columns.size(); ++i)
            cell(table, 0, static_cast<int>(i), "______________________\n" + q(part.table.columns[i].title),
                 letters(9, theme::faint), false);
        leave();
    }
    // The width is a share of the text's; a picture is never higher than a page.
    void addPicture(const ReportPart& part, const QString& caption) {
        const auto size = m_store.sizeOf(part.picture);
        auto format = block(2, 0.5);
        format.setNonBreakableLines(true);
        begin(format);
        if (size.isEmpty()) {
            m_cursor.insertText("No picture: " + q(part.picture.why), letters(9, theme::faint));
        } else {
            const double width = std::min(textWidthMm * std::clamp(part.size, 0.1, 1.0),
                                          highestFigureMm * size.width() / size.height());
            insertFigure(part.picture, width, width * size.height() / size.width());
        }
        begin(block(0, 2));
        m_cursor.insertText(caption, letters(8.5, theme::faint));
    }
    void insertFigure(const ReportPicture& picture, double widthMm, double heightMm) {
        QTextCharFormat figure;
        figure.setObjectType(figureType);
        figure.setProperty(figureProperty, static_cast<int>(m_figures.size()));
        figure.setProperty(widthProperty, widthMm);
        figure.setProperty(heightProperty, heightMm);
        m_figures.push_back(&picture);
        m_cursor.insertText(QString(QChar::ObjectReplacementCharacter), figure);
    }
    void leave() { m_cursor.movePosition(QTextCursor::End); }

    QTextDocument& m_text;
    FigureStore& m_store;
    LaidOut m_out;
    std::vector<const ReportPicture*> m_figures;
    std::vector<const ReportPart*> m_headings;
    std::map<const ReportPart*, int> m_listed; // end of the line of the contents
    QTextCursor m_cursor;
    bool m_first = true;
    bool m_break = false;
    std::size_t m_part = 0;
};

} // namespace

LaidOut layOut(const ReportDocument& document, FigureStore& store, const std::set<std::size_t>& breaks,
               QTextDocument& into) {
    into.setMetaInformation(QTextDocument::DocumentTitle, q(document.title));
    return TextBuilder(into, store).add(document, breaks);
}

} // namespace pyro
