#include "core/compare/margin_map.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace pyro {

double MarginMap::at(double xAt, double yAt) const {
    const auto cell = [](const std::vector<double>& values, double value) -> std::optional<std::size_t> {
        if (!(value >= values.front() && value <= values.back()))
            return std::nullopt;
        const auto next = std::ranges::upper_bound(values, value) - values.begin();
        return static_cast<std::size_t>(
            std::clamp<std::ptrdiff_t>(next - 1, 0, static_cast<std::ptrdiff_t>(values.size()) - 2));
    };
    const auto i = cell(xs, xAt);
    const auto j = cell(ys, yAt);
    if (!i || !j)
        return std::nan("");
    const double s = (xAt - xs[*i]) / (xs[*i + 1] - xs[*i]);
    const double t = (yAt - ys[*j]) / (ys[*j + 1] - ys[*j]);
    const auto margin = [&](std::size_t column, std::size_t row) { return margins[row * xs.size() + column]; };
    return (1 - t) * ((1 - s) * margin(*i, *j) + s * margin(*i + 1, *j)) +
           t * ((1 - s) * margin(*i, *j + 1) + s * margin(*i + 1, *j + 1));
}

// Marching over a finer grid, each cell of it as two triangles.
std::vector<std::array<std::array<double, 2>, 2>> MarginMap::zeroLine() const {
    constexpr int finer = 12; // per rectangle of cases and direction
    std::vector<std::array<std::array<double, 2>, 2>> line;
    struct Corner {
        std::array<double, 2> place;
        double value;
    };
    const auto triangle = [&](const std::array<Corner, 3>& corners) {
        std::vector<std::array<double, 2>> met;
        for (std::size_t i = 0; i < 3; ++i) {
            const auto& a = corners[i];
            const auto& b = corners[(i + 1) % 3];
            if ((a.value < 0) == (b.value < 0) || std::isnan(a.value) || std::isnan(b.value))
                continue;
            const double share = a.value / (a.value - b.value);
            met.push_back({std::lerp(a.place[0], b.place[0], share), std::lerp(a.place[1], b.place[1], share)});
        }
        if (met.size() == 2)
            line.push_back({met[0], met[1]});
    };
    for (std::size_t row = 0; row + 1 < ys.size(); ++row)
        for (std::size_t column = 0; column + 1 < xs.size(); ++column)
            for (int j = 0; j < finer; ++j)
                for (int i = 0; i < finer; ++i) {
                    const auto corner = [&](int di, int dj) {
                        const std::array place{
                            std::lerp(xs[column], xs[column + 1], static_cast<double>(i + di) / finer),
                            std::lerp(ys[row], ys[row + 1], static_cast<double>(j + dj) / finer)};
                        return Corner{place, at(place[0], place[1])};
                    };
                    triangle({corner(0, 0), corner(1, 0), corner(1, 1)});
                    triangle({corner(0, 0), corner(1, 1), corner(0, 1)});
                }
    return line;
}

Result<MarginMap> marginMap(const SweepReading& sweep, const std::string& x, const std::string& y, std::size_t like) {
    MarginMap map{x, y, {}, {}, {}, {}, {}};
    std::set<std::string> units;
    std::set<double> xs;
    std::set<double> ys;
    std::vector<std::size_t> shown;
    const auto others = [&](const SweepCase& one) {
        auto rest = one.parameters;
        rest.erase(x);
        rest.erase(y);
        return rest;
    };
    if (like >= sweep.cases.size())
        return fail(ErrorCode::NotSupported, "the sweep has no such case");
    for (std::size_t i = 0; i < sweep.cases.size(); ++i) {
        const auto& one = sweep.cases[i];
        for (const auto& limit : one.limits)
            if (limit.margin)
                units.insert(limit.unit);
        if (!one.parameters.contains(x) || !one.parameters.contains(y) || others(one) != others(sweep.cases[like]))
            continue;
        xs.insert(one.parameters.at(x));
        ys.insert(one.parameters.at(y));
        shown.push_back(i);
    }
    if (x == y || xs.size() < 2 || ys.size() < 2)
        return fail(ErrorCode::NotSupported, "a map needs two parameters with two values or more each");
    if (units.size() != 1)
        return fail(ErrorCode::NotSupported,
                    units.empty() ? "no limit is judged" : "margins of several units make no one map");
    map.unit = *units.begin();
    map.xs.assign(xs.begin(), xs.end());
    map.ys.assign(ys.begin(), ys.end());
    map.margins.assign(xs.size() * ys.size(), std::nan(""));
    map.cases.assign(map.margins.size(), MarginMap::noCase);
    for (const auto i : shown) {
        const auto& one = sweep.cases[i];
        const auto column = std::ranges::lower_bound(map.xs, one.parameters.at(x)) - map.xs.begin();
        const auto row = std::ranges::lower_bound(map.ys, one.parameters.at(y)) - map.ys.begin();
        const auto at = static_cast<std::size_t>(row) * map.xs.size() + static_cast<std::size_t>(column);
        map.cases[at] = i;
        if (const auto* least = leastMargin(one); least != nullptr && one.why.empty())
            map.margins[at] = *least->margin;
    }
    return map;
}

} // namespace pyro
