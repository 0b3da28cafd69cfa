#include "core/readings/check.h"

namespace pyro {

std::string_view checkStateName(CheckState state) {
    switch (state) {
    case CheckState::Passed:
        return "passed";
    case CheckState::Review:
        return "review";
    case CheckState::Failed:
        return "failed";
    default:
        return "not_checkable";
    }
}

std::string_view checkStateText(CheckState state) {
    return state == CheckState::NotCheckable ? "not checkable" : checkStateName(state);
}

} // namespace pyro
