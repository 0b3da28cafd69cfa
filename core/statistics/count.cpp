#include "core/statistics/statistic_kind.h"

namespace pyro {

constexpr StatisticKind countStatistic{
    .name = "count",
    .meaning = "how many values there are",
    .ofValues = [](const Values& values, const Accumulator&, std::string_view) -> Result<Statistic> {
        return Statistic{static_cast<double>(values.size()), {}, false, false, true};
    },
    .anyValues = true,
};

} // namespace pyro
