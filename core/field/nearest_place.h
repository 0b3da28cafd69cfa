// The place of a triangle that is nearest to a point.
#pragma once

#include "core/field/vector_algebra.h"

namespace pyro {

// As weights of its corners (Ericson, Real-Time Collision Detection, 2005, section 5.1.5).
inline std::array<double, 3> nearestInTriangle(const Point& p, const Point& a, const Point& b, const Point& c) {
    const auto ab = minus(b, a);
    const auto ac = minus(c, a);
    const auto ap = minus(p, a);
    const double d1 = dot(ab, ap);
    const double d2 = dot(ac, ap);
    if (d1 <= 0 && d2 <= 0)
        return {1, 0, 0};
    const auto bp = minus(p, b);
    const double d3 = dot(ab, bp);
    const double d4 = dot(ac, bp);
    if (d3 >= 0 && d4 <= d3)
        return {0, 1, 0};
    const double vc = d1 * d4 - d3 * d2;
    if (vc <= 0 && d1 >= 0 && d3 <= 0)
        return {1 - d1 / (d1 - d3), d1 / (d1 - d3), 0};
    const auto cp = minus(p, c);
    const double d5 = dot(ab, cp);
    const double d6 = dot(ac, cp);
    if (d6 >= 0 && d5 <= d6)
        return {0, 0, 1};
    const double vb = d5 * d2 - d1 * d6;
    if (vb <= 0 && d2 >= 0 && d6 <= 0)
        return {1 - d2 / (d2 - d6), 0, d2 / (d2 - d6)};
    const double va = d3 * d6 - d5 * d4;
    if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
        const double w = (d4 - d3) / ((d4 - d3) + (d5 - d6));
        return {0, 1 - w, w};
    }
    const double all = va + vb + vc;
    return all > 0 ? std::array{va / all, vb / all, vc / all} : std::array{1.0, 0.0, 0.0};
}

} // namespace pyro
