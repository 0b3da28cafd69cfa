// The gradient of a nodal field, in cells and at nodes.
#pragma once

#include "core/case/case.h"
#include "core/field/raw_vector.h"

namespace pyro {

// At the middle of every cell, 3 components in the field's unit per metre, exact for linear fields on every volume
// cell: differences along the three local directions, averaged over the cell's edges, solved for the gradient. Wedges
// and pyramids count as collapsed hexahedra, curved cells by all their shape functions. NaN for cells without extent or
// of a lower dimension, and where a node holds NaN.
RawVector<double> cellGradient(const Region& part, RealView nodeValues);

// The mean of the gradients of the cells around each node, weighted by their volume at their middle: exact for linear
// fields, of first order at the part's outer faces. Of curved cells the gradient at the node itself is taken, of their
// order. Nodes without a volume cell: NaN.
RawVector<double> nodeGradient(const Region& part, RealView nodeValues);

} // namespace pyro
