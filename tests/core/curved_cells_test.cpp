// Cells of order 2 to 10, written by the library's own writer: shape functions, extents, integrals, samples, gradients
// and heat against exact values.
#include "core/field/cell_lattice.h"
#include "core/field/gradient.h"
#include "core/field/locate.h"
#include "core/field/sample.h"
#include "core/field/vector_algebra.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>
#include <numeric>
#include <random>
#include <vtkCellType.h>
#include <vtkDoubleArray.h>
#include <vtkHigherOrderHexahedron.h>
#include <vtkHigherOrderQuadrilateral.h>
#include <vtkHigherOrderTetra.h>
#include <vtkHigherOrderWedge.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridWriter.h>

using namespace pyro;
using namespace pyro::test;

namespace {

using Map = std::function<Point(double, double, double)>; // from the unit cube

constexpr std::array curvedSolids{CellType::CurvedTetrahedron, CellType::CurvedHexahedron, CellType::CurvedWedge};

// A cube of n x n x n boxes, each one hexahedron, two wedges or six tetrahedra of the order, mapped into space; nodes
// at one place are one.
class CurvedBlock {
public:
    CurvedBlock(CellType type, int order, std::array<int, 3> n, Map map, const Field& field = {})
        : m_type(type), m_order(order), m_map(std::move(map)) {
        for (int k = 0; k < n[2]; ++k)
            for (int j = 0; j < n[1]; ++j)
                for (int i = 0; i < n[0]; ++i)
                    addBox({i, j, k}, n);
        grid->SetPoints(points);
        if (field) {
            vtkNew<vtkDoubleArray> values;
            values->SetName("T [K]");
            for (vtkIdType node = 0; node < points->GetNumberOfPoints(); ++node) {
                Point at{};
                points->GetPoint(node, at.data());
                values->InsertNextValue(field(at));
            }
            grid->GetPointData()->AddArray(values);
        }
    }

    OpenedCase open(const TempFolder& folder) const {
        const auto file = folder / "curved.vtu";
        vtkNew<vtkXMLUnstructuredGridWriter> writer;
        writer->SetInputData(grid);
        writer->SetFileName(file.c_str());
        EXPECT_EQ(writer->Write(), 1);
        return mustOpen(file);
    }

