#include "core/thermal/another_ambient.h"

#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

bool isTemperature(const LimitReading& limit, const Readings& readings) {
    if (limit.form != LimitForm::Value)
        return false;
    if (limit.target.kind != TargetKind::Gauge)
        return true;
    const auto gauge = std::ranges::find(readings.gauges, limit.target.name, &GaugeReading::id);
    return gauge != readings.gauges.end() && gauge->isTemperature;
}

bool isInProportion(LimitForm form) { return form == LimitForm::Rise || form == LimitForm::Gradient || form == LimitForm::Difference; }

void take(ShiftedLimit& out, const LimitReading& limit, double value) {
    out.value = value;
    out.margin = limit.isMaximum ? *limit.limit - value : value - *limit.limit;
    out.verdict = judge({*out.margin}, {limit.required});
}

ShiftedLimit shifted(const LimitReading& limit, const Readings& readings, double from, double to) {
    ShiftedLimit out;
    if (!limit.value || !limit.limit) {
        out.why = limit.why;
        return out;
    }
    if (isInProportion(limit.form)) { // does not move with the ambient, but with the power
        take(out, limit, *limit.value);
        if (limit.isMaximum && *limit.value > 0)
            out.power = *limit.limit / *limit.value;
        return out;
    }
    if (!isTemperature(limit, readings)) {
        out.why = "it is no temperature, so that it does not simply shift; read it on a case at that ambient";
        return out;
    }
    const auto scale = conversion("K", limit.unit);
    const double perKelvin = scale ? scale->scale : 1; // of the gauge's own unit
    take(out, limit, *limit.value + perKelvin * (to - from));
    const double rise = *limit.value / perKelvin - (scale ? scale->offset / perKelvin : 0) - from; // K
    const double allowed = *limit.limit / perKelvin - (scale ? scale->offset / perKelvin : 0);     // K
    out.reachedAt = allowed - rise;
    if (limit.isMaximum && rise > 0)
        out.power = (allowed - to) / rise;
    return out;
}

} // namespace

Result<AnotherAmbient> atAmbient(const Readings& readings, double kelvin) {
    const auto refuse = [](std::string what, std::string remedy) { return fail(ErrorCode::NotSupported, std::move(what), {}, std::move(remedy)); };
    if (!std::isfinite(kelvin) || kelvin <= 0)
        return refuse("this is no temperature", "Write it with its unit, for example 45 degC");
    if (!readings.nonlinear.empty())
        return refuse(fmt::format("a plain shift would be wrong: {}", readings.nonlinear.front()), "Solve the case at the other ambient and compare the two");
    if (!readings.ambient)
        return refuse("the ambient temperature of the case is not known", "Write it in the field \"ambient\" of the case");
    AnotherAmbient answer{*readings.ambient, kelvin, {}, {}, {}};
    for (std::size_t i = 0; i < readings.limits.size(); ++i) {
        answer.limits.push_back(shifted(readings.limits[i], readings, answer.from, kelvin));
        const auto& one = answer.limits.back();
        if (one.reachedAt && readings.limits[i].isMaximum && (!answer.first || *one.reachedAt < *answer.limits[*answer.first].reachedAt))
            answer.first = i;
        if (one.power && (!answer.leastPower || *one.power < *answer.limits[*answer.leastPower].power))
            answer.leastPower = i;
    }
    return answer;
}

} // namespace pyro
