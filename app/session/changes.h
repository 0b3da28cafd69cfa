// What changed, as the session tells those who listen.
#pragma once

#include <QFlags>

namespace pyro {

enum class Change {
    Survey = 1,     // cases, limits, labels ... anything but the view
    View = 2,       // stage, visibility, range, unit
    Cases = 4,      // a case was loaded or failed
    Readings = 8,   // new readings of the active case
    Picture = 16,   // new surfaces or values to draw
    Selection = 32, // the selected part, section or limit
    Camera = 64,    // the camera was moved from outside the viewport
    Marked = 128,   // a place of the chosen gauge, cells or pins: what lies over the picture
    Pointed = 256,  // a boundary that the mouse is on in a table
};
Q_DECLARE_FLAGS(Changes, Change)
Q_DECLARE_OPERATORS_FOR_FLAGS(Changes)

// What forms and lists tell of; not what is merely pointed at, nor where the camera stands.
constexpr Changes contents = Changes(Change::Survey) | Change::View | Change::Cases | Change::Readings |
                             Change::Picture | Change::Selection;

} // namespace pyro
