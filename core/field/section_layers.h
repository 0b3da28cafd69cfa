// Stops of a section that is nudged along its normal: thin layers are not jumped over.
#pragma once

#include "core/field/case_index.h"
#include "core/field/cut.h"

namespace pyro {

struct LayerStop {
    double by = 0; // m along the normal, in the direction asked for
    // that a plane there may meet, by their boxes; the thinnest along the normal first
    std::vector<std::size_t> parts;
};

// The middle of the next layer that lies between the ends of the parts' boxes and is thinner than `step`, else `step`
// itself. `normal` of length 1; `direction` 1 or -1.
LayerStop nextStop(const CaseIndex& index, std::span<const std::size_t> parts, const Plane& plane, double step,
                   int direction);

} // namespace pyro
