// The definition of a limit: what is allowed, the margin required, and who says so.
#pragma once

#include "core/units/temperature.h"
#include "core/units/written.h"

#include <optional>
#include <string_view>

namespace pyro {

enum class TargetKind { Part, Boundary, Gauge };
std::string_view targetKindName(TargetKind kind);

struct LimitTarget {
    TargetKind kind = TargetKind::Part;
    std::string name;
    bool operator==(const LimitTarget&) const = default;
};

// The written bound of a limit; for parts and boundaries a temperature. Its SI value is kelvin then; for a gauge
// it is converted when the gauge's unit is known.
using Bound = Written<double>;

struct Limit {
    LimitTarget target;
    std::optional<Bound> max;
    std::optional<Bound> min;
    std::optional<Written<TemperatureDifference>> margin; // required
    std::string source;
    Json rest = Json::object();
    bool operator==(const Limit&) const = default;
};

} // namespace pyro
