// The demo that the examples of --help name, on grids that are solved in seconds.
#pragma once

#include "rig/solve_demo.h"

namespace pyro::test {

inline Result<std::filesystem::path> solveCoarseTelemetry(const std::filesystem::path& folder) {
    NoProgress progress;
    auto demo = *shippedDemo("telemetry");
    for (auto& one : demo.cases)
        one.coarser *= 3;
    return rig::solveDemo(demo, folder, progress);
}

} // namespace pyro::test
