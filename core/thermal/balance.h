// Energy balance of a case from stored fluxes and given powers.
#pragma once

#include "core/thermal/readings.h"

namespace pyro {

// Produced: a stored heat source integrated, else the given powers (W) of the parts by name. Leaving: the stored heat flux
// through all boundaries, outwards. Nothing when either is not known on the case.
std::optional<BalanceReading> balance(const std::map<std::string, double>& powers, const Case& solved,
                                      const CaseIndex& index, const QuantityList& quantities);

} // namespace pyro
