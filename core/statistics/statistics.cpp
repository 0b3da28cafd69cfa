#include "core/statistics/statistic_kind.h"

#include "core/gauge/not_finite.h"

#include <algorithm>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace pyro {

namespace {

constexpr const StatisticKind* all[]{
#define STATISTIC(name) &name##Statistic,
#include "core/statistics/list.inc"
#undef STATISTIC
};

} // namespace

bool StatisticKind::reads(std::string_view key) const {
    return std::ranges::find(keys, key) != keys.end() ||
           std::ranges::find(ownKeys, key, &GaugeKey::key) != ownKeys.end();
}

std::span<const StatisticKind* const> statisticKinds() { return all; }

const StatisticKind* statisticKind(std::string_view name) {
    const auto found = std::ranges::find_if(all, [&](const StatisticKind* kind) {
        return kind->matches != nullptr ? kind->matches(name) : kind->name == name;
    });
    return found == std::end(all) ? nullptr : *found;
}

bool tellsTime(std::string_view statistic) {
    const auto* kind = statisticKind(statistic);
    return kind != nullptr && kind->time != nullptr;
}

Result<Statistic> statisticOf(const Values& values, const std::string& name) {
    const auto* kind = statisticKind(name);
    if (kind == nullptr || kind->ofValues == nullptr) {
        std::vector<std::string_view> known;
        for (const auto* one : all)
            if (one->ofValues != nullptr)
                known.push_back(one->name);
        return fail(ErrorCode::NotSupported, fmt::format("the statistic \"{}\" is not known here", name), {},
                    fmt::format("Use one of {}", fmt::join(known, ", ")));
    }
    if (kind->anyValues)
        return kind->ofValues(values, Accumulator{}, name);
    const auto sums = accumulated(values);
    if (sums.notFinite() > 0)
        return notFinite(sums, placeOf(values, sums.firstNotFinite()));
    if (sums.count() == 0)
        return fail(ErrorCode::NoCells, "the support holds no values");
    if (kind->needsExtent && !(sums.extent() > 0))
        return fail(ErrorCode::NoCells, "the support has no extent to average over");
    return kind->ofValues(values, sums, name);
}

} // namespace pyro
