// Times that the history of a gauge tells: when it reaches a level, how long it lies above it.
#include "core/statistics/statistic_kind.h"

#include <fmt/format.h>

namespace pyro {
namespace {

Result<double> levelIn(const Gauge& gauge, const History& history) {
    const auto found = gauge.rest.find("level");
    if (found == gauge.rest.end())
        return fail(ErrorCode::WrongType, "the level is missing", "level",
                    "Write it with its unit, for example 85 degC");
    return inUnitOf(history, found->is_string() ? found->get<std::string>() : found->dump());
}

Result<double> crossingOf(const Gauge& gauge, const History& history, bool upwardsOnly) {
    auto level = levelIn(gauge, history);
    if (!level)
        return level;
    const auto at = crossing(history, *level, upwardsOnly);
    if (!at)
        return fail(ErrorCode::NotSupported, fmt::format("the level {:g} {} is not reached", *level, history.unit));
    return *at;
}

} // namespace

constexpr StatisticKind timeToReachStatistic{
    .name = "time_to_reach",
    .meaning = "when it first reaches a level from where it begins; linear between steps",
    .time = [](const Gauge& gauge, const History& history) { return crossingOf(gauge, history, false); },
    .keys = {"level"},
};

constexpr StatisticKind firstAboveStatistic{
    .name = "first_above",
    .meaning = "when it first rises above a level; linear between steps",
    .time = [](const Gauge& gauge, const History& history) { return crossingOf(gauge, history, true); },
    .keys = {"level"},
};

constexpr StatisticKind durationAboveStatistic{
    .name = "duration_above",
    .meaning = "how long in all it lies above a level; linear between steps",
    .time = [](const Gauge& gauge, const History& history) -> Result<double> {
        const auto level = levelIn(gauge, history);
        return level ? Result<double>(durationAbove(history, *level)) : level;
    },
    .keys = {"level"},
};

} // namespace pyro
