// render: pictures of a case and pages of a report; VTK and QtGui, no widgets.
//
// The project's own palette for temperatures: dark indigo through orange to pale yellow, CIE lightness rising
// evenly from 20 to 94.
#pragma once

#include <array>

namespace pyro {

using Rgb = std::array<double, 3>; // 0..1, sRGB

// share: 0 coldest .. 1 hottest; outside it is clamped.
Rgb ember(double share);

// CIE L* of an sRGB colour (D65), after CIE 15.
double lightness(const Rgb& colour);

} // namespace pyro
