// Lengths, areas and volumes of cells and the share of each node in them.
#pragma once

#include "core/case/case.h"
#include "core/feedback/progress.h"

namespace pyro {

struct Measures {
    std::vector<double> cell;      // m, m2 or m3 by the region's dimension; 0 for cells of a lower dimension
    std::vector<double> node;      // integral of the node's shape function, same unit; sums to the same total
    std::uint64_t flawedCells = 0; // without extent
};

// The integral of a nodal field over the region is the sum of node[i] * value[i]; of a cell field the sum of
// cell[i] * value[i]. Cells count by their absolute extent, whichever way round their nodes are listed.
Measures measure(const Region& region);

// Area vector of a surface cell (its plane's normal times its area), m2.
Point areaVector(const Mesh& mesh, std::size_t cell);

} // namespace pyro
