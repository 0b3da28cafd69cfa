#include "core/field/isolines.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace pyro {
namespace {

struct Range {
    double low = std::numeric_limits<double>::max();
    double high = std::numeric_limits<double>::lowest();
};

Range rangeOf(std::span<const float> values) {
    Range range;
    for (const double value : values)
        if (std::isfinite(value)) {
            range.low = std::min(range.low, value);
            range.high = std::max(range.high, value);
        }
    return range;
}

// The segment of one level within one triangle; nodes at the level count as above it.
void addSegment(const SurfaceField& surface, const std::int32_t* nodes, double level, std::vector<float>& out) {
    std::array<bool, 3> above{};
    for (std::size_t i = 0; i < 3; ++i)
        above[i] = static_cast<double>(surface.values[static_cast<std::size_t>(nodes[i])]) >= level;
    if (above[0] == above[1] && above[1] == above[2])
        return;
    for (std::size_t i = 0; i < 3; ++i) {
        const auto j = (i + 1) % 3;
        if (above[i] == above[j])
            continue;
        auto a = static_cast<std::size_t>(nodes[i]);
        auto b = static_cast<std::size_t>(nodes[j]);
        if (a > b) // the same place from both triangles of the edge
            std::swap(a, b);
        const double from = surface.values[a];
        const double share = (level - from) / (surface.values[b] - from);
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const double p = surface.points[3 * a + axis];
            const double q = surface.points[3 * b + axis];
            out.push_back(static_cast<float>(p + share * (q - p)));
        }
    }
}

std::vector<Isoline> levelsWithin(const Range& range, const LevelRule& rule) {
    std::vector<Isoline> lines;
    const double first = std::ceil((range.low - rule.origin) / rule.spacing);
    const double last = std::floor((range.high - rule.origin) / rule.spacing);
    if (!(rule.spacing > 0) || !std::isfinite(first) || !std::isfinite(last) || last - first >= mostIsolines)
        return lines;
    const auto count = static_cast<int>(last - first) + 1;
    for (int i = 0; i < count; ++i) {
        const double k = first + i;
        lines.push_back({rule.origin + k * rule.spacing,
                         rule.heavyEvery > 0 && std::fmod(std::abs(k), rule.heavyEvery) < 0.5,
                         false,
                         {}});
    }
    return lines;
}

} // namespace

double niceSpacing(double low, double high, int wanted) {
    const double rough = (high - low) / std::max(1, wanted);
    if (!(rough > 0) || !std::isfinite(rough))
        return 1;
    const double power = std::pow(10.0, std::floor(std::log10(rough)));
    for (const double step : {1.0, 2.0, 5.0})
        if (step * power >= rough * 0.999)
            return step * power;
    return 10 * power;
}

std::vector<Isoline> isolines(const SurfaceField& surface, const LevelRule& rule) {
    const auto range = rangeOf(surface.values);
    if (range.low > range.high)
        return {};
    auto lines = levelsWithin(range, rule);
    const auto spaced = lines.size();
    const double firstLevel = lines.empty() ? 0 : lines.front().value;
    for (const double mark : rule.marks)
        if (mark >= range.low && mark <= range.high)
            lines.push_back({mark, false, true, {}});
    for (std::size_t at = 0; at + 2 < surface.triangles.size(); at += 3) {
        const auto* nodes = &surface.triangles[at];
        std::array<double, 3> value{};
        for (std::size_t i = 0; i < 3; ++i)
            value[i] = surface.values[static_cast<std::size_t>(nodes[i])];
        if (std::isnan(value[0] + value[1] + value[2]))
            continue;
        const auto [low, high] = std::ranges::minmax(value);
        if (spaced > 0) {
            const auto from = static_cast<long>(std::max(0.0, std::ceil((low - firstLevel) / rule.spacing - 1e-9)));
            const auto to = std::min(static_cast<long>(spaced) - 1,
                                     static_cast<long>(std::floor((high - firstLevel) / rule.spacing + 1e-9)));
            for (auto k = from; k <= to; ++k)
                addSegment(surface, nodes, lines[static_cast<std::size_t>(k)].value,
                           lines[static_cast<std::size_t>(k)].points);
        }
        for (auto k = spaced; k < lines.size(); ++k)
            if (lines[k].value >= low && lines[k].value <= high)
                addSegment(surface, nodes, lines[k].value, lines[k].points);
    }
    std::erase_if(lines, [](const Isoline& line) { return line.points.empty(); });
    return lines;
}

} // namespace pyro
