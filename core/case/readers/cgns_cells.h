// Kinds of elements of CGNS with their nodes in VTK's order.
#pragma once

#include <span>
#include <vector>

namespace pyro {

struct CgnsKind {
    int cgns = 0; // ElementType_t
    int vtk = 0;
    int dimension = 0;
    int nodes = 0;
    std::vector<std::size_t> order = {}; // for each node in VTK's order its number in the file's; empty: the same
};

// Null for one that is not read; of points its dimension is 0.
const CgnsKind* cgnsKind(int elementType);

} // namespace pyro
