// Grid convergence: the order that a value shows over meshes of one case, what it tends to, and how far it may be off.
// Celik, Ghia, Roache, Freitas, Coleman and Raad, Procedure for Estimation and Reporting of Uncertainty Due to
// Discretization in CFD Applications, J. Fluids Eng. 130 (2008) 078001.
#pragma once

#include "core/feedback/error.h"

#include <optional>
#include <span>
#include <string>

namespace pyro {

enum class GridState { Monotone, Oscillating, Diverging };
std::string_view gridStateName(GridState state); // "monotone", "oscillating", "diverging"

struct GridConvergence {
    std::optional<double> order;             // apparent; nothing for two meshes, where 1 is taken, and for equal values
    std::optional<double> extrapolated;      // to cells of no size
    std::optional<double> approximateError;  // share of the finest value, |f1 - f2| / |f1|; nothing where f1 is zero
    std::optional<double> extrapolatedError; // share of the extrapolated one
    std::optional<double> index;             // fine-grid convergence index, a share
    std::optional<double> uncertainty;       // absolute, of the finest value
    GridState state = GridState::Monotone;
    double safety = 1.25;  // factor: 3 for two meshes (Roache)
    std::string note = {}; // what was assumed, or why something is not there
};

// `values` and `sizes` (of a cell, in any one unit) from fine to coarse, two or more; of more than three the finest
// three tell. Values of temperatures: as a rise, so that shares say something. Errors: NotSupported for fewer than two,
// for sizes that do not grow, and for a refinement below 1.1, where the order cannot be told from noise.
Result<GridConvergence> convergenceOf(std::span<const double> values, std::span<const double> sizes);

} // namespace pyro
