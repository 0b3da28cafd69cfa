#include "core/statistics/statistic_kind.h"

namespace pyro {

// Told by the quantity itself, by profileMeasured: its numbers are those of all points of a line, gaps as well.
constexpr StatisticKind profileStatistic{
    .name = "profile",
    .meaning = "all values along a line",
};

} // namespace pyro
