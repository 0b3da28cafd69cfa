#include "core/limits/judging.h"

namespace pyro {

// From the lowest to the highest temperature of a part or boundary: how far it is from one temperature throughout.
constexpr LimitForm spreadForm{
    .key = "spread",
    .name = "temperature spread",
    .choice = "temperature spread (max minus min)",
    .unit = "K",
    .ofGauges = false,
    .maxExample = "20 K",
    .marginExample = "2 K",
    .words = [](const Limit&) { return std::string("temperature spread"); },
    .judge = [](const Limit& limit, const JudgedStep& step, LimitReading& reading) -> Done {
        const auto value = extremesOf(limit, step.readings, reading);
        if (!value)
            return tl::unexpected(value.error());
        const double spread = value->high - value->low;
        return compare(limit, {spread, spread, value->highest, value->highest}, {}, reading);
    },
};

} // namespace pyro
