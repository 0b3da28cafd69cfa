// How the heat strip is drawn.
#include "app/heatstrip/heat_strip.h"
#include "app/heatstrip/heat_strip_sizes.h"
#include "app/theme/theme.h"
#include "render/palette.h"
#include "render/verdict_mark.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

QColor toQt(const Rgb& rgb) {
    return QColor::fromRgbF(static_cast<float>(rgb[0]), static_cast<float>(rgb[1]), static_cast<float>(rgb[2]));
}

const QColor soft(0x9A, 0xA1, 0xAA);
const QColor bright(0xE8, 0xEB, 0xEE);

} // namespace

QColor HeatStrip::colourAt(double share) const { return toQt(stripColour(m_strip, share)); }

void HeatStrip::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), QColor(0x20, 0x25, 0x2B));
    painter.setPen(QColor(0x33, 0x3A, 0x43));
    painter.drawLine(0, 0, width(), 0);
    if (!m_filled)
        return;
    painter.setRenderHint(QPainter::Antialiasing);
    if (!m_low) {
        paintDistribution(painter);
        paintPart(painter);
    }
    paintBar(painter);
    if (!m_low)
        paintFlags(painter);
    paintPins(painter);
    paintLabels(painter);
}

// Shares or extents in steps of about five pixels along the axis.
std::vector<double> HeatStrip::classesOf(const Distribution& distribution) const {
    const auto area = bar();
    const auto classes = static_cast<std::size_t>(std::max(20.0, area.width() / 5));
    if (!m_logarithmic)
        return distribution.rebinned(m_axis[0], m_axis[1], classes);
    std::vector<double> extent(classes);
    const auto edge = [&](std::size_t i) {
        return valueAt(area.left() + area.width() * static_cast<double>(i) / static_cast<double>(classes));
    };
    for (std::size_t i = 0; i < classes; ++i)
        extent[i] = distribution.shareBelow(edge(i + 1)) - distribution.shareBelow(edge(i));
    return extent;
}

// Null where it has no value of the quantity.
const Distribution* HeatStrip::ofPartInFocus() const {
    const auto* part = partInFocus(m_session.seen(), m_session.selection().selectedPart());
    const auto picture = m_session.seenPicture();
    const auto at = part != nullptr && picture ? picture->opened.solved->partNamed(part->name) : std::nullopt;
    return at && !picture->distributions[*at].empty() ? &picture->distributions[*at] : nullptr;
}

// The part in focus as an outline of its own height: how its hot end lies against the rest.
void HeatStrip::paintPart(QPainter& painter) {
    const auto* distribution = ofPartInFocus();
    if (distribution == nullptr)
        return;
    const auto area = bar();
    const auto extent = classesOf(*distribution);
    const double most = *std::ranges::max_element(extent);
    if (!(most > 0))
        return;
    const double width = area.width() / static_cast<double>(extent.size());
    QPainterPath outline;
    bool open = false;
    for (std::size_t i = 0; i < extent.size(); ++i) {
        const double x = area.left() + static_cast<double>(i) * width;
        const double y = area.top() - 3 - 0.7 * stripHistogramHeight * std::sqrt(std::max(0.0, extent[i]) / most);
        if (extent[i] <= 0) {
            open = false;
            continue;
        }
        if (!open)
            outline.moveTo(x, area.top() - 3);
        outline.lineTo(x, y);
        outline.lineTo(x + width, y);
        if (i + 1 == extent.size() || extent[i + 1] <= 0)
            outline.lineTo(x + width, area.top() - 3);
        open = true;
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(bright, 1.3));
    painter.drawPath(outline);
}

void HeatStrip::paintDistribution(QPainter& painter) {
    if (m_distribution.empty())
        return; // not measured yet
    const auto area = bar();
    const auto extent = classesOf(m_distribution);
    const auto classes = extent.size();
    const auto edge = [&](std::size_t i) {
        return valueAt(area.left() + area.width() * static_cast<double>(i) / static_cast<double>(classes));
    };
    const double most = *std::ranges::max_element(extent);
    if (!(most > 0))
        return;
    const double width = area.width() / static_cast<double>(classes);
    for (std::size_t i = 0; i < classes; ++i) {
        if (extent[i] <= 0)
            continue;
        // A square root keeps the small hot core visible beside the large cold bulk.
        const double height = std::max(1.5, stripHistogramHeight * std::sqrt(extent[i] / most));
        const double middle = 0.5 * (edge(i) + edge(i + 1));
        const bool inside = middle >= m_range[0] && middle <= m_range[1];
        painter.fillRect(
            QRectF(area.left() + static_cast<double>(i) * width, area.top() - 2 - height, width - 1.4, height),
            inside ? colourAt(shareOfRange(middle)) : QColor(0x5A, 0x61, 0x6A));
    }
}

