#include "core/statistics/history_mean.h"
#include "core/statistics/statistic_kind.h"

#include <cmath>

namespace pyro {

constexpr StatisticKind deviationStatistic{
    .name = "deviation",
    .meaning = "standard deviation about the mean, weighted as it is",
    .ofValues = [](const Values& values, const Accumulator& sums, std::string_view) -> Result<Statistic> {
        const double mean = sums.mean();
        const double squares = weightedSum(values, [mean](double value) { return (value - mean) * (value - mean); });
        return Statistic{std::sqrt(squares / sums.extent()), {}, true};
    },
    .needsExtent = true,
    .ofHistory = [](const History& history) -> Result<HistoryValue> {
        const double mean = meanOverTime(history);
        const double squares = overTime(history, [mean](double value) { return (value - mean) * (value - mean); });
        return HistoryValue{spanOf(history) > 0 ? std::sqrt(squares / spanOf(history)) : 0, history.unit};
    },
};

} // namespace pyro
