// What a part's heat content grows by from one step to the next.
#pragma once

#include "core/thermal/shell_heat.h"

namespace pyro {

// W: integral of density, heat capacity and the temperature's change since the step before, per time between the two; 0
// for a field that does not change. A temperature on cells goes before one on nodes. Errors: what is missing.
Result<double> storedIn(const PartFields& fields, std::size_t part, const Transience& transience);

} // namespace pyro
