// A solution as parts and boundaries, ready to be written as a case.
#pragma once

#include "core/case/writers/vtk_file.h"
#include "rig/solve.h"

namespace pyro::rig {

enum class Phase { Still, Flowing };

// Node temperatures of the whole grid, K (NaN where nothing of that phase is near): each cell extends its temperature
// to its corners by its own face fluxes, which is exact for piecewise linear fields in layers; the estimates of the
// cells around a node are averaged, weighted by conductivity. A coolant keeps its mean temperature up to a film.
// `part`: of its cells alone, so that a contact resistance is a step at its nodes; empty: of all.
std::vector<double> nodeTemperatures(const Model& model, const Grid& grid, const Solution& solution,
                                     Phase phase = Phase::Still, const std::string& part = {});

// Velocity at the nodes of the whole grid, m/s, 3 each: the mean of the faces of coolant around each; 0 elsewhere.
std::vector<double> nodeVelocities(const Grid& grid, const Flow& flow);

// Parts with temperature on nodes and cells, heat_flux, heat_source and conductivity (along x, y, z) on cells, and
// velocity on both in a coolant; boundaries with the surface temperature and the heat flux through each face. Heat flux
// is conducted heat only: an opening, which conducts none, has the coolant's temperature and velocity.
std::vector<BlockData> toBlocks(const Model& model, const Grid& grid, const Solution& solution);

} // namespace pyro::rig