    vtkNew<vtkUnstructuredGrid> grid;
    vtkNew<vtkPoints> points;

private:
    void addBox(const std::array<int, 3>& at, const std::array<int, 3>& n) {
        using Corners = std::vector<std::array<int, 3>>;
        std::vector<Corners> cells;
        if (m_type == CellType::CurvedHexahedron)
            cells = {{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}}};
        else if (m_type == CellType::CurvedWedge)
            cells = {{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}}, {{1, 1, 0}, {0, 1, 0}, {1, 0, 0}, {1, 1, 1}}};
        else // along the paths from one corner of the box to the other
            for (std::array<int, 3> way{0, 1, 2}; const auto& _ : {0, 1, 2, 3, 4, 5}) {
                static_cast<void>(_);
                Corners corners{{0, 0, 0}};
                for (const int axis : way) {
                    corners.push_back(corners.back());
                    ++corners.back()[static_cast<std::size_t>(axis)];
                }
                cells.push_back(corners);
                std::next_permutation(way.begin(), way.end());
            }
        for (const auto& corners : cells)
            addCell(corners, at, n);
    }

    // `corners`: the origin and the ends of the local coordinates.
    void addCell(const std::vector<std::array<int, 3>>& corners, const std::array<int, 3>& box,
                 const std::array<int, 3>& n) {
        const auto* lattice = CellLattice::of(m_type, CellLattice::nodesOf(m_type, m_order));
        std::vector<vtkIdType> ids(lattice->nodes());
        for (std::size_t node = 0; node < lattice->nodes(); ++node) {
            const auto step = lattice->step(node);
            std::array<int, 3> at{};
            for (std::size_t axis = 0; axis < 3; ++axis) {
                at[axis] = m_order * (box[axis] + corners[0][axis]);
                for (std::size_t direction = 0; direction < 3; ++direction)
                    at[axis] += step[direction] * (corners[direction + 1][axis] - corners[0][axis]);
            }
            ids[static_cast<std::size_t>(placeInFile(step))] = nodeAt(at, n);
        }
        const int type = m_type == CellType::CurvedTetrahedron ? VTK_LAGRANGE_TETRAHEDRON
                         : m_type == CellType::CurvedWedge     ? VTK_LAGRANGE_WEDGE
                                                               : VTK_LAGRANGE_HEXAHEDRON;
        grid->InsertNextCell(type, static_cast<vtkIdType>(ids.size()), ids.data());
    }

    vtkIdType placeInFile(const std::array<int, 3>& step) const {
        const std::array<int, 3> order{m_order, m_order, m_order};
        if (m_type == CellType::CurvedHexahedron)
            return vtkHigherOrderHexahedron::PointIndexFromIJK(step[0], step[1], step[2], order.data());
        if (m_type == CellType::CurvedWedge)
            return vtkHigherOrderWedge::PointIndexFromIJK(step[0], step[1], step[2], order.data());
        const std::array<vtkIdType, 4> barycentric{step[0], step[1], step[2], m_order - step[0] - step[1] - step[2]};
        return vtkHigherOrderTetra::Index(barycentric.data(), m_order);
    }

    vtkIdType nodeAt(const std::array<int, 3>& at, const std::array<int, 3>& n) {
        const auto [known, isNew] = m_nodes.try_emplace(at, points->GetNumberOfPoints());
        if (isNew) {
            const auto place = m_map(static_cast<double>(at[0]) / (m_order * n[0]),
                                     static_cast<double>(at[1]) / (m_order * n[1]),
                                     static_cast<double>(at[2]) / (m_order * n[2]));
            points->SetDataTypeToDouble();
            points->InsertNextPoint(place.data());
        }
        return known->second;
    }

    CellType m_type;
    int m_order;
    Map m_map;
    std::map<std::array<int, 3>, vtkIdType> m_nodes;
};

Point straight(double r, double s, double t) { return {r, 2 * s + 0.25 * r, 1.5 * t - 0.2 * s}; } // volume 3

// A quarter of a pipe's wall, radii 1 and 2, length 1.
Point pipeWall(double r, double s, double t) {
    return {(1 + r) * std::cos(s * M_PI / 2), (1 + r) * std::sin(s * M_PI / 2), t};
}
constexpr double pipeVolume = M_PI / 4 * 3;
// A piece of a hollow sphere, radii 1 and 2.
Point hollowSphere(double r, double s, double t) {
    const double polar = 0.5 + s;
    const double around = 1.2 * t;
    return {(1 + r) * std::sin(polar) * std::cos(around), (1 + r) * std::sin(polar) * std::sin(around),
            (1 + r) * std::cos(polar)};
}
const double sphereVolume = 7.0 / 3 * 1.2 * (std::cos(0.5) - std::cos(1.5));
const double sphereArea = 4 * 1.2 * (std::cos(0.5) - std::cos(1.5)); // at radius 2

double boundaryAreaAt(const OpenedCase& opened, double radius) {
    for (std::size_t i = 0; i < opened.solved->boundaries.size(); ++i) {
        const auto& mesh = opened.solved->boundaries[i].mesh;
        bool all = true;
        for (std::size_t node = 0; node < mesh.nodes(); ++node) {
            const auto [x, y, z] = mesh.node(node);
            all = all && std::abs(std::sqrt(x * x + y * y + z * z) - radius) < 1e-9;
        }
        if (all)
            return opened.index->boundaries[i].size;
    }
    return std::nan("");
}

} // namespace

