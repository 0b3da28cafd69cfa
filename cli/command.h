// cli: pyrometer-cli as a function on streams, so that tests run it without a process.
#pragma once

#include <ostream>
#include <string>
#include <vector>

namespace pyro::cli {

// Runs one command line (without the program's name). Returns the exit status of docs/formats.md: 0 nothing over,
// 1 over, 2 wrong input or usage, 3 internal failure, 4 unknown.
int run(const std::vector<std::string>& words, std::ostream& out, std::ostream& err);

} // namespace pyro::cli
