// How far a cell is from its regular shape.
#pragma once

#include "core/case/case.h"

namespace pyro {

// The smallest determinant of the unit edges at its corners, 1 for the regular cell; 0 or less where the cell is turned
// over in itself. The order of the nodes does not matter. Source: P. Knupp, "Algebraic mesh quality metrics", SIAM J.
// Sci. Comput. 23 (2001), scaled Jacobian; the normalisation of tetrahedra, wedges and pyramids is our own.
double scaledJacobian(const Mesh& mesh, std::size_t cell);

} // namespace pyro