TEST(CellLattice, ShapeFunctionsAreOneAtTheirNodeAndSumToOne) {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> any(0.05, 0.3);
    for (const auto type : {CellType::CurvedTriangle, CellType::CurvedQuad, CellType::CurvedTetrahedron,
                            CellType::CurvedHexahedron, CellType::CurvedWedge})
        for (const int order : {2, 3, 4, 7, 10}) {
            const auto* lattice = CellLattice::of(type, CellLattice::nodesOf(type, order));
            ASSERT_NE(lattice, nullptr);
            EXPECT_EQ(lattice->order(), order);
            std::vector<double> value(lattice->nodes());
            for (std::size_t node = 0; node < lattice->nodes(); ++node) {
                lattice->shape(lattice->place(node), value, {});
                for (std::size_t other = 0; other < value.size(); ++other)
                    ASSERT_NEAR(value[other], other == node ? 1 : 0, 1e-9);
                EXPECT_TRUE(lattice->holds(lattice->place(node), 1e-12));
            }
            const LocalPoint at{any(random), any(random), lattice->dimension() == 3 ? any(random) : 0};
            std::vector<LocalPoint> slope(lattice->nodes());
            lattice->shape(at, value, slope);
            EXPECT_NEAR(std::accumulate(value.begin(), value.end(), 0.0), 1, 1e-9);
            std::vector<double> ahead(value.size());
            std::vector<double> behind(value.size());
            for (std::size_t axis = 0; axis < static_cast<std::size_t>(lattice->dimension()); ++axis) {
                constexpr double h = 1e-6;
                auto moved = at;
                moved[axis] += h;
                lattice->shape(moved, ahead, {});
                moved[axis] -= 2 * h;
                lattice->shape(moved, behind, {});
                for (std::size_t node = 0; node < value.size(); ++node)
                    ASSERT_NEAR(slope[node][axis], (ahead[node] - behind[node]) / (2 * h), 2e-6 * std::pow(order, 3));
            }
        }
}

TEST(CellLattice, PiecesFillTheCell) {
    const auto volume = [](const Point& a, const Point& b, const Point& c, const Point& d) {
        return dot(minus(b, a), cross(minus(c, a), minus(d, a))) / 6;
    };
    for (const auto type : curvedSolids)
        for (const int order : {2, 3, 5}) {
            const auto* lattice = CellLattice::of(type, CellLattice::nodesOf(type, order));
            double sum = 0;
            for (const auto& piece : lattice->pieces()) {
                const auto at = [&](std::size_t i) { return lattice->place(piece.node[i]); };
                double one = volume(at(0), at(1), at(2), at(3));
                if (piece.type == CellType::Wedge)
                    one = 3 * volume(at(0), at(1), at(2), at(3));
                if (piece.type == CellType::Hexahedron)
                    one = 6 * volume(at(0), at(1), at(3), at(4));
                EXPECT_GT(one, 0) << "turned over";
                sum += one;
            }
            EXPECT_NEAR(sum,
                        type == CellType::CurvedTetrahedron ? 1.0 / 6
                        : type == CellType::CurvedWedge     ? 0.5
                                                            : 1.0,
                        1e-12);
            const auto faces = cellShape(type)->faces.size();
            EXPECT_EQ(lattice->facePieces().size(), faces * static_cast<std::size_t>(order * order));
        }
}

// The integral of x^a y^b z^c with a + b + c up to the order of the cell is exact over cells with straight sides.
TEST(CurvedCells, PolynomialsUpToTheOrderOfTheCellAreIntegratedExactly) {
    const TempFolder folder;
    for (const auto type : curvedSolids)
        for (const int order : {2, 3, 4, 6}) {
            const Field field = [order](const Point& at) {
                return 300 + std::pow(at[0], order) - std::pow(at[0], order - 1) * at[2];
            };
            // x = r and z = 1.5 t - 0.2 s over the unit cube: means of r^p and of r^(p-1) (1.5 t - 0.2 s).
            const double exact = 300 + 1.0 / (order + 1) - 1.0 / order * (0.75 - 0.1);
            const auto opened = CurvedBlock(type, order, {1, 2, 1}, straight, field).open(folder);
            SCOPED_TRACE(testing::Message() << "type " << static_cast<int>(type) << " order " << order);
            EXPECT_NEAR(opened.index->parts[0].size, 3, 1e-11);
            EXPECT_NEAR(
                *readGauge(opened,
                           Json::parse(R"({"id": "g", "where": {"part": "curved"}, "quantity": "temperature"})"))
                     .value,
                exact, 1e-10);
            // Faces of the box, from edges nobody named.
            const auto end = opened.solved->boundaryNamed("x max");
            ASSERT_TRUE(end);
            EXPECT_NEAR(opened.index->boundaries[*end].size, 3, 1e-11);
            EXPECT_NEAR(
                *readGauge(opened,
                           Json::parse(R"({"id": "g", "where": {"boundary": "x max"}, "quantity": "temperature"})"))
                     .value,
                301 - 0.65, 1e-10);
        }
}

