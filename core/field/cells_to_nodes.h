// Values of cells carried to nodes.
#pragma once

#include "core/case/case.h"

namespace pyro {

// The mean over the cells around each node, `components` values per cell and node. 0 at nodes without a cell.
std::vector<double> cellsToNodes(const Mesh& mesh, const RealView& cellValues, std::size_t components);

} // namespace pyro
