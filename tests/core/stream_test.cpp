// Interpolation and streamlines against exact fields.
#include "core/field/sample.h"
#include "core/field/stream.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>

using namespace pyro;
using namespace pyro::test;

namespace {

OpenedCase openBox(const TempFolder& folder, const BoxMesh& box, Cells cells,
                   const std::function<Point(const Point&)>& vector, Location on = Location::Node) {
    auto part = boxPart("box", box, cells);
    addNodeField(part, "T", [](const Point& at) { return at[0] * at[1] * at[2] + 3 * at[0] * at[1] - at[2] + 2; });
    ArrayData array{"v", on, 3, {}};
    ArrayData centres{"", Location::Cell, 1, {}};
    if (on == Location::Node) {
        for (std::size_t i = 0; i < part.points.size(); i += 3)
            for (const double component : vector({part.points[i], part.points[i + 1], part.points[i + 2]}))
                array.values.push_back(component);
    } else {
        for (std::size_t cell = 0; cell + 1 < part.offsets.size(); ++cell)
            for (const double component : vector({0.5, 0.5, 0.5}))
                array.values.push_back(component);
    }
    part.arrays.push_back(std::move(array));
    EXPECT_TRUE(writeBlock(part, folder / "box.vtu"));
    return mustOpen(folder / "box.vtu");
}

class LocateTest : public testing::TestWithParam<Cells> {};

} // namespace

// A trilinear field on an undistorted hexahedral grid is what the shape functions represent: exact at any point. On the
// other cells only its nodes are.
TEST(Locate, ATrilinearFieldIsSampledExactly) {
    const TempFolder folder;
    const auto opened = openBox(folder, {{1, 2, 1.5}, {5, 4, 6}}, Cells::Hexahedra, [](const Point&) {
        return Point{1, 0, 0};
    });
    const auto& part = opened.solved->parts[0];
    const auto order = cellOrder(part);
    const PointLocator locator(part, order);
    const auto& field = part.find("T", Location::Node)->values;
    for (int i = 0; i < 200; ++i) {
        const Point at{std::fmod(0.137 * i, 1), std::fmod(0.713 * i, 2), std::fmod(0.391 * i, 1.5)};
        const auto place = locator.find(at);
        ASSERT_TRUE(place) << i;
        EXPECT_NEAR(valueAt(part, *place, field), at[0] * at[1] * at[2] + 3 * at[0] * at[1] - at[2] + 2, 1e-12);
    }
    // The same by the two ways for many places, some of which lie outside.
    std::vector<Point> places;
    for (int i = 0; i < 3000; ++i)
        places.push_back(
            {std::fmod(0.137 * i, 1.1) - 0.05, std::fmod(0.713 * i, 2.1) - 0.05, std::fmod(0.391 * i, 1.5)});
    const auto kept = sampleAll(part, locator, field, places);
    const auto first = sampleAll(part, field, places);
    int outside = 0;
    for (std::size_t i = 0; i < places.size(); ++i) {
        const auto& at = places[i];
        // the rim belongs to it
        const bool inside = at[0] > -1e-9 && at[0] < 1 + 1e-9 && at[1] > -1e-9 && at[1] < 2 + 1e-9;
        outside += inside ? 0 : 1;
        for (const double value : {kept[i], first[i]}) {
            ASSERT_EQ(std::isnan(value), !inside) << at[0] << ' ' << at[1];
            if (!inside)
                continue;
            EXPECT_NEAR(value, at[0] * at[1] * at[2] + 3 * at[0] * at[1] - at[2] + 2, 1e-12);
        }
    }
    EXPECT_GT(outside, 100);
    EXPECT_TRUE(sampleAll(part, field, {}).empty());
    EXPECT_FALSE(locator.find({-0.001, 1, 1}));
    EXPECT_FALSE(locator.find({0.5, 2.001, 1}));
    EXPECT_TRUE(locator.find({0, 2, 1.5})) << "a corner of the part lies inside";
}

