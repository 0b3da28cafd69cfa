#include "core/compare/sweep_advice.h"

#include "core/compare/sweep_values.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace pyro {
namespace {

using Place = std::vector<double>;

// The ranges of the parameters; those of one value stay at it.
struct Ranges {
    Place low;
    Place high;
    Place at(const Place& shares) const {
        Place out(low.size());
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] = std::lerp(low[i], high[i], std::clamp(shares[i], 0.0, 1.0));
        return out;
    }
    Place shares(const Place& place) const {
        Place out(low.size());
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] = high[i] > low[i] ? (place[i] - low[i]) / (high[i] - low[i]) : 0;
        return out;
    }
};

// The term of van der Corput's sequence in a base, for even spreading over several dimensions (Halton 1960).
double spread(std::size_t number, std::size_t base) {
    double out = 0;
    double step = 1;
    for (; number > 0; number /= base) {
        step /= static_cast<double>(base);
        out += step * static_cast<double>(number % base);
    }
    return out;
}

// Corners, middles and places between, as shares of the ranges.
std::vector<Place> candidates(const Ranges& ranges) {
    std::vector<std::size_t> open;
    for (std::size_t i = 0; i < ranges.low.size(); ++i)
        if (ranges.high[i] > ranges.low[i])
            open.push_back(i);
    constexpr std::array<std::size_t, 12> bases{2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31, 37};
    std::vector<Place> out;
    constexpr std::size_t most = 20'000;
    const std::size_t steps = open.size() == 1 ? 401 : open.size() == 2 ? 101 : open.size() == 3 ? 21 : 0;
    if (steps > 0) {
        std::size_t count = 1;
        for (std::size_t i = 0; i < open.size(); ++i)
            count *= steps;
        for (std::size_t number = 0; number < count; ++number) {
            Place place(ranges.low.size(), 0);
            auto left = number;
            for (const auto i : open) {
                place[i] = static_cast<double>(left % steps) / static_cast<double>(steps - 1);
                left /= steps;
            }
            out.push_back(std::move(place));
        }
        return out;
    }
    for (std::size_t number = 0; number < most; ++number) {
        Place place(ranges.low.size(), 0);
        for (std::size_t i = 0; i < open.size(); ++i)
            place[open[i]] = spread(number + 1, bases[i % bases.size()]);
        out.push_back(std::move(place));
    }
    for (std::size_t corner = 0; corner < std::size_t{1} << std::min<std::size_t>(open.size(), 12); ++corner) {
        Place place(ranges.low.size(), 0);
        for (std::size_t i = 0; i < open.size(); ++i)
            place[open[i]] = (corner >> i & 1U) != 0 ? 1 : 0;
        out.push_back(std::move(place));
    }
    return out;
}

// The cases that tell every parameter.
struct Told {
    std::vector<std::size_t> cases; // positions in the sweep
    std::vector<Place> places;
    Ranges ranges;
};

Told toldCases(const SweepReading& sweep) {
    Told out;
    for (std::size_t i = 0; i < sweep.cases.size(); ++i) {
        const auto& one = sweep.cases[i];
        if (!one.why.empty() || one.parameters.size() != sweep.parameters.size())
            continue;
        Place place;
        for (const auto& parameter : sweep.parameters)
            if (const auto found = one.parameters.find(parameter.name); found != one.parameters.end())
                place.push_back(found->second);
        if (place.size() != sweep.parameters.size())
            continue;
        out.ranges.low = out.places.empty() ? place : out.ranges.low;
        out.ranges.high = out.places.empty() ? place : out.ranges.high;
        for (std::size_t at = 0; at < place.size(); ++at) {
            out.ranges.low[at] = std::min(out.ranges.low[at], place[at]);
            out.ranges.high[at] = std::max(out.ranges.high[at], place[at]);
        }
        out.cases.push_back(i);
        out.places.push_back(std::move(place));
    }
    return out;
}

std::map<std::string, double> named(const SweepReading& sweep, const Place& place) {
    std::map<std::string, double> out;
    for (std::size_t i = 0; i < place.size(); ++i)
        out[sweep.parameters[i].name] = place[i];
    return out;
}

