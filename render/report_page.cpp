#include "render/report_page.h"

#include "core/feedback/counted.h"
#include "core/limits/judge.h"
#include "core/report/limit_text.h"
#include "core/thermal/whole_heat.h"
#include "render/drawing_file.h"
#include "render/text.h"
#include "render/verdict_mark.h"

#include <QFont>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

const QColor ink(0x22, 0x26, 0x2B);
const QColor faint(0x77, 0x7B, 0x80);
const QColor ruleColour(0xD8, 0xD3, 0xCA);
constexpr double pageWidthMm = 210;
constexpr double pageHeightMm = 297;
constexpr double marginMm = 18;

// Draws in millimetres from the upper left corner of the page.
class Page {
public:
    Page(QPainter& painter, const ReportContent& content, double dpi)
        : m_painter(painter), m_content(content), m_scale(dpi / 25.4) {}

    void draw() {
        m_painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform | QPainter::TextAntialiasing);
        head();
        facts();
        picture();
        table();
        foot();
    }

private:
    QRectF box(double x, double y, double width, double height) const {
        return {x * m_scale, y * m_scale, width * m_scale, height * m_scale};
    }
    void text(double x, double width, const QString& words, double size, const QColor& colour = ink,
              Qt::Alignment alignment = Qt::AlignLeft, int weight = QFont::Normal) {
        QFont font("Inter");
        font.setWeight(static_cast<QFont::Weight>(weight));
        font.setPixelSize(std::max(1, static_cast<int>(size * 0.3528 * m_scale)));
        // The font's contextual hyphens beside digits cannot be copied out of a PDF; Latin text needs no shaping.
        if (std::ranges::all_of(words, [](QChar c) { return c.unicode() < 0x250; }))
            font.setStyleStrategy(QFont::PreferNoShaping);
        m_painter.setFont(font);
        m_painter.setPen(colour);
        const auto area = box(x, m_y, width, size * 0.56);
        m_painter.drawText(area, static_cast<int>(alignment | Qt::AlignVCenter),
                           m_painter.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(area.width())));
    }
    void rule(double thickness = 0.2) {
        m_painter.setPen(QPen(ruleColour, thickness * m_scale));
        m_painter.drawLine(box(marginMm, m_y, 0, 0).topLeft(), box(pageWidthMm - marginMm, m_y, 0, 0).topLeft());
    }

    void head() {
        m_y = marginMm;
        text(marginMm, 130, q(m_content.title), 18, ink, Qt::AlignLeft, QFont::Bold);
        const auto verdict = m_content.readings->verdict();
        text(pageWidthMm - marginMm - 40, 40, q(std::string(verdictName(verdict))), 18, ink, Qt::AlignRight,
             QFont::Bold);
        const double wordWidth = m_painter.fontMetrics().horizontalAdvance(q(std::string(verdictName(verdict)))) /
                                 m_scale;
        drawVerdict(m_painter, box(pageWidthMm - marginMm - wordWidth - 8, m_y + 2.6, 5, 5), verdict);
        m_y += 11;
        std::string by = m_content.date;
        if (!m_content.preparedBy.empty())
            by += ", prepared by " + m_content.preparedBy;
        text(marginMm, 174, q(by), 9, faint);
        m_y += 7;
        rule(0.4);
        m_y += 3;
    }

    void fact(const std::string& name, const std::string& value) {
        text(marginMm, 32, q(name), 9, faint);
        text(marginMm + 32, 142, q(value), 9);
        m_y += 5.2;
    }

    std::string casesText() const {
        std::vector<std::string> each;
        for (const auto& one : m_content.cases)
            each.push_back(fmt::format("{} {}", one.name, verdictName(verdictOfCases({one}))));
        return fmt::format("{}: {}", verdictName(verdictOfCases(m_content.cases)), fmt::join(each, ", "));
    }

    void facts() {
        std::uint64_t cells = 0;
        for (const auto& part : m_content.readings->parts)
            cells += part.cells;
        fact("Case", m_content.entry->name);
        if (m_content.cases.size() > 1)
            fact("All cases", casesText());
        fact("File", m_content.entry->file); // as the survey names it: no folder of a machine on a page
        fact("Extent", fmt::format("{}, {}, {}", counted(m_content.readings->parts.size(), "part"),
                                   counted(m_content.readings->boundaries.size(), "boundary"), counted(cells, "cell")));
        if (m_content.readings->time)
            fact("Time", fmt::format("{:g} s", *m_content.readings->time));
        if (m_content.readings->symmetry != 1)
            fact("Symmetry", fmt::format("the model is 1/{:g} of the whole, for which flows, powers and chi are told",
                                         m_content.readings->symmetry));
        if (const auto& balance = m_content.readings->balance)
            fact("Heat balance", balanceText(*balance));
        if (!m_content.note.empty())
            fact("Note", m_content.note);
        m_y += 2;
    }

    void picture() {
        if (m_content.picture.isNull())
            return;
        const double width = pageWidthMm - 2 * marginMm;
        const double height = std::min(100.0, width * m_content.picture.height() / m_content.picture.width());
        const double shown = height * m_content.picture.width() / m_content.picture.height();
        m_painter.drawImage(box(marginMm + 0.5 * (width - shown), m_y, shown, height), m_content.picture);
        m_y += height + 1;
        text(marginMm, width, q(m_content.pictureCaption), 8.5, faint);
        m_y += 8;
    }

    struct Column {
        double x;
        double width;
        bool number;
    };

    void row(const std::array<QString, 7>& cells, bool header) {
        constexpr std::array<Column, 7> columns{{{6, 30, false},
                                                 {37, 13, false},
                                                 {49, 28, true},
                                                 {78, 18, true},
                                                 {97, 15, true},
                                                 {113, 15, true},
                                                 {131, 43, false}}};
        for (std::size_t i = 0; i < columns.size(); ++i)
            text(marginMm + columns[i].x, columns[i].width, cells[i], header ? 8 : 9, header ? faint : ink,
                 columns[i].number ? Qt::AlignRight : Qt::AlignLeft, header ? QFont::DemiBold : QFont::Normal);
    }

    void limitRow(const LimitReading& limit) {
        const auto name = targetName(*m_content.entry, limit.target);
        drawVerdict(m_painter, box(marginMm, m_y + 1.0, 3.0, 3.0), limit.verdict);
        row({q(name), q(std::string(verdictName(limit.verdict))), q(limitLevel(limit, limit.value, m_content.unit)),
             q(limitLevel(limit, limit.limit, m_content.unit)), q(limitDifference(limit, limit.margin)),
             q(limitDifference(limit, limit.required)), q(limit.why.empty() ? limit.source : limit.why)},
            false);
        m_y += 6.2;
    }

    void table() {
        text(marginMm, 174, "Verdicts", 12, ink, Qt::AlignLeft, QFont::DemiBold);
        m_y += 8;
        row({"Name", "Verdict", "Value", "Allowed", "Margin", "Required", "Source"}, true);
        m_y += 5.5;
        rule();
        m_y += 1;
        const auto& limits = m_content.readings->limits;
        const auto order = byMargin(limits);
        for (std::size_t i = 0; i < order.size(); ++i) {
            if (m_y > pageHeightMm - marginMm - 16 && order.size() - i > 1) {
                text(marginMm, 174,
                     q(fmt::format("{} more limits do not fit this page; the CSV has them all", order.size() - i)), 9,
                     faint);
                return;
            }
            limitRow(limits[order[i]]);
        }
        derivations();
        findings();
        if (limits.empty())
            text(marginMm, 174, "No limits are defined, so nothing is judged.", 9, faint);
    }

    // What transmittances are the sums of, as far as the page goes.
    void derivations() {
        bool first = true;
        for (const auto& gauge : m_content.readings->gauges) {
            if (!gauge.derivation || !gauge.value || gauge.derivation->terms.empty())
                continue;
            const auto& terms = gauge.derivation->terms;
            if (m_y > pageHeightMm - marginMm - 20 - 4.4 * static_cast<double>(terms.size())) {
                text(marginMm, 174, "More transmittances do not fit this page; the CSV has them all.", 9, faint);
                m_y += 6;
                return;
            }
            if (first) {
                m_y += 3;
                text(marginMm, 174, "Transmittances", 12, ink, Qt::AlignLeft, QFont::DemiBold);
                m_y += 7;
            }
            first = false;
            text(marginMm, 60, q(gauge.id), 9, ink, Qt::AlignLeft, QFont::DemiBold);
            text(marginMm + 40, 44, q(formatSi(*gauge.value, gauge.unit)), 9, ink, Qt::AlignRight, QFont::DemiBold);
            text(marginMm + 88, 86, q(gauge.reference), 8, faint);
            m_y += 5;
            for (const auto& term : terms) {
                text(marginMm + 4, 36, q(term.name), 8, faint);
                text(marginMm + 40, 44, q(formatSi(term.value, term.unit)), 8, ink, Qt::AlignRight);
                text(marginMm + 88, 86, q(term.origin), 7.5, faint);
                m_y += 4.4;
            }
            m_y += 1.5;
        }
    }

    // What is still to be followed up, as far as the page goes.
    void findings() {
        bool first = true;
        for (const auto& finding : m_content.findings) {
            if (m_y > pageHeightMm - marginMm - 20) {
                text(marginMm, 174, "More findings do not fit this page; the CSV has them all.", 9, faint);
                return;
            }
            if (first) {
                m_y += 3;
                text(marginMm, 174, "Findings", 12, ink, Qt::AlignLeft, QFont::DemiBold);
                m_y += 7;
            }
            first = false;
            text(marginMm, 30, q(std::string(severityName(finding.severity)) + ", " + finding.state), 8, faint);
            text(marginMm + 32, 142, q(finding.text), 9, ink);
            m_y += 5;
        }
    }

    void foot() {
        m_y = pageHeightMm - marginMm;
        rule();
        m_y += 1;
        text(
            marginMm, 174,
            "Values are extremes over the stored values of each part or boundary; margins are temperature differences.",
            8, faint);
    }

    QPainter& m_painter;
    const ReportContent& m_content;
    double m_scale;
    double m_y = 0;
};

} // namespace

void drawReport(QPainter& painter, const ReportContent& content, double dpi) { Page(painter, content, dpi).draw(); }

QImage reportPreview(const ReportContent& content, double dpi) {
    QImage page(static_cast<int>(pageWidthMm / 25.4 * dpi), static_cast<int>(pageHeightMm / 25.4 * dpi),
                QImage::Format_RGB32);
    page.fill(Qt::white);
    QPainter painter(&page);
    drawReport(painter, content, dpi);
    return page;
}

Done writeReportPdf(const ReportContent& content, const std::filesystem::path& file) {
    return writePdf("the report", file, [&](QPdfWriter& writer) {
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setTitle(QString::fromStdString(content.title));
        constexpr int dpi = 300;
        writer.setResolution(dpi);
        QPainter painter;
        if (!painter.begin(&writer))
            return false;
        drawReport(painter, content, dpi);
        return painter.end();
    });
}

} // namespace pyro
