// Products and differences of places and vectors, three numbers each.
#pragma once

#include "core/case/case.h"

#include <cmath>

namespace pyro {

inline Point minus(const Point& a, const Point& b) { return {a[0] - b[0], a[1] - b[1], a[2] - b[2]}; }
inline double dot(const Point& a, const Point& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; }
inline Point cross(const Point& a, const Point& b) {
    return {a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
}

inline double length(const Point& of) { return std::sqrt(dot(of, of)); }
// One without length stays as it is.
inline Point unit(const Point& of) {
    const double size = length(of);
    return size > 0 ? Point{of[0] / size, of[1] / size, of[2] / size} : Point{};
}

} // namespace pyro
