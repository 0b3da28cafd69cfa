#include "app/viewport/gauge_handle.h"

#include "app/stages/stage.h"
#include "app/theme/theme.h"
#include "app/viewport/viewport.h"
#include "core/survey/gauge_places.h"
#include "render/text.h"

#include <QPainter>
#include <cmath>

namespace pyro {
namespace {

constexpr double handleReach = 10;

} // namespace

// Directions are typed, not dragged; they come after the places.
std::vector<Point> GaugeHandle::places() const {
    const auto at = m_session.selection().selectedGaugeAt();
    std::vector<Point> out;
    if (!at || !stageOf(m_session).showsGauges)
        return out;
    for (const auto& place : placesOf(m_session.survey().gauges[*at]))
        if (!place.direction)
            out.push_back(place.at);
    return out;
}

std::vector<QPointF> GaugeHandle::handles() const {
    std::vector<QPointF> out;
    for (const auto& place : places())
        out.push_back(m_viewport.pixelOf(place));
    return out;
}

void GaugeHandle::draw(QPainter& painter) const {
    const auto all = places();
    painter.setRenderHint(QPainter::Antialiasing);
    for (std::size_t i = 0; i < all.size(); ++i) {
        const auto at = m_viewport.pixelOf(m_held == i && m_draft ? *m_draft : all[i]);
        painter.setPen(QPen(QColor(0x1B, 0x1F, 0x24), 1.4));
        painter.setBrush(m_held == i ? theme::ember : QColor(Qt::white));
        painter.drawRect(QRectF(at.x() - 4, at.y() - 4, 8, 8));
    }
    if (!m_held || !m_draft || *m_held >= all.size())
        return;
    const auto at = m_viewport.pixelOf(*m_draft);
    for (std::size_t i = 0; i < all.size(); ++i) // a line's draft; the line itself stays until the place is let go
        if (i + 1 == *m_held || i == *m_held + 1) {
            painter.setPen(QPen(theme::ember, 1.6, Qt::DashLine));
            painter.drawLine(m_viewport.pixelOf(all[i]), at);
        }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(Qt::white);
    painter.drawText(at + QPointF(10, -10), q(typedPlace({"", *m_draft})));
}

bool GaugeHandle::press(const QPointF& at) {
    m_held.reset();
    m_draft.reset();
    const auto all = places();
    double nearest = handleReach;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const auto off = m_viewport.pixelOf(all[i]) - at;
        if (const double distance = std::hypot(off.x(), off.y()); distance < nearest) {
            nearest = distance;
            m_held = i;
            m_start = all[i];
        }
    }
    m_from = at;
    return isHeld();
}

void GaugeHandle::drag(const QPointF& to, const std::optional<Point>& surface) {
    m_draft = surface ? surface : std::optional(m_viewport.shifted(m_start, to - m_from));
    m_viewport.update();
}

bool GaugeHandle::release() {
    if (!m_held)
        return false;
    const auto held = *std::exchange(m_held, std::nullopt);
    const auto draft = std::exchange(m_draft, std::nullopt);
    const auto at = m_session.selection().selectedGaugeAt();
    if (draft && at)
        m_session.editOrComplain("Move place of gauge", withGaugePlace(m_session.survey(), *at, held, *draft));
    m_viewport.update();
    return true;
}

} // namespace pyro
