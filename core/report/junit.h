// Verdicts as JUnit XML, so that a continuous-integration server shows them as tests.
#pragma once

#include "core/evaluate/survey_run.h"

namespace pyro {

// One test suite per case, one test per limit (worst over the steps): over is a failure, unknown an error.
std::string junitXml(const SurveyRun& run);

} // namespace pyro
