// trust: is a case believable? One check is one question with its answer.
#pragma once

#include "core/case/case.h"

#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace pyro {

enum class CheckState {
    Passed,
    Review, // to be looked at by the engineer
    Failed,
    NotCheckable, // with the reason
};
std::string_view checkStateName(CheckState state); // for files: "passed", "review", "failed", "not_checkable"
std::string_view checkStateText(CheckState state); // for people: the same, "not checkable"

struct MarkedCell {
    std::uint32_t part = 0; // position in Case::parts
    std::uint32_t cell = 0;
};
constexpr std::size_t mostMarked = 20'000; // cells of one check that are kept for drawing

struct Check {
    std::string key;   // stable: "heat-balance"
    std::string title; // for people: "Heat balance of every part"
    CheckState state = CheckState::Passed;
    std::string figure;                                        // what was found: "3.2 % in Amplifier"
    std::string threshold;                                     // "below 1 %"
    std::string meaning;                                       // one sentence: what it means, or why it is not known
    std::string part = {};                                     // the part it is about most
    std::optional<Point> at = {};                              // a place to look at, m
    std::shared_ptr<const std::vector<MarkedCell>> cells = {}; // that it is about, for drawing; null: none
};

} // namespace pyro
