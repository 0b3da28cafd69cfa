#include "app/viewport/gauge_placer.h"

#include "app/stages/stage.h"
#include "app/theme/theme.h"
#include "app/viewport/viewport.h"
#include "core/gauge/where_shape.h"
#include "core/limits/judge.h"
#include "core/survey/gauge_edit.h"
#include "core/units/display.h"
#include "render/verdict_mark.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <utility>

namespace pyro {
namespace {

QString lengthText(const Point& a, const Point& b) {
    return QString::number(1e3 * std::hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]), 'f', 1) + " mm";
}

// A notched mark of our own: a gap at the upper right where the label begins.
void drawMark(QPainter& painter, const QPointF& at, const QColor& colour, double size) {
    QPainterPath arc;
    arc.arcMoveTo(QRectF(at.x() - size, at.y() - size, 2 * size, 2 * size), 75);
    arc.arcTo(QRectF(at.x() - size, at.y() - size, 2 * size, 2 * size), 75, 300);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(0x1B, 0x1F, 0x24, 190), 4, Qt::SolidLine, Qt::RoundCap));
    painter.drawPath(arc);
    painter.setPen(QPen(colour, 2, Qt::SolidLine, Qt::RoundCap));
    painter.drawPath(arc);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    painter.drawEllipse(at, 1.8, 1.8);
}