// Fitted surfaces, with the cases that each went through.
struct Fitted {
    const SweepValue* value;
    std::size_t surface;            // position in the reading
    std::vector<std::size_t> cases; // positions in Told
};

std::vector<Fitted> fitAll(const std::vector<SweepValue>& values, const Told& told, SweepReading& sweep) {
    std::vector<Fitted> out;
    for (const auto& value : values) {
        if (!value.limit && value.gauge.empty())
            continue; // the least of several margins has kinks
        Fitted fitted{&value, sweep.surfaces.size(), {}};
        std::vector<Place> places;
        std::vector<double> numbers;
        for (std::size_t i = 0; i < told.cases.size(); ++i)
            if (const auto& number = value.values[told.cases[i]]) {
                places.push_back(told.places[i]);
                numbers.push_back(*number);
                fitted.cases.push_back(i);
            }
        auto& surface = sweep.surfaces.emplace_back();
        surface.value = value.key;
        surface.unit = value.unit;
        surface.errorUnit = value.isTemperature ? "K" : value.unit;
        auto found = fitSurface(places, numbers);
        if (!found) {
            surface.why = found.error().what;
            continue;
        }
        surface.found = std::move(*found);
        if (value.isTemperature) {
            const double scale = conversion(value.unit, "K")->difference(1);
            surface.found.error *= scale;
            surface.found.effect *= scale;
            for (auto& one : surface.found.leftOut)
                one *= scale;
        }
        out.push_back(std::move(fitted));
    }
    return out;
}

// The least margin by the surfaces at a place, and which has it. Of several units as shares of their effects.
class Margins {
public:
    Margins(const SweepReading& sweep, const std::vector<Fitted>& limits, bool oneUnit)
        : m_sweep(sweep), m_limits(limits), m_oneUnit(oneUnit) {}
    std::pair<double, std::size_t> least(const Place& place) const {
        double least = std::numeric_limits<double>::infinity();
        std::size_t which = 0;
        for (const auto& one : m_limits) {
            const auto& surface = m_sweep.surfaces[one.surface].found;
            const double own = surface.at(place) / (m_oneUnit ? 1 : std::max(surface.effect, 1e-300));
            if (own < least) {
                least = own;
                which = one.surface;
            }
        }
        return {least, which};
    }

private:
    const SweepReading& m_sweep;
    const std::vector<Fitted>& m_limits;
    bool m_oneUnit;
};

SweepReading::Optimum optimumOf(const SweepReading& sweep, const std::vector<Fitted>& limits, const Ranges& ranges,
                                const std::vector<Place>& tried) {
    SweepReading::Optimum out;
    std::set<std::string> units;
    for (const auto& one : limits) {
        units.insert(sweep.surfaces[one.surface].unit);
        if (!sweep.surfaces[one.surface].holds())
            out.why = fmt::format("the response of \"{}\" is not told well enough by its surface (error {:.3g} {}, "
                                  "effect {:.3g} {})",
                                  one.value->key, sweep.surfaces[one.surface].found.error,
                                  sweep.surfaces[one.surface].errorUnit, sweep.surfaces[one.surface].found.effect,
                                  sweep.surfaces[one.surface].errorUnit);
    }
    if (!out.why.empty())
        return out;
    const Margins margins(sweep, limits, units.size() == 1);
    Place best;
    double most = -std::numeric_limits<double>::infinity();
    for (const auto& shares : tried)
        if (const auto [margin, which] = margins.least(ranges.at(shares)); margin > most) {
            most = margin;
            best = shares;
        }
    // from there along each parameter with ever smaller steps
    for (double step = 0.02; step > 1e-7;) {
        bool better = false;
        for (std::size_t i = 0; i < best.size(); ++i)
            for (const double by : {step, -step}) {
                auto next = best;
                next[i] = std::clamp(next[i] + by, 0.0, 1.0);
                if (const auto [margin, which] = margins.least(ranges.at(next)); margin > most) {
                    most = margin;
                    best = next;
                    better = true;
                }
            }
        step = better ? step : step / 2;
    }
    const auto place = ranges.at(best);
    const auto which = margins.least(place).second;
    const auto& surface = sweep.surfaces[which];
    out.parameters = named(sweep, place);
    out.leastMargin = surface.found.at(place);
    out.unit = surface.unit;
    out.limit = surface.value;
    out.error = surface.found.error;
    return out;
}

