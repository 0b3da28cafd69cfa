// p0 to p100.
#include "core/statistics/percentile.h"

#include "core/statistics/statistic_kind.h"

#include <algorithm>
#include <charconv>

namespace pyro {
namespace {

std::optional<double> percentOf(std::string_view name) {
    double percent = 0;
    if (name.size() < 2 || name[0] != 'p')
        return std::nullopt;
    const auto [end, status] = std::from_chars(name.data() + 1, name.data() + name.size(), percent);
    if (status != std::errc() || end != name.data() + name.size() || !(percent >= 0) || percent > 100)
        return std::nullopt;
    return percent;
}

} // namespace

double percentile(const Values& values, double low, double high, double share) {
    if (!(high > low))
        return low;
    constexpr std::size_t classes = 1 << 16;
    std::vector<double> extent(classes);
    double total = 0;
    for (const auto& piece : values.pieces)
        for (std::size_t i = 0; i < piece.size(); ++i) {
            const auto at = static_cast<std::size_t>((piece.value(i) - low) / (high - low) * classes);
            extent[std::min(at, classes - 1)] += piece.weightOf(i);
            total += piece.weightOf(i);
        }
    double below = 0;
    for (std::size_t i = 0; i < classes; ++i) {
        if (extent[i] > 0 && below + extent[i] >= share * total)
            return low + (high - low) * (static_cast<double>(i) + (share * total - below) / extent[i]) / classes;
        below += extent[i];
    }
    return high;
}

constexpr StatisticKind percentileStatistic{
    .name = "p0 to p100",
    .meaning = "value that so many per cent of the volume, area or length lie below",
    .matches = [](std::string_view name) { return percentOf(name).has_value(); },
    .offered = {"p5", "p50", "p95"},
    .ofValues = [](const Values& values, const Accumulator& sums, std::string_view name) -> Result<Statistic> {
        return Statistic{percentile(values, sums.min().value, sums.max().value, *percentOf(name) / 100)};
    },
    .needsExtent = true,
};

} // namespace pyro
