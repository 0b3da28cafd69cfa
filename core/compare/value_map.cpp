#include "core/compare/value_map.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace pyro {

double ValueMap::at(double xAt, double yAt) const {
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
    const auto value = [&](std::size_t column, std::size_t row) { return values[row * xs.size() + column]; };
    return (1 - t) * ((1 - s) * value(*i, *j) + s * value(*i + 1, *j)) +
           t * ((1 - s) * value(*i, *j + 1) + s * value(*i + 1, *j + 1));
}

// Marching over a finer grid, each cell of it as two triangles.
std::vector<std::array<std::array<double, 2>, 2>> ValueMap::lineAt(double level) const {
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
                        return Corner{place, at(place[0], place[1]) - level};
                    };
                    triangle({corner(0, 0), corner(1, 0), corner(1, 1)});
                    triangle({corner(0, 0), corner(1, 1), corner(0, 1)});
                }
    return line;
}

namespace {

bool isSame(double a, double b) { return std::abs(a - b) <= 1e-9 * std::max(std::abs(a), std::abs(b)); }

bool isHeld(const SweepCase& one, const std::map<std::string, double>& held) {
    return std::ranges::all_of(held, [&](const auto& parameter) {
        const auto found = one.parameters.find(parameter.first);
        return found != one.parameters.end() && isSame(found->second, parameter.second);
    });
}

} // namespace

std::map<std::string, double> heldBy(const SweepCase& one, std::initializer_list<std::string> without) {
    auto held = one.parameters;
    for (const auto& name : without)
        held.erase(name);
    return held;
}

Result<ValueMap> valueMap(const SweepReading& sweep, const SweepValue& value, const std::string& x,
                          const std::string& y, const std::map<std::string, double>& held) {
    ValueMap map{x, y, {}, {}, {}, value.unit, {}};
    std::set<double> xs;
    std::set<double> ys;
    std::vector<std::size_t> shown;
    for (std::size_t i = 0; i < sweep.cases.size(); ++i) {
        const auto& one = sweep.cases[i];
        if (!one.parameters.contains(x) || !one.parameters.contains(y) || !isHeld(one, held))
            continue;
        xs.insert(one.parameters.at(x));
        ys.insert(one.parameters.at(y));
        shown.push_back(i);
    }
    if (x == y || xs.size() < 2 || ys.size() < 2)
        return fail(ErrorCode::NotSupported, "a map needs two parameters with two values or more each");
    map.xs.assign(xs.begin(), xs.end());
    map.ys.assign(ys.begin(), ys.end());
    map.values.assign(xs.size() * ys.size(), std::nan(""));
    map.cases.assign(map.values.size(), ValueMap::noCase);
    for (const auto i : shown) {
        const auto& one = sweep.cases[i];
        const auto column = std::ranges::lower_bound(map.xs, one.parameters.at(x)) - map.xs.begin();
        const auto row = std::ranges::lower_bound(map.ys, one.parameters.at(y)) - map.ys.begin();
        const auto at = static_cast<std::size_t>(row) * map.xs.size() + static_cast<std::size_t>(column);
        map.cases[at] = i;
        map.values[at] = value.values[i].value_or(std::nan(""));
    }
    return map;
}

std::vector<SweepCurve> curvesOf(const SweepReading& sweep, const SweepValue& value, const std::string& x,
                                 const std::string& by, const std::map<std::string, double>& held) {
    struct Place {
        double x;
        double y;
        std::size_t which;
    };
    std::map<std::optional<double>, std::vector<Place>> places;
    for (std::size_t i = 0; i < sweep.cases.size(); ++i) {
        const auto& own = sweep.cases[i].parameters;
        if (!own.contains(x) || !value.values[i] || !isHeld(sweep.cases[i], held) || (!by.empty() && !own.contains(by)))
            continue;
        places[by.empty() ? std::nullopt : std::optional(own.at(by))].push_back({own.at(x), *value.values[i], i});
    }
    std::vector<SweepCurve> curves;
    for (auto& [at, list] : places) {
        std::ranges::stable_sort(list, {}, &Place::x);
        auto& curve = curves.emplace_back(SweepCurve{at, {}, {}, {}});
        for (const auto& place : list) {
            curve.x.push_back(place.x);
            curve.y.push_back(place.y);
            curve.cases.push_back(place.which);
        }
    }
    return curves;
}

