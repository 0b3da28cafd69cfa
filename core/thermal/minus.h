// A field less that of another case at the same places: what a gauge with the key "minus" reads.
#pragma once

#include "core/thermal/measure_request.h"

namespace pyro {

struct LessOther {
    Values values;      // those without a partner are NaN, or left out
    double covered = 0; // share of the weight, of places without weight of their number, that has a partner
};

// `values`: of the request's quantity on its site, as valuesAt tells them. Each is looked for in the part of the same
// name of the other case, on its wall where it lies there, else in any part. `keepGaps`: for profiles. Errors: what the
// other case lacks; NotSupported where nothing is covered.
Result<LessOther> lessOther(const MeasureRequest& request, Values values, const std::string& quantity,
                            Component component, bool keepGaps);

} // namespace pyro
