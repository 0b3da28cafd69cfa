#include "render/report_text.h"

#include "core/feedback/whole_file.h"
#include "render/drawing_file.h"
#include "render/paper.h"
#include "render/text.h"
#include "render/verdict_mark.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QTextCursor>
#include <QTextDocument>
#include <QTextDocumentWriter>
#include <QTextFrame>
#include <QTextList>
#include <QTextTable>

namespace pyro {
namespace {

const QColor inkColour(0x22, 0x26, 0x2B);
const QColor faintColour(0x6E, 0x6D, 0x69);
const QColor lineColour(0xD8, 0xD3, 0xCA);

// Builds a text document; its lengths are dots of 96 to the inch, which the layout scales to a device.
class TextBuilder {
public:
    explicit TextBuilder(QTextDocument& text) : m_text(text), m_cursor(&text) {
        QFont font("Inter");
        // The font's contextual hyphens beside digits cannot be copied out of a PDF; Latin text needs no shaping.
        font.setStyleStrategy(QFont::PreferNoShaping);
        font.setPointSizeF(9.5);
        text.setDefaultFont(font);
    }
    void add(const ReportDocument& document) {
        const auto captions = captionsOf(document);
        m_cursor.beginEditBlock(); // laid out once, at the end
        for (std::size_t i = 0; i < document.parts.size(); ++i)
            add(document.parts[i], captions[i], document);
        m_cursor.endEditBlock();
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
            insert(part.runs, letters(9.5, part.faint ? faintColour : inkColour));
            break;
        case ReportPart::Kind::Item: {
            begin(block(0.3, 0.3));
            QTextListFormat list;
            list.setStyle(QTextListFormat::ListDisc);
            m_cursor.createList(list);
            insert(part.runs, letters(9.5, inkColour));
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
            for (const auto& heading : document.parts)
                if (heading.kind == ReportPart::Kind::Heading && plainText(heading.runs) != m_heading) {
                    auto format = block(0.4, 0.4);
                    format.setLeftMargin(dots(4.0 * (heading.level - 1)));
                    begin(format);
                    insert(heading.runs, letters(9.5, inkColour));
                }
            break;
        }
    }
    void addTitle(const ReportPart& part) {
        auto format = block(0, 1);
        format.setHeadingLevel(1);
        begin(format);
        insert(part.runs, letters(18, inkColour, true));
        if (part.mark)
            m_cursor.insertText("   " + q(std::string(verdictName(*part.mark))),
                                letters(18, verdictColour(*part.mark), true));
    }
    void addHeading(const ReportPart& part) {
        auto format = block(5, 1.5);
        format.setHeadingLevel(std::min(6, part.level + 1));
        format.setNonBreakableLines(true);
        begin(format);
        m_heading = plainText(part.runs);
        insert(part.runs, letters(std::max(9.5, 14.0 - 2 * part.level), inkColour, true));
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
            m_cursor.insertText(caption, letters(8.5, faintColour));
        }
        if (part.table.columns.empty())
            return;
        begin(block(0, 0));
        auto format = tableFormat();
        format.setHeaderRowCount(1);
        auto* table = m_cursor.insertTable(static_cast<int>(part.table.rows.size()) + 1,
                                           static_cast<int>(part.table.columns.size()), format);
        for (std::size_t i = 0; i < part.table.columns.size(); ++i)
            cell(table, 0, static_cast<int>(i), q(part.table.columns[i].title), letters(8, faintColour, true),
                 part.table.columns[i].isNumber);
        for (std::size_t row = 0; row < part.table.rows.size(); ++row) {
            const auto colour = row < part.marks.size() && part.marks[row] ? verdictColour(*part.marks[row])
                                                                           : inkColour;
            for (std::size_t i = 0; i < std::min(part.table.rows[row].size(), part.table.columns.size()); ++i)
                cell(table, static_cast<int>(row) + 1, static_cast<int>(i), q(part.table.rows[row][i]),
                     letters(9, i == 0 ? colour : inkColour, i == 0 && colour != inkColour),
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
            cell(table, static_cast<int>(row), 0, q(part.table.rows[row][0]), letters(9, faintColour), false);
            cell(table, static_cast<int>(row), 1, q(part.table.rows[row][1]), letters(9, inkColour), false);
        }
        leave();
    }
    void addSignatures(const ReportPart& part) {
        begin(block(18, 0));
        auto* table = m_cursor.insertTable(1, static_cast<int>(part.table.columns.size()), tableFormat());
        for (std::size_t i = 0; i < part.table.columns.size(); ++i)
            cell(table, 0, static_cast<int>(i), "______________________\n" + q(part.table.columns[i].title),
                 letters(9, faintColour), false);
        leave();
    }
    void addPicture(const ReportPart& part, const QString& caption) {
        QImage image;
        if (!part.picture.png.empty())
            image.loadFromData(
                QByteArray::fromRawData(part.picture.png.data(), static_cast<qsizetype>(part.picture.png.size())));
        auto format = block(2, 0.5);
        begin(format);
        if (image.isNull()) {
            m_cursor.insertText("No picture: " + q(part.picture.why), letters(9, faintColour));
        } else {
            const auto name = QString("picture%1").arg(++m_pictures);
            m_text.addResource(QTextDocument::ImageResource, QUrl(name), image);
            QTextImageFormat shown;
            shown.setName(name);
            const double width = std::min(dots(textWidthMm) * std::clamp(part.size, 0.1, 1.0),
                                          dots(220) * image.width() / image.height());
            shown.setWidth(width);
            shown.setHeight(width * image.height() / image.width());
            m_cursor.insertImage(shown);
        }
        begin(block(0, 2));
        m_cursor.insertText(caption, letters(8.5, faintColour));
    }
    void leave() { m_cursor.movePosition(QTextCursor::End); }

