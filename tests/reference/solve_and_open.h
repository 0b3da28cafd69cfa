// A case solved by the rig and read back through its file.
#pragma once

#include "rig/result.h"
#include "tests/support/meshes.h"

#include <gtest/gtest.h>

namespace pyro::test {

inline OpenedCase solveAndOpen(const std::string& text, const std::filesystem::path& file) {
    const auto model = rig::modelFromText(text, "reference");
    if (!model) {
        ADD_FAILURE() << model.error().text();
        return {};
    }
    const auto grid = rig::makeGrid(*model);
    NoProgress progress;
    const auto solution = grid ? rig::solve(*model, *grid, progress) : tl::unexpected(grid.error());
    if (!solution) {
        ADD_FAILURE() << solution.error().text();
        return {};
    }
    EXPECT_TRUE(writeCase(rig::toBlocks(*model, *grid, *solution), file));
    return mustOpen(file);
}

} // namespace pyro::test
