// A solution as parts and boundaries, ready to be written as a case.
#pragma once

#include "core/case/writers/vtk_file.h"
#include "rig/solve.h"

namespace pyro::rig {

// Node temperatures of the whole grid, K (NaN where no solid is near): each cell extends its temperature to its
// corners by its own face fluxes, which is exact for piecewise linear fields in layers; the estimates of the cells
// around a node are averaged, weighted by conductivity.
std::vector<double> nodeTemperatures(const Model& model, const Grid& grid, const Solution& solution);

// Parts with temperature on nodes and cells, heat_flux and heat_source on cells; boundaries with the surface
// temperature and the heat flux through each face.
std::vector<BlockData> toBlocks(const Model& model, const Grid& grid, const Solution& solution);

} // namespace pyro::rig
