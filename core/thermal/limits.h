// Limits of a survey judged on a case.
#pragma once

#include "core/thermal/readings.h"

namespace pyro {

// One limit from the readings that already exist: extremes of parts and boundaries, values of gauges.
// With both a maximum and a minimum the one with the smaller margin decides.
LimitReading judgeLimit(const Limit& limit, const Readings& readings);

// Positions in `limits`, smallest margin first; those over first of all, unknown ones after the over ones.
std::vector<std::size_t> byMargin(const std::vector<LimitReading>& limits);

} // namespace pyro
