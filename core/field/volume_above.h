// How much of a part or surface lies above a value.
#pragma once

#include "core/case/case.h"

#include <span>

namespace pyro {

struct VolumeAbove {
    double volume = 0; // m3 above the level; of a surface m2
    double whole = 0;  // the same of all cells with finite values
    double share() const { return whole > 0 ? volume / whole : 0; }
};

// `values`: of one component, as stored; `measure`: m3 or m2 per cell. Cell values count for whole cells. Nodal values
// are linear within each of the tetrahedra that a cell is split into (one, two, three or six), within the triangles of
// a surface cell, so that a field linear in space gives the exact extent on straight cells; curved cells by the pieces
// between their nodes. Cells with NaN count for nothing.
VolumeAbove volumeAbove(const Region& part, const StoredArray& values, std::span<const double> measure, double level);

// Share of a tetrahedron in which a field, linear between its corners, lies above the level; 0..1.
double shareAbove(std::array<double, 4> corner, double level);
// The same of a triangle.
double shareAbove(std::array<double, 3> corner, double level);

} // namespace pyro
