// A case that is a half, a quarter ... of what is meant: what adds up over the whole is told for the whole.
#pragma once

#include "core/gauge/site.h"
#include "core/readings/readings.h"
#include "core/thermal/measure_request.h"

namespace pyro {

// `factor`: how many times the case the whole is, at least 1. Heat, mass and volume flows, heat contents, extents,
// integrals over surfaces and volumes, chi and coupling coefficients in W/K are multiplied by it; what is told per
// area, length or kelvin of one place is not. `site`: nothing for a quantity of the envelope.
void toWhole(Measured& measured, const Gauge& gauge, std::optional<SiteKind> site, double factor);
void toWhole(Balances& balances, double factor);
void toWhole(BalanceReading& balance, double factor);

} // namespace pyro
