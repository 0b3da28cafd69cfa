#include "core/statistics/history_mean.h"
#include "core/statistics/statistic_kind.h"

namespace pyro {

constexpr StatisticKind meanStatistic{
    .name = "mean",
    .meaning = "mean, weighted by volume, area or length; over the steps by time",
    .ofValues = [](const Values&, const Accumulator& sums, std::string_view) -> Result<Statistic> {
        return Statistic{sums.mean()};
    },
    .needsExtent = true,
    .ofHistory = [](const History& history) -> Result<HistoryValue> {
        return HistoryValue{meanOverTime(history), history.unit, history.isTemperature};
    },
};

} // namespace pyro
