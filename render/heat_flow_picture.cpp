#include "render/heat_flow_picture.h"

#include "render/drawing_file.h"
#include "render/palette.h"
#include "render/text.h"

#include <QPainter>
#include <QPainterPath>
#include <fmt/format.h>

namespace pyro {
namespace {

const QColor diagramInk(0x22, 0x26, 0x2B);
const QColor diagramFaint(0x6E, 0x6D, 0x69);
constexpr int width = 1400;
constexpr int height = 820;

class Drawing {
public:
    Drawing(QPainter& painter, const QRectF& area, const HeatFlowDiagram& map, TemperatureUnit unit)
        : m_painter(painter), m_map(map), m_unit(unit) {
        const double line = painter.fontMetrics().height();
        // Labels stand beside the nodes: room for them at the right and above.
        m_area = area.adjusted(8, 2.2 * line, -labelWidth(), -1.6 * line);
        for (const auto& node : map.nodes)
            if (node.temperature) {
                m_low = std::min(m_low, *node.temperature);
                m_high = std::max(m_high, *node.temperature);
            }
    }

    void draw() {
        m_painter.setRenderHint(QPainter::Antialiasing);
        for (const auto& band : m_map.bands)
            drawBand(band);
        for (const auto& node : m_map.nodes)
            drawNode(node);
        for (const auto& node : m_map.nodes)
            drawLabel(node);
        for (const auto& band : m_map.bands)
            drawHeat(band);
        if (m_map.leftOut > 0) {
            m_painter.setPen(diagramFaint);
            m_painter.drawText(
                QPointF(m_area.left(), m_area.bottom() + 1.3 * m_painter.fontMetrics().height()),
                q(fmt::format("Ways of less than a thousandth of the largest are left out: {:.3g} W together",
                              m_map.leftOut)));
        }
    }

private:
    double labelWidth() const { return 11.5 * m_painter.fontMetrics().averageCharWidth() * 2; }
    double x(double share) const { return m_area.left() + share * m_area.width(); }
    double y(double share) const { return m_area.top() + share * m_area.height(); }
    QColor colour(const HeatNode& node) const {
        if (!node.temperature)
            return QColor(0xB7, 0xB0, 0xA3);
        const auto [r, g, b] = paletteColour(PaletteName::Ember,
                                             m_high > m_low ? (*node.temperature - m_low) / (m_high - m_low) : 0.5);
        return QColor::fromRgbF(static_cast<float>(r), static_cast<float>(g), static_cast<float>(b));
    }
    // A band against the direction of the columns goes round below.
    void drawBand(const HeatBand& band) {
        const auto& from = m_map.nodes[band.from];
        const auto& to = m_map.nodes[band.to];
        const QPointF a(x(from.x + m_map.nodeWidth), y(band.yFrom));
        const QPointF b(x(to.x), y(band.yTo));
        const double thick = std::max(1.0, band.width * m_area.height());
        const double bend = std::max(0.5 * (b.x() - a.x()), 30.0);
        QPainterPath path(a);
        path.cubicTo(a + QPointF(bend, 0), b - QPointF(bend, 0), b);
        path.lineTo(b + QPointF(0, thick));
        path.cubicTo(b + QPointF(-bend, thick), a + QPointF(bend, thick), a + QPointF(0, thick));
        path.closeSubpath();
        auto fill = colour(from);
        fill.setAlphaF(0.42F);
        m_painter.fillPath(path, fill);
    }
    // What flows and what resists, where the band arrives; where there is room for a line of text that covers no label.
    void drawHeat(const HeatBand& band) {
        if (band.width * m_area.height() < 0.8 * m_painter.fontMetrics().height())
            return;
        auto text = fmt::format("{:.3g} W", band.heat);
        if (band.resistance)
            text += fmt::format("  \u00b7  {:.3g} K/W", *band.resistance);
        const auto& from = m_map.nodes[band.from];
        const auto& to = m_map.nodes[band.to];
        const double room = x(to.x) - x(from.x + m_map.nodeWidth) - 16;
        const QRectF box(x(to.x) - room - 8, y(band.yTo), room, band.width * m_area.height());
        for (const auto& words : {text, fmt::format("{:.3g} W", band.heat)}) {
            const auto bounds = m_painter.boundingRect(box, Qt::AlignRight | Qt::AlignVCenter, q(words));
            if (room < bounds.width() || !isFree(bounds))
                continue;
            m_taken.push_back(bounds);
            m_painter.setPen(diagramInk);
            m_painter.fillRect(bounds.adjusted(-3, 0, 3, 0), QColor(255, 255, 255, 150));
            m_painter.drawText(box, Qt::AlignRight | Qt::AlignVCenter, q(words));
            return;
        }
    }
    QRectF boxOf(const HeatNode& node) const {
        return {x(node.x), y(node.y), m_map.nodeWidth * m_area.width(), node.height * m_area.height()};
    }
    bool isRim(const HeatNode& node) const { return node.x + 0.1 > 1; }
    bool isFree(const QRectF& box) const {
        return std::ranges::none_of(m_taken, [&](const QRectF& other) { return other.intersects(box); });
    }
    void drawNode(const HeatNode& node) {
        m_painter.setPen(QPen(diagramInk, node.isBoundary ? 1.2 : 0.6));
        m_painter.setBrush(colour(node));
        m_painter.drawRect(boxOf(node));
    }
    QStringList wordsOf(const HeatNode& node) const {
        const auto warmth = [&](double kelvin) { return formatTemperature({kelvin}, m_unit); };
        auto facts = node.temperature ? warmth(*node.temperature)
                                      : std::string(node.isBoundary ? "" : "no temperature");
        if (node.highest)
            facts += ", at most " + warmth(*node.highest);
        auto flow = node.produced != 0 ? fmt::format("{:.3g} W produced", node.produced)
                    : node.isBoundary  ? fmt::format("{:.3g} W", node.through)
                                       : std::string();
        if (std::abs(node.stored) > 1e-3 * node.through)
            flow += fmt::format("{}{:.3g} W stored", flow.empty() ? "" : ", ", node.stored);
        QStringList lines{q(node.label)};
        for (const auto& line : {facts, flow})
            if (!line.empty())
                lines.append(q(line));
        return lines;
    }
    // To the right end of the drawing, or to the next column.
    double roomFor(const HeatNode& node) const {
        double next = 1e300;
        for (const auto& other : m_map.nodes)
            if (other.x > node.x + 1e-6)
                next = std::min(next, x(other.x));
        return next < 1e300 ? next - x(node.x) - 10 : labelWidth() - 8;
    }
    // Beside the node at the rim, else above it; from there to the nearest place that covers no other label, with a
    // line to its node.
    void drawLabel(const HeatNode& node) {
        const auto box = boxOf(node);
        auto bold = m_painter.font();
        const auto plain = bold;
        bold.setWeight(QFont::DemiBold);
        const double line = m_painter.fontMetrics().height();
        auto lines = wordsOf(node);
        const double room = roomFor(node);
        double width = 0;
        for (auto& text : lines) {
            const QFontMetricsF metrics(&text == &lines.front() ? bold : plain);
            text = metrics.elidedText(text, Qt::ElideRight, room);
            width = std::max(width, metrics.horizontalAdvance(text));
        }
        const double high = line * static_cast<double>(lines.size());
        const QPointF wanted = isRim(node) ? QPointF(box.right() + 6, box.center().y() - 0.5 * high)
                                           : QPointF(box.left(), box.top() - high - 1);
        QRectF at(wanted, QSizeF(width, high));
        for (int step = 0; step < 200 && !isFree(at); ++step) { // up and down in turn
            const int away = step / 2 + 1;
            at.moveTop(wanted.y() + (step % 2 == 0 ? 1 : -1) * away * 0.4 * line);
        }
        m_taken.push_back(at);
        if (std::abs(at.top() - wanted.y()) > line) {
            m_painter.setPen(QPen(diagramFaint, 0.8));
            m_painter.drawLine(QPointF(isRim(node) ? box.right() : box.left(), box.center().y()),
                               QPointF(at.left() - 2, at.center().y()));
        }
        for (qsizetype i = 0; i < lines.size(); ++i) {
            m_painter.setFont(i == 0 ? bold : plain);
            m_painter.setPen(i == 0 ? diagramInk : diagramFaint);
            m_painter.drawText(QRectF(at.left(), at.top() + line * static_cast<double>(i), width + 2, line),
                               Qt::AlignLeft | Qt::AlignVCenter, lines[i]);
        }
        m_painter.setFont(plain);
    }