void HeatStrip::paintBar(QPainter& painter) {
    const auto area = bar();
    const double low = xOf(m_range[0]);
    const double high = xOf(m_range[1]);
    // Outside the range every value has the colour of that end; hatching says so.
    const QRectF below(area.left(), area.top(), std::max(0.0, low - area.left()), area.height());
    const QRectF above(high, area.top(), std::max(0.0, area.right() - high), area.height());
    painter.fillRect(below, m_strip.tint ? toQt(belowTint) : colourAt(0));
    painter.fillRect(above, m_strip.tint ? toQt(aboveTint) : colourAt(1));
    painter.fillRect(below, QBrush(QColor(255, 255, 255, 70), Qt::BDiagPattern));
    painter.fillRect(above, QBrush(QColor(0, 0, 0, 90), Qt::BDiagPattern));
    painter.setRenderHint(QPainter::Antialiasing, false); // pieces side by side would show seams
    const int pieces = m_strip.bands > 1 ? m_strip.bands : 256;
    for (int i = 0; i < pieces; ++i)
        painter.fillRect(QRectF(low + (high - low) * i / pieces, area.top(), (high - low) / pieces + 1, area.height()),
                         colourAt((i + 0.5) / pieces));
    painter.setRenderHint(QPainter::Antialiasing);
    for (const double x : {low, high}) {
        const QRectF grip(x - 4, area.top() - 4, 8, area.height() + 8);
        painter.setPen(QPen(QColor(0x20, 0x25, 0x2B), 1));
        painter.setBrush(Qt::white);
        painter.drawRoundedRect(grip, 2.5, 2.5);
        painter.drawLine(QPointF(x, grip.top() + 6), QPointF(x, grip.bottom() - 6));
    }
}

void HeatStrip::paintFlags(QPainter& painter) {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->readings || !state->picture || state->picture->quantity.name != "temperature")
        return;
    const auto area = bar();
    struct Flag {
        double value;
        QString label;
        Verdict verdict;
    };
    std::vector<Flag> flags;
    for (const auto& limit : state->readings->limits)
        if (limit.limit && limit.isTemperature && limit.target.kind != TargetKind::Gauge && *limit.limit >= m_axis[0] &&
            *limit.limit <= m_axis[1])
            flags.push_back({*limit.limit,
                             QString::fromStdString(formatNumber(m_session.unit().of(*limit.limit), 0)) + " " +
                                 QString::fromStdString(limit.target.kind == TargetKind::Part
                                                            ? shownName(*m_session.activeEntry(), limit.target.name)
                                                            : limit.target.name),
                             limit.verdict});
    std::ranges::sort(flags, {}, &Flag::value);
    QFont small = font();
    small.setPixelSize(11);
    painter.setFont(small);
    std::array<double, 2> busyUntil{-1e9, -1e9}; // labels stand in two rows
    for (const auto& flag : flags) {
        const double x = xOf(flag.value);
        const double width = painter.fontMetrics().horizontalAdvance(flag.label) + 18;
        const std::size_t row = busyUntil[0] <= x ? 0 : 1;
        const double top = area.top() - stripHistogramHeight + (row == 0 ? -2 : 12);
        painter.setPen(QPen(verdictColour(flag.verdict), 1.4));
        painter.drawLine(QPointF(x, top), QPointF(x, area.bottom()));
        drawVerdict(painter, QRectF(x + 3, top, 8, 8), flag.verdict);
        if (busyUntil[row] <= x && x + width < this->width()) {
            // above the outline
            painter.fillRect(QRectF(x + 13, top - 2, width - 12, 12), QColor(0x20, 0x25, 0x2B, 215));
            painter.setPen(bright);
            painter.drawText(QPointF(x + 15, top + 8), flag.label);
            busyUntil[row] = x + width;
        }
    }
}

