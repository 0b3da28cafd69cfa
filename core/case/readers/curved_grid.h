// Cells of second and higher order made into those that a case stores: solids on a regular lattice of nodes
// (core/field/cell_lattice.h), surfaces as the straight pieces between such nodes, with their true areas.
#pragma once

#include "core/feedback/error.h"

#include <vector>
#include <vtkSmartPointer.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {

struct CurvedGrid {
    // Node arrays at the nodes of the lattices, cell arrays for every piece. The cells' nodes are in the order of
    // CellLattice.
    vtkSmartPointer<vtkUnstructuredGrid> grid;
    std::vector<double> extent;        // of surfaces: m2 for each cell and
    std::vector<double> share;         // for each node, as in Measures; empty where no surface is curved
    std::vector<std::uint32_t> parent; // of surfaces: for each cell the number of the file's
    std::uint64_t straightened = 0;    // pyramids of second order, which are straight pieces between their nodes
};

bool hasCurvedCells(vtkUnstructuredGrid& grid);
// Shape functions are the library's for what the file has; nodes that only a Bezier cell's control points were are left
// out. Errors: NotSupported for kinds and orders that are not read, IndexOutOfRange, LengthMismatch; `where` names the
// file.
//
// Whole surfaces keep their curved faces as one cell each, CellType::CurvedTriangle and CurvedQuad, and have no
// extents.
enum class CurvedFaces { Pieces, Whole };
Result<CurvedGrid> onLattices(vtkUnstructuredGrid& grid, const std::string& where,
                              CurvedFaces faces = CurvedFaces::Pieces);

} // namespace pyro
