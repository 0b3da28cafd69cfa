// trust: is a case believable? One check is one question with its answer.
#pragma once

#include "core/case/case.h"

#include <optional>
#include <string>
#include <vector>

namespace pyro {

enum class CheckState {
    Held,
    Look,    // worth a look
    Broken,
    Unknown, // cannot be told, with the reason
};
std::string_view checkStateName(CheckState state); // "held", "look", "broken", "unknown"

struct Check {
    std::string key;       // stable: "heat-balance"
    std::string title;     // for people: "Heat of every part balances"
    CheckState state = CheckState::Held;
    std::string figure;    // what was found: "3.2 % in Amplifier"
    std::string threshold; // "below 1 %"
    std::string meaning;   // one sentence: what it is worth, or why it is not known
    std::string part = {};           // the part it is about most
    std::optional<Point> at = {};    // a place to look at, m
};

} // namespace pyro
