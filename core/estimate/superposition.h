// A linear steady case as a weighted sum of solved ones.
#pragma once

#include "core/estimate/causes.h"

namespace pyro {

// The field is the sum of `ofCases[i]` times case i, temperatures besides raised by `shift` kelvin. The shift is a
// solution of its own: every environment warmer alike, and no heat.
struct Weights {
    std::vector<double> ofCases;
    double shift = 0;
};

// Those with which the causes of the solved cases add up to the wanted ones; the first cases are preferred. Follows
// from the linearity of the heat equation with constant properties, film coefficients and flow. Nothing when they do
// not add up.
std::optional<Weights> weightsFor(const std::vector<HeatCauses>& solved, const HeatCauses& wanted);

} // namespace pyro