    QTextDocument& m_text;
    QTextCursor m_cursor;
    bool m_first = true;
    bool m_break = false;
    int m_pictures = 0;
    std::string m_heading; // the last one: that of the contents is not listed in them
};

// One page with its foot.
void drawPage(QPainter& painter, QTextDocument& text, int page, double dpi, const QString& foot) {
    const auto dots = [&](double millimetres) { return millimetres / 25.4 * dpi; };
    const double height = dots(pageHeightMm);
    painter.save();
    painter.translate(0, -page * height);
    QAbstractTextDocumentLayout::PaintContext context;
    context.clip = {0, page * height, dots(pageWidthMm), height - dots(marginMm)};
    context.palette.setColor(QPalette::Text, inkColour);
    painter.setClipRect(context.clip);
    text.documentLayout()->draw(&painter, context);
    painter.restore();
    auto font = text.defaultFont();
    font.setPointSizeF(8);
    painter.setFont(font);
    const double line = height - dots(marginMm);
    painter.setPen(QPen(lineColour, dots(0.2)));
    painter.drawLine(QPointF(dots(marginMm), line), QPointF(dots(pageWidthMm - marginMm), line));
    painter.setPen(faintColour);
    const QRectF below(dots(marginMm), line + dots(1), dots(textWidthMm), dots(5));
    painter.drawText(below, Qt::AlignLeft | Qt::AlignVCenter, foot);
    painter.drawText(below, Qt::AlignRight | Qt::AlignVCenter,
                     QString("page %1 of %2").arg(page + 1).arg(text.pageCount()));
}

} // namespace

Done writeReportPdf(const ReportDocument& document, const std::filesystem::path& file) {
    return writePdf("the report", file, [&](QPdfWriter& writer) {
        constexpr int dpi = 300;
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins({});
        writer.setTitle(q(document.title));
        writer.setCreator("Pyrometer");
        writer.setResolution(dpi);
        QTextDocument text;
        text.setUseDesignMetrics(true);
        text.setDocumentMargin(0);
        text.documentLayout()->setPaintDevice(&writer);
        TextBuilder(text).add(document);
        text.setPageSize({pageWidthMm / 25.4 * dpi, pageHeightMm / 25.4 * dpi});
        auto frame = text.rootFrame()->frameFormat();
        frame.setMargin(marginMm / 25.4 * 96);
        frame.setBottomMargin((marginMm + footMm) / 25.4 * 96);
        text.rootFrame()->setFrameFormat(frame);
        QPainter painter;
        if (!painter.begin(&writer))
            return false;
        for (int page = 0; page < text.pageCount(); ++page) {
            if (page > 0 && !writer.newPage())
                return false;
            drawPage(painter, text, page, dpi, q(document.foot));
        }
        return painter.end();
    });
}

Done writeReportOdt(const ReportDocument& document, const std::filesystem::path& file) {
    QTextDocument text;
    text.setMetaInformation(QTextDocument::DocumentTitle, q(document.title));
    TextBuilder(text).add(document);
    QBuffer buffer;
    buffer.open(QIODevice::WriteOnly);
    QTextDocumentWriter writer(&buffer, "ODF");
    if (!writer.write(&text))
        return fail(ErrorCode::WriteFailed, "the report could not be made", file.string());
    return writeFileAtomically(file, buffer.data().toStdString());
}

} // namespace pyro
