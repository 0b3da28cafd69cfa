// How much of a part is hotter than a value.
#pragma once

#include "core/case/case.h"

#include <span>

namespace pyro {

struct VolumeAbove {
    double volume = 0; // m3 above the level
    double whole = 0;  // m3 of all cells with finite values
    double share() const { return whole > 0 ? volume / whole : 0; }
};

// `values`: of one component, as stored; `measure`: m3 per cell. Cell values count for whole cells. Nodal values are
// linear within each of the tetrahedra that a cell is split into (one, two, three or six), so that a field linear in
// space gives the exact volume on straight cells; quadratic cells by their corners. Cells with NaN count for nothing.
VolumeAbove volumeAbove(const Region& part, const StoredArray& values, std::span<const double> measure, double level);

// Share of a tetrahedron in which a field, linear between its corners, lies above the level; 0..1.
double shareAbove(std::array<double, 4> corner, double level);

} // namespace pyro
