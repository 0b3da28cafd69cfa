// Whether a value that a solver monitors has settled: drift, what still oscillates, and the value it goes to.
#pragma once

#include "core/trust/solver_history.h"

#include <optional>
#include <span>
#include <string_view>

namespace pyro {

enum class SettlingState {
    Settled,
    Drifting,    // still on its way in one direction
    Oscillating, // swings, or bends to and fro, by more than what is allowed
    TooShort,    // fewer than 8 values, or no span
};
std::string_view settlingName(SettlingState state); // "settled", "drifting", "oscillating", "too short"

struct Settling {
    SettlingState state = SettlingState::TooShort;
    // of the line through the last part, from its beginning to its end, in the values' unit
    double drift = 0;
    double oscillation = 0; // from the lowest to the highest distance from that line in the last part
    // final value: where an exponential through the last half ends, or the mean of what swings
    std::optional<double> expected;
    double allowed = 0;       // what drift and oscillation are held against
    bool logarithmic = false; // judged by its decimal logarithm: drift, oscillation and allowed are decades
};

// The last 30 % of the range of `at` are judged. Allowed is `tolerance` times the whole range of the values, but at
// least `floor` (in their unit): a constant has settled. The straight line is fitted by least squares; a series swings
// when its detrended last part changes sign at least four times, else the distance from the line is curvature of the
// drift. The final value of a drift is that of the exponential through the means of the three thirds of the last half
// (Aitken's delta-squared), told only when it converges. Values above zero that span three decades or more, as
// residuals do, are judged by their logarithm. `at` and `values` are of the same length, `at` rising; gaps (NaN) are
// left out. tolerance and thirds: common practice, no source.
Settling settlingOf(std::span<const double> at, std::span<const double> values, double tolerance = 0.005,
                    double floor = 0);

// One column of a history with its judgement.
struct MonitoredValue {
    std::string title;
    std::size_t count = 0; // of numbers
    std::optional<double> last;
    Settling settling;
};
std::vector<MonitoredValue> monitoredIn(const SolverHistory& history);

} // namespace pyro
