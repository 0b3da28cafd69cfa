#include "core/readings/limit_reading.h"

#include <algorithm>
#include <numeric>

namespace pyro {
namespace {

int group(const LimitReading& reading) {
    constexpr std::array order{Verdict::Over, Verdict::Unknown, Verdict::Tight, Verdict::Within};
    return static_cast<int>(std::ranges::find(order, reading.verdict) - order.begin());
}

} // namespace

std::string_view targetKindName(TargetKind kind) {
    switch (kind) {
    case TargetKind::Part:
        return "part";
    case TargetKind::Boundary:
        return "boundary";
    case TargetKind::Gauge:
        return "gauge";
    }
    return "part";
}

Verdict verdictOf(const std::vector<LimitReading>& limits) {
    auto together = limits.empty() ? Verdict::Unknown : Verdict::Within;
    for (const auto& limit : limits)
        together = worse(together, limit.verdict);
    return together;
}

bool isWorse(const LimitReading& a, const LimitReading& b) {
    if (a.verdict != b.verdict)
        return worse(a.verdict, b.verdict) == a.verdict;
    return a.relativeMargin.value_or(0) < b.relativeMargin.value_or(0);
}

std::vector<std::size_t> byMargin(const std::vector<LimitReading>& limits) {
    std::vector<std::size_t> order(limits.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::stable_sort(order, [&](std::size_t a, std::size_t b) {
        if (group(limits[a]) != group(limits[b]))
            return group(limits[a]) < group(limits[b]);
        return limits[a].relativeMargin.value_or(0) < limits[b].relativeMargin.value_or(0);
    });
    return order;
}

} // namespace pyro
