// A nodal field at many places at once.
#pragma once

#include "core/field/locate.h"

namespace pyro {

// A nodal field of one component at many places, in their order; NaN outside of the part. On all cores. With a locator
// the places are taken in an order in which neighbours follow each other; without one all cells are looked at once
// against the places sorted into a grid, which is worth it from about one place for a hundred cells.
std::vector<double> sampleAll(const Region& part, const PointLocator& locator, const RealView& values,
                              std::span<const Point> places);
std::vector<double> sampleAll(const Region& part, const RealView& values, std::span<const Point> places);

// The value of the cell that holds each place, of one value per cell; the same otherwise.
std::vector<double> sampleCells(const Region& part, const RealView& values, std::span<const Point> places);

} // namespace pyro
