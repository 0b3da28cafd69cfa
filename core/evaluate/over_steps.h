// Gauges read over all steps of a case: histories and what is told of them.
#pragma once

#include "core/readings/history.h"
#include "core/readings/readings.h"
#include "core/survey/survey.h"

namespace pyro {

// One reading for each gauge that runs over the steps, in the order of the survey.
// What each statistic tells of a history stands in core/statistics.
std::vector<GaugeReading> readOverSteps(const std::vector<Gauge>& gauges, const std::vector<Readings>& steps);

// Limits that one step cannot tell, written into every step's limits (which are in the order of the survey): those on
// gauges that run over the steps (`overSteps`), and those whose form is judged over all steps, by the hottest place of
// the part or boundary or by the gauge.
void judgeTogether(const Survey& survey, const std::vector<GaugeReading>& overSteps, std::vector<Readings>& steps);

// The limits of the survey judged anew on steps whose readings are known, and then together: as worstLimits. For
// surveys whose limits were edited after the steps were read; none of them needs fields.
std::vector<LimitReading> worstLimitsAgain(const Survey& survey, const std::vector<GaugeReading>& overSteps,
                                           const std::vector<Readings>& steps);

// Per limit the worst step's reading: over before unknown before the least margin. Where several steps with times are
// given it tells when the limit is first exceeded and how long all in all, linear between the steps; gaps count for
// nothing.
std::vector<LimitReading> worstLimits(const std::vector<Readings>& steps);

} // namespace pyro
