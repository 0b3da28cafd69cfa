#include "core/trust/checks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

CheckState stateOf(SettlingState state) {
    switch (state) {
    case SettlingState::Settled:
        return CheckState::Passed;
    case SettlingState::TooShort:
        return CheckState::NotCheckable;
    default:
        return CheckState::Review;
    }
}

std::string tell(const MonitoredValue& one) {
    const auto& settling = one.settling;
    auto text = fmt::format("{}: {}", one.title, settlingName(settling.state));
    if (settling.state == SettlingState::TooShort)
        return text;
    const char* unit = settling.logarithmic ? " decades" : "";
    text += settling.state == SettlingState::Oscillating ? fmt::format(" by {:.3g}{}", settling.oscillation, unit)
                                                         : fmt::format(", drift {:.3g}{}", settling.drift, unit);
    if (settling.expected)
        text += fmt::format(", expected to end at {:.6g}", *settling.expected);
    return text;
}

// Those that move before those that are too short before the settled, then by how far they are beyond what is allowed.
std::pair<int, double> unrest(const MonitoredValue& one) {
    const auto& settling = one.settling;
    const int rank = settling.state == SettlingState::Settled ? 0 : settling.state == SettlingState::TooShort ? 1 : 2;
    return {rank,
            settling.allowed > 0 ? std::max(std::abs(settling.drift), settling.oscillation) / settling.allowed : 0};
}

void settledAnswer(const TrustInput& input, Check& check) {
    if (input.history == nullptr) {
        check.state = CheckState::NotCheckable;
        check.meaning = "There is no history beside the case (a CSV that ends in -history.csv, or the key \"history\" "
                        "of the case), nor several steps.";
        return;
    }
    const auto& monitored = input.readings.monitored;
    const auto settled = std::ranges::count(monitored, SettlingState::Settled,
                                            [](const MonitoredValue& one) { return one.settling.state; });
    check.figure = fmt::format("{} of {} have settled", settled, monitored.size());
    const auto worst = std::ranges::max_element(monitored, {}, unrest);
    if (worst != monitored.end()) {
        check.state = stateOf(worst->settling.state);
        if (worst->settling.state != SettlingState::Settled)
            check.figure += "; " + tell(*worst);
    }
    if (!input.history->remarks.empty())
        check.meaning += " Of the history: " + input.history->remarks.front().text + ".";
}

} // namespace

constexpr CheckKind settledCheck{
    .key = "settled",
    .title = "What the solver monitors has settled",
    .threshold = "drift and oscillation of the last 30 % below 0.5 % of the range",
    .meaning = "A value that still moves says that the field of the last step is not the final one.",
    .answer = settledAnswer,
};

} // namespace pyro
