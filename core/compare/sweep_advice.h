// What a sweep advises: response surfaces, the best combination by them, and the case to compute next.
#pragma once

#include "core/compare/sweep.h"

namespace pyro {

// Adds them to the reading, by its cases and parameters.
void addAdvice(const Survey& survey, SweepReading& sweep);

} // namespace pyro
