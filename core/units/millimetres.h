// Coordinates as they are shown: millimetres, without the rounding of a computation and without a negative zero.
#pragma once

#include <cmath>

namespace pyro {

// `step`: what is shown of it, mm; below half of that it is 0.
inline double millimetres(double metres, double step = 1e-6) {
    const double shown = 1e3 * metres;
    return std::abs(shown) < 0.5 * step ? 0 : shown;
}

} // namespace pyro
