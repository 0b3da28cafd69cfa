#include "core/compare/sweep_values.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace pyro {
namespace {

std::optional<SweepValue> leastMargins(const std::vector<SweepCase>& cases) {
    SweepValue out{std::string(leastMarginKey), {}, false, {}, {}, {}};
    for (const auto& one : cases) {
        for (const auto& limit : one.limits)
            if (limit.margin && (out.unit.empty() || out.unit == limit.unit))
                out.unit = limit.unit;
            else if (limit.margin)
                return std::nullopt; // of several units
        const auto* least = one.why.empty() ? leastMargin(one) : nullptr;
        out.values.push_back(least != nullptr ? least->margin : std::nullopt);
    }
    return out.unit.empty() ? std::nullopt : std::optional(std::move(out));
}

// Limits of one target by their number among these.
std::string nameOf(const Survey& survey, std::size_t limit) {
    const auto sameTarget = [&](const Limit& other) { return other.target == survey.limits[limit].target; };
    const auto before = std::count_if(survey.limits.begin(), survey.limits.begin() + static_cast<std::ptrdiff_t>(limit),
                                      sameTarget);
    const auto name = "margin of " + survey.limits[limit].target.name;
    return std::ranges::count_if(survey.limits, sameTarget) > 1 ? fmt::format("{}, limit {}", name, before + 1) : name;
}

SweepValue marginsOf(const Survey& survey, std::size_t limit, const std::vector<SweepCase>& cases) {
    SweepValue out{nameOf(survey, limit), {}, false, limit, {}, {}};
    for (const auto& one : cases) {
        const bool told = limit < one.limits.size() && one.limits[limit].margin && one.why.empty();
        out.values.push_back(told ? one.limits[limit].margin : std::nullopt);
        if (told && out.unit.empty())
            out.unit = one.limits[limit].unit;
    }
    return out;
}

SweepValue valuesOf(const std::string& gauge, const std::vector<SweepCase>& cases) {
    SweepValue out{gauge, {}, false, {}, gauge, {}};
    for (const auto& one : cases) {
        const auto found = one.gauges.find(gauge);
        auto& value = out.values.emplace_back();
        if (found == one.gauges.end() || !found->second.value || !one.why.empty())
            continue;
        if (out.unit.empty()) {
            out.unit = found->second.unit;
            out.isTemperature = found->second.isTemperature;
        }
        if (found->second.unit == out.unit)
            value = found->second.value;
    }
    return out;
}

} // namespace

std::vector<SweepValue> sweepValues(const Survey& survey, const std::vector<SweepCase>& cases) {
    std::vector<SweepValue> out;
    if (auto least = leastMargins(cases))
        out.push_back(std::move(*least));
    for (std::size_t limit = 0; limit < survey.limits.size(); ++limit)
        out.push_back(marginsOf(survey, limit, cases));
    for (const auto& gauge : survey.gauges)
        out.push_back(valuesOf(gauge.id, cases));
    std::erase_if(out, [](const SweepValue& one) {
        return std::ranges::none_of(one.values, [](const auto& value) { return value.has_value(); });
    });
    return out;
}

const SweepValue* valueNamed(const std::vector<SweepValue>& values, std::string_view key) {
    if (values.empty())
        return nullptr;
    const auto found = std::ranges::find(values, key.empty() ? values.front().key : key, &SweepValue::key);
    return found == values.end() ? nullptr : &*found;
}

} // namespace pyro
