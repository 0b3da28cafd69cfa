#pragma once

#include "manual/words.h"

#include <ostream>

namespace pyro::cli {

// Lists parts, boundaries, quantities, steps and remarks of a case file.
int inspect(const InspectWords& words, std::ostream& out, std::ostream& err);

} // namespace pyro::cli