// Errors of volume and area shrink with at least the order of the cell, and one more.
TEST(CurvedCells, VolumesAndAreasConvergeWithTheirOrder) {
    const TempFolder folder;
    for (const auto type : curvedSolids)
        for (const int order : {2, 3, 4}) {
            std::array<double, 2> pipeError{};
            std::array<double, 2> sphereError{};
            std::array<double, 2> areaError{};
            for (std::size_t i = 0; i < 2; ++i) {
                const int n = i == 0 ? 2 : 4;
                pipeError[i] = std::abs(
                    CurvedBlock(type, order, {1, n, 1}, pipeWall).open(folder).index->parts[0].size - pipeVolume);
                const auto ball = CurvedBlock(type, order, {1, n, n}, hollowSphere).open(folder);
                sphereError[i] = std::abs(ball.index->parts[0].size - sphereVolume);
                areaError[i] = std::abs(boundaryAreaAt(ball, 2) - sphereArea);
            }
            SCOPED_TRACE(testing::Message() << "type " << static_cast<int>(type) << " order " << order);
            for (const auto& error : {pipeError, sphereError, areaError}) {
                EXPECT_LT(error[0], 0.05);
                EXPECT_TRUE(error[1] < 1e-10 || std::log2(error[0] / error[1]) > order + 0.7)
                    << error[0] << " " << error[1];
            }
        }
}

// A linear field is exact within curved cells, at their faces too, and so is its gradient.
TEST(CurvedCells, SamplesAndGradientsFollowTheCellsOwnFunctions) {
    const TempFolder folder;
    const Field linear = [](const Point& at) { return 300 + 20 * at[0] - 7 * at[1] + 3 * at[2]; };
    for (const auto type : curvedSolids)
        for (const int order : {2, 3}) {
            SCOPED_TRACE(testing::Message() << "type " << static_cast<int>(type) << " order " << order);
            const auto opened = CurvedBlock(type, order, {2, 3, 1}, pipeWall, linear).open(folder);
            const auto& part = opened.solved->parts[0];
            const auto& values = part.find("T [K]", Location::Node)->values;
            std::vector<Point> places;
            for (const double r : {0.001, 0.2, 0.5, 0.77, 0.999})
                for (double s = 0.01; s < 1; s += 0.0617)
                    places.push_back(pipeWall(r, s, 0.3));
            const auto expectAll = [&](const std::vector<double>& sampled) {
                for (std::size_t i = 0; i < places.size(); ++i) {
                    if (!std::isnan(sampled[i])) {
                        ASSERT_NEAR(sampled[i], linear(places[i]), 1e-9);
                    }
                }
                // The faces of the cells are no circles: a few places next to them may lie outside.
                EXPECT_LT(std::ranges::count_if(sampled, [](double one) { return std::isnan(one); }),
                          order == 2 ? 8 : 2);
            };
            expectAll(sampleAll(part, opened.index->search->locator(0), values, places));
            expectAll(sampleAll(part, values, places));
            const auto inCells = cellGradient(part, values);
            const auto atNodes = nodeGradient(part, values);
            for (const auto* gradient : {&inCells, &atNodes})
                for (std::size_t i = 0; i + 3 <= gradient->size(); i += 3) {
                    ASSERT_NEAR((*gradient)[i], 20, 1e-8);
                    ASSERT_NEAR((*gradient)[i + 1], -7, 1e-8);
                    ASSERT_NEAR((*gradient)[i + 2], 3, 1e-8);
                }
        }
}

