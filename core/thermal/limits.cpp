#include "core/thermal/limits.h"

#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace pyro {
namespace {

struct Side {
    double value;
    double limit;
    bool isMaximum;
    std::optional<Place> place;
    double margin() const { return isMaximum ? limit - value : value - limit; }
};

void decide(LimitReading& reading, const std::vector<Side>& sides) {
    const auto& side = *std::ranges::min_element(sides, {}, &Side::margin);
    reading.value = side.value;
    reading.limit = side.limit;
    reading.margin = side.margin();
    reading.isMaximum = side.isMaximum;
    reading.place = side.place;
    reading.verdict = judge({side.margin()}, {reading.required});
}

std::string judgeRegion(const Limit& limit, const std::vector<RegionReading>& regions, LimitReading& reading) {
    const auto found = std::ranges::find(regions, limit.target.name, &RegionReading::name);
    if (found == regions.end())
        return fmt::format("the case has no {} named \"{}\"", targetKindName(limit.target.kind), limit.target.name);
    if (!found->max)
        return found->why;
    std::vector<Side> sides;
    if (limit.max)
        sides.push_back({found->max->kelvin, limit.max->si, true, found->hottest});
    if (limit.min)
        sides.push_back({found->min->kelvin, limit.min->si, false, found->coldest});
    decide(reading, sides);
    return {};
}

// A bound in the gauge's own unit; the margin is then in that unit too.
Result<double> boundIn(const std::string& unit, const Bound& bound) {
    const auto number = splitMeasured(bound.text);
    if (!number || number->unit.empty())
        return bound.si;
    const auto converted = conversion(number->unit, unit);
    if (!converted)
        return tl::unexpected(converted.error());
    return (*converted)(number->value);
}

std::string judgeGauge(const Limit& limit, const std::vector<GaugeReading>& gauges, LimitReading& reading) {
    const auto found = std::ranges::find(gauges, limit.target.name, &GaugeReading::id);
    if (found == gauges.end())
        return fmt::format("there is no gauge \"{}\"", limit.target.name);
    if (!found->value)
        return found->why;
    reading.unit = found->unit;
    std::vector<Side> sides;
    for (const auto* bound : {&limit.max, &limit.min}) {
        if (!*bound)
            continue;
        const auto value = boundIn(found->unit, **bound);
        if (!value)
            return value.error().what;
        sides.push_back({*found->value, *value, bound == &limit.max, found->place});
    }
    decide(reading, sides);
    return {};
}

int group(const LimitReading& reading) {
    if (reading.verdict == Verdict::Over)
        return 0;
    return reading.verdict == Verdict::Unknown ? 1 : 2;
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

LimitReading judgeLimit(const Limit& limit, const Readings& readings) {
    LimitReading reading;
    reading.target = limit.target;
    reading.source = limit.source;
    reading.required = limit.margin ? limit.margin->si.kelvin : 0;
    if (!limit.max && !limit.min) {
        reading.why = "the limit has neither a maximum nor a minimum";
        return reading;
    }
    if (const auto& bound = limit.max ? limit.max : limit.min)
        reading.limit = bound->si;
    switch (limit.target.kind) {
    case TargetKind::Part:
        reading.why = judgeRegion(limit, readings.parts, reading);
        break;
    case TargetKind::Boundary:
        reading.why = judgeRegion(limit, readings.boundaries, reading);
        break;
    case TargetKind::Gauge:
        reading.why = judgeGauge(limit, readings.gauges, reading);
        break;
    }
    return reading;
}

std::vector<std::size_t> byMargin(const std::vector<LimitReading>& limits) {
    std::vector<std::size_t> order(limits.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::stable_sort(order, [&](std::size_t a, std::size_t b) {
        if (group(limits[a]) != group(limits[b]))
            return group(limits[a]) < group(limits[b]);
        return limits[a].margin.value_or(0) < limits[b].margin.value_or(0);
    });
    return order;
}

} // namespace pyro