void HeatStrip::paintPins(QPainter& painter) {
    const auto picture = m_session.seenPicture();
    if (!picture)
        return;
    painter.setPen(Qt::NoPen);
    painter.setBrush(bright);
    for (const double value : visibleRange(m_session.seen())) {
        if (std::isnan(value))
            continue;
        const double x = xOf(value);
        const double y = bar().bottom() + 1;
        painter.drawPolygon(QPolygonF({QPointF(x, y), QPointF(x - 4, y + 6), QPointF(x + 4, y + 6)}));
    }
    painter.setPen(QPen(bright, 1.2));
    painter.setBrush(Qt::NoBrush);
    for (const double value :
         hotspotLevels(m_session.seen(), m_session.selection().selectedGauge(), m_session.selection().spotFloor()))
        if (const double x = xOf(value); x >= bar().left() && x <= bar().right())
            painter.drawEllipse(QPointF(x, bar().bottom() + 5), 3, 3);
}

void HeatStrip::paintLabels(QPainter& painter) {
    const auto picture = m_session.seenPicture();
    const auto& quantity = picture->quantity;
    const auto name = writtenName(quantity, m_session.view().component);
    const auto symbol = QString::fromStdString(unitText(m_session.unit().symbol()));
    const auto unit = symbol.isEmpty() ? QString("unit unknown") : symbol;
    QFont bold = font();
    bold.setWeight(QFont::DemiBold);
    painter.setFont(bold);
    painter.setPen(bright);
    const auto title = QString("%1, %2").arg(name, unit);
    painter.drawText(QPointF(14, 19), title);
    const double titleEnd = 14 + painter.fontMetrics().horizontalAdvance(title);
    QFont small = font();
    small.setPixelSize(12);
    painter.setFont(small);
    if (ofPartInFocus() != nullptr) { // whose outline it is
        const auto* part = partInFocus(m_session.seen(), m_session.selection().selectedPart());
        painter.setPen(QPen(bright, 1.3));
        painter.drawPolyline(
            QPolygonF({QPointF(titleEnd + 18, 19), QPointF(titleEnd + 18, 13), QPointF(titleEnd + 24, 13),
                       QPointF(titleEnd + 24, 9), QPointF(titleEnd + 30, 9), QPointF(titleEnd + 30, 19)}));
        painter.setPen(soft);
        painter.drawText(QPointF(titleEnd + 36, 19),
                         QString::fromStdString(shownName(*m_session.activeEntry(), part->name)));
    }
    const auto area = bar();
    painter.setPen(soft);
    painter.drawText(QRectF(m_fits.first()->x() - 44, 6, 40, 18), Qt::AlignRight | Qt::AlignVCenter, "Fit to");
    painter.setPen(m_shareBelow > 0 ? bright : soft);
    painter.drawText(QRectF(4, area.top(), stripSideMargin - 12, area.height()), Qt::AlignRight | Qt::AlignVCenter,
                     QString::fromStdString(formatShare(m_shareBelow)));
    painter.setPen(m_shareAbove > 0 ? bright : soft);
    painter.drawText(QRectF(area.right() + 10, area.top(), stripSideMargin - 12, area.height()),
                     Qt::AlignLeft | Qt::AlignVCenter, QString::fromStdString(formatShare(m_shareAbove)));
    const double low = xOf(m_range[0]);
    const double high = xOf(m_range[1]);
    const auto label = [&](double x, double value) {
        painter.drawText(QRectF(x - 40, area.bottom() + 6, 80, 16), Qt::AlignCenter, written(value));
    };
    painter.setPen(bright);
    label(low, m_range[0]);
    label(high, m_range[1]);
    painter.setPen(soft);
    for (int i = 1; i < 4; ++i) {
        const double value = m_logarithmic ? m_range[0] * std::pow(m_range[1] / m_range[0], i / 4.0)
                                           : m_range[0] + (m_range[1] - m_range[0]) * i / 4;
        if (high - low > 340)
            label(xOf(value), value);
    }
}

} // namespace pyro
