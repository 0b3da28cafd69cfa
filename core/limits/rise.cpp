#include "core/limits/judging.h"

namespace pyro {
namespace {

Result<double> ambientFor(const Limit& limit, const Readings& readings) {
    if (limit.above)
        return limit.above->si;
    if (!limit.than.empty()) {
        const auto* gauge = gaugeNamed(limit.than, readings);
        if (gauge == nullptr || !gauge->value)
            return noGaugeValue(limit.than, gauge);
        return kelvinOf(*gauge);
    }
    if (readings.ambient)
        return *readings.ambient;
    return fail(ErrorCode::NameUnknown, "the case has no ambient temperature to rise above; give it one");
}

Done judgeRise(const Limit& limit, const JudgedStep& step, LimitReading& reading) {
    auto value = extremesOf(limit, step.readings, reading);
    if (!value)
        return tl::unexpected(value.error());
    if (limit.target.kind == TargetKind::Gauge) {
        const auto kelvin = kelvinOf(*gaugeNamed(limit.target.name, step.readings));
        if (!kelvin)
            return tl::unexpected(kelvin.error());
        value->high = value->low = *kelvin;
    }
    reading.unit = std::string("K");
    const auto ambient = ambientFor(limit, step.readings);
    if (!ambient)
        return tl::unexpected(ambient.error());
    reading.ambient = *ambient;
    value->high -= *ambient;
    value->low -= *ambient;
    return compare(limit, *value, {}, reading);
}

} // namespace

// The extreme temperature of a part, boundary or gauge above an ambient.
constexpr LimitForm riseForm{
    .key = "rise",
    .name = "rise above ambient",
    .choice = "rise above ambient",
    .unit = "K",
    .parameter = LimitParameter::Ambient,
    .maxExample = "40 K",
    .marginExample = "5 K",
    .words =
        [](const Limit& limit) {
            return limit.above          ? "rise above " + limit.above->text
                   : limit.than.empty() ? std::string("rise above ambient")
                                        : "rise above " + limit.than;
        },
    .judge = judgeRise,
};

} // namespace pyro
