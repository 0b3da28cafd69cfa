// The room of fields by itself: which faces coincide, which cells lie near each other, where in a cell a place is, how
// large its faces are. Against what plain boxes have by construction, and against brute force over all cells.
#include "core/field/boundary_match.h"
#include "core/field/cell_frame.h"
#include "core/field/cell_order.h"
#include "core/field/face_measure.h"
#include "core/field/interface_faces.h"
#include "core/field/whole_faces.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>
#include <random>
#include <set>

using namespace pyro;
using namespace pyro::test;

namespace {

class FieldRoom : public testing::Test {
protected:
    void open(const std::vector<BlockData>& blocks) {
        ASSERT_TRUE(writeCase(blocks, folder / "c.vtm"));
        opened = mustOpen(folder / "c.vtm");
        shells.clear();
        for (const auto& part : opened->index->parts)
            shells.push_back(part.shell);
    }
    const Region& part(std::size_t at = 0) const { return opened->solved->parts[at]; }
    TempFolder folder;
    std::optional<OpenedCase> opened;
    std::vector<ShellView> shells;
};

} // namespace

TEST_F(FieldRoom, FacesOfPartsThatTouchAreTwins) {
    open({boxPart("left", {{0.1, 0.1, 0.1}, {2, 3, 4}}), boxPart("right", {{0.1, 0.1, 0.1}, {5, 3, 4}, {0.1, 0, 0}}),
          boxPart("apart", {{0.1, 0.1, 0.1}, {2, 3, 4}, {0.3, 0, 0}})});
    EXPECT_EQ(touchingFaces(*opened->solved, shells, 0, 1).size(), 12U) << "three by four";
    EXPECT_EQ(touchingFaces(*opened->solved, shells, 1, 0).size(), 12U);
    EXPECT_TRUE(touchingFaces(*opened->solved, shells, 0, 2).empty());
    const auto twins = twinFaces(*opened->solved, shells);
    ASSERT_EQ(twins.size(), 3U);
    std::size_t found = 0;
    for (std::size_t face = 0; face < twins[0].size(); ++face) {
        const auto& twin = twins[0][face];
        if (twin.part == ~0U)
            continue;
        ++found;
        EXPECT_EQ(twin.part, 1U);
        EXPECT_EQ(twins[1][twin.face].part, 0U) << "each is the other's";
        EXPECT_EQ(twins[1][twin.face].face, face);
    }
    EXPECT_EQ(found, 12U);
}

TEST_F(FieldRoom, MeshesThatDoNotMatchHaveNoTwins) {
    open({boxPart("coarse", {{0.1, 0.1, 0.1}, {2, 2, 2}}), boxPart("fine", {{0.1, 0.1, 0.1}, {2, 3, 3}, {0.1, 0, 0}})});
    EXPECT_TRUE(touchingFaces(*opened->solved, shells, 0, 1).empty());
}

TEST_F(FieldRoom, BoundariesFindTheFacesBehindThem) {
    const BoxMesh box{{0.1, 0.2, 0.3}, {2, 3, 4}};
    open({boxPart("box", box, Cells::Tetrahedra), boxSide("lid", box, 2, true, Cells::Tetrahedra),
          boxSide("elsewhere", {{0.1, 0.2, 0.3}, {2, 3, 4}, {5, 5, 5}}, 0, false)});
    const auto matches = matchBoundaries(*opened->solved, shells);
    ASSERT_GE(matches.size(), 2U) << "and the outer faces that nobody named";
    const auto& lid = matches[*opened->solved->boundaryNamed("lid")];
    EXPECT_EQ(lid.unmatched, 0U);
    const auto& mesh = opened->solved->boundaries[*opened->solved->boundaryNamed("lid")].mesh;
    for (std::size_t face = 0; face < mesh.cells(); ++face) {
        EXPECT_EQ(lid.part[face], 0U);
        EXPECT_NEAR(lid.normal[3 * face + 2], 1, 1e-9) << "out of the part";
        EXPECT_EQ(shells[0].cell[lid.face[face]], lid.cell[face]);
    }
    for (std::size_t node = 0; node < mesh.nodes(); ++node) {
        const auto own = mesh.node(node);
        const auto behind = part().mesh.node(lid.node[node]);
        for (std::size_t axis = 0; axis < 3; ++axis)
            EXPECT_NEAR(own[axis], behind[axis], 1e-9);
    }
    const auto elsewhere = *opened->solved->boundaryNamed("elsewhere");
    EXPECT_EQ(matches[elsewhere].unmatched, opened->solved->boundaries[elsewhere].mesh.cells());
    EXPECT_EQ(matches[elsewhere].part[0], ~0U);
}

TEST_F(FieldRoom, WholeFacesAreFoundByTheirCorners) {
    open({boxPart("box", {{0.1, 0.1, 0.1}, {2, 2, 2}})});
    const WholeFaceLookup lookup(*opened->solved, wholeFaces(*opened->solved, shells));
    EXPECT_EQ(lookup.faces().size(), 24U);
    const auto any = [](const WholeFace&) { return true; };
    const Corners turned{{0.05, 0, 0}, {0, 0, 0}, {0, 0, 0.05}, {0.05, 0, 0.05}}; // in any order
    const auto* found = lookup.find(turned, any);
    ASSERT_NE(found, nullptr);
    EXPECT_EQ(found->corners.size(), 4U);
    EXPECT_NEAR(sizeOf(placesOf(part().mesh, found->corners)), 0.05 * std::sqrt(2.0), 1e-7);
    EXPECT_EQ(lookup.find(turned, [](const WholeFace&) { return false; }), nullptr);
    EXPECT_EQ(lookup.find({{0.051, 0, 0}, {0, 0, 0}, {0, 0, 0.05}, {0.05, 0, 0.05}}, any), nullptr)
        << "a corner is elsewhere";
}

