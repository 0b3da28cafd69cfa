#include "core/limits/judge.h"

#include "core/limits/judging.h"
#include "core/units/unit.h"

#include <cmath>

namespace pyro {
namespace {

LimitReading begun(const Limit& limit) {
    LimitReading reading;
    reading.target = limit.target;
    reading.form = limit.form;
    reading.kind = limit.kind;
    reading.isTemperature = isTemperatureLimit(limit);
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

// Lets `judge` fill the reading, and says why where it cannot.
template <class Judge>
LimitReading judged(const Limit& limit, const std::optional<double>& ambient, Judge judge) {
    auto reading = begun(limit);
    const Done done = !limit.max && !limit.min
                          ? fail(ErrorCode::WrongType, "the limit has neither a maximum nor a minimum")
                          : judge(reading);
    if (!done)
        reading.why = done.error().what;
    tellRelativeMargin(reading, ambient);
    return reading;
}

} // namespace

LimitReading judgeLimit(const Limit& limit, const Readings& readings, const PartFields* fields) {
    return judged(limit, readings.ambient, [&](LimitReading& reading) -> Done {
        if (limit.form->judge == nullptr)
            return fail(ErrorCode::NotSupported, "it is judged over all steps");
        return limit.form->judge(limit, {readings, fields}, reading);
    });
}

LimitReading judgeHistory(const Limit& limit, const History& history) {
    return judged(limit, std::nullopt, [&](LimitReading& reading) -> Done {
        if (history.value.size() < 2 || !history.timed)
            return fail(ErrorCode::NotSupported, "a duration needs several steps with times");
        for (const double value : history.value)
            if (std::isnan(value))
                return fail(ErrorCode::NotSupported, "some steps tell no value of it");
        return limit.form->judgeHistory(limit, history, reading);
    });
}

} // namespace pyro
