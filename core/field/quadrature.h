// field: what is computed on a mesh: measures, outer faces, distributions.
//
// Shape functions of the stored cell types and quadrature rules that integrate them. The integrals of nodal fields are
// exact up to rounding over straight or ruled linear cells, and over curved ones up to order 3; of higher orders over
// straight-sided ones.
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

// The rule of a cell type with shape functions; polygons have none (they are fanned into triangles). `nodes`: of a
// curved cell.
//
// Wedges and pyramids are integrated as collapsed hexahedra: the same geometry and interpolation as their own
// shape functions, 2x2x2 Gauss points suffice. Curved cells by products of Gauss points, in triangles and tetrahedra
// collapsed (Stroud 1971). Source of the shape functions: Zienkiewicz, The Finite Element Method, vol. 1.
const std::vector<QuadraturePoint>& quadrature(CellType type, std::size_t nodes = 0);

// Gauss-Legendre points and weights on [0, 1], exact to degree 2 points - 1.
std::vector<std::array<double, 2>> gaussPoints(int points);

} // namespace pyro
