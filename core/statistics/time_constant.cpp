#include "core/statistics/statistic_kind.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

double valueAt(const History& history, double time) {
    const auto after = static_cast<std::size_t>(std::ranges::upper_bound(history.time, time) - history.time.begin());
    const auto to = std::clamp<std::size_t>(after, 1, history.time.size() - 1);
    const double share = (time - history.time[to - 1]) / (history.time[to] - history.time[to - 1]);
    return history.value[to - 1] + share * (history.value[to] - history.value[to - 1]);
}

// As given, else extrapolated from first, middle and last value (Aitken's delta-squared).
Result<double> finalValue(const Gauge& gauge, const History& history) {
    if (const auto given = gauge.rest.find("final"); given != gauge.rest.end())
        return inUnitOf(history, given->is_string() ? given->get<std::string>() : given->dump());
    const double first = history.value.front();
    const double middle = valueAt(history, (history.time.front() + history.time.back()) / 2);
    const double last = history.value.back();
    const double bend = first + last - 2 * middle;
    if (std::abs(bend) < 1e-9 * std::max(std::abs(first - last), 1e-300) || (middle - first) * (last - middle) <= 0 ||
        std::abs(last - middle) >= std::abs(middle - first))
        return fail(ErrorCode::NotSupported,
                    "the history does not approach a final value, so that it has no time constant", {},
                    "Give the final value by the key \"final\"");
    return (first * last - middle * middle) / bend;
}

// Least squares of ln((T - Tend)/(T0 - Tend)) over time.
Result<double> timeConstant(const Gauge& gauge, const History& history) {
    auto end = finalValue(gauge, history);
    if (!end)
        return end;
    const double span = history.value.front() - *end;
    double tt = 0;
    double ty = 0;
    for (std::size_t i = 1; i < history.value.size(); ++i) {
        const double left = (history.value[i] - *end) / span;
        const double t = history.time[i] - history.time.front();
        if (left < 0.02) // what is left of the approach is lost in rounding and in the end value's own error
            continue;
        tt += t * t;
        ty += t * std::log(left);
    }
    if (!(ty < 0))
        return fail(ErrorCode::NotSupported,
                    "the history does not approach its final value, so that it has no time constant");
    return -tt / ty;
}

} // namespace

constexpr StatisticKind timeConstantStatistic{
    .name = "time_constant",
    .meaning = "of an exponential approach to a final value",
    .time = timeConstant,
    .keys = {"final"},
};

} // namespace pyro
