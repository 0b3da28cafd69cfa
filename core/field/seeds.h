// Places from which lines of a field start: evenly spread over a shape, the same ones at every call.
#pragma once

#include "core/case/case.h"

#include <span>

namespace pyro {

// On a sphere, along a golden spiral (Vogel 1979, carried over to the sphere). Metres.
std::vector<Point> seedsAround(const Point& centre, double radius, std::size_t count);
// Over the area of a disk, along a golden spiral (Vogel 1979). `normal`: of any length but zero.
std::vector<Point> seedsOnDisk(const Point& centre, const Point& normal, double radius, std::size_t count);
// Both ends included; one seed lies in the middle.
std::vector<Point> seedsOnLine(const Point& from, const Point& to, std::size_t count);

struct SurfaceSeed {
    Point at;
    std::size_t triangle;
};
// Spread over triangles by area: one seed for every share of the whole area, at a place within its triangle that
// follows a golden ratio sequence. `triangles`: 3 nodes each, of `points`, 3 coordinates each. Empty without area.
std::vector<SurfaceSeed> seedsOnTriangles(std::span<const float> points, std::span<const std::int32_t> triangles,
                                          std::size_t count);

} // namespace pyro
