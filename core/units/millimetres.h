// Coordinates as they are shown: millimetres, without the rounding of a computation and without a negative zero.
#pragma once

#include <array>
#include <cmath>
#include <fmt/format.h>
#include <string>

namespace pyro {

// `step`: what is shown of it, mm; below half of that it is 0.
inline double millimetres(double metres, double step = 1e-6) {
    const double shown = 1e3 * metres;
    return std::abs(shown) < 0.5 * step ? 0 : shown;
}

// "12.0  3.5  0.0"
inline std::string placeInMillimetres(const std::array<double, 3>& metres) {
    return fmt::format("{:.1f}  {:.1f}  {:.1f}", millimetres(metres[0], 0.1), millimetres(metres[1], 0.1),
                       millimetres(metres[2], 0.1));
}

} // namespace pyro
