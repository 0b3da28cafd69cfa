// selfcheck: whether everything that the program needs of this computer is there, a line each.
#pragma once

#include "core/feedback/progress.h"

#include <string>
#include <vector>

namespace pyro {

struct CheckLine {
    std::string name; // "display"
    bool passed;
    std::string found; // what was found, or what is wrong
    std::string remedy = {};
};

// One check; each is a function in a file of its own kind, listed in self_check.cpp.
struct SelfCheck {
    const char* name;
    CheckLine (*run)();
};

// What can break a process (drivers) runs in one of its own: this program with --self-check --only NAME.
std::vector<CheckLine> runSelfCheck(Progress& progress);
// Version, build and system, then the lines; as it is sent with a report. The home folder is told as "~".
std::string selfCheckText(const std::vector<CheckLine>& lines);

// What main does: prints the text, or the one line of `only` as JSON. 0: all passed, 1: not, 2: there is none of that
// name.
int selfCheck(int count, char** words, const std::string& only);

} // namespace pyro
