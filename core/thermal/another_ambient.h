// What the limits of a case would be at another ambient temperature, and at another power: an estimate for linear cases.
#pragma once

#include "core/thermal/readings.h"

namespace pyro {

struct ShiftedLimit {
    std::optional<double> value;  // in the limit's unit
    std::optional<double> margin;
    Verdict verdict = Verdict::Unknown;
    std::string why;                    // when unknown
    std::optional<double> reachedAt;    // K, ambient at which the limit is reached with the same power
    std::optional<double> power;        // share of today's power at which it is reached at the other ambient; below 0 never
};

struct AnotherAmbient {
    double from = 0; // K
    double to = 0;   // K
    std::vector<ShiftedLimit> limits;         // as Readings::limits
    std::optional<std::size_t> first;         // the limit that a rising ambient reaches first
    std::optional<std::size_t> leastPower;    // the limit that decides how much power is allowed at `to`
};

// With the same cooling and the same power every temperature of a linear case moves as its surroundings do (all of them: air,
// coolant, walls), and every rise is in proportion to the power; follows from the linearity of the heat equation with constant
// properties and film coefficients. Errors: NotSupported, with the reason, where the ambient is not known, where several
// environments have different temperatures that are not said to move together, or where the case is not linear.
Result<AnotherAmbient> atAmbient(const Readings& readings, double kelvin);

} // namespace pyro
