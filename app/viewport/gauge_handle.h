// Handles at the places of the chosen gauge: drag an end of a line, a point, or the place a plane goes through.
#pragma once

#include "app/session/session.h"

#include <QPointF>

class QPainter;

namespace pyro {

class Viewport;

class GaugeHandle {
public:
    GaugeHandle(Session& session, Viewport& viewport) : m_session(session), m_viewport(viewport) {}

    void draw(QPainter& painter) const;
    // True when the press took a handle; the drag is then the handle's until release.
    bool press(const QPointF& at);
    // Parallel to the screen, or to the surface under the cursor where one is given.
    void drag(const QPointF& to, const std::optional<Point>& surface);
    // Keeps the place. True when a handle was held.
    bool release();
    bool isHeld() const { return m_held.has_value(); }
    // In widget coordinates, one per place that can be dragged.
    std::vector<QPointF> handles() const;

private:
    std::vector<Point> places() const;

    Session& m_session;
    Viewport& m_viewport;
    std::optional<std::size_t> m_held;
    QPointF m_from;
    Point m_start{};
    std::optional<Point> m_draft; // where the held place is now
};

} // namespace pyro
