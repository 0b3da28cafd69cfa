#include "app/viewport/section_handle.h"

#include "app/stages/stage.h"
#include "app/theme/theme.h"
#include "app/viewport/viewport.h"

#include <QPainter>
#include <cmath>

namespace pyro {
namespace {

constexpr double reachPixels = 11;
constexpr double lengthPixels = 64;

Point sum(const Point& a, const Point& b, double factor) {
    return {a[0] + factor * b[0], a[1] + factor * b[1], a[2] + factor * b[2]};
}

bool near(const std::optional<QPointF>& place, const QPointF& at) {
    return place && std::hypot(place->x() - at.x(), place->y() - at.y()) <= reachPixels;
}

} // namespace

// The knob stands where the middle of what is visible falls onto the plane.
std::optional<SectionHandle::Place> SectionHandle::place() const {
    const auto at = m_session.selection().selectedSection();
    const auto view = m_session.view();
    const auto* state = m_session.activeCase();
    if (!at || !stageOf(m_session).movesSections || !view.camera || state == nullptr || !state->opened ||
        !view.field.sections[*at].shown)
        return std::nullopt;
    const auto plane = withUnitNormal(view.field.sections[*at].plane);
    if (!plane)
        return std::nullopt;
    Point middle{};
    std::array<double, 6> box{1e300, -1e300, 1e300, -1e300, 1e300, -1e300};
    for (const auto part : visibleParts(m_session.seen()))
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const auto& own = state->opened->index->parts[part].box;
            box[2 * axis] = std::min(box[2 * axis], own[2 * axis]);
            box[2 * axis + 1] = std::max(box[2 * axis + 1], own[2 * axis + 1]);
        }
    for (std::size_t axis = 0; axis < 3; ++axis)
        middle[axis] = 0.5 * (box[2 * axis] + box[2 * axis + 1]);
    Place place{*plane, sum(middle, plane->normal, -distanceTo(*plane, middle)), {}};
    const double perPixel = 2 * view.camera->scale / std::max(1, m_viewport.height());
    place.tip = sum(place.knob, plane->normal, lengthPixels * perPixel);
    return place;
}

std::optional<QPointF> SectionHandle::knob() const {
    const auto at = place();
    return at ? std::optional(m_viewport.pixelOf(at->knob)) : std::nullopt;
}

std::optional<QPointF> SectionHandle::tip() const {
    const auto at = place();
    return at ? std::optional(m_viewport.pixelOf(at->tip)) : std::nullopt;
}

void SectionHandle::draw(QPainter& painter) const {
    const auto from = knob();
    const auto to = tip();
    if (!from || !to)
        return;
    painter.setPen(QPen(Qt::white, 2));
    painter.drawLine(*from, *to);
    painter.setBrush(theme::ember);
    painter.setPen(QPen(Qt::white, 1.6));
    painter.drawRect(QRectF(from->x() - 6, from->y() - 6, 12, 12));
    painter.setBrush(Qt::white);
    painter.drawEllipse(*to, 5, 5);
}

bool SectionHandle::press(const QPointF& at) {
    m_held = near(knob(), at) ? Held::Knob : near(tip(), at) ? Held::Tip : Held::Nothing;
    m_from = at;
    m_start = place();
    ++m_gesture.which;
    return isHeld();
}

void SectionHandle::drag(const QPointF& to) {
    if (m_held == Held::Knob)
        move(to - m_from);
    else if (m_held == Held::Tip)
        tilt(to - m_from);
}

bool SectionHandle::release() {
    const bool held = isHeld();
    m_held = Held::Nothing;
    return held;
}

// Along the normal as it is seen; a normal that points at the viewer follows the mouse up and down.
void SectionHandle::move(const QPointF& by) {
    auto view = m_session.view();
    const auto at = m_session.selection().selectedSection();
    if (!at || !m_start || !view.camera)
        return;
    const double perPixel = 2 * view.camera->scale / std::max(1, m_viewport.height());
    const auto seen = m_viewport.pixelOf(m_start->tip) - m_viewport.pixelOf(m_start->knob);
    const double length = std::hypot(seen.x(), seen.y());
    const double pixels = length > 12 ? (by.x() * seen.x() + by.y() * seen.y()) / length * lengthPixels / length
                                      : -by.y();
    view.field.sections[*at].plane = {sum(m_start->plane.origin, m_start->plane.normal, pixels * perPixel),
                                      m_start->plane.normal};
    m_session.editView("Move section", view, m_gesture);
}

// The tip follows the mouse in the plane of the screen, the knob stays.
void SectionHandle::tilt(const QPointF& by) {
    auto view = m_session.view();
    const auto at = m_session.selection().selectedSection();
    if (!at || !m_start || !view.camera)
        return;
    const auto tip = m_viewport.shifted(m_start->tip, by);
    if (const auto turned = withUnitNormal({m_start->knob, sum(tip, m_start->knob, -1)}))
        view.field.sections[*at].plane = *turned;
    m_session.editView("Tilt section", view, m_gesture);
}

} // namespace pyro
