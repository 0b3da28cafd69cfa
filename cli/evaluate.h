#pragma once

#include <ostream>
#include <string>

namespace pyro::cli {

struct EvaluateWords {
    std::string survey;
    std::string onlyCase;
    std::string step = "last"; // "last", "all" or a number
    std::string json;
    std::string csvFolder;
    std::string junit;
    std::string ambient; // "40 degC"; both replace what the survey says of an estimate
    std::string power;   // "80 %"
};
// Evaluates a survey, prints the verdict table and writes what is asked for. Returns the exit status.
int evaluate(const EvaluateWords& words, std::ostream& out, std::ostream& err);

} // namespace pyro::cli
