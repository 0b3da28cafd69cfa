// Where things stand in the strip, in pixels: for drawing and for dragging.
#pragma once

namespace pyro {

constexpr double stripSideMargin = 74;
constexpr double stripBarHeight = 15;
constexpr double stripHistogramHeight = 34;

} // namespace pyro
