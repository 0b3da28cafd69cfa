// field: what is computed on a mesh: measures, outer faces, distributions.
//
// Shape functions of the stored cell types and quadrature rules that integrate them. For straight or ruled linear
// cells and straight quadratic ones the integrals of nodal fields are exact up to rounding.
#pragma once

#include "core/case/cell_types.h"

#include <array>
#include <vector>

namespace pyro {

struct QuadraturePoint {
    double weight;
    std::vector<double> shape;                   // N_i
    std::vector<std::array<double, 3>> gradient; // dN_i/d(r,s,t); unused directions are 0
};

// The rule of a cell type with shape functions; polygons have none (they are fanned into triangles).
//
// Wedges and pyramids are integrated as collapsed hexahedra: the same geometry and interpolation as their own
// shape functions, 2x2x2 Gauss points suffice. Sources: shape functions after Zienkiewicz, The Finite Element
// Method, vol. 1; tetrahedron rule with 14 points, degree 5, after Walkington (2000), from memory, checked in the
// tests by exact polynomials.
const std::vector<QuadraturePoint>& quadrature(CellType type);

} // namespace pyro
