// Limits of a survey judged on a case.
#pragma once

#include "core/readings/readings.h"

namespace pyro {

class PartFields;

// One limit from the readings that already exist: extremes of parts and boundaries, values of gauges. `fields` (may be
// null) is read for gradients and shares above a level. With both a maximum and a minimum the one with the smaller
// margin decides. DurationAbove is unknown here: it is told with all steps, see judgeTogether.
LimitReading judgeLimit(const Limit& limit, const Readings& readings, const PartFields* fields = nullptr);

// The same from a value that is told elsewhere, in `unit`.
LimitReading judgeValue(const Limit& limit, double value, const std::string& unit);

} // namespace pyro
