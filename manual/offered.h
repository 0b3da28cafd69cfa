// What a parser offers to type, for whoever describes it elsewhere.
#pragma once

#include "manual/manual.h"

namespace pyro {

struct OfferedOption {
    std::vector<std::string> names; // "-o", "--output"; of a positional its name alone, "SURVEY"
    std::string meaning;
    std::string value;                // "FILE", "FOLDER", "DEMO", "NUMBER" ...; empty: it takes none
    std::vector<std::string> choices; // the only values that it takes; empty: any
    bool positional = false;
    bool required = false;
    bool many = false;
};

struct OfferedCommand {
    std::string name;
    std::string meaning;
    std::vector<OfferedOption> options; // positional ones first, hidden ones not
};

// Of the program itself, then of each of its commands; in the order in which they were described.
std::vector<OfferedCommand> offered(const Manual& manual);

} // namespace pyro
