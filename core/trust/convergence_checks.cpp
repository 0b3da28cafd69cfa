#include "core/trust/checks.h"
#include "core/trust/settling.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

CheckState stateOf(SettlingState state) {
    switch (state) {
    case SettlingState::Settled:
        return CheckState::Held;
    case SettlingState::TooShort:
        return CheckState::Unknown;
    default:
        return CheckState::Look;
    }
}

std::string tell(const SolverHistory::Column& column, const Settling& settling) {
    auto text = fmt::format("{}: {}", column.title, settlingName(settling.state));
    if (settling.state == SettlingState::TooShort)
        return text;
    text += settling.state == SettlingState::Oscillating ? fmt::format(" by {:.3g}", settling.oscillation) : fmt::format(", drift {:.3g}", settling.drift);
    if (settling.expected)
        text += fmt::format(", expected to end at {:.6g}", *settling.expected);
    return text;
}

double range(const std::vector<double>& values) {
    double low = 1e300;
    double high = -1e300;
    for (const double value : values)
        if (std::isfinite(value)) {
            low = std::min(low, value);
            high = std::max(high, value);
        }
    return high > low ? high - low : 0;
}

} // namespace

std::vector<Check> convergenceChecks(const TrustInput& input) {
    Check check{"settled", "What the solver monitors has settled", CheckState::Held, "", "drift and oscillation of the last 30 % below 0.5 % of the range", "A value that still moves says that the field of the last step is not the final one."};
    if (input.history == nullptr) {
        check.state = CheckState::Unknown;
        check.meaning = "There is no history beside the case: a CSV that ends in -history.csv, or the key \"history\" of the case.";
        return {check};
    }
    const SolverHistory::Column* worst = nullptr;
    Settling told;
    std::size_t settled = 0;
    const auto share = [](const Settling& one) { return one.allowed > 0 ? std::max(std::abs(one.drift), one.oscillation) / one.allowed : 0; };
    for (const auto& column : input.history->columns) {
        if (range(column.values) == 0 && column.values.size() > 1) { // a constant says nothing either way
            ++settled;
            continue;
        }
        const auto one = settlingOf(input.history->at, column.values);
        settled += one.state == SettlingState::Settled ? 1 : 0;
        const auto rank = [](SettlingState state) { return state == SettlingState::Settled ? 0 : state == SettlingState::TooShort ? 1 : 2; };
        if (worst == nullptr || rank(one.state) > rank(told.state) || (rank(one.state) == rank(told.state) && share(one) > share(told))) {
            worst = &column;
            told = one;
        }
    }
    check.figure = fmt::format("{} of {} have settled", settled, input.history->columns.size());
    if (worst != nullptr) {
        check.state = stateOf(told.state);
        if (told.state != SettlingState::Settled)
            check.figure += "; " + tell(*worst, told);
    }
    if (!input.history->remarks.empty())
        check.meaning += " Of the history: " + input.history->remarks.front().text + ".";
    return {check};
}

} // namespace pyro
