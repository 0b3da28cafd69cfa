// The lowest and the highest value, and how far they are apart. Extremes are those of stored values.
#include "core/statistics/statistic_kind.h"

#include <algorithm>

namespace pyro {
namespace {

HistoryValue extremeOf(const History& history, std::vector<double>::const_iterator at) {
    return {*at, history.unit, history.isTemperature, static_cast<std::size_t>(at - history.value.begin())};
}

} // namespace

constexpr StatisticKind minStatistic{
    .name = "min",
    .meaning = "lowest value, and where it lies",
    .ofValues = [](const Values& values, const Accumulator& sums, std::string_view) -> Result<Statistic> {
        return Statistic{sums.min().value, placeOf(values, sums.min())};
    },
    .ofHistory = [](const History& history) -> Result<HistoryValue> {
        return extremeOf(history, std::ranges::min_element(history.value));
    },
};

constexpr StatisticKind maxStatistic{
    .name = "max",
    .meaning = "highest value, and where it lies",
    .ofValues = [](const Values& values, const Accumulator& sums, std::string_view) -> Result<Statistic> {
        return Statistic{sums.max().value, placeOf(values, sums.max())};
    },
    .ofHistory = [](const History& history) -> Result<HistoryValue> {
        return extremeOf(history, std::ranges::max_element(history.value));
    },
};

constexpr StatisticKind rangeStatistic{
    .name = "range",
    .meaning = "highest minus lowest value",
    .ofValues = [](const Values&, const Accumulator& sums, std::string_view) -> Result<Statistic> {
        return Statistic{sums.max().value - sums.min().value, {}, true};
    },
    .ofHistory = [](const History& history) -> Result<HistoryValue> {
        const auto [low, high] = std::ranges::minmax(history.value);
        return HistoryValue{high - low, history.unit};
    },
};

} // namespace pyro
