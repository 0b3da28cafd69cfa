#pragma once

#include "core/survey/survey.h"
#include "render/text.h"

namespace pyro {

// What stands in the survey, as it was written.
inline QString written(const std::optional<Written<double>>& value) { return value ? q(value->text) : QString(); }

} // namespace pyro
