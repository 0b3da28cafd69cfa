// How much of a part is hotter than a value, against exact volumes.
#include "core/field/volume_above.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <fmt/format.h>
#include <gtest/gtest.h>
#include <numbers>
#include <random>

using namespace pyro;
using namespace pyro::test;

namespace {

OpenedCase opened(const TempFolder& folder, const BoxMesh& box, Cells cells, const Field& field) {
    auto part = boxPart("box", box, cells);
    addNodeField(part, "T", field);
    addCellField(part, "C", field);
    EXPECT_TRUE(writeBlock(part, folder / "box.vtu"));
    return mustOpen(folder / "box.vtu");
}

VolumeAbove above(const OpenedCase& one, const char* array, Location on, double level) {
    return volumeAbove(one.solved->parts[0], *one.solved->parts[0].find(array, on), one.index->parts[0].cellMeasure,
                       level);
}

class VolumeAboveTest : public testing::TestWithParam<Cells> {};

} // namespace

// The part of a tetrahedron above a plane, counted by a million random places (barycentric coordinates of even density
// are the gaps between sorted random numbers).
TEST(ShareAbove, AgreesWithCounting) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> even(0, 1);
    for (const auto& corner : {std::array{0.0, 1.0, 2.0, 3.0}, std::array{5.0, -1.0, 0.5, 0.5},
                               std::array{1.0, 1.0, 0.0, 0.0}, std::array{0.0, 0.0, 0.0, 1.0}})
        for (const double level : {0.1, 0.5, 0.9, 1.7}) {
            int hits = 0;
            constexpr int all = 200'000;
            for (int i = 0; i < all; ++i) {
                std::array<double, 3> cut{even(random), even(random), even(random)};
                std::ranges::sort(cut);
                const double value = corner[0] * cut[0] + corner[1] * (cut[1] - cut[0]) +
                                     corner[2] * (cut[2] - cut[1]) + corner[3] * (1 - cut[2]);
                hits += value > level ? 1 : 0;
            }
            EXPECT_NEAR(shareAbove(corner, level), static_cast<double>(hits) / all, 0.005)
                << corner[0] << ' ' << corner[1] << ' ' << level;
        }
    EXPECT_EQ(shareAbove({1, 1, 1, 1}, 1), 0) << "a value is not above itself";
    EXPECT_EQ(shareAbove({2, 2, 2, 2}, 1), 1);
}

// A linear field on a box: the volume above is that of the box beyond a tilted plane; here x + y + z > 1 in the unit
// cube leaves out a corner of 1/6.
TEST_P(VolumeAboveTest, ALinearFieldGivesTheExactVolume) {
    const TempFolder folder;
    const auto one = opened(folder, {{1, 1, 1}, {4, 5, 3}}, GetParam(),
                            [](const Point& at) { return at[0] + at[1] + at[2]; });
    EXPECT_NEAR(above(one, "T", Location::Node, 1).volume, 5.0 / 6, 1e-12);
    EXPECT_NEAR(above(one, "T", Location::Node, 1.5).volume, 0.5, 1e-12);
    EXPECT_NEAR(above(one, "T", Location::Node, 2).share(), 1.0 / 6, 1e-12);
    EXPECT_EQ(above(one, "T", Location::Node, 3).volume, 0);
    EXPECT_NEAR(above(one, "T", Location::Node, -1).volume, 1, 1e-12);
}
INSTANTIATE_TEST_SUITE_P(All, VolumeAboveTest,
                         testing::Values(Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids));

// The ball r < 0.4 within a cube; the error falls with the square of the cells' size.
TEST(VolumeAbove, ABallConverges) {
    const auto field = [](const Point& at) { return -std::hypot(at[0] - 0.5, at[1] - 0.5, at[2] - 0.5); };
    std::array<double, 2> error{};
    for (std::size_t i = 0; i < 2; ++i) {
        const TempFolder folder;
        const int n = i == 0 ? 10 : 20;
        const auto one = opened(folder, {{1, 1, 1}, {n, n, n}}, Cells::Hexahedra, field);
        error[i] = above(one, "T", Location::Node, -0.4).volume - 4.0 / 3 * std::numbers::pi * 0.064;
    }
    EXPECT_LT(std::abs(error[0]), 0.01);
    EXPECT_NEAR(error[0] / error[1], 4, 0.8);
}

TEST(VolumeAbove, CellValuesCountForWholeCellsAndNanForNothing) {
    const TempFolder folder;
    auto part = boxPart("box", {{1, 1, 1}, {4, 1, 1}});
    part.arrays.push_back({"C", Location::Cell, 1, {1, 2, std::nan(""), 4}});
    part.arrays.push_back({"T", Location::Node, 1, std::vector<double>(part.points.size() / 3, 1.0)});
    part.arrays.back().values[0] = std::nan("");
    ASSERT_TRUE(writeBlock(part, folder / "box.vtu"));
    const auto one = mustOpen(folder / "box.vtu");
    const auto cells = above(one, "C", Location::Cell, 1.5);
    EXPECT_NEAR(cells.volume, 0.5, 1e-12);
    EXPECT_NEAR(cells.whole, 0.75, 1e-12);
    EXPECT_NEAR(above(one, "T", Location::Node, 0).whole, 0.75, 1e-12) << "the cell with the NaN is left out";
}

// As statistics of a gauge: T = 300 + 10 x over a box of 2 x 1 x 1, above 312 from x = 1.2 on.
TEST(AboveStatistic, VolumesOfPartsAndAreasOfSurfaces) {
    TempFolder folder;
    for (const auto cells : {Cells::Hexahedra, Cells::Tetrahedra}) {
        const auto one = opened(folder, {{2, 1, 1}, {3, 2, 2}}, cells,
                                [](const Point& at) { return 300 + 10 * at[0]; });
        const auto read = [&](const char* where, const char* statistic, const char* quantity = "temperature") {
            const auto gauge = Json::parse(
                fmt::format(R"({{"id": "g", "where": {}, "quantity": "{}", "statistic": "{}", "level": "312 K"}})",
                            where, quantity, statistic));
            return readGauge(one, gauge,
                             Json::parse(R"({"case": {"quantities": {"temperature": {"array": "T", "unit": "K"}}}})"));
        };
        EXPECT_NEAR(read(R"({"part": "box"})", "volume_above").value.value_or(-1), 0.8, 1e-9);
        EXPECT_EQ(read(R"({"part": "box"})", "volume_above").unit, "m3");
        EXPECT_NEAR(read(R"({"boundary": "y max"})", "area_above").value.value_or(-1), 0.8, 1e-9);
        EXPECT_NEAR(read(R"({"boundary": ["y max", "y min"]})", "area_above").value.value_or(-1), 1.6, 1e-9);
        EXPECT_EQ(read(R"({"boundary": "y max"})", "area_above").unit, "m2");
        EXPECT_NEAR(read(R"({"plane": {"origin": [1.5, 0, 0], "normal": [1, 0, 0]}})", "area_above").value.value_or(-1),
                    1, 1e-9);
        EXPECT_FALSE(read(R"({"part": "box"})", "area_above").value) << "a part has no area";
        EXPECT_FALSE(read(R"({"boundary": "y max"})", "volume_above").value);
    }
    std::array<double, 3> corner{0, 1, 3};
    EXPECT_NEAR(shareAbove(corner, 0.5), 1 - 0.5 * 0.5 / 3, 1e-12);
    EXPECT_NEAR(shareAbove(corner, 2), 1.0 / 3 / 2, 1e-12);
    EXPECT_EQ(shareAbove(corner, 3), 0);
}
