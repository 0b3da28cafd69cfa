// One value followed over the steps of a case.
#pragma once

#include "core/feedback/error.h"

#include <optional>
#include <string>
#include <vector>

namespace pyro {

struct Readings;

// A gauge's values over the steps that could be read.
struct History {
    std::vector<double> time;  // s; the step's number where no times are known
    std::vector<double> value; // in `unit`; NaN in gaps
    std::string unit;
    bool isTemperature = false;
    bool timed = true;
};
// Of the gauge at this position in the survey.
History historyOf(std::size_t gauge, const std::vector<Readings>& steps);

// When the history first reaches the level, in its unit, from where it begins: s, linear between steps; nothing when it
// never does. `upwardsOnly`: only from below. Without gaps, of two steps at least.
std::optional<double> crossing(const History& history, double level, bool upwardsOnly);

// How long in all it lies above the level: s, linear between steps. Without gaps.
double durationAbove(const History& history, double level);

// A value as written, "85 degC" or a bare SI number, in the unit of the history. Errors: Syntax, WrongUnit.
Result<double> inUnitOf(const History& history, const std::string& written);

} // namespace pyro
