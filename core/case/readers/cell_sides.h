// Sides of cells, with the nodes between and amid their corners where the cell has such.
#pragma once

#include "core/case/cell_types.h"
#include "core/case/readers/loose_cells.h"

#include <optional>

namespace pyro {

// The kind of a solid cell (VTK's type) by its corners alone; nothing for other cells.
std::optional<CellType> straightKind(int vtkType);

// Adds the side of a cell (VTK's type and order of nodes) that has these corners, given in ring order by their places
// in the cell: two of a surface's edge, three or four of a solid's face.
void addSide(int vtkType, std::span<const vtkIdType> cell, std::span<const std::size_t> corners, CellRows& to);

} // namespace pyro
