// The handle of the section that is being edited: a knob on the plane that moves it along its normal, and a tip that
// tilts it.
#pragma once

#include "app/session/session.h"

#include <QPointF>

class QPainter;

namespace pyro {

class Viewport;

class SectionHandle {
public:
    SectionHandle(Session& session, Viewport& viewport) : m_session(session), m_viewport(viewport) {}

    void draw(QPainter& painter) const;
    // True when the press took the handle; the drag is then the handle's until release.
    bool press(const QPointF& at);
    void drag(const QPointF& to);
    bool release();
    bool isHeld() const { return m_held != Held::Nothing; }

    // In widget coordinates; nothing while no section is edited.
    std::optional<QPointF> knob() const;
    std::optional<QPointF> tip() const;

private:
    enum class Held { Nothing, Knob, Tip };
    struct Place {
        Plane plane; // unit normal
        Point knob;
        Point tip;
    };
    std::optional<Place> place() const;
    void move(const QPointF& by);
    void tilt(const QPointF& by);

    Session& m_session;
    Viewport& m_viewport;
    Held m_held = Held::Nothing;
    QPointF m_from;
    std::optional<Place> m_start;
    Gesture m_gesture{GestureKind::SectionDrag}; // the present drag
};

} // namespace pyro