// Of margins in one unit. What is computed counts more than what is told between.
void preferCase(const SweepReading& sweep, const std::vector<SweepValue>& values, SweepReading::Optimum& optimum) {
    const auto* least = valueNamed(values, leastMarginKey);
    if (least == nullptr)
        return;
    std::size_t best = sweep.cases.size();
    for (std::size_t i = 0; i < sweep.cases.size(); ++i)
        if (least->values[i] && sweep.cases[i].parameters.size() == sweep.parameters.size() &&
            (best == sweep.cases.size() || *least->values[i] > *least->values[best]))
            best = i;
    if (best == sweep.cases.size() || optimum.leastMargin > *least->values[best] + optimum.error)
        return;
    optimum.caseName = sweep.cases[best].name;
    optimum.parameters = sweep.cases[best].parameters;
    optimum.leastMargin = *least->values[best];
    optimum.error = 0;
    for (const auto& value : values)
        if (value.limit && value.values[best] && *value.values[best] <= optimum.leastMargin)
            optimum.limit = value.key;
}

double distance(const Place& a, const Place& b) {
    double sum = 0;
    for (std::size_t i = 0; i < a.size(); ++i)
        sum += (a[i] - b[i]) * (a[i] - b[i]);
    return std::sqrt(sum);
}

std::optional<SweepReading::Next> nextOf(const SweepReading& sweep, const std::vector<Fitted>& all, const Told& told,
                                         const std::vector<Place>& tried) {
    // limits decide; without any, gauges
    const bool anyLimit = std::ranges::any_of(all, [](const Fitted& one) { return one.value->limit.has_value(); });
    SweepReading::Next out;
    double worst = 0;
    std::size_t worstCase = 0;
    for (const auto& one : all) {
        const auto& surface = sweep.surfaces[one.surface];
        if (one.value->limit.has_value() != anyLimit || !(surface.found.effect > 0))
            continue;
        for (std::size_t i = 0; i < one.cases.size(); ++i)
            if (const double share = std::abs(surface.found.leftOut[i]) / surface.found.effect; share > worst) {
                worst = share;
                worstCase = one.cases[i];
                out.value = surface.value;
                out.error = std::abs(surface.found.leftOut[i]);
                out.unit = surface.errorUnit;
            }
    }
    if (!(worst > 1e-9)) // it is told exactly
        return std::nullopt;
    std::vector<Place> computed;
    for (const auto& place : told.places)
        computed.push_back(told.ranges.shares(place));
    double farthest = 0;
    Place best;
    for (const auto& shares : tried) {
        const double own = distance(shares, computed[worstCase]);
        const bool isNearest = std::ranges::all_of(
            computed, [&](const Place& other) { return distance(shares, other) >= own - 1e-12; });
        if (isNearest && own > farthest + 1e-12) {
            farthest = own;
            best = shares;
        }
    }
    if (best.empty())
        return std::nullopt;
    out.parameters = named(sweep, told.ranges.at(best));
    out.nearest = sweep.cases[told.cases[worstCase]].name;
    return out;
}

} // namespace

void addAdvice(const Survey& survey, SweepReading& sweep) {
    const auto told = toldCases(sweep);
    if (sweep.parameters.empty() || told.places.size() < 2)
        return;
    const auto values = sweepValues(survey, sweep.cases);
    const auto all = fitAll(values, told, sweep);
    const auto tried = candidates(told.ranges);
    std::vector<Fitted> limits;
    std::ranges::copy_if(all, std::back_inserter(limits),
                         [](const Fitted& one) { return one.value->limit.has_value(); });
    const auto judged = std::ranges::count_if(values, [](const SweepValue& one) { return one.limit.has_value(); });
    if (!limits.empty() && static_cast<std::size_t>(judged) == limits.size())
        sweep.optimum = optimumOf(sweep, limits, told.ranges, tried);
    if (sweep.optimum && sweep.optimum->why.empty())
        preferCase(sweep, values, *sweep.optimum);
    sweep.next = nextOf(sweep, all, told, tried);
}

} // namespace pyro
