// The range of a quantity over all steps of a series.
#pragma once

#include "core/case/quantity.h"
#include "core/case/series.h"

namespace pyro {

// SI, over the named parts that have the quantity. Errors: those of openCase and recognise; NameUnknown when no step
// has the quantity on one of the parts; Cancelled.
Result<std::array<double, 2>> rangeOverSteps(const Series& series, const QuantityChoices& choices,
                                             const std::string& quantity, const std::vector<std::string>& parts,
                                             Progress& progress);

} // namespace pyro