// T = A - B ln r: the exact solution of steady conduction through a pipe's wall (Carslaw and Jaeger 1959, 7.2).
TEST(CurvedCells, HeatThroughAPipesWall) {
    const TempFolder folder;
    const Field field = [](const Point& at) { return 400 - 50 * std::log(std::hypot(at[0], at[1])); };
    const double exact = 5.0 * 50 * M_PI / 2; // conductivity 5, a quarter, length 1
    for (const auto type : curvedSolids) {
        SCOPED_TRACE(testing::Message() << "type " << static_cast<int>(type));
        const auto opened = CurvedBlock(type, 2, {4, 4, 1}, pipeWall, field).open(folder);
        const auto survey = Json::parse(
            R"({"case": {"parts": {"curved": {"material": "m"}}}, "materials": {"m": {"conductivity": 5}}})");
        int found = 0;
        for (const auto& boundary : opened.solved->boundaries) {
            const auto [x, y, z] = boundary.mesh.node(0);
            bool round = true;
            for (std::size_t node = 0; node < boundary.mesh.nodes(); ++node) {
                const auto at = boundary.mesh.node(node);
                round = round && std::abs(std::hypot(at[0], at[1]) - std::hypot(x, y)) < 1e-9;
            }
            if (!round)
                continue;
            ++found;
            const auto heat = readGauge(opened,
                                        {{"id", "g"},
                                         {"where", {{"boundary", boundary.name}}},
                                         {"quantity", "heat_flux"},
                                         {"statistic", "integral"}},
                                        survey);
            ASSERT_TRUE(heat.value) << heat.why;
            EXPECT_NEAR(std::abs(*heat.value) / exact, 1, 1e-3) << boundary.name << " " << *heat.value;
        }
        EXPECT_EQ(found, 2);
    }
}

// A wall whose inner face is given by straight quadrangles on curved cells, its outer one by curved quadrangles of
// third order on cells of second order: both find their part, have its area, and read the heat of the exact solution;
// their own arrays follow.
TEST(CurvedCells, BoundariesOfAnotherOrderFindTheirPart) {
    const TempFolder folder;
    const Field field = [](const Point& at) { return 400 - 50 * std::log(std::hypot(at[0], at[1])); };
    const int n = 4;
    const CurvedBlock wall(CellType::CurvedHexahedron, 2, {n, n, 1}, pipeWall, field);
    const auto write = [&](vtkUnstructuredGrid& grid, const char* name) {
        vtkNew<vtkXMLUnstructuredGridWriter> writer;
        writer->SetInputData(&grid);
        writer->SetFileName((folder / name).c_str());
        ASSERT_EQ(writer->Write(), 1);
    };
    write(*wall.grid, "wall.vtu");
    const auto side = [&](double r, int order, const char* name) {
        vtkNew<vtkUnstructuredGrid> grid;
        vtkNew<vtkPoints> points;
        points->SetDataTypeToDouble();
        vtkNew<vtkDoubleArray> own;
        own->SetName("film");
        for (int j = 0; j < n; ++j) {
            std::vector<vtkIdType> ids(static_cast<std::size_t>((order + 1) * (order + 1)));
            for (int k = 0; k <= order; ++k)
                for (int i = 0; i <= order; ++i) {
                    const auto at = pipeWall(r, (j + static_cast<double>(i) / order) / n,
                                             static_cast<double>(k) / order);
                    const std::array<int, 2> orders{order, order};
                    ids[static_cast<std::size_t>(
                        order == 1 ? std::array{0, 1, 3, 2}[static_cast<std::size_t>(i + 2 * k)]
                                   : vtkHigherOrderQuadrilateral::PointIndexFromIJK(i, k, orders.data()))] =
                        points->InsertNextPoint(at.data());
                    own->InsertNextValue(at[2]);
                }
            grid->InsertNextCell(order == 1 ? VTK_QUAD : VTK_LAGRANGE_QUADRILATERAL, static_cast<vtkIdType>(ids.size()),
                                 ids.data());
        }
        grid->SetPoints(points);
        grid->GetPointData()->AddArray(own);
        write(*grid, name);
    };
    side(0, 1, "inner.vtu");
    side(1, 3, "outer.vtu");
    writeText(folder / "case.vtm",
              R"(<VTKFile type="vtkMultiBlockDataSet" version="1.0"><vtkMultiBlockDataSet><Block index="0" name="parts">
          <DataSet index="0" name="wall" file="wall.vtu"/></Block>
        <Block index="1" name="boundaries"><DataSet index="0" name="inner" file="inner.vtu"/>
          <DataSet index="1" name="outer" file="outer.vtu"/></Block></vtkMultiBlockDataSet></VTKFile>)");
    const auto opened = mustOpen(folder / "case.vtm");
    for (const auto& remark : opened.index->remarks)
        EXPECT_NE(remark.code, "boundary-unmatched") << remark.text;
    const auto survey = Json::parse(
        R"({"case": {"parts": {"wall": {"material": "m"}}}, "materials": {"m": {"conductivity": 5}}})");
    const double exact = 5.0 * 50 * M_PI / 2;
    for (const auto& [name, radius] : {std::pair{"inner", 1.0}, {"outer", 2.0}}) {
        SCOPED_TRACE(name);
        const auto at = *opened.solved->boundaryNamed(name);
        EXPECT_NEAR(opened.index->boundaries[at].size, radius * M_PI / 2, 1e-4);
        EXPECT_EQ(opened.solved->boundaries[at].fileCells, 4U);
        const auto& film = opened.solved->boundaries[at].find("film", Location::Node)->values;
        for (std::size_t node = 0; node < film.size(); ++node)
            EXPECT_NEAR(film[node], opened.solved->boundaries[at].mesh.node(node)[2], 1e-12);
        const auto heat = readGauge(
            opened,
            {{"id", "g"}, {"where", {{"boundary", name}}}, {"quantity", "heat_flux"}, {"statistic", "integral"}},
            survey);
        ASSERT_TRUE(heat.value) << heat.why;
        EXPECT_NEAR(std::abs(*heat.value) / exact, 1, 1e-3);
    }
}

