// Gradients of linear fields are exact on every cell type, warped or not.
#include "core/field/gradient.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

class GradientTest : public testing::TestWithParam<Cells> {};

TEST_P(GradientTest, OfALinearFieldIsExact) {
    const TempFolder folder;
    auto block = boxPart("box", {{1, 2, 0.5}, {9, 8, 10}, {0, 0, 0}, 0.02}, GetParam());
    addNodeField(block, "T", [](const Point& at) { return 300 + 7 * at[0] - 11 * at[1] + 13 * at[2]; });
    ASSERT_TRUE(writeBlock(block, folder / "box.vtu"));
    const auto opened = mustOpen(folder / "box.vtu");
    const auto& part = opened.solved->parts[0];
    const Point expected{7, -11, 13};
    const auto values = part.find("T", Location::Node)->values;
    const auto inCells = cellGradient(part, values);
    const auto atNodes = nodeGradient(part, values);
    ASSERT_EQ(inCells.size(), 3 * part.mesh.cells());
    ASSERT_EQ(atNodes.size(), 3 * part.mesh.nodes());
    // The file holds its points as float: 1e-10 holds for the points as stored, so the field is taken from these.
    std::vector<double> exact;
    for (std::size_t node = 0; node < part.mesh.nodes(); ++node) {
        const auto at = part.mesh.node(node);
        exact.push_back(300 + 7 * at[0] - 11 * at[1] + 13 * at[2]);
    }
    const auto cells = cellGradient(part, RealView(std::span<const double>(exact)));
    const auto nodes = nodeGradient(part, RealView(std::span<const double>(exact)));
    for (std::size_t i = 0; i < cells.size(); ++i)
        EXPECT_NEAR(cells[i], expected[i % 3], 1e-10);
    for (std::size_t i = 0; i < nodes.size(); ++i)
        EXPECT_NEAR(nodes[i], expected[i % 3], 1e-10);
}
INSTANTIATE_TEST_SUITE_P(AllCells, GradientTest, testing::Values(Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids));

TEST(Gradient, KeepsWhatIsUnknownUnknown) {
    const TempFolder folder;
    auto block = boxPart("box", {{1, 1, 1}, {2, 1, 1}});
    addNodeField(block, "T", [](const Point& at) { return at[0] == 0 && at[1] == 0 && at[2] == 0 ? NAN : at[0]; });
    ASSERT_TRUE(writeBlock(block, folder / "box.vtu"));
    const auto opened = mustOpen(folder / "box.vtu");
    const auto& part = opened.solved->parts[0];
    const auto cells = cellGradient(part, part.find("T", Location::Node)->values);
    EXPECT_TRUE(std::isnan(cells[0]));
    EXPECT_NEAR(cells[3], 1, 1e-12);
}
