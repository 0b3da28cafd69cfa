// The commands that draw are those of another program, so that evaluating needs neither Qt nor OpenGL.
#pragma once

#include <ostream>
#include <string>
#include <vector>

namespace pyro::cli {

// Runs pyrometer-pages, which is installed with this program, with the same words; returns its exit status, 2 when it
// cannot be run.
int runPages(const std::vector<std::string>& words, std::ostream& err);

} // namespace pyro::cli
