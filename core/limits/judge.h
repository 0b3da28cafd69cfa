// Limits of a survey judged on a case.
#pragma once

#include "core/limits/limit.h"
#include "core/readings/readings.h"

namespace pyro {

class PartFields;

// One limit from the readings that already exist: extremes of parts and boundaries, values of gauges. `fields` (may be
// null) is read by the forms that need them. What one step cannot tell is unknown here.
LimitReading judgeLimit(const Limit& limit, const Readings& readings, const PartFields* fields = nullptr);

// One limit whose form is judged over all steps.
LimitReading judgeHistory(const Limit& limit, const History& history);

} // namespace pyro
