// Integrals over cells against exact ones.
#include "core/field/cell_lattice.h"
#include "core/field/measure.h"
#include "core/field/quadrature.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numeric>

using namespace pyro;
using namespace pyro::test;

namespace {

// A linear field; its mean over any body is its value at the centre of volume.
double linearField(const Point& at) { return 300 + 17 * at[0] - 5 * at[1] + 29 * at[2]; }

double meanOn(const OpenedCase& opened, const std::string& array) {
    const auto quantities = recognise(*opened.solved, {});
    const auto reading = read(*opened.solved, *opened.index, {false, {0}}, *quantities->named(array));
    return reading->mean();
}

class LinearField : public testing::TestWithParam<Cells> {};

} // namespace

TEST_P(LinearField, VolumeMeanIsExact) {
    const TempFolder folder;
    const BoxMesh box{{0.08, 0.05, 0.02}, {4, 3, 3}, {0.01, -0.02, 0.4}};
    auto part = boxPart("block", box, GetParam());
    addNodeField(part, "T", linearField);
    ASSERT_TRUE(writeBlock(part, folder / "block.vtu"));
    const double exact = linearField({0.01 + 0.04, -0.02 + 0.025, 0.4 + 0.01});
    const auto opened = mustOpen(folder / "block.vtu");
    EXPECT_NEAR(meanOn(opened, "temperature") / exact, 1, 1e-12);
    EXPECT_NEAR(opened.index->parts[0].size / (0.08 * 0.05 * 0.02), 1, 1e-12);
}

// Warped inner nodes leave the outer box, and with it the exact mean, as it is: the cells must still fill it exactly.
TEST_P(LinearField, VolumeMeanIsExactOnWarpedCells) {
    const TempFolder folder;
    const BoxMesh box{{1, 1, 1}, {4, 4, 4}, {0, 0, 0}, 0.04};
    auto part = boxPart("block", box, GetParam());
    addNodeField(part, "T", linearField);
    ASSERT_TRUE(writeBlock(part, folder / "block.vtu"));
    EXPECT_NEAR(meanOn(mustOpen(folder / "block.vtu"), "temperature") / linearField({0.5, 0.5, 0.5}), 1, 1e-12);
}

INSTANTIATE_TEST_SUITE_P(CellKinds, LinearField,
                         testing::Values(Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids));

// One straight quadratic cell of each kind: the integral of a full quadratic polynomial is exact.
TEST(Quadrature, QuadraticTetrahedronIntegratesQuadraticsExactly) {
    // Over the unit tetrahedron: integral of x^a y^b z^c = a! b! c! / (a+b+c+3)! (handbook formula).
    std::array<LocalPoint, 10> nodes;
    for (std::size_t i = 0; i < 10; ++i)
        nodes[i] = CellLattice::of(CellType::CurvedTetrahedron, 10)->place(i);
    double volume = 0;
    double square = 0;
    double product = 0;
    for (const auto& point : quadrature(CellType::CurvedTetrahedron, 10)) {
        double xx = 0;
        double xy = 0;
        for (std::size_t i = 0; i < 10; ++i) {
            xx += point.shape[i] * nodes[i][0] * nodes[i][0];
            xy += point.shape[i] * nodes[i][0] * nodes[i][1];
        }
        volume += point.weight;
        square += point.weight * xx;
        product += point.weight * xy;
    }
    EXPECT_NEAR(volume, 1.0 / 6, 1e-15);
    EXPECT_NEAR(square, 2.0 / 120, 1e-15);
    EXPECT_NEAR(product, 1.0 / 120, 1e-15);
}

TEST(Quadrature, ShapeFunctionsSumToOneAndTheirSlopesToZero) {
    for (const auto type : {CellType::Triangle, CellType::Quad, CellType::Tetrahedron, CellType::Hexahedron,
                            CellType::Wedge, CellType::Pyramid})
        for (const auto& point : quadrature(type)) {
            EXPECT_NEAR(std::accumulate(point.shape.begin(), point.shape.end(), 0.0), 1, 1e-13);
            for (std::size_t axis = 0; axis < 3; ++axis) {
                double sum = 0;
                for (const auto& slope : point.gradient)
                    sum += slope[axis];
                EXPECT_NEAR(sum, 0, 1e-12);
            }
        }
}

TEST(Measure, QuadraticHexahedronHoldsAQuadraticField) {
    const TempFolder folder;
    BlockData part;
    part.name = "brick";
    for (const auto& [x, y, z] :
         {std::tuple{0., 0., 0.}, {2., 0., 0.}, {2., 2., 0.}, {0., 2., 0.}, {0., 0., 2.}, {2., 0., 2.}, {2., 2., 2.},
          {0., 2., 2.},           {1., 0., 0.}, {2., 1., 0.}, {1., 2., 0.}, {0., 1., 0.}, {1., 0., 2.}, {2., 1., 2.},
          {1., 2., 2.},           {0., 1., 2.}, {0., 0., 1.}, {2., 0., 1.}, {2., 2., 1.}, {0., 2., 1.}})
        part.points.insert(part.points.end(), {x, y, z});
    for (std::uint32_t i = 0; i < 20; ++i)
        part.connectivity.push_back(i);
    part.offsets.push_back(20);
    part.types.push_back(25);
    addNodeField(part, "T", [](const Point& at) { return 300 + at[0] * at[0] + at[1] * at[2]; });
    ASSERT_TRUE(writeBlock(part, folder / "brick.vtu"));
    const auto opened = mustOpen(folder / "brick.vtu");
    EXPECT_NEAR(opened.index->parts[0].size, 8, 1e-12);
    // Means over [0,2]^3: of x^2 it is 4/3, of yz it is 1.
    EXPECT_NEAR(meanOn(opened, "temperature"), 300 + 4.0 / 3 + 1, 1e-10);
    EXPECT_EQ(opened.index->parts[0].shell.faces(), 24U) << "four pieces of each face";
}