    QPainter& m_painter;
    const HeatFlowDiagram& m_map;
    TemperatureUnit m_unit;
    QRectF m_area;
    std::vector<QRectF> m_taken; // by labels
    double m_low = 1e300;
    double m_high = -1e300;
};

void drawPage(QPainter& painter, const HeatFlowDiagram& map, const std::string& title, TemperatureUnit unit) {
    QFont font("Inter");
    font.setPixelSize(18);
    font.setWeight(QFont::DemiBold);
    painter.setFont(font);
    painter.setPen(diagramInk);
    painter.drawText(QPointF(24, 34), q(title));
    font.setPixelSize(13);
    font.setWeight(QFont::Normal);
    painter.setFont(font);
    drawHeatFlowDiagram(painter, QRectF(24, 50, width - 48, height - 62), map, unit);
}

} // namespace

void drawHeatFlowDiagram(QPainter& painter, const QRectF& area, const HeatFlowDiagram& map, TemperatureUnit unit) {
    Drawing(painter, area, map, unit).draw();
}

Done writeHeatFlowDiagram(const HeatFlowDiagram& map, const std::string& title, TemperatureUnit unit,
                          const std::filesystem::path& file) {
    return writeDrawing("the heat flow diagram", file, {width, height},
                        paintedBy([&](QPainter& painter) { drawPage(painter, map, title, unit); }));
}

} // namespace pyro
