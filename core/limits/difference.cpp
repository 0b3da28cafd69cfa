#include "core/limits/judging.h"
#include "core/units/unit.h"

#include <fmt/format.h>

namespace pyro {
namespace {

Done judgeDifference(const Limit& limit, const JudgedStep& step, LimitReading& reading) {
    const auto* one = gaugeNamed(limit.target.name, step.readings);
    const auto* other = gaugeNamed(limit.than, step.readings);
    if (one == nullptr || !one->value)
        return noGaugeValue(limit.target.name, one);
    if (other == nullptr || !other->value)
        return noGaugeValue(limit.than, other);
    const auto same = conversion(other->unit, one->unit);
    if (!same || one->isTemperature != other->isTemperature)
        return fail(ErrorCode::WrongUnit, fmt::format("\"{}\" in {} and \"{}\" in {} cannot be subtracted", one->id,
                                                      one->unit, other->id, other->unit));
    double difference = *one->value - (one->isTemperature ? (*same)(*other->value) : same->difference(*other->value));
    reading.unit = one->unit;
    if (one->isTemperature) {
        difference = conversion(one->unit, "K")->difference(difference);
        reading.unit = std::string("K");
    }
    return compare(limit, {difference, difference, one->place, one->place}, reading.unit, reading);
}

} // namespace

// Of a gauge to another one; in kelvin between temperatures, else in the gauge's unit.
constexpr LimitForm differenceForm{
    .key = "difference",
    .name = "difference",
    .choice = "difference to a gauge",
    .unit = "",
    .ofParts = false,
    .ofBoundaries = false,
    .parameter = LimitParameter::OtherGauge,
    .maxExample = "number and unit",
    .marginExample = "number and unit",
    .words = [](const Limit& limit) { return "difference to " + limit.than; },
    .judge = judgeDifference,
};

} // namespace pyro
