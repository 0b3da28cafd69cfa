// Which further keys a gauge reads, by its quantity and statistic, and what they say.
#pragma once

#include "core/feedback/error.h"
#include "core/gauge/gauge_options.h"

#include <array>
#include <span>
#include <string_view>

namespace pyro {

// `siUnit`: of the quantity, for "level". Errors: WrongType, WrongUnit, Syntax, naming the key.
Result<GaugeOptions> optionsOf(const Gauge& gauge, const std::string& siUnit);

// A key beyond those that every gauge has: what stands in it, for the schema, and the word of the window that stands
// for it as well.
enum class GaugeKeyKind {
    Value,            // with its unit
    ValueOrReference, // or another gauge, a bulk, a distance
    Word,
    Text,
    Flag,
    Count, // 0 to 9
    List,
};
struct GaugeKey {
    std::string_view key;
    GaugeKeyKind kind;
    std::string_view meaning;
    std::string_view also = {};
    std::array<std::string_view, 5> words = {}; // that a Word may be
};
std::span<const GaugeKey> gaugeKeys();
const GaugeKey* gaugeKeyNamed(std::string_view key); // null for one that is not known here

// Gauges whose reading runs over all steps: those with a statistic that tells a time, and any with "over": "steps".
bool readsOverSteps(const Gauge& gauge);
// The same, or a formula that names one of `gauges` that does, by way of further formulas too.
bool readsOverSteps(std::span<const Gauge> gauges, const Gauge& gauge);

// False only for a key that belongs to other quantities or statistics; true for keys that are not known here.
bool gaugeReads(const Gauge& gauge, std::string_view key);

} // namespace pyro
