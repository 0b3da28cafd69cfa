// Which further keys a gauge reads, by its quantity and statistic: one answer for the form that asks for them and for
// what goes when the quantity or the statistic changes.
#pragma once

#include "core/gauge/gauge.h"

#include <span>
#include <string_view>

namespace pyro {

// "time_to_reach", "first_above", "duration_above", "time_constant": they tell a time.
bool isTimeStatistic(std::string_view statistic);
// Gauges whose reading runs over all steps: those, and any with "over": "steps".
bool readsOverSteps(const Gauge& gauge);
// The same, or a formula that names one of `gauges` that does, by way of further formulas too.
bool readsOverSteps(std::span<const Gauge> gauges, const Gauge& gauge);

// False only for a key that belongs to other quantities or statistics; true for keys that are not known here.
bool gaugeReads(const Gauge& gauge, std::string_view key);

} // namespace pyro
