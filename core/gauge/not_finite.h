// What is told of values that keep a statistic from being told.
#pragma once

#include "core/gauge/support.h"

#include <fmt/format.h>

namespace pyro {

// How many of the values summed are not finite, and where the first lies: `first` is the place of firstNotFinite().
inline tl::unexpected<Error> notFinite(const Accumulator& sums, const Place& first) {
    return fail(ErrorCode::NotSupported,
                fmt::format("{} of {} values are NaN or infinite, the first at {} {} ({:g}, {:g}, {:g})",
                            sums.notFinite(), sums.count(), locationName(first.on), first.number, first.at[0],
                            first.at[1], first.at[2]));
}

} // namespace pyro