// Two halves of a bar, of cells of different order: they touch, what leaves one enters the other, nothing is left over
// as a boundary, and no jump is seen.
TEST(CurvedCells, PartsOfAnotherOrderTouch) {
    double across = 0; // K/m along the interface
    const Field field = [&](const Point& at) { return 400 - 1000 * at[0] + across * at[1]; };
    const auto half = [](double from) {
        return [from](double r, double s, double t) { return Point{0.05 * (from + r), 0.02 * s, 0.03 * t}; };
    };
    for (const auto type : {CellType::CurvedHexahedron, CellType::CurvedTetrahedron})
        for (const auto& [cold, hot] : {std::pair{1, 2}, {3, 1}, {2, 3}}) {
            if (type == CellType::CurvedTetrahedron && std::min(cold, hot) == 1)
                continue; // whose diagonals run differently
            SCOPED_TRACE(std::to_string(cold) + " " + std::to_string(hot));
            const TempFolder folder;
            const auto write = [&](int order, double from, const std::string& name) {
                if (order == 1) {
                    auto block = boxPart(name, {{0.05, 0.02, 0.03}, {2, 2, 2}, {0.05 * from, 0, 0}});
                    addNodeField(block, "T [K]", field);
                    ASSERT_TRUE(writeBlock(block, folder / (name + ".vtu")));
                    return;
                }
                const CurvedBlock block(type, order, {2, 2, 2}, half(from), field);
                vtkNew<vtkXMLUnstructuredGridWriter> writer;
                writer->SetInputData(block.grid);
                writer->SetFileName((folder / (name + ".vtu")).c_str());
                ASSERT_EQ(writer->Write(), 1);
            };
            writeText(folder / "case.vtm",
                      R"(<VTKFile type="vtkMultiBlockDataSet" version="1.0"><vtkMultiBlockDataSet>
                  <Block index="0" name="parts"><DataSet index="0" name="cold" file="cold.vtu"/>
                  <DataSet index="1" name="hot" file="hot.vtu"/></Block></vtkMultiBlockDataSet></VTKFile>)");
            const auto survey = Json::parse(
                R"({"case": {"parts": {"cold": {"material": "m"}, "hot": {"material": "m"}}},
                  "materials": {"m": {"conductivity": 5}}})");
            for (const double slope : {0.0, 200.0}) {
                across = slope;
                write(cold, 1, "cold");
                write(hot, 0, "hot");
                const auto opened = mustOpen(folder / "case.vtm");
                EXPECT_EQ(opened.solved->boundaries.size(), 10U);
                for (const auto& [one, other] : {std::pair{"hot", "cold"}, {"cold", "hot"}}) {
                    const auto heat = readGauge(opened,
                                                {{"id", "g"},
                                                 {"where", {{"interface", {one, other}}}},
                                                 {"quantity", "heat_flux"},
                                                 {"statistic", "integral"}},
                                                survey);
                    ASSERT_TRUE(heat.value) << heat.why;
                    if (slope == 0) { // else nodes at the rim have heat of the sides too
                        EXPECT_NEAR(*heat.value, (one == std::string("hot") ? 1 : -1) * 5 * 1000 * 0.02 * 0.03, 1e-9);
                    }
                }
                StepContext context;
                context.balances = true;
                const auto readings = readOn(opened, survey, context);
                ASSERT_TRUE(readings.balances);
                const auto link = std::ranges::find(readings.balances->links, false, &PartLink::toBoundary);
                ASSERT_NE(link, readings.balances->links.end());
                ASSERT_TRUE(link->leave && link->enter);
                EXPECT_NEAR(*link->leave, *link->enter, 1e-9);
                EXPECT_NEAR(link->area, 0.0006, 1e-12);
                for (const auto& check : readings.checks)
                    if (check.key == "gaps" || check.key == "jumps") {
                        EXPECT_EQ(check.state, CheckState::Passed) << check.figure;
                    }
            }
        }
}

