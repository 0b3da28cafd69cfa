#include "core/limits/judging.h"

namespace pyro {

// The extreme temperature of a part or boundary, or the value of a gauge.
constexpr LimitForm valueForm{
    .key = "",
    .name = "temperature",
    .choice = "temperature or value",
    .unit = "K",
    .isValue = true,
    .maxExample = "85 degC",
    .marginExample = "5 K",
    .judge = [](const Limit& limit, const JudgedStep& step, LimitReading& reading) -> Done {
        const auto value = extremesOf(limit, step.readings, reading);
        if (!value)
            return tl::unexpected(value.error());
        return compare(limit, *value, limit.target.kind == TargetKind::Gauge ? reading.unit : std::string(), reading);
    },
};

} // namespace pyro
