// The temperature with which a flow passes a surface.
#pragma once

#include "core/gauge/site.h"
#include "core/thermal/part_fields.h"

namespace pyro {

// Mean weighted by the mass flow through a surface; the mass flows per facet come with it.
struct BulkReading {
    double kelvin = 0;
    double massFlow = 0; // kg/s along the normals
};
// Errors: no velocity or density; a flow that reverses within the surface.
Result<BulkReading> bulkTemperature(const Site& site, const PartFields& fields);

} // namespace pyro
