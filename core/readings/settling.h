// Whether a value that a solver monitors has settled: drift, what still oscillates, and the value it goes to.
#pragma once

#include <cstddef>
#include <optional>
#include <string>
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

// One column of a history with its judgement.
struct MonitoredValue {
    std::string title;
    std::size_t count = 0; // of numbers
    std::optional<double> last;
    Settling settling;
};

} // namespace pyro
