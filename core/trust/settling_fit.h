// Judges whether the values of a series have settled.
#pragma once

#include "core/case/solver_history.h"
#include "core/readings/settling.h"

#include <span>
#include <vector>

namespace pyro {

// The last 30 % of the range of `at` are judged. Allowed is `tolerance` times the whole range of the values, but at
// least `floor` (in their unit): a constant has settled. The straight line is fitted by least squares; a series swings
// when its detrended last part changes sign at least four times, else the distance from the line is curvature of the
// drift. The final value of a drift is that of the exponential through the means of the three thirds of the last half
// (Aitken's delta-squared), told only when it converges. Values above zero that span three decades or more, as
// residuals do, are judged by their logarithm. `at` and `values` are of the same length, `at` rising; gaps (NaN) are
// left out. tolerance and thirds: common practice, no source.
Settling settlingOf(std::span<const double> at, std::span<const double> values, double tolerance = 0.005,
                    double floor = 0);

// Every column of a history with its judgement.
std::vector<MonitoredValue> monitoredIn(const SolverHistory& history);

} // namespace pyro
