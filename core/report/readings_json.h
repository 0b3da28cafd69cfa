// report: readings and cases turned into JSON, CSV and tables.
//
// The evaluation JSON and the inspection JSON of docs/formats.md: SI and kelvin, never NaN.
#pragma once

#include "core/evaluate/survey_run.h"

namespace pyro {

Json runToJson(const SurveyRun& run);
// `opened`: one step of the series, whose parts, boundaries and quantities are listed.
Json inspectionToJson(const Series& series, const OpenedCase& opened, const QuantityList& quantities);
Json remarksToJson(const Remarks& remarks);

} // namespace pyro