TEST_F(FieldRoom, FacesMeasureWhatTheyAre) {
    open({boxPart("box", {{0.2, 0.3, 0.4}, {3, 4, 5}}, Cells::Wedges)});
    FaceMeasure measure(part().mesh);
    double area = 0;
    Point flow{};
    for (std::size_t face = 0; face < shells[0].faces(); ++face) {
        const auto& fan = measure.of(shells[0].cell[face], shells[0].face(face));
        area += fan.size;
        double shares = 0;
        measure.forShares([&](std::uint32_t, double share) { shares += share; });
        EXPECT_NEAR(shares, 1, 1e-12);
        for (std::size_t axis = 0; axis < 3; ++axis)
            flow[axis] += fan.area[axis];
    }
    EXPECT_NEAR(area, 2 * (0.2 * 0.3 + 0.3 * 0.4 + 0.4 * 0.2), 1e-7);
    for (std::size_t axis = 0; axis < 3; ++axis)
        EXPECT_NEAR(flow[axis], 0, 1e-9) << "a closed surface (Gauss)";
}

TEST_F(FieldRoom, BlocksHoldEveryCellOnceAndKnowTheirBox) {
    auto graded = boxPart("box", {{1, 1, 1}, {17, 13, 11}, {0, 0, 0}, 0, [](const Point& at) {
                                      return Point{at[0] * at[0] * at[0], at[1], at[2]}; // graded along x
                                  }});
    addNodeField(graded, "temperature", [](const Point& at) { return 300 + at[0]; });
    open({graded});
    const auto order = cellOrder(part());
    std::set<std::uint32_t> seen;
    const auto ranges = blockRanges(order, *part().find("temperature", Location::Node));
    ASSERT_EQ(ranges.size(), order.blocks.size());
    for (std::size_t at = 0; at < order.blocks.size(); ++at) {
        const auto block = order.block(at);
        EXPECT_LE(block.cells.size(), CellOrder::mostCells);
        EXPECT_LE(block.nodes.size(), CellOrder::mostNodes);
        for (const auto cell : block.cells)
            EXPECT_TRUE(seen.insert(cell).second) << "twice: " << cell;
        for (const auto node : block.nodes) {
            const auto place = part().mesh.node(node);
            for (std::size_t axis = 0; axis < 3; ++axis) {
                EXPECT_GE(place[axis], order.blocks[at].low[axis]);
                EXPECT_LE(place[axis], order.blocks[at].high[axis]);
            }
            EXPECT_GE(300 + place[0], ranges[at].low - 1e-3F);
            EXPECT_LE(300 + place[0], ranges[at].high + 1e-3F);
        }
    }
    EXPECT_EQ(seen.size(), 17U * 13 * 11);
}

TEST_F(FieldRoom, WeightsInterpolateLinearFieldsInEveryKindOfCell) {
    std::mt19937 random(7); // any fixed seed
    std::uniform_real_distribution<double> within(0.02, 0.98);
    for (const auto cells : {Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids}) {
        auto box = boxPart("box", {{1, 1, 1}, {2, 2, 2}, {0, 0, 0}, 0.05}, cells);
        addNodeField(box, "temperature", [](const Point& at) { return 300 + at[0] + 2 * at[1] + 3 * at[2]; });
        open({box});
        const auto& values = part().find("temperature", Location::Node)->values;
        int found = 0;
        for (int i = 0; i < 40; ++i) {
            const Point place{within(random), within(random), within(random)};
            for (std::uint32_t cell = 0; cell < part().mesh.cells(); ++cell) {
                CellFrame frame(part(), cell);
                CellPlace at{cell, {}, static_cast<std::uint16_t>(frame.nodes().size())};
                if (!frame.weightsAt(place, at.weight))
                    continue;
                double sum = 0;
                for (std::size_t node = 0; node < at.nodes; ++node)
                    sum += at.weight[node];
                EXPECT_NEAR(sum, 1, 1e-9);
                EXPECT_NEAR(valueAt(part(), at, values), 300 + place[0] + 2 * place[1] + 3 * place[2], 2e-4);
                EXPECT_GT(frame.size(), 0);
                ++found;
                break;
            }
        }
        EXPECT_EQ(found, 40) << "every place lies in a cell";
    }
}

TEST_F(FieldRoom, PlacesOutsideOfACellAreToldFromThoseOnItsFaces) {
    open({boxPart("box", {{1, 1, 1}, {1, 1, 1}})});
    CellFrame frame(part(), 0);
    CellWeights weight;
    EXPECT_TRUE(frame.weightsAt({0.5, 0.5, 0.5}, weight));
    EXPECT_TRUE(frame.weightsAt({1, 0.3, 0.7}, weight)) << "on a face";
    EXPECT_TRUE(frame.weightsAt({0, 0, 0}, weight)) << "a corner";
    EXPECT_FALSE(frame.weightsAt({1.01, 0.5, 0.5}, weight));
    EXPECT_FALSE(frame.weightsAt({0.5, -0.2, 0.5}, weight));
    EXPECT_TRUE(frame.weightsAt({0.25, 0.75, 0.1}, weight)) << "after misses too";
}
