#include "render/report_pages.h"

#include "core/feedback/whole_file.h"
#include "render/colours.h"
#include "render/paper.h"
#include "render/pdf_links.h"
#include "render/text.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QTextBlock>
#include <QTextFrame>
#include <QTextLayout>
#include <cmath>

namespace pyro {
namespace {

constexpr int layoutDpi = 300;
constexpr double dotsOf(double millimetres) { return millimetres / 25.4 * layoutDpi; }
constexpr double mmOf(double dots) { return dots / layoutDpi * 25.4; }

QImage deviceOf() {
    QImage device(1, 1, QImage::Format_RGB32);
    const int perMetre = static_cast<int>(std::lround(layoutDpi / 0.0254));
    device.setDotsPerMeterX(perMetre);
    device.setDotsPerMeterY(perMetre);
    return device;
}

} // namespace

ReportPages::ReportPages(const ReportDocument& document, FigureStore& store)
    : m_document(document), m_device(deviceOf()) {
    std::set<std::size_t> breaks;
    constexpr int rounds = 3; // moving one may part another from what it belongs to
    for (int round = 0; round < rounds; ++round) {
        layOutWith(store, breaks);
        const auto alone = standingAlone();
        if (alone.empty())
            break;
        breaks.insert(alone.begin(), alone.end());
    }
}

void ReportPages::layOutWith(FigureStore& store, const std::set<std::size_t>& breaks) {
    m_text = std::make_unique<QTextDocument>();
    m_text->setUndoRedoEnabled(false);
    m_text->setUseDesignMetrics(true);
    m_text->setDocumentMargin(0);
    m_text->documentLayout()->setPaintDevice(&m_device);
    auto frame = m_text->rootFrame()->frameFormat(); // before there is anything to be laid out, so that it is done once
    frame.setMargin(marginMm / 25.4 * 96);
    frame.setBottomMargin((marginMm + footMm) / 25.4 * 96);
    m_text->rootFrame()->setFrameFormat(frame);
    m_text->setPageSize({dotsOf(pageWidthMm), dotsOf(pageHeightMm)});
    m_laid = layOut(m_document, store, breaks, *m_text);
}

std::set<std::size_t> ReportPages::standingAlone() const {
    std::set<std::size_t> out;
    for (const auto& [position, part] : m_laid.kept) {
        auto next = m_text->findBlock(position).next();
        while (next.isValid() && next.length() <= 1 && next.next().isValid()) // what a table stands in is empty
            next = next.next();
        if (next.isValid() && pageOf(next.position()) > pageOf(position))
            out.insert(part);
    }
    return out;
}

// Of its first line: what does not fit on a page begins on the next, while its block still reaches back.
double ReportPages::topOf(int position) const {
    auto block = m_text->findBlock(position);
    if (!block.isValid())
        block = m_text->lastBlock();
    const auto* lines = block.layout();
    return m_text->documentLayout()->blockBoundingRect(block).top() +
           (lines->lineCount() > 0 ? lines->lineAt(0).rect().top() : 0);
}

int ReportPages::pageOf(int position) const { return static_cast<int>(topOf(position) / dotsOf(pageHeightMm)); }

// Drawn beside the text, not within: a layout that is changed is made anew, and a page number is known only then.
void ReportPages::drawNumbers(QPainter& painter, int page) const {
    auto font = m_text->defaultFont();
    font.setPixelSize(static_cast<int>(9.5 / 72 * layoutDpi));
    painter.setFont(font);
    painter.setPen(theme::ink);
    for (const auto& heading : m_laid.headings)
        if (heading.listed >= 0 && pageOf(heading.listed) == page) {
            auto line = m_text->documentLayout()->blockBoundingRect(m_text->findBlock(heading.listed));
            line.setRight(dotsOf(pageWidthMm - marginMm));
            painter.drawText(line.translated(0, -page * dotsOf(pageHeightMm)), Qt::AlignRight | Qt::AlignVCenter,
                             QString::number(pageOf(heading.position) + 1));
        }
}

std::optional<std::size_t> ReportPages::partAt(int page, const QPointF& at) const {
    const QPointF dots(dotsOf(at.x()), page * dotsOf(pageHeightMm) + dotsOf(at.y()));
    const int position = m_text->documentLayout()->hitTest(dots, Qt::FuzzyHit);
    std::optional<std::size_t> found;
    for (std::size_t part = 0; part < m_laid.parts.size(); ++part)
        if (m_laid.parts[part] <= position)
            found = part;
    return found;
}

std::vector<ReportPages::Stretch> ReportPages::stretchesOf(std::size_t block) const {
    const double page = dotsOf(pageHeightMm);
    std::vector<Stretch> out;
    for (std::size_t part = 0; part < m_laid.parts.size(); ++part) {
        if (m_document.parts[part].block != block)
            continue;
        const double top = topOf(m_laid.parts[part]);
        const bool isLast = part + 1 == m_laid.parts.size();
        const double bottom = std::max(top, isLast ? m_text->documentLayout()->documentSize().height()
                                                   : topOf(m_laid.parts[part + 1]));
        for (int at = static_cast<int>(top / page); at <= static_cast<int>((bottom - 1) / page); ++at) {
            const double first = std::max(top - at * page, dotsOf(marginMm));
            const double last = std::min(bottom - at * page, page - dotsOf(marginMm + footMm / 2));
            if (last > first)
                out.push_back({at, mmOf(first), mmOf(last)});
        }
    }
    return out;
}

void ReportPages::draw(QPainter& painter, int page, double dpi) const {
    painter.save();
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform | QPainter::TextAntialiasing);
    painter.scale(dpi / layoutDpi, dpi / layoutDpi);
    const double height = dotsOf(pageHeightMm);
    painter.save();
    painter.translate(0, -page * height);
    QAbstractTextDocumentLayout::PaintContext context;
    context.clip = {0, page * height, dotsOf(pageWidthMm), height - dotsOf(marginMm)};
    context.palette.setColor(QPalette::Text, theme::ink);
    painter.setClipRect(context.clip);
    m_text->documentLayout()->draw(&painter, context);
    painter.restore();
    drawNumbers(painter, page);
    auto font = m_text->defaultFont();
    font.setPixelSize(static_cast<int>(8.0 / 72 * layoutDpi));
    painter.setFont(font);
    painter.setPen(theme::faint);
    if (page > 0) {
        const QRectF head(dotsOf(marginMm), dotsOf(marginMm - 8), dotsOf(textWidthMm), dotsOf(5));
        painter.drawText(head, Qt::AlignLeft | Qt::AlignVCenter, q(m_document.title));
        painter.drawText(head, Qt::AlignRight | Qt::AlignVCenter, q(m_document.number));
    }
    const double line = height - dotsOf(marginMm);
    const QRectF below(dotsOf(marginMm), line + dotsOf(1), dotsOf(textWidthMm), dotsOf(5));
    painter.drawText(below, Qt::AlignLeft | Qt::AlignVCenter, q(m_document.foot));
    painter.drawText(below, Qt::AlignRight | Qt::AlignVCenter,
                     QString("page %1 of %2").arg(page + 1).arg(m_text->pageCount()));
    painter.setPen(QPen(theme::line, dotsOf(0.2)));
    painter.drawLine(QPointF(dotsOf(marginMm), line), QPointF(dotsOf(pageWidthMm - marginMm), line));
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

Done ReportPages::writePdf(const std::filesystem::path& file, Progress& progress) const {
    QBuffer bytes;
    bytes.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&bytes);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins({});
        writer.setTitle(q(m_document.title));
        writer.setCreator("Pyrometer");
        writer.setResolution(layoutDpi);
        QPainter painter;
        if (!painter.begin(&writer))
            return fail(ErrorCode::WriteFailed, "the report cannot be drawn", file.string());
        for (int page = 0; page < count(); ++page) {
            if (progress.cancelled())
                return fail(ErrorCode::Cancelled, "cancelled", file.string());
            progress.report(static_cast<double>(page) / count(), "Drawing pages");
            if (page > 0)
                writer.newPage();
            draw(painter, page, layoutDpi);
        }
        painter.end();
    }
    std::vector<PdfTarget> headings;
    for (const auto& heading : m_laid.headings) {
        PdfTarget target{heading.words.toStdString(), heading.level, pageOf(heading.position), 0, {}, -1};
        target.top = mmOf(topOf(heading.position) - target.page * dotsOf(pageHeightMm));
        if (heading.listed >= 0) {
            const auto box = m_text->documentLayout()->blockBoundingRect(m_text->findBlock(heading.listed));
            target.linkPage = static_cast<int>(box.top() / dotsOf(pageHeightMm));
            target.link = {mmOf(box.left()), mmOf(box.top() - target.linkPage * dotsOf(pageHeightMm)),
                           mmOf(box.width()), mmOf(box.height())};
        }
        headings.push_back(std::move(target));
    }
    auto linked = withTargets(bytes.data().toStdString(), {m_document.title, m_document.preparedBy}, headings);
    if (!linked)
        return tl::unexpected(linked.error());
    return writeFileAtomically(file, *linked, "the report");
}

} // namespace pyro
