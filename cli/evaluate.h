#pragma once

#include "manual/words.h"

#include <ostream>

namespace pyro::cli {

// Evaluates a survey, prints the verdict table and writes what is asked for. Returns the exit status.
int evaluate(const EvaluateWords& words, std::ostream& out, std::ostream& err);

} // namespace pyro::cli
