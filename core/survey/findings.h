// Findings: remarks for follow-up, with place, view, severity and state.
#pragma once

#include "core/feedback/error.h"
#include "core/survey/view_state.h"

namespace pyro {

struct Finding {
    std::string text;
    Severity severity = Severity::Warning;
    std::string state = "open"; // "open", "accepted" or "done"
    std::string caseName;
    std::optional<int> step;
    std::string check; // key of the check it was raised from; empty: none
    std::string part;
    std::optional<Point> at;       // m
    std::optional<ViewState> view; // as it was looked at
    Json rest = {};
    bool operator==(const Finding&) const = default;
};

constexpr std::array<std::string_view, 3> findingStates{"open", "accepted", "done"};

template <>
std::span<const KeyRow<Finding>> rowsOf<Finding>();

struct Survey;
Survey withFinding(Survey survey, const Finding& finding);
// Replaces the one at the position. Errors: NameUnknown; WrongType for an empty text or an unknown state.
Result<Survey> withFindingAt(Survey survey, std::size_t position, const Finding& finding);
Survey withoutFinding(Survey survey, std::size_t position);

} // namespace pyro
