// The gradient of a nodal field at nodes, mended at a part's outer faces, where a mean over cells lags behind.
#pragma once

#include "core/case/case.h"
#include "core/field/raw_vector.h"

namespace pyro {

// As nodeGradient. The mean over the cells around a node holds at their common middle, which at an outer face lies
// inside: there a linear function is fitted through the means of the neighbouring nodes at their middles, by least
// squares, and taken at the node (after the patch recovery of Zienkiewicz and Zhu 1992). Exact for quadratic fields on
// regular grids; on tetrahedra at a curved face about half the error of the mean. `outer`: nodes of outer faces, in any
// order, repeated or not; `cellMeasure`: m3 per cell. Parts with curved cells keep what those give at their nodes.
RawVector<double> recoveredGradient(const Region& part, RealView nodeValues, std::span<const std::uint32_t> outer,
                                    std::span<const double> cellMeasure);

} // namespace pyro
