#pragma once

#include <ostream>
#include <string>

namespace pyro::cli {

struct InspectWords {
    std::string file;
    std::string json; // empty: no JSON
};
// Lists parts, boundaries, quantities, steps and remarks of a case file.
int inspect(const InspectWords& words, std::ostream& out, std::ostream& err);

} // namespace pyro::cli