std::vector<std::size_t> frontOf(const SweepValue& first, const SweepValue& second) {
    const double signA = largerIsBetter(first) ? -1 : 1;
    const double signB = largerIsBetter(second) ? -1 : 1;
    std::vector<std::size_t> told;
    for (std::size_t i = 0; i < first.values.size(); ++i)
        if (first.values[i] && second.values[i])
            told.push_back(i);
    const auto aims = [&](std::size_t i) { return std::pair(signA * *first.values[i], signB * *second.values[i]); };
    std::ranges::stable_sort(told, {}, aims);
    std::vector<std::size_t> front;
    for (const auto i : told)
        if (front.empty() || aims(i).second < aims(front.back()).second)
            front.push_back(i);
    if (signA < 0)
        std::ranges::reverse(front);
    return front;
}

std::vector<std::size_t> casesWithin(const SweepReading& sweep, const std::vector<SweepValue>& values,
                                     const std::map<std::string, std::array<double, 2>>& ranges) {
    std::vector<std::size_t> out;
    const auto lies = [&](std::size_t at, const std::string& key, const std::array<double, 2>& range) {
        const auto isParameter = std::ranges::find(sweep.parameters, key, &SweepPlan::Parameter::name);
        const auto* value = valueNamed(values, key);
        std::optional<double> own;
        if (isParameter != sweep.parameters.end()) {
            const auto found = sweep.cases[at].parameters.find(key);
            own = found != sweep.cases[at].parameters.end() ? std::optional(found->second) : std::nullopt;
        } else if (key.empty() || value == nullptr) {
            return true;
        } else {
            own = value->values[at];
        }
        const double hair = 1e-9 * std::max(std::abs(range[0]), std::abs(range[1]));
        return own && *own >= range[0] - hair && *own <= range[1] + hair;
    };
    for (std::size_t i = 0; i < sweep.cases.size(); ++i)
        if (std::ranges::all_of(ranges, [&](const auto& one) { return lies(i, one.first, one.second); }))
            out.push_back(i);
    return out;
}

SweepLook filledLook(SweepLook look, const SweepReading& sweep, const std::vector<SweepValue>& values) {
    const auto isParameter = [&](const std::string& name) {
        return std::ranges::find(sweep.parameters, name, &SweepPlan::Parameter::name) != sweep.parameters.end();
    };
    const auto isValue = [&](const std::string& key) { return !key.empty() && valueNamed(values, key) != nullptr; };
    if (!isValue(look.value))
        look.value = values.empty() ? std::string() : values.front().key;
    if (look.picture == SweepPicture::Front) {
        look.x = isValue(look.x) ? look.x : look.value;
        for (const auto& value : values)
            if (!isValue(look.y) || look.y == look.x)
                look.y = value.key;
        return look;
    }
    const auto orNext = [&](std::string& name, const std::string& other) {
        for (const auto& parameter : sweep.parameters)
            if (!isParameter(name) || name == other)
                name = parameter.name;
        if (name == other)
            name.clear();
    };
    orNext(look.x, {});
    orNext(look.y, look.x);
    const auto best = sweep.best.empty() ? sweep.cases.begin()
                                         : std::ranges::find(sweep.cases, sweep.best.front(), &SweepCase::name);
    std::map<std::string, double> held;
    if (best != sweep.cases.end())
        held = heldBy(*best, {look.x, look.y});
    for (auto& [name, value] : held)
        if (const auto asked = look.slices.find(name); asked != look.slices.end())
            value = asked->second;
    look.slices = std::move(held);
    return look;
}

} // namespace pyro
