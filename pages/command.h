// The commands of pyrometer-cli that draw: report and render, in a program of their own, so that evaluating needs
// neither Qt nor OpenGL.
#pragma once

#include <ostream>
#include <string>
#include <vector>

namespace pyro::pages {

// Words as behind "pyrometer-cli". Returns the exit status: of a report as of evaluate, else 0; 2 when something cannot
// be read, drawn or written; 3 an internal failure.
int run(const std::vector<std::string>& words, std::ostream& out, std::ostream& err);

} // namespace pyro::pages
