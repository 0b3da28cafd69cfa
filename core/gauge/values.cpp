#include "core/gauge/values.h"

#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

namespace pyro {
namespace {

constexpr std::size_t grain = 1 << 16;

Accumulator accumulated(const ValuePiece& piece, std::uint32_t number) {
    return tbb::parallel_deterministic_reduce(
        tbb::blocked_range<std::size_t>(0, piece.size(), grain), Accumulator{},
        [&](const auto& range, Accumulator sums) {
            for (auto i = range.begin(); i != range.end(); ++i)
                sums.add(piece.value(i), piece.weightOf(i), number, i);
            return sums;
        },
        [](Accumulator a, const Accumulator& b) {
            a.merge(b);
            return a;
        });
}

Accumulator accumulated(const Values& values) {
    Accumulator sums;
    for (std::uint32_t i = 0; i < values.pieces.size(); ++i)
        sums.merge(accumulated(values.pieces[i], i));
    return sums;
}

// The sum of `of(value) * weight` in the order of the values.
template <class Of>
double weighted(const Values& values, Of of) {
    double sum = 0;
    for (const auto& piece : values.pieces)
        sum += tbb::parallel_deterministic_reduce(
            tbb::blocked_range<std::size_t>(0, piece.size(), grain), 0.0,
            [&](const auto& range, double part) {
                for (auto i = range.begin(); i != range.end(); ++i)
                    part += of(piece.value(i)) * piece.weightOf(i);
                return part;
            },
            std::plus<>());
    return sum;
}

std::optional<double> percentOf(const std::string& name) {
    double percent = 0;
    if (name.size() < 2 || name[0] != 'p')
        return std::nullopt;
    const auto [end, status] = std::from_chars(name.data() + 1, name.data() + name.size(), percent);
    if (status != std::errc() || end != name.data() + name.size() || percent < 0 || percent > 100)
        return std::nullopt;
    return percent;
}

bool isStatistic(const std::string& name) {
    for (const auto* known : {"mean", "min", "max", "range", "deviation", "integral", "count"})
        if (name == known)
            return true;
    return percentOf(name).has_value();
}

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

Place placeOf(const Values& values, const Extremum& extremum) {
    return values.pieces[extremum.region].placeOf(extremum.number);
}

std::string notFiniteReason(const Values& values, const Accumulator& sums) {
    const auto place = placeOf(values, sums.firstNotFinite());
    return fmt::format("{} of {} values are NaN or infinite, the first at {} {} ({:g}, {:g}, {:g})", sums.notFinite(),
                       sums.count(), locationName(place.on), place.number, place.at[0], place.at[1], place.at[2]);
}

} // namespace

std::size_t Values::size() const {
    std::size_t sum = 0;
    for (const auto& piece : pieces)
        sum += piece.size();
    return sum;
}

Result<Statistic> statisticOf(const Values& values, const std::string& name) {
    if (!isStatistic(name))
        return fail(ErrorCode::NotSupported, fmt::format("the statistic \"{}\" is not known here", name), {},
                    "Use mean, min, max, range, deviation, integral, count or a percentile as p95");
    if (name == "count")
        return Statistic{static_cast<double>(values.size()), {}, false, false, true};
    const auto sums = accumulated(values);
    if (sums.notFinite() > 0)
        return fail(ErrorCode::NotSupported, notFiniteReason(values, sums));
    if (sums.count() == 0)
        return fail(ErrorCode::NoCells, "the support holds no values");
    if (name == "max")
        return Statistic{sums.max().value, placeOf(values, sums.max())};
    if (name == "min")
        return Statistic{sums.min().value, placeOf(values, sums.min())};
    if (name == "range")
        return Statistic{sums.max().value - sums.min().value, {}, true};
    if (name == "integral")
        return Statistic{sums.integral(), {}, false, true};
    if (!(sums.extent() > 0))
        return fail(ErrorCode::NoCells, "the support has no extent to average over");
    if (name == "deviation") {
        const double mean = sums.mean();
        return Statistic{std::sqrt(weighted(values, [mean](double value) { return (value - mean) * (value - mean); }) /
                                   sums.extent()),
                         {},
                         true};
    }
    if (const auto percent = percentOf(name))
        return Statistic{percentile(values, sums.min().value, sums.max().value, *percent / 100)};
    return Statistic{sums.mean()};
}

} // namespace pyro
