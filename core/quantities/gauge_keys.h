// Which further keys a gauge reads, by its quantity and statistic, and what they say.
#pragma once

#include "core/feedback/error.h"
#include "core/gauge/gauge_key.h"
#include "core/gauge/gauge_options.h"

#include <span>
#include <string_view>

namespace pyro {

// `siUnit`: of the quantity, for "level". Errors: WrongType, WrongUnit, Syntax, naming the key.
Result<GaugeOptions> optionsOf(const Gauge& gauge, const std::string& siUnit);

// Those of all gauges, then those that a quantity or statistic describes as its own, in the order of the lists.
std::span<const GaugeKey> gaugeKeys();
std::span<const GaugeKey> ownGaugeKeys();            // the latter alone
const GaugeKey* gaugeKeyNamed(std::string_view key); // null for one that is not known here

// Gauges whose reading runs over all steps: those with a statistic that tells a time, and any with "over": "steps".
bool readsOverSteps(const Gauge& gauge);
// The same, or a formula that names one of `gauges` that does, by way of further formulas too.
bool readsOverSteps(std::span<const Gauge> gauges, const Gauge& gauge);

// False only for a key that belongs to other quantities or statistics; true for keys that are not known here.
bool gaugeReads(const Gauge& gauge, std::string_view key);

} // namespace pyro
