// One run of pyrometer-rig: solve, tell how it goes, write the case and its history as they come.
#pragma once

#include "rig/solve.h"

#include <filesystem>

namespace pyro::rig {

struct RunOrder {
    std::filesystem::path input;
    std::filesystem::path output;  // .vtm
    std::filesystem::path history; // .csv, one line per step or grid, as they come; empty: none
};

// A transient gives numbered files. Prints one line per result. Errors: those of loadModel, makeGrid, solve, writeCase.
Done run(const RunOrder& order, Progress& progress);

} // namespace pyro::rig
