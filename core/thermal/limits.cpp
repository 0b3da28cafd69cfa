#include "core/thermal/limits.h"

#include "core/field/volume_above.h"
#include "core/thermal/site_values.h"
#include "core/units/unit_product.h"

#include <algorithm>
#include <array>
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

// A value at its highest and at its lowest; the same twice where there is only one.
struct Extremes {
    double high = 0;
    double low = 0;
    std::optional<Place> highest = {};
    std::optional<Place> lowest = {};
};

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

// `gaugeUnit`: of the value, where the bounds follow a gauge; empty: bounds are SI.
std::string compare(const Limit& limit, const Extremes& value, const std::string& gaugeUnit, LimitReading& reading) {
    if (!std::isfinite(value.high) || !std::isfinite(value.low))
        return "its value is not a finite number";
    const bool isDifference = limit.form != LimitForm::Value;
    const auto si = [&](const Bound& bound, bool difference) {
        return gaugeUnit.empty() ? Result<double>(bound.si) : boundIn(gaugeUnit, bound, difference);
    };
    if (limit.margin) {
        const auto required = si(*limit.margin, true);
        if (!required)
            return required.error().what;
        reading.required = *required;
    }
    std::vector<Side> sides;
    if (limit.max) {
        const auto bound = si(*limit.max, isDifference);
        if (!bound)
            return bound.error().what;
        sides.push_back({value.high, *bound, true, value.highest});
    }
    if (limit.min) {
        const auto bound = si(*limit.min, isDifference);
        if (!bound)
            return bound.error().what;
        sides.push_back({value.low, *bound, false, value.lowest});
    }
    if (sides.size() == 2 && sides[0].limit < sides[1].limit)
        return "the maximum is below the minimum, so that nothing can hold both";
    decide(reading, sides);
    return {};
}

