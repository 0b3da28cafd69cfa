// Everything that a sweep tells of each case, by name: the least margin, the margins of limits, and gauges.
#pragma once

#include "core/compare/sweep.h"

namespace pyro {

struct SweepValue {
    std::string key; // "least margin", "margin of chip", "T_chip": as it stands in a survey
    std::string unit;
    bool isTemperature = false;                // a place on the scale of temperatures, no difference
    std::optional<std::size_t> limit;          // whose margin it is, position in the survey
    std::string gauge;                         // id; empty: a margin
    std::vector<std::optional<double>> values; // per case of the sweep, in `unit`
};

constexpr std::string_view leastMarginKey = "least margin";

// The least margin where all are in one unit, then one for each limit and each gauge, in the order of the survey.
std::vector<SweepValue> sweepValues(const Survey& survey, const std::vector<SweepCase>& cases);

// Null where there is none of this key; empty: the first.
const SweepValue* valueNamed(const std::vector<SweepValue>& values, std::string_view key);

} // namespace pyro
