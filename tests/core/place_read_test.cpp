#include "core/gauge/place_read.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

// Reading within a triangle of nodes 0, 1 and the one above: exact for a linear field, the cell's own for a cell field.
TEST(PlaceRead, ReadsEveryQuantityThePartHas) {
    const TempFolder folder;
    auto part = boxPart("box", {{1, 1, 1}, {2, 2, 2}});
    addNodeField(part, "T [degC]", [](const Point& at) { return 20 + 10 * at[0] + 4 * at[2]; });
    addCellField(part, "number", [](const Point& at) { return 100 * at[0]; });
    part.arrays.push_back({"heat_flux", Location::Node, 3, {}});
    for (std::size_t i = 0; i < part.points.size() / 3; ++i)
        for (const double component : {3.0, 0.0, 4.0})
            part.arrays.back().values.push_back(component);
    ASSERT_TRUE(writeBlock(part, folder / "box.vtu"));
    const auto opened = mustOpen(folder / "box.vtu");
    const auto list = recognise(*opened.solved, {});
    ASSERT_TRUE(list);
    const SurfacePlace place{0, {0, 1, 9}, {0.5, 0.25, 0.25}, 0, {}}; // nodes at (0,0,0), (0.5,0,0), (0,0,0.5)
    std::map<std::string, double> read;
    for (const auto& reading : readPlace(*opened.solved, *list, place))
        read[reading.quantity->name] = reading.value;
    EXPECT_NEAR(read.at("temperature"), 273.15 + 20 + 10 * 0.125 + 4 * 0.125, 1e-9);
    EXPECT_NEAR(read.at("number"), 25, 1e-9);
    EXPECT_NEAR(read.at("heat_flux"), 5, 1e-12);
    EXPECT_EQ(read.size(), 3U);
}
