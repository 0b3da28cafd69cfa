// A straight way through the parts of a case, layer by layer.
#pragma once

#include "core/thermal/part_fields.h"

namespace pyro {

struct RayLayer {
    std::uint32_t part = 0;
    double thickness = 0;  // m
    double resistance = 0; // m2.K/W
    double conductivity() const { return thickness / resistance; }
};

struct Ray {
    std::vector<RayLayer> layers; // in the order in which they are passed
    Point from{};
    Point to{};
    std::uint32_t part = noNumber; // what lies just before `to`
    std::uint32_t cell = noNumber;
};

// From a point on an outer face along `direction` (unit length) until the parts end. Layers end where the part or, by
// more than half a per cent, the conductivity along the ray changes. To about 1e-9 of the case's size. Errors:
// NotSupported where no part begins there; what PartFields lacks of the conductivity.
Result<Ray> rayThrough(const PartFields& fields, const Point& from, const Point& direction);

} // namespace pyro
