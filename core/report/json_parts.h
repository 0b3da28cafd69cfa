// Pieces of readings as JSON that several lists have.
#pragma once

#include "core/case/case.h"
#include "core/readings/limit_target.h"
#include "core/units/written.h"

#include <cmath>

namespace pyro {

// Null for what is not known or not finite.
inline Json number(const std::optional<double>& value) {
    return value && std::isfinite(*value) ? Json(*value) : Json(nullptr);
}

inline Json targetToJson(const LimitTarget& target) {
    return Json{{std::string(targetKindName(target.kind)), target.name}};
}

} // namespace pyro
