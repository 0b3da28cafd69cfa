// Nodes at one place made one: of grids whose cells share none, as libraries write them that compute with fields of any
// continuity, and of the pieces of one file.
#pragma once

#include "core/feedback/error.h"

#include <optional>
#include <string>
#include <vtkSmartPointer.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {

// Whether there are several cells and none has a node that another one has.
bool sharesNoNode(vtkUnstructuredGrid& grid);

struct JoinedNodes {
    // node arrays hold the means of what was joined; those of whole numbers the first one's
    vtkSmartPointer<vtkUnstructuredGrid> grid;
    vtkIdType fewer = 0; // nodes
    // The array whose values differed most where nodes were joined, and by which share of its range; empty: all are
    // equal to 1e-6 of it.
    std::string torn;
    double by = 0;
};
// Joins what lies within 1e-7 of the grid's extent, or at the very same place. Nothing where no two do, and of
// polyhedra.
enum class SamePlace { Nearly, Exactly };
std::optional<JoinedNodes> joinedNodes(vtkUnstructuredGrid& grid, SamePlace place);

} // namespace pyro
