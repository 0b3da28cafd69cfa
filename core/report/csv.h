// Verdicts, gauges and limits as CSV.
#pragma once

#include "core/evaluate/survey_run.h"
#include "core/feedback/csv_rows.h"
#include "core/units/display.h"

namespace pyro {

// The verdict table of a run, one line per case, step and limit, smallest margin first, and for several steps the worst
// of each with when it is first exceeded and for how long; temperatures in `unit`,
// margins as differences in kelvin, coordinates in metres.
std::string verdictsCsv(const Survey& survey, const SurveyRun& run, TemperatureUnit unit);
// The limits at the survey's other ambient and power, one line per case and limit of its last step; empty where nothing
// is estimated.
std::string estimateCsv(const Survey& survey, const SurveyRun& run, TemperatureUnit unit);
// The gauges of a run, one line per case, step and gauge; those over all steps have "all" as their step.
std::string gaugesCsv(const SurveyRun& run);
// Their profiles, one line per point; gaps have no value.
std::string profilesCsv(const SurveyRun& run);

// The terms of transmittances, one line per case, step, gauge and term, each as it enters the sum.
std::string termsCsv(const SurveyRun& run);

// Hotspots of the gauges that list them, one line each, in the gauge's unit.
std::string hotspotsCsv(const SurveyRun& run);

// Balances of parts, one line per case, step and part, and what passes each boundary.
std::string balancesCsv(const SurveyRun& run);

// Powers given and found with thermal resistances; checks; findings of the survey.
std::string powersCsv(const SurveyRun& run);
std::string checksCsv(const SurveyRun& run);
std::string findingsCsv(const Survey& survey);

} // namespace pyro
