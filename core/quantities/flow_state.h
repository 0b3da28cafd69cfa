// The fluid at a place and how fast it flows, for numbers made of them.
#pragma once

#include "core/thermal/measure_request.h"

namespace pyro {

// Position in Case::parts of the first part that the place touches. Errors: NotSupported where there is none.
Result<std::size_t> fluidHere(const MeasureRequest& request);

// m/s: as given, else the mean over the place. Errors: the part that has no velocity.
Result<double> speedHere(const MeasureRequest& request);

} // namespace pyro
