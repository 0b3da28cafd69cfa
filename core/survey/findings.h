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
};

constexpr std::array<std::string_view, 3> findingStates{"open", "accepted", "done"};

// Entries without a text are left out; they stay in the survey. The second number is the position in Survey::findings.
std::vector<std::pair<Finding, std::size_t>> findingsOf(const Survey& survey);
Survey withFinding(Survey survey, const Finding& finding);
// Replaces the one at the position; unknown keys of it survive. Errors: NameUnknown; WrongType for an empty text or an
// unknown state.
Result<Survey> withFindingAt(Survey survey, std::size_t position, const Finding& finding);
Survey withoutFinding(Survey survey, std::size_t position);

} // namespace pyro
