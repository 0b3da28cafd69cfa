// Sections and level surfaces against exact areas and means, on every cell type.
#include "core/field/cut.h"
#include "core/field/cut_table.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>
#include <numbers>

using namespace pyro;
using namespace pyro::test;

namespace {

class CutTest : public testing::TestWithParam<Cells> {
protected:
    OpenedCase box(const BoxMesh& mesh, const Field& field) {
        auto part = boxPart("box", mesh, GetParam());
        addNodeField(part, "T", field);
        addCellField(part, "number", [](const Point&) { return 7.0; });
        EXPECT_TRUE(writeBlock(part, folder / "box.vtu"));
        return mustOpen(folder / "box.vtu");
    }
    TempFolder folder;
};

void checkBlock(const Region& part, const CellBlock& box, const BlockCells& block) {
    const auto* corner = block.corners;
    for (const auto cell : block.cells)
        for (const auto node : part.mesh.cell(cell)) {
            EXPECT_EQ(block.nodes[*corner++], node);
            for (std::size_t axis = 0; axis < 3; ++axis) {
                EXPECT_LE(box.low[axis], part.mesh.node(node)[axis]);
                EXPECT_GE(box.high[axis], part.mesh.node(node)[axis]);
            }
        }
}

double linear(const Point& at) { return 300 + 40 * at[0] - 25 * at[1] + 10 * at[2]; }

} // namespace

TEST_P(CutTest, OrderHoldsEveryCellOnceInItsBox) {
    const auto opened = box({{1, 2, 3}, {7, 9, 11}, {0, 0, 0}, 0.02}, linear);
    const auto& part = opened.solved->parts[0];
    const auto order = cellOrder(part);
    std::vector<std::uint32_t> cells;
    for (std::size_t block = 0; block < order.blocks.size(); ++block)
        cells.insert(cells.end(), order.block(block).cells.begin(), order.block(block).cells.end());
    std::ranges::sort(cells);
    ASSERT_EQ(cells.size(), part.mesh.cells());
    for (std::size_t i = 0; i < cells.size(); ++i)
        EXPECT_EQ(cells[i], i);
    for (std::size_t block = 0; block < order.blocks.size(); ++block)
        checkBlock(part, order.blocks[block], order.block(block));
}

// Analytic: a plane through the cube's diagonal along z has the area sqrt(2), and a linear field its value at the
// centre as mean; the plane x + y + z = 1.5 cuts the unit cube in a regular hexagon of area 3 sqrt(3) / 4.
TEST_P(CutTest, SectionOfACubeHasExactAreaAndMean) {
    const auto opened = box({{1, 1, 1}, {6, 5, 4}}, linear);
    const auto& part = opened.solved->parts[0];
    const auto order = cellOrder(part);
    const auto* field = part.find("T", Location::Node);
    const struct {
        Plane plane;
        double area;
    } rows[]{{{{0.5, 0.5, 0.5}, {1, -1, 0}}, std::numbers::sqrt2},
             {{{0.5, 0.5, 0.5}, {1, 1, 1}}, 3 * std::numbers::sqrt3 / 4},
             {{{0.5, 0.5, 0.5}, {0, 0, 2}}, 1.0}, // lies in faces of the mesh
             {{{0.5, 0.5, 0.31}, {0, 0, -1}}, 1.0}};
    for (const auto& row : rows) {
        const auto plane = withUnitNormal(row.plane);
        ASSERT_TRUE(plane);
        const auto cut = section(part, order, *plane);
        const auto sums = sumsOn(cut, valuesOn(cut, *field));
        EXPECT_NEAR(sums.area, row.area, 1e-12);
        EXPECT_NEAR(sums.integral / sums.area, linear(row.plane.origin), 1e-9);
        for (std::size_t i = 0; i < cut.vertices.size(); ++i)
            EXPECT_NEAR(distanceTo(*plane, cut.points[i]), 0, 1e-12);
        const auto numbers = sumsOn(cut, valuesOn(cut, *part.find("number", Location::Cell)));
        EXPECT_NEAR(numbers.integral, 7 * row.area, 1e-11);
    }
}

// The cube turned about z by 0.3 rad and about x by 0.5 rad; the plane turned with it must give the same section.
TEST_P(CutTest, SectionOfARotatedCube) {
    const auto turned = [](const Point& p) {
        const Point q{std::cos(0.3) * p[0] - std::sin(0.3) * p[1], std::sin(0.3) * p[0] + std::cos(0.3) * p[1], p[2]};
        return Point{q[0], std::cos(0.5) * q[1] - std::sin(0.5) * q[2], std::sin(0.5) * q[1] + std::cos(0.5) * q[2]};
    };
    auto block = boxPart("cube", {{1, 1, 1}, {5, 4, 6}}, GetParam());
    addNodeField(block, "T", linear); // of the cube before it is turned
    for (std::size_t i = 0; i < block.points.size(); i += 3) {
        const auto at = turned({block.points[i], block.points[i + 1], block.points[i + 2]});
        std::ranges::copy(at, block.points.begin() + static_cast<std::ptrdiff_t>(i));
    }
    ASSERT_TRUE(writeBlock(block, folder / "turned.vtu"));
    const auto opened = mustOpen(folder / "turned.vtu");
    const auto& part = opened.solved->parts[0];
    const auto plane = withUnitNormal({turned({0.5, 0.5, 0.5}), turned({1, 1, 1})});
    const auto cut = section(part, cellOrder(part), *plane);
    const auto sums = sumsOn(cut, valuesOn(cut, *part.find("T", Location::Node)));
    EXPECT_NEAR(sums.area, 3 * std::numbers::sqrt3 / 4, 1e-12);
    EXPECT_NEAR(sums.integral / sums.area, linear({0.5, 0.5, 0.5}), 1e-9);
}

