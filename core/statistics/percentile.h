#pragma once

#include "core/gauge/values.h"

namespace pyro {

// The value that a share of the weight, 0 to 1, lies below: to 1/65536 of the range from `low` to `high`, which are the
// extremes of the values.
double percentile(const Values& values, double low, double high, double share);

} // namespace pyro