TEST(Measure, PolyhedraAreSplitWithoutLosingVolumeOrValues) {
    const TempFolder folder;
    // A hexagonal prism (VTK type 16) of side 1 and height 2: volume 3 sqrt(3), and a pentagonal one (type 15).
    BlockData part;
    part.name = "prism";
    for (const double z : {0.0, 2.0})
        for (int i = 0; i < 6; ++i)
            part.points.insert(part.points.end(), {std::cos(i * M_PI / 3), std::sin(i * M_PI / 3), z});
    for (std::uint32_t i = 0; i < 12; ++i)
        part.connectivity.push_back(i);
    part.offsets.push_back(12);
    part.types.push_back(16);
    addNodeField(part, "T", linearField);
    addCellField(part, "density", [](const Point&) { return 7.0; });
    ASSERT_TRUE(writeBlock(part, folder / "prism.vtu"));
    const auto opened = mustOpen(folder / "prism.vtu");
    EXPECT_NEAR(opened.index->parts[0].size, 3 * std::sqrt(3.0), 1e-12);
    EXPECT_NEAR(meanOn(opened, "temperature"), linearField({0, 0, 1}), 1e-10);
    EXPECT_EQ(opened.solved->parts[0].fileCells, 1U);
    EXPECT_EQ(opened.solved->parts[0].mesh.nodes(), 12U); // no node is invented
    EXPECT_DOUBLE_EQ(meanOn(opened, "density"), 7.0);
}

TEST(Shell, BoxHasOnlyItsOuterFaces) {
    const TempFolder folder;
    for (const auto& [cells, faces] :
         {std::pair{Cells::Hexahedra, 2 * (4 * 3 + 3 * 2 + 4 * 2)}, {Cells::Tetrahedra, 4 * (4 * 3 + 3 * 2 + 4 * 2)}}) {
        ASSERT_TRUE(writeBlock(boxPart("block", {{1, 1, 1}, {4, 3, 2}}, cells), folder / "block.vtu"));
        const auto opened = mustOpen(folder / "block.vtu");
        EXPECT_EQ(opened.index->parts[0].shell.faces(), static_cast<std::size_t>(faces));
    }
}

TEST(Boundary, FacesKnowTheirCellAndTheirOutwardNormal) {
    const TempFolder folder;
    // Two blocks that touch at x = 1. The boundary "joint" coincides with faces of both; its normal points to +x, so
    // the left block owns it.
    const BoxMesh left{{1, 1, 1}, {3, 2, 2}, {0, 0, 0}};
    const BoxMesh right{{1, 1, 1}, {3, 2, 2}, {1, 0, 0}};
    auto a = boxPart("left", left);
    auto b = boxPart("right", right);
    addCellField(a, "T", [](const Point&) { return 310.0; });
    addCellField(b, "T", [](const Point&) { return 350.0; });
    ASSERT_TRUE(writeCase({a, b, boxSide("joint", left, 0, true), boxSide("end", right, 0, true),
                           boxSide("far", {{1, 1, 1}, {2, 2, 2}, {9, 0, 0}}, 0, false)},
                          folder / "pair.vtm"));
    const auto opened = mustOpen(folder / "pair.vtm");
    const auto& joint = opened.index->boundaries[0];
    EXPECT_NEAR(joint.size, 1, 1e-14);
    for (std::size_t face = 0; face < 4; ++face) {
        EXPECT_EQ(joint.part[face], 0U);
        EXPECT_NEAR(joint.normal[3 * face], 1, 1e-14);
    }
    const auto quantities = recognise(*opened.solved, {});
    const auto* temperature = quantities->named("temperature");
    EXPECT_NEAR(read(*opened.solved, *opened.index, {true, {0}}, *temperature)->mean(), 310, 1e-12);
    EXPECT_NEAR(read(*opened.solved, *opened.index, {true, {1}}, *temperature)->mean(), 350, 1e-12);
    // A boundary that touches no part says so and has no value instead of an invented one.
    EXPECT_EQ(opened.index->boundaries[2].part[0], noNumber);
    EXPECT_FALSE(read(*opened.solved, *opened.index, {true, {2}}, *temperature));
    ASSERT_FALSE(opened.index->remarks.empty());
    EXPECT_EQ(opened.index->remarks[0].code, "boundary-unmatched");
    EXPECT_EQ(opened.index->remarks[0].where, "far");
}