TEST_P(CutTest, LevelSurfaceOfALinearFieldIsAPlane) {
    const auto opened = box({{1, 1, 1}, {6, 5, 4}}, [](const Point& at) { return at[0] + at[1] + at[2]; });
    const auto& part = opened.solved->parts[0];
    const auto order = cellOrder(part);
    const auto& field = *part.find("T", Location::Node);
    const auto ranges = blockRanges(order, field);
    const auto cut = levelSurface(part, order, ranges, field.values, 1.5);
    EXPECT_NEAR(sumsOn(cut, valuesOn(cut, field)).area, 3 * std::numbers::sqrt3 / 4, 1e-12);
    for (const double value : valuesOn(cut, field))
        EXPECT_NEAR(value, 1.5, 1e-12);
    EXPECT_TRUE(levelSurface(part, order, ranges, field.values, 3.5).empty());
}

// Distance from the centre: the surface of one value is a sphere. Along an edge of length L the distance is replaced by
// its linear interpolant, which is off by at most L^2 / (8 r); the longest edge here is the cells' diagonal.
TEST_P(CutTest, LevelSurfaceOfADistanceIsASphere) {
    const Point centre{0.5, 0.5, 0.5};
    const auto opened = box({{1, 1, 1}, {20, 20, 20}}, [&](const Point& at) {
        return std::hypot(at[0] - centre[0], at[1] - centre[1], at[2] - centre[2]);
    });
    const auto& part = opened.solved->parts[0];
    const auto order = cellOrder(part);
    const auto& field = *part.find("T", Location::Node);
    const auto cut = levelSurface(part, order, blockRanges(order, field), field.values, 0.35);
    for (std::size_t i = 0; i < cut.vertices.size(); ++i)
        EXPECT_NEAR(std::hypot(cut.points[i][0] - 0.5, cut.points[i][1] - 0.5, cut.points[i][2] - 0.5), 0.35,
                    3 * 0.05 * 0.05 / (8 * 0.33));
    EXPECT_NEAR(sumsOn(cut, valuesOn(cut, field)).area, 4 * std::numbers::pi * 0.35 * 0.35, 0.01);
}

INSTANTIATE_TEST_SUITE_P(AllCells, CutTest,
                         testing::Values(Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids));

TEST(Cut, EveryPatternGivesClosedRings) {
    for (const auto type : {CellType::Tetrahedron, CellType::Hexahedron, CellType::Wedge, CellType::Pyramid}) {
        const auto* table = cutTable(type);
        const auto patterns = 1U << cellShape(type)->corners;
        for (std::uint32_t pattern = 0; pattern < patterns; ++pattern) {
            const auto rings = table->polygons(pattern);
            std::vector<int> used(table->edges.size());
            for (std::size_t at = 0; at < rings.size(); at += rings[at] + std::size_t{1}) {
                EXPECT_GE(rings[at], 3);
                for (const auto edge : rings.subspan(at + 1, rings[at]))
                    ++used[edge];
            }
            // just the edges with one upper corner, once each
            for (std::size_t edge = 0; edge < used.size(); ++edge) {
                const bool crosses = (pattern >> table->edges[edge][0] & 1U) != (pattern >> table->edges[edge][1] & 1U);
                EXPECT_EQ(used[edge], crosses ? 1 : 0);
            }
        }
    }
}

TEST(Cut, APlaneWithoutNormalIsRefused) {
    EXPECT_FALSE(withUnitNormal({{0, 0, 0}, {0, 0, 0}}));
    EXPECT_FALSE(withUnitNormal({{0, 0, 0}, {NAN, 0, 1}}));
    EXPECT_FALSE(withUnitNormal({{INFINITY, 0, 0}, {0, 0, 1}}));
    EXPECT_DOUBLE_EQ(withUnitNormal({{0, 0, 0}, {0, 3, 4}})->normal[2], 0.8);
}

TEST(PlaneWithin, NeverLiesInASideOfTheBox) {
    const std::array<double, 6> box{0, 1, 0, 2, 0, 0.1};
    EXPECT_EQ(planeWithin(box, {0.5, 1, 0.05}).normal, (Point{0, -1, 0}));
    const auto side = planeWithin(box, {0.5, 2, 0.05});
    EXPECT_EQ(side.normal, (Point{0, -1, 0}));
    EXPECT_NEAR(side.origin[1], 1.96, 1e-12) << "the place lies in the side at y = 2";
    const auto corner = planeWithin(box, {0, 0, 0.1});
    EXPECT_EQ(corner.normal, (Point{0, 0, 1})) << "across the thinnest extent";
    EXPECT_NEAR(corner.origin[2], 0.098, 1e-12);
}