// Smooth curved faces are one boundary each, however few cells there are around: half a pipe of two cells, each bent by
// 90 degrees. Their middles lie on the wrong side of the inner face; heat goes out of it all the same.
TEST(CurvedCells, CellsBentFarKeepTheirFacesAndSides) {
    for (const auto type : {CellType::CurvedHexahedron, CellType::CurvedWedge}) {
        const TempFolder folder;
        const auto half = [](double r, double s, double t) {
            return Point{(1 + r) * std::cos(M_PI * s), (1 + r) * std::sin(M_PI * s), t};
        };
        // hot outside
        const Field field = [](const Point& at) { return 400 + 50 * std::log(std::hypot(at[0], at[1])); };
        const auto opened = CurvedBlock(type, 5, {1, 2, 1}, half, field).open(folder);
        EXPECT_EQ(opened.solved->boundaries.size(), 6U) << "both curved faces, both ends, both cuts";
        for (const auto* name : {"z min", "z max", "face 1", "face 2", "face 3", "face 4"})
            EXPECT_TRUE(opened.solved->boundaryNamed(name)) << name;
        const auto survey = Json::parse(
            R"({"case": {"parts": {"curved": {"material": "m"}}}, "materials": {"m": {"conductivity": 5}}})");
        const double exact = 5.0 * 50 * M_PI; // 2 pi k dT / ln(r2/r1) per metre of a whole pipe
        for (const auto& [name, sign] : {std::pair{"face 1", -1}, {"face 2", 1}})
            for (const auto* method : {"conservative", "gradient"}) {
                const auto heat = readGauge(opened,
                                            {{"id", "g"},
                                             {"where", {{"boundary", name}}},
                                             {"quantity", "heat_flux"},
                                             {"statistic", "integral"},
                                             {"method", method}},
                                            survey);
                ASSERT_TRUE(heat.value) << heat.why;
                EXPECT_NEAR(*heat.value, sign * exact, 0.02 * exact) << name << " " << method;
            }
    }
}