TEST_P(LocateTest, ALinearFieldIsSampledExactlyOnWarpedCells) {
    const TempFolder folder;
    auto block = boxPart("box", {{1, 1, 1}, {4, 5, 6}, {0, 0, 0}, 0.03}, GetParam());
    addNodeField(block, "T", [](const Point& at) { return 3 * at[0] - 2 * at[1] + 5 * at[2]; });
    ASSERT_TRUE(writeBlock(block, folder / "box.vtu"));
    const auto opened = mustOpen(folder / "box.vtu");
    const auto& part = opened.solved->parts[0];
    const auto order = cellOrder(part);
    const PointLocator locator(part, order);
    int found = 0;
    for (int i = 0; i < 200; ++i) {
        const Point at{std::fmod(0.137 * i, 1), std::fmod(0.713 * i, 1), std::fmod(0.391 * i, 1)};
        if (const auto place = locator.find(at)) {
            ++found;
            EXPECT_NEAR(valueAt(part, *place, part.find("T", Location::Node)->values),
                        3 * at[0] - 2 * at[1] + 5 * at[2], 1e-5);
        }
    }
    EXPECT_GE(found, 196); // the warped faces of split pyramids leave slits thinner than these few points
}
INSTANTIATE_TEST_SUITE_P(AllCells, LocateTest,
                         testing::Values(Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids));

// Solid-body rotation about the z axis through (0.5, 0.5): circles, closed after one turn.
TEST_P(LocateTest, StreamlinesOfSolidBodyRotationClose) {
    const TempFolder folder;
    const auto opened = openBox(folder, {{1, 1, 0.2}, {20, 20, 4}}, GetParam(), [](const Point& at) {
        return Point{-(at[1] - 0.5), at[0] - 0.5, 0};
    });
    const std::vector<CellOrder> orders{cellOrder(opened.solved->parts[0])};
    const VectorField field(*opened.solved, orders, "v", Location::Node);
    const double radius = 0.37;
    StreamRule rule;
    rule.backwards = false;
    rule.longest = 2 * std::numbers::pi * radius;
    const auto line = traceStream(field, {0.5 + radius, 0.5, 0.1}, rule);
    ASSERT_GT(line.size(), 50U);
    for (const auto& point : line)
        EXPECT_NEAR(std::hypot(point.at[0] - 0.5, point.at[1] - 0.5), radius, 1e-3 * radius);
    EXPECT_NEAR(std::hypot(line.back().at[0] - 0.5 - radius, line.back().at[1] - 0.5), 0,
                1e-3 * 2 * std::numbers::pi * radius);
}

TEST(Stream, EndsAtTheWallsAndNeedsAField) {
    const TempFolder folder;
    const auto opened = openBox(
        folder, {{1, 1, 1}, {5, 5, 5}}, Cells::Hexahedra,
        [](const Point&) {
            return Point{2, 0, 0};
        },
        Location::Cell);
    const std::vector<CellOrder> orders{cellOrder(opened.solved->parts[0])};
    const VectorField field(*opened.solved, orders, "v", Location::Cell);
    const auto line = traceStream(field, {0.4, 0.3, 0.6}, {});
    ASSERT_GT(line.size(), 5U);
    EXPECT_NEAR(line.front().at[0], 0, 0.06);
    EXPECT_NEAR(line.back().at[0], 1, 0.06);
    for (const auto& point : line) {
        EXPECT_NEAR(point.at[1], 0.3, 1e-12);
        EXPECT_NEAR(point.at[2], 0.6, 1e-12);
    }
    EXPECT_TRUE(traceStream(field, {1.4, 0.3, 0.6}, {}).empty()) << "a seed outside";
    const VectorField none(*opened.solved, orders, "w", Location::Node);
    EXPECT_TRUE(traceStream(none, {0.4, 0.3, 0.6}, {}).empty());
}

// T = 100 - 30 x: downhill runs along x.
TEST(Stream, RunsDownhill) {
    const TempFolder folder;
    auto part = boxPart("box", {{1, 1, 1}, {5, 5, 5}});
    addNodeField(part, "T", [](const Point& at) { return 100 - 30 * at[0]; });
    ASSERT_TRUE(writeBlock(part, folder / "box.vtu"));
    const auto opened = mustOpen(folder / "box.vtu");
    const std::vector<CellOrder> orders{cellOrder(opened.solved->parts[0])};
    const auto field = VectorField::downhill(*opened.solved, orders, "T");
    const auto here = field.at({0.31, 0.2, 0.7});
    ASSERT_TRUE(here);
    EXPECT_NEAR(here->vector[0], 30, 1e-4);
    const auto line = traceStream(field, {0.31, 0.2, 0.7}, {});
    EXPECT_LT(line.front().at[0], 0.06);
    EXPECT_GT(line.back().at[0], 0.94);
}
