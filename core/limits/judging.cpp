#include "core/limits/judging.h"

#include "core/units/unit_product.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

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

// A bound in the gauge's own unit; a bare number is SI.
Result<double> boundIn(const std::string& unit, const Bound& bound, bool isDifference) {
    const auto number = splitMeasured(bound.text);
    const auto si = UnitProduct::of(unit);
    if (!number || !si)
        return bound.si;
    const auto converted = conversion(number->unit.empty() ? si->text() : number->unit, unit);
    if (!converted)
        return tl::unexpected(converted.error());
    return isDifference ? converted->difference(number->value) : (*converted)(number->value);
}

} // namespace

Done compare(const Limit& limit, const Extremes& value, const std::string& gaugeUnit, LimitReading& reading) {
    if (!std::isfinite(value.high) || !std::isfinite(value.low))
        return fail(ErrorCode::NotSupported, "its value is not a finite number");
    const bool isDifference = !limit.form->isValue;
    const auto si = [&](const Bound& bound, bool difference) {
        return gaugeUnit.empty() ? Result<double>(bound.si) : boundIn(gaugeUnit, bound, difference);
    };
    if (limit.margin) {
        const auto required = si(*limit.margin, true);
        if (!required)
            return tl::unexpected(required.error());
        reading.required = *required;
    }
    std::vector<Side> sides;
    if (limit.max) {
        const auto bound = si(*limit.max, isDifference);
        if (!bound)
            return tl::unexpected(bound.error());
        sides.push_back({value.high, *bound, true, value.highest});
    }
    if (limit.min) {
        const auto bound = si(*limit.min, isDifference);
        if (!bound)
            return tl::unexpected(bound.error());
        sides.push_back({value.low, *bound, false, value.lowest});
    }
    if (sides.size() == 2 && sides[0].limit < sides[1].limit)
        return fail(ErrorCode::WrongType, "the maximum is below the minimum, so that nothing can hold both");
    decide(reading, sides);
    return {};
}

tl::unexpected<Error> noRegion(const Limit& limit) {
    return fail(ErrorCode::NameUnknown,
                fmt::format("the case has no {} named \"{}\"", targetKindName(limit.target.kind), limit.target.name));
}

const RegionReading* regionOf(const Limit& limit, const Readings& readings) {
    const auto& regions = limit.target.kind == TargetKind::Part ? readings.parts : readings.boundaries;
    const auto found = std::ranges::find(regions, limit.target.name, &RegionReading::name);
    return found == regions.end() ? nullptr : &*found;
}

const GaugeReading* gaugeNamed(const std::string& id, const Readings& readings) {
    const auto found = std::ranges::find(readings.gauges, id, &GaugeReading::id);
    return found == readings.gauges.end() ? nullptr : &*found;
}

tl::unexpected<Error> noGaugeValue(const std::string& id, const GaugeReading* gauge) {
    return fail(ErrorCode::NameUnknown, gauge == nullptr ? fmt::format("there is no gauge \"{}\"", id) : gauge->why);
}

Result<Extremes> extremesOf(const Limit& limit, const Readings& readings, LimitReading& reading) {
    if (limit.target.kind == TargetKind::Gauge) {
        const auto* gauge = gaugeNamed(limit.target.name, readings);
        if (gauge == nullptr || !gauge->value)
            return noGaugeValue(limit.target.name, gauge);
        reading.unit = gauge->unit;
        reading.isTemperature = gauge->isTemperature && limit.form->isValue;
        return Extremes{*gauge->value, *gauge->value, gauge->place, gauge->place};
    }
    const auto* region = regionOf(limit, readings);
    if (region == nullptr)
        return noRegion(limit);
    if (!region->max)
        return fail(ErrorCode::NotSupported, region->why);
    return Extremes{region->max->kelvin, region->min->kelvin, region->hottest, region->coldest};
}

// Kelvin of a temperature gauge whose unit may be another one.
Result<double> kelvinOf(const GaugeReading& gauge) {
    const auto kelvin = conversion(gauge.unit, "K");
    if (!kelvin || !gauge.isTemperature)
        return fail(ErrorCode::WrongUnit, fmt::format("the gauge \"{}\" tells no temperature", gauge.id));
    return (*kelvin)(*gauge.value);
}

std::optional<std::size_t> positionOf(const std::vector<Region>& regions, const std::string& name) {
    const auto found = std::ranges::find(regions, name, &Region::name);
    return found == regions.end() ? std::nullopt : std::optional(static_cast<std::size_t>(found - regions.begin()));
}

} // namespace pyro
