#include "core/readings/history.h"

#include "core/readings/readings.h"
#include "core/units/unit_product.h"

#include <algorithm>
#include <cmath>

namespace pyro {

History historyOf(std::size_t gauge, const std::vector<Readings>& steps) {
    History out;
    out.timed = std::ranges::all_of(steps, [](const Readings& step) { return step.time.has_value(); });
    for (const auto& step : steps) {
        if (gauge >= step.gauges.size())
            continue;
        const auto& reading = step.gauges[gauge];
        out.time.push_back(out.timed ? *step.time : step.step);
        out.value.push_back(reading.value.value_or(std::nan("")));
        if (reading.value) {
            out.unit = reading.unit;
            out.isTemperature = reading.isTemperature;
        }
    }
    return out;
}

std::optional<double> crossing(const History& history, double level, bool upwardsOnly) {
    if (history.value.front() == level || (upwardsOnly && history.value.front() > level))
        return history.time.front();
    for (std::size_t i = 1; i < history.value.size(); ++i) {
        const double before = history.value[i - 1] - level;
        const double here = history.value[i] - level;
        if (here == 0 || (before < 0) != (here < 0)) {
            if (upwardsOnly && before > 0)
                continue;
            return history.time[i - 1] + (history.time[i] - history.time[i - 1]) * before / (before - here);
        }
    }
    return std::nullopt;
}

double durationAbove(const History& history, double level) {
    double sum = 0;
    for (std::size_t i = 1; i < history.value.size(); ++i) {
        const double span = history.time[i] - history.time[i - 1];
        const double a = history.value[i - 1] - level;
        const double b = history.value[i] - level;
        if (a > 0 && b > 0)
            sum += span;
        else if (a > 0 || b > 0)
            sum += span * std::max(a, b) / std::abs(a - b);
    }
    return sum;
}

Result<double> inUnitOf(const History& history, const std::string& written) {
    const auto number = splitMeasured(written);
    if (!number)
        return tl::unexpected(number.error());
    const auto si = UnitProduct::of(history.unit);
    if (!si)
        return tl::unexpected(si.error());
    const auto converted = conversion(number->unit.empty() ? si->text() : number->unit, history.unit);
    if (!converted)
        return tl::unexpected(converted.error());
    return (*converted)(number->value);
}

} // namespace pyro
