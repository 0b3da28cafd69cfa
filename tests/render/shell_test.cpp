// The outer shell of an assembly: without the faces in which parts touch, and without what lies within.
#include "render/shell_picture.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

TEST(OuterShell, LeavesOutWherePartsTouchAndWhatLiesWithin) {
    const TempFolder folder;
    auto left = boxPart("left", {{1, 1, 1}, {2, 2, 2}});
    auto right = boxPart("right", {{1, 1, 1}, {2, 2, 2}, {1, 0, 0}});
    auto inner = boxPart("inner", {{0.2, 0.2, 0.2}, {1, 1, 1}, {0.4, 0.4, 0.4}}); // in a cavity
    auto beside = boxPart("beside", {{1, 1, 1}, {1, 1, 1}, {3, 0, 0}});
    for (auto* part : {&left, &right, &inner, &beside})
        addNodeField(*part, "T [K]", [](const Point&) { return 300; });
    ASSERT_TRUE(writeCase({left, right, inner, beside}, folder / "four.vtm"));
    const auto shell = makeShell(mustOpen(folder / "four.vtm"));
    // 10 sides of 4 squares, two triangles each, and the 6 sides of the box beside
    EXPECT_EQ(shell.triangles.size() / 3, 10U * 4 * 2 + 6U * 2);
    for (std::size_t i = 0; i < shell.points.size(); i += 3)
        EXPECT_FALSE(shell.points[i] > 0.3F && shell.points[i] < 0.7F && shell.points[i + 1] > 0.3F &&
                     shell.points[i + 1] < 0.45F)
            << "a corner of the box within";
    // each half has 12 edges less the 4 around the common face, which is open and so drawn, in two pieces each
    EXPECT_EQ(shell.edges.size() / 2, 2U * 12 * 2 + 12U);
}
