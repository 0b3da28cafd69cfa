// Cells of every file type end as cells of ours, with their extent and their values, or are refused with a reason.
#include "core/case/readers/cells.h"
#include "core/evaluate/evaluate.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>
#include <vtkCellType.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// A file of single cells of given types over common points, temperature 300 + x on the points.
BlockData cellsOf(const std::vector<std::pair<int, std::vector<std::uint32_t>>>& cells,
                  const std::vector<Point>& points) {
    BlockData block;
    block.name = "block";
    for (const auto& point : points)
        block.points.insert(block.points.end(), point.begin(), point.end());
    for (const auto& [type, nodes] : cells) {
        block.connectivity.insert(block.connectivity.end(), nodes.begin(), nodes.end());
        block.offsets.push_back(block.connectivity.size());
        block.types.push_back(static_cast<std::uint8_t>(type));
    }
    addNodeField(block, "temperature", [](const Point& at) { return 300 + at[0]; });
    return block;
}

// The corners of the unit cube in the order of a voxel: x fastest, then y, then z.
const std::vector<Point> cube{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {1, 1, 0}, {0, 0, 1}, {1, 0, 1}, {0, 1, 1}, {1, 1, 1}};

class FileCells : public testing::Test {
protected:
    Result<OpenedCase> open(const BlockData& block) {
        EXPECT_TRUE(writeBlock(block, folder / "cells.vtu", Encoding::Ascii));
        NoProgress progress;
        return openForEvaluation(folder / "cells.vtu", {}, progress);
    }
    // Opens a file with one cell and returns its extent.
    double extent(int type, const std::vector<std::uint32_t>& nodes, const std::vector<Point>& points) {
        const auto opened = open(cellsOf({{type, nodes}}, points));
        if (!opened) {
            ADD_FAILURE() << opened.error().text();
            return -1;
        }
        EXPECT_EQ(opened->solved->parts[0].fileCells, 1U);
        return opened->index->parts[0].size;
    }
    TempFolder folder;
};

} // namespace

TEST_F(FileCells, VoxelsAndHexahedraAreTheSameCube) {
    EXPECT_NEAR(extent(VTK_VOXEL, {0, 1, 2, 3, 4, 5, 6, 7}, cube), 1, 1e-12);
    EXPECT_NEAR(extent(VTK_HEXAHEDRON, {0, 1, 3, 2, 4, 5, 7, 6}, cube), 1, 1e-12);
    const auto voxel = open(cellsOf({{VTK_VOXEL, {0, 1, 2, 3, 4, 5, 6, 7}}}, cube));
    ASSERT_TRUE(voxel);
    EXPECT_EQ(voxel->solved->parts[0].mesh.type(0), CellType::Hexahedron);
    EXPECT_EQ(voxel->index->parts[0].shell.faces(), 6U);
}

TEST_F(FileCells, LinearCellsHaveTheirHandbookVolume) {
    EXPECT_NEAR(extent(VTK_TETRA, {0, 1, 2, 4}, cube), 1.0 / 6, 1e-12);
    EXPECT_NEAR(extent(VTK_WEDGE, {0, 1, 2, 4, 5, 6}, cube), 0.5, 1e-12);
    auto points = cube;
    points.push_back({0.5, 0.5, 3});
    EXPECT_NEAR(extent(VTK_PYRAMID, {0, 1, 3, 2, 8}, points), 1, 1e-12);
}

TEST_F(FileCells, CellsListedTheOtherWayRoundCountAsWell) {
    EXPECT_NEAR(extent(VTK_TETRA, {0, 2, 1, 4}, cube), 1.0 / 6, 1e-12);
    EXPECT_NEAR(extent(VTK_HEXAHEDRON, {4, 5, 7, 6, 0, 1, 3, 2}, cube), 1, 1e-12);
}

TEST_F(FileCells, SurfaceCellsAreMeasuredByTheirArea) {
    EXPECT_NEAR(extent(VTK_TRIANGLE, {0, 1, 2}, cube), 0.5, 1e-12);
    EXPECT_NEAR(extent(VTK_QUAD, {0, 1, 3, 2}, cube), 1, 1e-12);
    EXPECT_NEAR(extent(VTK_PIXEL, {0, 1, 2, 3}, cube), 1, 1e-12);
    EXPECT_NEAR(extent(VTK_POLYGON, {0, 1, 3, 2}, cube), 1, 1e-12);
    EXPECT_NEAR(extent(VTK_TRIANGLE_STRIP, {0, 1, 2, 3}, cube), 1, 1e-12) << "two triangles side by side";
}