void drawStroke(QPainter& painter, const QPointF& a, const QPointF& b, const QColor& colour, bool strong) {
    painter.setPen(QPen(QColor(0x1B, 0x1F, 0x24, 190), strong ? 5 : 3.5, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(a, b);
    painter.setPen(QPen(colour, strong ? 2.2 : 1.4, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(a, b);
}

} // namespace

void GaugePlacer::begin(Shape shape) {
    m_shape = shape;
    m_from.reset();
    m_here.reset();
    m_viewport.setCursor(shape == Shape::None ? Qt::ArrowCursor : Qt::CrossCursor);
    emit advised(shape == Shape::Line    ? "Line: click where it starts   (Esc ends)"
                 : shape == Shape::Spot  ? "Point: click a place   (Esc ends)"
                 : shape == Shape::Place ? "Click the place that the pixel shows   (Esc ends)"
                                         : "");
    m_viewport.update();
}

void GaugePlacer::takePlace(std::function<void(const Point&)> taken) {
    m_taken = std::move(taken);
    begin(Shape::Place);
}

bool GaugePlacer::click(const std::optional<Point>& place) {
    if (m_shape == Shape::None)
        return false;
    if (!place) {
        emit advised("Nothing lies there: click a visible part or section   (Esc ends)");
        return true;
    }
    if (m_shape == Shape::Place) {
        const auto taken = std::exchange(m_taken, {});
        cancel();
        taken(*place);
        return true;
    }
    if (m_shape == Shape::Spot) {
        const auto at = *place;
        cancel();
        m_session.addGauge(pointWhere(at));
        return true;
    }
    if (!m_from) {
        m_from = place;
        m_here = place;
        emit advised("Line: click where it ends   (Esc ends)");
        return true;
    }
    const auto from = *m_from;
    if (from == *place)
        return true;
    cancel();
    m_session.addGauge(lineWhere(from, *place));
    return true;
}

void GaugePlacer::hover(const std::optional<Point>& place) {
    if (m_shape == Shape::None)
        return;
    m_here = place;
    m_viewport.update();
}

std::optional<Point> GaugePlacer::onChosenLine(const QPointF& pixel) const {
    const auto at = m_session.selection().selectedGaugeAt();
    const auto* state = m_session.activeCase();
    if (!at || state == nullptr || !state->readings || *at >= state->readings->gauges.size() ||
        !state->readings->gauges[*at].profile)
        return std::nullopt;
    std::optional<Point> best;
    double nearest = 12; // pixels
    for (const auto& place : state->readings->gauges[*at].profile->at) {
        const auto off = m_viewport.pixelOf(place) - pixel;
        if (const double distance = std::hypot(off.x(), off.y()); distance < nearest) {
            nearest = distance;
            best = place;
        }
    }
    return best;
}

void GaugePlacer::draw(QPainter& painter) const {
    const auto chosen = m_session.selection().selectedGauge();
    const auto& stage = stageOf(m_session);
    if (stage.showsGauges) {
        for (const auto& gauge : m_session.survey().gauges)
            if (gauge.id != chosen)
                drawGauge(painter, gauge, false);
        if (const auto at = m_session.selection().selectedGaugeAt())
            drawGauge(painter, m_session.survey().gauges[*at], true);
    }
    if (stage.showsVerdicts)
        drawVerdicts(painter);
    if (stage.showsMarkedCells) {
        painter.setRenderHint(QPainter::Antialiasing, false); // thousands of lines
        painter.setPen(QPen(QColor(0x8F, 0xE3, 0xD8), 1));
        for (const auto& [from, to] : m_session.selection().markedEdges())
            painter.drawLine(m_viewport.pixelOf(from), m_viewport.pixelOf(to));
    }
    if (stage.showsMarkedPlace)
        if (const auto& place = m_session.selection().markedPlace())
            drawMark(painter, m_viewport.pixelOf(*place), Qt::white, 7);
    if (m_shape == Shape::None || !m_here)
        return;
    const auto here = m_viewport.pixelOf(*m_here);
    if (m_from) {
        const auto from = m_viewport.pixelOf(*m_from);
        drawStroke(painter, from, here, theme::ember, true);
        drawMark(painter, from, theme::ember, 5);
        painter.setPen(Qt::white);
        painter.drawText(here + QPointF(10, -8), lengthText(*m_from, *m_here));
    }
    drawMark(painter, here, theme::ember, 5);
}

// Where each limit on a part is decided; of several at one place the worst is on top.
void GaugePlacer::drawVerdicts(QPainter& painter) const {
    const auto verdicts = m_session.verdicts();
    const auto order = byMargin(verdicts);
    for (auto at = order.rbegin(); at != order.rend(); ++at) {
        const auto& limit = verdicts[*at];
        if (!limit.place || limit.target.kind != TargetKind::Part || !m_session.view().shows(limit.target.name))
            continue;
        const auto pixel = m_viewport.pixelOf(limit.place->at);
        drawVerdict(painter, QRectF(pixel.x() - 6, pixel.y() - 6, 12, 12), limit.verdict);
    }
}

// A pin for each hotspot with its rank; the larger the more it stands out.
void GaugePlacer::drawSpots(QPainter& painter, const GaugeReading& reading) const {
    const auto& spots = reading.derivation->spots;
    for (std::size_t i = std::min<std::size_t>(spots.size(), 40); i-- > 0;) {
        if (spots[i].prominence < m_session.selection().spotFloor())
            continue;
        const auto at = m_viewport.pixelOf(spots[i].at);
        const double radius = 7 + 4 * std::sqrt(spots[i].prominence / spots.front().prominence);
        const QPointF head = at - QPointF(0, radius + 9);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(theme::ember, 1.6));
        painter.drawLine(at, head);
        painter.setBrush(QColor(0x1B, 0x1F, 0x24));
        painter.drawEllipse(head, radius, radius);
        painter.setPen(Qt::white);
        painter.drawText(QRectF(head.x() - radius, head.y() - radius, 2 * radius, 2 * radius), Qt::AlignCenter,
                         QString::number(i + 1));
        painter.setBrush(Qt::NoBrush);
    }
}

void GaugePlacer::drawGauge(QPainter& painter, const Gauge& gauge, bool chosen) const {
    auto places = drawnPlaces(gauge);
    const auto* state = m_session.activeCase();
    const auto* reading = static_cast<const GaugeReading*>(nullptr);
    if (state != nullptr && state->readings) {
        const auto found = std::ranges::find(state->readings->gauges, gauge.id, &GaugeReading::id);
        if (found != state->readings->gauges.end())
            reading = &*found;
    }
    if (chosen && reading != nullptr && reading->derivation) // the plane elements that were found
        for (std::size_t i = 0; i < reading->derivation->lines.size(); ++i) {
            const auto& [from, to] = reading->derivation->lines[i];
            drawStroke(painter, m_viewport.pixelOf(from), m_viewport.pixelOf(to), theme::ember, true);
            drawMark(painter, m_viewport.pixelOf(from), theme::ember, 4);
            painter.setPen(Qt::white);
            painter.drawText(m_viewport.pixelOf(from) + QPointF(8, -8), QString("element %1").arg(i + 1));
        }
    if (chosen && reading != nullptr && reading->derivation && !reading->derivation->spots.empty())
        return drawSpots(painter, *reading);
    if (places.empty() && reading != nullptr && reading->profile) // a trace on a wall
        places = reading->profile->at;
    if (places.empty() && chosen && reading != nullptr && reading->place) // where an extreme lies
        places = {reading->place->at};
    if (places.empty())
        return;
    const QColor colour = chosen ? theme::ember : QColor(0xD8, 0xDC, 0xE0);
    for (std::size_t i = 1; i < places.size(); ++i)
        drawStroke(painter, m_viewport.pixelOf(places[i - 1]), m_viewport.pixelOf(places[i]), colour, chosen);
    drawMark(painter, m_viewport.pixelOf(places.front()), colour, chosen ? 6 : 4.5);
    if (places.size() > 1)
        drawMark(painter, m_viewport.pixelOf(places.back()), colour, chosen ? 4 : 3);
    drawReading(painter, m_viewport.pixelOf(places.front()), gauge.id, chosen);
}

void GaugePlacer::drawReading(QPainter& painter, const QPointF& at, const std::string& id, bool chosen) const {
    QFont small = painter.font();
    small.setPixelSize(11);
    small.setWeight(chosen ? QFont::DemiBold : QFont::Normal);
    painter.setFont(small);
    const auto text = QString::fromStdString(id);
    const double width = painter.fontMetrics().horizontalAdvance(text) + 8;
    const QRectF box(at.x() + 8, at.y() - 20, width, 15);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0x1B, 0x1F, 0x24, chosen ? 220 : 150));
    painter.drawRoundedRect(box, 3, 3);
    painter.setPen(chosen ? QColor(Qt::white) : QColor(0xD8, 0xDC, 0xE0));
    painter.drawText(box, Qt::AlignCenter, text);
}

} // namespace pyro
