// The flow of the coolant through the channels of a model.
#pragma once

#include "core/feedback/progress.h"
#include "rig/grid.h"

namespace pyro::rig {

struct Flow {
    std::vector<std::int8_t> channel; // per cell: position in Model::channels, -1 for what stands still
    // Mean velocity along the axis through the lower and upper face of each cell, m/s; 0 outside of channels. What
    // enters a cell leaves it, to the accuracy of the solver.
    std::array<std::vector<double>, 3> below;
    std::array<std::vector<double>, 3> above;
    // Per side, as Solution::boundary: the inlet or outlet it is, -1 for all others.
    std::vector<std::int8_t> opening;

    // m3/s out of a cell through a side.
    double outward(const Grid& grid, std::size_t cell, const Grid::Index& at, int axis, bool up) const {
        const auto a = static_cast<std::size_t>(axis);
        return grid.area(axis, at) * (up ? above[a][cell] : -below[a][cell]);
    }
};

// Potential flow: in a channel that is shallow against its width, the velocity averaged over the depth is the gradient
// of the pressure (Hele-Shaw 1898; G. K. Batchelor, An Introduction to Fluid Dynamics, 1967, section 4.8). It enters
// evenly over the inlet and leaves through the outlet at one pressure; walls let it slip.
// Errors: WrongType when an opening chooses no face or a channel does not lead from one to the other; NotConverged.
Result<Flow> channelFlow(const Model& model, const Grid& grid);

} // namespace pyro::rig
