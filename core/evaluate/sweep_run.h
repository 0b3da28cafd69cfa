// The cases of a sweep, evaluated within bounded memory and kept: what has not changed is not read again.
#pragma once

#include "core/compare/sweep.h"
#include "core/evaluate/survey_run.h"

namespace pyro {

// Two cases at a time are in memory, whatever their number; of each only gauges and limits are kept, on the disk too
// (beside the case stores), by the files that it is made of and by what the survey says of it. `run`: cases of the
// survey that were evaluated already. Nothing where the survey has no sweep. Errors: Cancelled. What cannot be
// evaluated says why in its case.
Result<std::optional<SweepReading>> runSweep(const Survey& survey, const std::filesystem::path& surveyFile,
                                             const SurveyRun& run, const RunOptions& options, Progress& progress);

// As above for cases that are known already, without reading any: for whoever evaluates them by other ways.
SweepCase sweepCaseOf(const SweepPlan::Item& item, const CaseRun& run);

} // namespace pyro
