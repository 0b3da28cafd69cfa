// A flat or slightly warped polygon as a fan of triangles from its first corner.
#pragma once

#include "core/field/vector_algebra.h"

#include <cmath>
#include <vector>

namespace pyro {

struct PolygonFan {
    Point area{};              // area vector, m2
    Point centre{};            // of the area
    double size = 0;           // m2
    std::vector<double> share; // m2 per corner: its part in the integral of a field linear on each triangle

    // `at(i)`: corner i. May be called again and again.
    template <class At>
    void measure(std::size_t corners, At at) {
        area = {};
        centre = {};
        size = 0;
        share.assign(corners, 0.0);
        for (std::size_t i = 1; i + 1 < corners; ++i) {
            const Point& a = at(0);
            const Point& b = at(i);
            const Point& c = at(i + 1);
            const auto twice = cross(minus(b, a), minus(c, a));
            const double triangle = 0.5 * std::sqrt(dot(twice, twice));
            size += triangle;
            for (std::size_t axis = 0; axis < 3; ++axis) {
                area[axis] += 0.5 * twice[axis];
                centre[axis] += triangle * (a[axis] + b[axis] + c[axis]) / 3;
            }
            for (const auto corner : {std::size_t{0}, i, i + 1})
                share[corner] += triangle / 3;
        }
        // the other diagonal as well: on a parallelogram each corner has its quarter, as by bilinear shape functions
        if (corners == 4) {
            share.assign(4, 0.0);
            for (const auto& [i, j, k] : {std::array<std::size_t, 3>{0, 1, 2}, {0, 2, 3}, {1, 2, 3}, {1, 3, 0}}) {
                const auto twice = cross(minus(at(j), at(i)), minus(at(k), at(i)));
                for (const auto corner : {i, j, k})
                    share[corner] += 0.5 * std::sqrt(dot(twice, twice)) / 6;
            }
        }
        for (std::size_t axis = 0; axis < 3; ++axis)
            centre[axis] = size > 0 ? centre[axis] / size : at(0)[axis];
    }
    double shareOf(std::size_t corner) const {
        return size > 0 ? share[corner] / size : 1.0 / static_cast<double>(share.size());
    }
    // Zero for a polygon without area.
    Point normal() const {
        const double length = std::sqrt(dot(area, area));
        return length > 0 ? Point{area[0] / length, area[1] / length, area[2] / length} : Point{};
    }
};

} // namespace pyro