std::string noRegion(const Limit& limit) {
    return fmt::format("the case has no {} named \"{}\"", targetKindName(limit.target.kind), limit.target.name);
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

std::string whyNoGauge(const std::string& id, const GaugeReading* gauge) {
    return gauge == nullptr ? fmt::format("there is no gauge \"{}\"", id) : gauge->why;
}

// The temperatures, or the gauge's value, that a limit of the forms Value and Rise is about.
std::string extremesOf(const Limit& limit, const Readings& readings, Extremes& out, LimitReading& reading) {
    if (limit.target.kind == TargetKind::Gauge) {
        const auto* gauge = gaugeNamed(limit.target.name, readings);
        if (gauge == nullptr || !gauge->value)
            return whyNoGauge(limit.target.name, gauge);
        reading.unit = gauge->unit;
        reading.isTemperature = gauge->isTemperature && limit.form == LimitForm::Value;
        out = {*gauge->value, *gauge->value, gauge->place, gauge->place};
        return {};
    }
    const auto* region = regionOf(limit, readings);
    if (region == nullptr)
        return noRegion(limit);
    if (!region->max)
        return region->why;
    out = {region->max->kelvin, region->min->kelvin, region->hottest, region->coldest};
    return {};
}

std::string judgePlain(const Limit& limit, const Readings& readings, LimitReading& reading) {
    Extremes value;
    if (auto why = extremesOf(limit, readings, value, reading); !why.empty())
        return why;
    return compare(limit, value, limit.target.kind == TargetKind::Gauge ? reading.unit : std::string(), reading);
}

// Kelvin of a temperature gauge whose unit may be another one.
Result<double> kelvinOf(const GaugeReading& gauge) {
    const auto kelvin = conversion(gauge.unit, "K");
    if (!kelvin || !gauge.isTemperature)
        return fail(ErrorCode::WrongUnit, fmt::format("the gauge \"{}\" tells no temperature", gauge.id));
    return (*kelvin)(*gauge.value);
}

Result<double> ambientFor(const Limit& limit, const Readings& readings) {
    if (limit.above)
        return limit.above->si;
    if (!limit.than.empty()) {
        const auto* gauge = gaugeNamed(limit.than, readings);
        if (gauge == nullptr || !gauge->value)
            return fail(ErrorCode::NameUnknown, whyNoGauge(limit.than, gauge));
        return kelvinOf(*gauge);
    }
    if (readings.ambient)
        return *readings.ambient;
    return fail(ErrorCode::NameUnknown, "the case has no ambient temperature to rise above; give it one");
}

std::string judgeRise(const Limit& limit, const Readings& readings, LimitReading& reading) {
    Extremes value;
    if (auto why = extremesOf(limit, readings, value, reading); !why.empty())
        return why;
    if (limit.target.kind == TargetKind::Gauge) {
        const auto kelvin = kelvinOf(*gaugeNamed(limit.target.name, readings));
        if (!kelvin)
            return kelvin.error().what;
        value.high = value.low = *kelvin;
    }
    reading.unit = std::string("K");
    const auto ambient = ambientFor(limit, readings);
    if (!ambient)
        return ambient.error().what;
    reading.ambient = *ambient;
    value.high -= *ambient;
    value.low -= *ambient;
    return compare(limit, value, {}, reading);
}

std::string judgeDifference(const Limit& limit, const Readings& readings, LimitReading& reading) {
    const auto* one = gaugeNamed(limit.target.name, readings);
    const auto* other = gaugeNamed(limit.than, readings);
    if (one == nullptr || !one->value)
        return whyNoGauge(limit.target.name, one);
    if (other == nullptr || !other->value)
        return whyNoGauge(limit.than, other);
    const auto same = conversion(other->unit, one->unit);
    if (!same || one->isTemperature != other->isTemperature)
        return fmt::format("\"{}\" in {} and \"{}\" in {} cannot be subtracted", one->id, one->unit, other->id,
                           other->unit);
    double difference = *one->value - (one->isTemperature ? (*same)(*other->value) : same->difference(*other->value));
    reading.unit = one->unit;
    if (one->isTemperature) {
        difference = conversion(one->unit, "K")->difference(difference);
        reading.unit = std::string("K");
    }
    return compare(limit, {difference, difference, one->place, one->place}, reading.unit, reading);
}

std::optional<std::size_t> positionOf(const std::vector<Region>& regions, const std::string& name) {
    const auto found = std::ranges::find(regions, name, &Region::name);
    return found == regions.end() ? std::nullopt : std::optional(static_cast<std::size_t>(found - regions.begin()));
}

std::string judgeGradient(const Limit& limit, const PartFields* fields, LimitReading& reading) {
    const auto part = fields != nullptr ? positionOf(fields->solved().parts, limit.target.name) : std::nullopt;
    if (!part)
        return noRegion(limit);
    const auto slope = fields->field(*part, "temperature_gradient", Location::Cell);
    if (!slope)
        return slope.error().what;
    double most = -1;
    std::size_t where = 0;
    for (std::size_t at = 0; 3 * at < slope->values.size(); ++at) {
        const double size = std::hypot(slope->at(at, 0), slope->at(at, 1), slope->at(at, 2));
        if (!(size <= most)) { // a NaN stays and is told
            most = size;
            where = at;
            if (std::isnan(size))
                break;
        }
    }
    reading.unit = std::string("K/m");
    const auto& mesh = fields->solved().parts[*part].mesh;
    const Place place{slope->on == Location::Cell ? mesh.cellCentre(where) : mesh.node(where), slope->on, where, *part};
    return compare(limit, {most, most, place, place}, {}, reading);
}

// Of a boundary the faces count whole by the mean of their nodes; of a part see volumeAbove.
Result<double> shareAboveLevel(const Limit& limit, const PartFields& fields) {
    const auto* quantity = fields.quantities().named("temperature");
    if (quantity == nullptr)
        return fail(ErrorCode::NotSupported, "the case has no temperature");
    const double level = (limit.level->si - quantity->toSi.offset) / quantity->toSi.scale;
    const auto& solved = fields.solved();
    if (limit.target.kind == TargetKind::Part) {
        const auto part = positionOf(solved.parts, limit.target.name);
        const auto* array = part ? solved.parts[*part].find(quantity->array, quantity->on) : nullptr;
        if (array == nullptr)
            return fail(ErrorCode::NameUnknown, part ? "the part has no temperature" : noRegion(limit));
        const auto above = volumeAbove(solved.parts[*part], *array, fields.index().parts[*part].cellMeasure, level);
        if (above.whole < fields.index().parts[*part].size * (1 - 1e-9))
            return fail(ErrorCode::NotSupported, "some of its values are not finite");
        return above.share();
    }
    const auto boundary = positionOf(solved.boundaries, limit.target.name);
    if (!boundary)
        return fail(ErrorCode::NameUnknown, noRegion(limit));
    const auto site = siteOfBoundary(solved, fields.index(), *boundary);
    const auto kelvin = readFacets(site, fields, "temperature", Component::Natural);
    if (!kelvin)
        return tl::unexpected(kelvin.error());
    double above = 0;
    double whole = 0;
    for (std::size_t i = 0; i < kelvin->size(); ++i) {
        whole += site.facets.weight[i];
        above += (*kelvin)[i] > limit.level->si ? site.facets.weight[i] : 0;
        if (std::isnan((*kelvin)[i]))
            return fail(ErrorCode::NotSupported, "some of its values are not finite");
    }
    return whole > 0 ? above / whole : 0;
}

std::string judgeShare(const Limit& limit, const Readings& readings, const PartFields* fields, LimitReading& reading) {
    if (fields == nullptr || !limit.level)
        return "its share above a level is not known here";
    const auto share = shareAboveLevel(limit, *fields);
    if (!share)
        return share.error().what;
    reading.unit = std::string("1");
    const auto* region = regionOf(limit, readings);
    const auto hottest = region != nullptr ? region->hottest : std::nullopt;
    return compare(limit, {*share, *share, hottest, hottest}, {}, reading);
}

std::string judgeForm(const Limit& limit, const Readings& readings, const PartFields* fields, LimitReading& reading) {
    switch (limit.form) {
    case LimitForm::Value:
        return judgePlain(limit, readings, reading);
    case LimitForm::Rise:
        return judgeRise(limit, readings, reading);
    case LimitForm::Gradient:
        return judgeGradient(limit, fields, reading);
    case LimitForm::Difference:
        return judgeDifference(limit, readings, reading);
    case LimitForm::ShareAbove:
        return judgeShare(limit, readings, fields, reading);
    case LimitForm::DurationAbove:
        return "it is judged over all steps";
    }
    return {};
}

LimitReading begun(const Limit& limit) {
    LimitReading reading;
    reading.target = limit.target;
    reading.form = limit.form;
    reading.kind = limit.kind;
    reading.isTemperature = limit.form == LimitForm::Value && limit.target.kind != TargetKind::Gauge;
    reading.source = limit.source;
    reading.required = limit.margin ? limit.margin->si : 0;
    if (const auto unit = boundUnit(limit); !unit.empty())
        reading.unit = unit;
    if (const auto& bound = limit.max ? limit.max : limit.min) {
        reading.limit = bound->si;
        reading.isMaximum = limit.max.has_value();
    }
    return reading;
}

// Margins in kelvin, per cent or W/K can be compared by their share only: of what is required; without a requirement,
// of the allowed rise above the case's ambient where limit and value are temperatures, else of the limit's own size.
void tellRelativeMargin(LimitReading& reading, const std::optional<double>& ambientKelvin) {
    if (!reading.margin)
        return;
    double allowed = reading.required;
    if (!(allowed > 0)) {
        const auto unit = reading.isTemperature && ambientKelvin ? conversion("K", reading.unit)
                                                                 : tl::unexpected(Error{});
        allowed = std::abs(*reading.limit - (unit ? (*unit)(*ambientKelvin) : 0));
    }
    reading.relativeMargin = allowed > 0 ? *reading.margin / allowed : *reading.margin;
}

} // namespace

LimitReading judgeLimit(const Limit& limit, const Readings& readings, const PartFields* fields) {
    auto reading = begun(limit);
    if (!limit.max && !limit.min)
        reading.why = std::string("the limit has neither a maximum nor a minimum");
    else
        reading.why = judgeForm(limit, readings, fields, reading);
    tellRelativeMargin(reading, readings.ambient);
    return reading;
}

LimitReading judgeValue(const Limit& limit, double value, const std::string& unit) {
    auto reading = begun(limit);
    reading.unit = unit;
    if (!limit.max && !limit.min)
        reading.why = std::string("the limit has neither a maximum nor a minimum");
    else
        reading.why = compare(limit, {value, value}, boundUnit(limit).empty() ? unit : std::string(), reading);
    tellRelativeMargin(reading, std::nullopt);
    return reading;
}


} // namespace pyro
