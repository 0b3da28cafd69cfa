#include "core/statistics/history_mean.h"
#include "core/statistics/percentile.h"
#include "core/statistics/statistic_kind.h"

#include <algorithm>
#include <numeric>

namespace pyro {
namespace {

// Each step counts for half of the spans beside it; steps without a span alike.
std::vector<double> weightsOf(const History& history) {
    std::vector<double> weights(history.time.size(), spanOf(history) > 0 ? 0.0 : 1.0);
    for (std::size_t i = 1; i < weights.size(); ++i) {
        const double half = (history.time[i] - history.time[i - 1]) / 2;
        weights[i - 1] += half;
        weights[i] += half;
    }
    return weights;
}

} // namespace

constexpr StatisticKind medianStatistic{
    .name = "median",
    .meaning = "value that half of the volume, area, length or time lies below",
    .ofValues = [](const Values& values, const Accumulator& sums, std::string_view) -> Result<Statistic> {
        return Statistic{percentile(values, sums.min().value, sums.max().value, 0.5)};
    },
    .needsExtent = true,
    .ofHistory = [](const History& history) -> Result<HistoryValue> {
        const auto weights = weightsOf(history);
        std::vector<std::size_t> order(weights.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::ranges::sort(order, {}, [&](std::size_t at) { return history.value[at]; });
        double left = std::accumulate(weights.begin(), weights.end(), 0.0) / 2;
        for (const auto at : order) {
            left -= weights[at];
            if (left <= 0)
                return HistoryValue{history.value[at], history.unit, history.isTemperature, at};
        }
        return HistoryValue{history.value[order.back()], history.unit, history.isTemperature, order.back()};
    },
};

} // namespace pyro
