// The finite volume solver: cell temperatures and the heat flux through every face.
#pragma once

#include "core/feedback/progress.h"
#include "rig/flow.h"

#include <functional>

namespace pyro::rig {

struct Solution {
    std::vector<double> temperature; // K per grid cell; NaN in voids
    std::vector<double> source;      // W/m3 per grid cell
    // Heat flux in the direction of the axis through the lower and upper face of each cell, W/m2; 0 where adiabatic.
    std::array<std::vector<double>, 3> fluxBelow;
    std::array<std::vector<double>, 3> fluxAbove;
    // The boundary a side belongs to (Model::boundaryName), -1: adiabatic, or within. Six per cell, in the order of
    // Side. The wall of a channel belongs to the cells that stand still.
    std::vector<std::int8_t> boundary;
    Flow flow;
    std::vector<double> levels; // K per environment, at this time
    double produced = 0;        // W
    double leaving = 0;         // W, through all environments and with the coolant
    double stored = 0;          // W, what warming takes up; produced = leaving + stored
    double time = 0;            // s
    double turnover = 0;        // W, out through all faces where heat leaves
    int iterations = 0;
    double residual = 0;
};

// Two-point fluxes with the resistances of both half cells in series; a coolant carries the temperature of the cell
// it comes from (upwind, of first order in the cell's length). Conjugate gradients with an incomplete Cholesky factor
// to a relative residual of 1e-12; with a coolant, whose matrix is not symmetric, stabilised biconjugate
// gradients with an incomplete LU factor to 1e-10. Source of the scheme: S. Patankar, Numerical Heat Transfer and Fluid
// Flow, 1980, chapter 4 (harmonic mean conductance) and 5.2 (upwind). A radiating surface is linearised about its
// temperature and solved again until that settles. Errors: NotConverged, Cancelled; WrongType when no temperature fixes
// the level of the field or an environment touches nothing.
Result<Solution> solve(const Model& model, const Grid& grid, Progress& progress);

struct RefinementStep {
    std::size_t cells;
    double heat;      // W, that leaves through all faces
    double change;    // against the step before, as a share; 1 for the first
    double remainder; // of the heat flows, as a share
};
struct Refined {
    Grid grid;
    Solution solution;
    std::vector<RefinementStep> steps;
};
// On this grid and on halved ones until the model's `refinement` is met (ISO 10211, annex A: the heat flow changes by
// less than 1 %, the sum of heat flows is below 1e-4 of the total). `tell` hears every step. Errors: as solve;
// NotConverged when the next grid would have too many cells.
Result<Refined> solveRefined(const Model& model, Grid grid, const std::function<void(const RefinementStep&)>& tell,
                             Progress& progress);

// The start and every step of the model's transient that is to be written, in turn; `use` may stop by an error. Fully
// implicit (Patankar, chapter 4.3): stable for any step, of first order in time.
// Errors: as solve, and those of `use`; WrongType for a model without a transient.
Done solveTransient(const Model& model, const Grid& grid, const std::function<Done(const Solution&)>& use,
                    Progress& progress);

} // namespace pyro::rig
