// Pinned labels: equal to the field at their place, on another step too, and honest where there is nothing to read.
#include "render/pinned_labels.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

class LabelTest : public testing::Test {
protected:
    FieldPicture picture(double offset, const char* quantity = "temperature") {
        auto left = boxPart("left", {{0.1, 0.1, 0.1}, {4, 4, 4}});
        auto right = boxPart("right", {{0.1, 0.1, 0.1}, {3, 3, 3}, {0.1, 0, 0}});
        addNodeField(left, "temperature", [offset](const Point& at) { return offset + 100 * at[0] + 50 * at[2]; });
        addNodeField(right, "temperature", [offset](const Point& at) { return offset + 100 * at[0] + 50 * at[2]; });
        addCellField(left, "number", [](const Point& at) { return at[0]; });
        const auto file = folder / ("pair" + std::to_string(static_cast<int>(offset)) + ".vtm");
        EXPECT_TRUE(writeCase({left, right}, file));
        const auto opened = mustOpen(file);
        orders = *makeOrders(opened, progress);
        return *makePicture(opened, *recognise(*opened.solved, {})->named(quantity), nullptr, progress);
    }
    TempFolder folder;
    NoProgress progress;
    CellOrders orders;
};

} // namespace

TEST_F(LabelTest, AreReadAtTheirPlaceOnEveryCase) {
    const std::vector<Point> places{{0.03, 0.02, 0.07}, {0.15, 0.05, 0.05}};
    for (const double offset : {300.0, 350.0}) {
        const auto labels = readLabels(picture(offset), orders, places);
        ASSERT_EQ(labels.size(), 2U);
        EXPECT_EQ(labels[0].part, std::optional<std::size_t>(0));
        EXPECT_NEAR(*labels[0].value, offset + 3 + 3.5, 1e-5);
        EXPECT_EQ(labels[1].part, std::optional<std::size_t>(1));
        EXPECT_NEAR(*labels[1].value, offset + 15 + 2.5, 1e-5);
    }
}

TEST_F(LabelTest, SayWhereThereIsNothingToRead) {
    const std::vector<Point> places{{0.03, 0.02, 0.07}, {0.15, 0.05, 0.05}, {5, 5, 5}};
    const auto labels = readLabels(picture(300, "number"), orders, places);
    EXPECT_NEAR(*labels[0].value, 0.0375, 1e-6) << "the cell's own value";
    EXPECT_TRUE(labels[1].part);
    EXPECT_FALSE(labels[1].value) << "the right part has no such array";
    EXPECT_FALSE(labels[2].part);
    EXPECT_FALSE(labels[2].value);
    EXPECT_TRUE(readLabels(picture(300), orders, {}).empty());
}

TEST_F(LabelTest, APlaceOnTheSurfaceIsPutJustWithin) {
    const auto made = picture(300);
    const auto& part = made.opened.solved->parts[0];
    const Point beyond{0.05, 0.05, 0.1 + 2e-9}; // outside by rounding
    const auto& shell = made.opened.index->parts[0].shell;
    std::uint32_t cell = 0;
    for (std::size_t face = 0; face < shell.faces(); ++face)
        for (const auto node : shell.face(face))
            if (part.mesh.node(node)[2] > 0.0999 && std::abs(part.mesh.node(node)[0] - 0.05) < 1e-6)
                cell = shell.cell[face];
    const std::vector<Point> places{withinCell(part, cell, beyond)};
    const auto labels = readLabels(made, orders, places);
    ASSERT_TRUE(labels[0].value);
    EXPECT_NEAR(*labels[0].value, 300 + 5 + 5, 1e-3);
}
