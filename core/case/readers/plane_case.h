// Which cases are in two dimensions: plane cells that lie in one plane. They are made one cell deep (made_deep.h),
// their edges become faces.
#pragma once

#include "core/case/readers/intake.h"

#include <span>

namespace pyro {

// The highest dimension among a grid's cells, 0 to 3.
int dimensionOf(vtkPointSet& grid);

// Whether a case in two dimensions may have it: a part of plane cells that is no surface by its kind (.vtp, .stl) nor
// by a heat flux of one number, which passes through it; a boundary of lines.
bool mayBePlane(const NamedGrid& one);
// Unit normal of the plane in which all cells of the grids lie, along the axis it is nearest to; nothing where they lie
// in none, where a part has solid cells or only lines, or a boundary faces.
std::optional<Point> normalOfPlane(std::span<const NamedGrid> grids);

} // namespace pyro
