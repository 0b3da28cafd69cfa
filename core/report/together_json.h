// Readings of several cases as one subject as JSON, see docs/compare.md.
#pragma once

#include "core/evaluate/survey_run.h"

namespace pyro {

// Adds `compare`, `grids` ... to what is told of a run, each where it is asked for.
void putTogether(Json& json, const SurveyRun& run);

} // namespace pyro
