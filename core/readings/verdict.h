// thermal: limits, margins, verdicts and balances.
#pragma once

#include "core/units/temperature.h"

#include <string_view>

namespace pyro {

enum class Verdict { Within, Tight, Over, Unknown };
std::string_view verdictName(Verdict verdict); // "within", "tight", "over", "unknown"

// within: at least the required margin is left; tight: less than that, but not beyond the limit; over: beyond.
// A NaN margin is unknown.
Verdict judge(TemperatureDifference margin, TemperatureDifference required);

// The verdict of several together: over before unknown before tight before within.
Verdict worse(Verdict a, Verdict b);

} // namespace pyro
