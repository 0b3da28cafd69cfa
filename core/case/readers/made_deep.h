// Surface cells made one cell deep, so that all that computes in space computes them: triangles as wedges, quadrangles
// as hexahedra (of any order), polygons as wedges, lines as quadrangles. The field is the same all along the depth.
#pragma once

#include "core/case/case.h"

#include <functional>
#include <vtkPointSet.h>
#include <vtkSmartPointer.h>

namespace pyro {

struct Deepening {
    std::function<Point(vtkIdType node)> across; // the whole depth there, metres
    double from = 0; // where it begins, as a share of it: 0 at the file's node, -0.5 half of it before
};

// Checked cells; curved faces on lattices of nodes (core/field/cell_lattice.h), which may be others than the file's.
struct SurfaceCells {
    vtkSmartPointer<vtkPointSet> grid;
};
// Errors: IndexOutOfRange, LengthMismatch, NotSupported, as onLattices; `where` names the file.
Result<SurfaceCells> surfaceCells(vtkPointSet& grid, const std::string& where);

// Nodes keep their numbers, those beyond follow.
vtkSmartPointer<vtkPointSet> madeDeep(const SurfaceCells& cells, const Deepening& how);

} // namespace pyro
