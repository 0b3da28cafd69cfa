// Gauges read over all steps of a case: histories and what is told of them.
#pragma once

#include "core/survey/survey.h"
#include "core/readings/readings.h"

namespace pyro {

// A gauge's values over the steps that could be read.
struct History {
    std::vector<double> time;  // s; the step's number where no times are known
    std::vector<double> value; // in `unit`; NaN in gaps
    std::string unit;
    bool isTemperature = false;
    bool timed = true;
};
History historyOf(std::size_t gauge, const std::vector<Readings>& steps);

// One reading for each gauge that runs over the steps, in the order of the survey.
//   over steps: mean (weighted by time, trapezoidal), min, max, range, integral over time, deviation
//   time_to_reach, first_above: when the history first crosses the level; duration_above: how long it lies above it;
//     crossings are linear between steps
//   time_constant: of an exponential approach, by least squares of ln((T - Tend)/(T0 - Tend)) over time; Tend from the
//   key
//     "final", else extrapolated from first, middle and last value (Aitken)
std::vector<GaugeReading> readOverSteps(const std::vector<Gauge>& gauges, const std::vector<Readings>& steps);

// Limits that one step cannot tell, written into every step's limits (which are in the order of the survey): those on
// gauges that run over the steps (`overSteps`), and DurationAbove, from the hottest place of the part or boundary, or
// from the gauge.
void judgeTogether(const Survey& survey, const std::vector<GaugeReading>& overSteps, std::vector<Readings>& steps);

// Whether a limit can only be judged with the fields of each step, not from the steps' readings.
bool needsFields(const Limit& limit);

// The limits of the survey judged anew on steps whose readings are known, and then together: as worstLimits. For
// surveys whose limits were edited after the steps were read; none of them needs fields.
std::vector<LimitReading> worstLimitsAgain(const Survey& survey, const std::vector<GaugeReading>& overSteps,
                                           const std::vector<Readings>& steps);

// Per limit the worst step's reading: over before unknown before the least margin. Where several steps with times are
// given it tells when the limit is first exceeded and how long all in all, linear between the steps; gaps count for
// nothing.
std::vector<LimitReading> worstLimits(const std::vector<Readings>& steps);

} // namespace pyro