TEST_F(FileCells, QuadraticCellsKeepTheirFunctions) {
    std::vector<Point> points{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
    for (const auto& [a, b] : {std::pair{0, 1}, {1, 2}, {2, 0}, {0, 3}, {1, 3}, {2, 3}}) {
        Point middle{};
        for (std::size_t axis = 0; axis < 3; ++axis)
            middle[axis] = 0.5 *
                           (points[static_cast<std::size_t>(a)][axis] + points[static_cast<std::size_t>(b)][axis]);
        points.push_back(middle);
    }
    EXPECT_NEAR(extent(VTK_QUADRATIC_TETRA, {0, 1, 2, 3, 4, 5, 6, 7, 8, 9}, points), 1.0 / 6, 1e-12);
    std::vector<Point> wedge{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {1, 0, 1}, {0, 1, 1}};
    std::vector<std::uint32_t> nodes{0, 1, 2, 3, 4, 5};
    for (const auto& [a, b] : {std::pair{0, 1}, {1, 2}, {2, 0}, {3, 4}, {4, 5}, {5, 3}, {0, 3}, {1, 4}, {2, 5}}) {
        Point middle{};
        for (std::size_t axis = 0; axis < 3; ++axis)
            middle[axis] = 0.5 * (wedge[static_cast<std::size_t>(a)][axis] + wedge[static_cast<std::size_t>(b)][axis]);
        nodes.push_back(static_cast<std::uint32_t>(wedge.size()));
        wedge.push_back(middle);
    }
    const auto opened = open(cellsOf({{VTK_QUADRATIC_WEDGE, nodes}}, wedge));
    ASSERT_TRUE(opened) << opened.error().text();
    EXPECT_NEAR(opened->index->parts[0].size, 0.5, 1e-12);
    EXPECT_FALSE(has(opened->solved->remarks, "cells-simplified"));
    EXPECT_EQ(opened->solved->parts[0].mesh.nodes(), 18U) << "with the middles of its quadrangles";
}

TEST_F(FileCells, VerticesAreLeftOutAndTold) {
    const auto opened = open(
        cellsOf({{VTK_VOXEL, {0, 1, 2, 3, 4, 5, 6, 7}}, {VTK_VERTEX, {0}}, {VTK_POLY_VERTEX, {1, 2}}}, cube));
    ASSERT_TRUE(opened) << opened.error().text();
    EXPECT_TRUE(has(opened->solved->remarks, "cells-left-out"));
    EXPECT_NEAR(opened->index->parts[0].size, 1, 1e-12);
    const auto nothing = open(cellsOf({{VTK_VERTEX, {0}}}, cube));
    EXPECT_FALSE(nothing) << "a file of vertices alone has no cells";
}

TEST_F(FileCells, ValuesStayWithTheirCellWhenOthersAreSplit) {
    auto block = cellsOf({{VTK_TRIANGLE_STRIP, {0, 1, 2, 3}}, {VTK_VERTEX, {0}}, {VTK_QUAD, {4, 5, 7, 6}}}, cube);
    block.arrays.push_back({"number", Location::Cell, 1, {7, 8, 9}});
    const auto opened = open(block);
    ASSERT_TRUE(opened) << opened.error().text();
    const auto* number = opened->solved->parts[0].find("number", Location::Cell);
    ASSERT_NE(number, nullptr);
    ASSERT_EQ(number->values.size(), 3U);
    EXPECT_EQ(number->values[0], 7);
    EXPECT_EQ(number->values[1], 7) << "both triangles of the strip";
    EXPECT_EQ(number->values[2], 9) << "not the vertex's";
    EXPECT_EQ(opened->solved->parts[0].fileCells, 3U);
}

TEST_F(FileCells, CellsOfALowerDimensionCarryNoWeight) {
    const auto opened = open(cellsOf({{VTK_VOXEL, {0, 1, 2, 3, 4, 5, 6, 7}}, {VTK_QUAD, {0, 1, 3, 2}}}, cube));
    ASSERT_TRUE(opened) << opened.error().text();
    EXPECT_EQ(opened->solved->parts[0].dimension, 3);
    EXPECT_NEAR(opened->index->parts[0].size, 1, 1e-12);
    EXPECT_EQ(opened->index->parts[0].cellMeasure[1], 0);
    EXPECT_EQ(opened->index->parts[0].shell.faces(), 6U);
}

TEST(SplitPolyhedron, ACubeOfSixFacesKeepsItsVolumeWhicheverNodeIsLowest) {
    const std::vector<std::vector<std::uint32_t>> faces{{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4},
                                                        {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}};
    for (const std::uint32_t shift : {0U, 3U, 5U}) {
        auto moved = faces;
        for (auto& face : moved)
            for (auto& node : face)
                node = (node + shift) % 8;
        CellList list;
        splitPolyhedron(moved, 4, list);
        double volume = 0;
        for (std::size_t cell = 0; cell < list.types.size(); ++cell) {
            std::array<Point, 4> p{};
            for (std::size_t i = 0; i < 4; ++i)
                p[i] = cube[(list.connectivity[list.offsets[cell] + i] + 8 - shift) % 8];
            const auto edge = [&](std::size_t i, std::size_t axis) { return p[i][axis] - p[0][axis]; };
            volume += std::abs(edge(1, 0) * (edge(2, 1) * edge(3, 2) - edge(2, 2) * edge(3, 1)) -
                               edge(1, 1) * (edge(2, 0) * edge(3, 2) - edge(2, 2) * edge(3, 0)) +
                               edge(1, 2) * (edge(2, 0) * edge(3, 1) - edge(2, 1) * edge(3, 0))) /
                      6;
            EXPECT_EQ(list.fileCell[cell], 4U);
        }
        EXPECT_NEAR(volume, 1, 1e-12) << shift;
    }
}

namespace {

// Every cell with nodes of its own, as libraries write fields of any continuity.
BlockData exploded(const BlockData& from) {
    BlockData out = from;
    out.points.clear();
    for (std::size_t i = 0; i < from.connectivity.size(); ++i) {
        for (std::size_t axis = 0; axis < 3; ++axis)
            out.points.push_back(from.points[3 * static_cast<std::size_t>(from.connectivity[i]) + axis]);
        out.connectivity[i] = static_cast<std::uint32_t>(i);
    }
    return out;
}

} // namespace

TEST_F(FileCells, CellsThatShareNoNodeAreOneBody) {
    auto block = exploded(boxPart("block", {{0.1, 0.1, 0.1}, {3, 3, 3}}));
    addNodeField(block, "temperature", [](const Point& at) { return 300 + 1000 * at[0]; });
    addNodeField(block, "steps", [&](const Point&) { return 0; });
    block.arrays.back().values.assign(block.points.size() / 3, 1.0);
    for (std::size_t i = 0; i < 8; ++i) // of the first cell
        block.arrays.back().values[i] = 3;
    const auto opened = open(block);
    ASSERT_TRUE(opened);
    EXPECT_EQ(opened->solved->parts[0].mesh.nodes(), 64U);
    ASSERT_EQ(opened->solved->boundaries.size(), 6U);
    EXPECT_TRUE(has(opened->solved->remarks, "nodes-joined"));
    EXPECT_TRUE(has(opened->solved->remarks, "values-differ")) << "of what is another in each cell";
    const auto* temperature = opened->solved->parts[0].find("temperature", Location::Node);
    ASSERT_NE(temperature, nullptr);
    const auto& mesh = opened->solved->parts[0].mesh;
    for (std::size_t node = 0; node < mesh.nodes(); ++node)
        EXPECT_NEAR(temperature->values[node], 300 + 1000 * mesh.node(node)[0], 1e-4);
}

// Pieces of one file beside each other share the nodes where they meet.
TEST_F(FileCells, PiecesOfOneFileAreJoined) {
    std::ofstream(folder / "pieces.vtu")
        << R"(<VTKFile type="UnstructuredGrid" version="1.0" byte_order="LittleEndian"><UnstructuredGrid>)";
    std::ofstream file(folder / "pieces.vtu", std::ios::app);
    for (const int first : {0, 1}) {
        file << R"(<Piece NumberOfPoints="8" NumberOfCells="1"><PointData>
              <DataArray type="Float64" Name="T" format="ascii">)";
        for (int i = 0; i < 8; ++i)
            file << 300 + first + (i & 1) << ' ';
        file << R"(</DataArray></PointData><Points><DataArray type="Float64" NumberOfComponents="3" format="ascii">)";
        for (int i = 0; i < 8; ++i)
            file << first + (i & 1) << ' ' << (i >> 1 & 1) << ' ' << (i >> 2) << ' ';
        file << R"(</DataArray></Points><Cells>
              <DataArray type="Int32" Name="connectivity" format="ascii">0 1 2 3 4 5 6 7</DataArray>
              <DataArray type="Int32" Name="offsets" format="ascii">8</DataArray>
              <DataArray type="UInt8" Name="types" format="ascii">11</DataArray></Cells></Piece>)";
    }
    file << "</UnstructuredGrid></VTKFile>";
    file.close();
    const auto opened = mustOpen(folder / "pieces.vtu");
    EXPECT_EQ(opened.solved->parts[0].mesh.nodes(), 12U);
    ASSERT_EQ(opened.solved->boundaries.size(), 6U);
    EXPECT_NEAR(opened.index->boundaries[*opened.solved->boundaryNamed("y min")].size, 2, 1e-12);
}
