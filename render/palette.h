// render: pictures of a case and pages of a report; VTK and QtGui, no widgets.
//
// The project's own palettes, made in CIE L*a*b*, and how the heat strip uses them.
#pragma once

#include "core/survey/field_look.h"

#include <array>

namespace pyro {

using Rgb = std::array<double, 3>; // 0..1, sRGB

// ember: dark indigo through orange to pale yellow, for temperatures; lightness rises evenly from 20 to 94.
// ash: grey, lightness from 12 to 94, for print. tide: blue over pale grey to ember, for what has a middle.
// share: 0 lowest .. 1 highest; outside it is clamped.
Rgb paletteColour(PaletteName palette, double share);

// The colour of a share of the range with the palette, direction and bands of a strip.
Rgb stripColour(const StripView& strip, double share);
// The tints of what lies below and above the range.
constexpr Rgb belowTint{0.36, 0.55, 0.62};
constexpr Rgb aboveTint{0.98, 0.36, 0.86};

// Lines and arrows on a colour of the strip: dark on light colours, light on dark ones.
constexpr Rgb darkInk{0x14 / 255.0, 0x17 / 255.0, 0x1B / 255.0};
constexpr Rgb lightInk{0xF2 / 255.0, 0xEF / 255.0, 0xEA / 255.0};
Rgb inkOn(const StripView& strip, double share);

// CIE L* of an sRGB colour (D65), after CIE 15.
double lightness(const Rgb& colour);

} // namespace pyro
