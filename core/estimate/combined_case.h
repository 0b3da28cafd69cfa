// The fields of a weighted sum of solved cases on one mesh, as a case of its own.
#pragma once

#include "core/case/quantity.h"
#include "core/estimate/superposition.h"
#include "core/field/opened_case.h"

namespace pyro {

struct SolvedCase {
    OpenedCase opened;
    QuantityList quantities;
};

// Whether two cases can be added. Errors: NotSupported for another mesh, other properties or another flow.
Done addable(const SolvedCase& a, const SolvedCase& b);

// Temperatures (of environments too), heat fluxes and sources are added; properties and flow stay those of the first
// case; arrays of whose meaning nothing is known are left out. `cases` and the weights have the same length, at
// least 1.
OpenedCase combined(const std::vector<SolvedCase>& cases, const Weights& weights);

} // namespace pyro
