// Heat through walls against closed solutions, on meshes refined so that the order of convergence is seen.
#include "core/thermal/nodal_heat.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <Eigen/IterativeLinearSolvers>
#include <Eigen/LU>
#include <Eigen/SparseCore>
#include <gtest/gtest.h>
#include <numbers>

using namespace pyro;
using namespace pyro::test;

namespace {

using std::numbers::pi;

struct Wall {
    TempFolder folder;
    OpenedCase opened;
};

// A box mapped into space with all of its sides as boundaries: x-, x+, y-, y+, z-, z+.
void write(Wall& out, const BoxMesh& box, Cells cells, const std::function<void(BlockData&)>& fields) {
    auto part = boxPart("wall", box, cells);
    fields(part);
    std::vector<BlockData> blocks{part};
    for (int axis = 0; axis < 3; ++axis)
        for (const bool high : {false, true})
            blocks.push_back(boxSide(std::string(1, "xyz"[axis]) + (high ? "+" : "-"), box, axis, high, cells));
    ASSERT_TRUE(writeCase(blocks, out.folder / "wall.vtm"));
    out.opened = mustOpen(out.folder / "wall.vtm");
}

const char* nameOf(Cells cells) {
    return cells == Cells::Hexahedra ? "hexahedra" : cells == Cells::Tetrahedra ? "tetrahedra" : "wedges";
}

// Pipe wall, quarter: r 20..40 mm, inside 90 degC, outside 30 degC, k 0.4 W/(m.K), 50 mm long. Handbook: T is linear in
// ln r, Q = 2 pi k L (Ti - To) / ln(ro / ri), a quarter of it here.
struct Pipe {
    static constexpr double ri = 0.02, ro = 0.04, ti = 90, to = 30, k = 0.4, length = 0.05;
    static double heat() { return 0.25 * 2 * pi * k * length * (ti - to) / std::log(ro / ri); }
    static double at(const Point& p) {
        return ti + (to - ti) * std::log(std::hypot(p[0], p[1]) / ri) / std::log(ro / ri);
    }
};

// Flow into and out of the wall, conservative and by plain gradient, relative errors.
struct PipeErrors {
    double inside, outside, gradient;
};
PipeErrors pipeErrors(int across, Cells cells) {
    BoxMesh box{{1, 1, Pipe::length}, {across, 3 * across, 2}};
    box.map = [](const Point& p) {
        const double r = Pipe::ri + (Pipe::ro - Pipe::ri) * p[0];
        return Point{r * std::cos(p[1] * pi / 2), r * std::sin(p[1] * pi / 2), p[2]};
    };
    Wall pipe;
    write(pipe, box, cells, [](BlockData& part) { addNodeField(part, "T [degC]", Pipe::at); });
    const auto readings = readOn(pipe.opened, Json::parse(R"j({"case": {"parts": {"wall": {"material": "lining"}}},
        "materials": {"lining": {"conductivity": "0.4 W/(m.K)"}}, "gauges": [
        {"id": "in", "where": {"boundary": "x-"}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "out", "where": {"boundary": "x+"}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "plain", "where": {"boundary": "x+"}, "quantity": "heat_flux", "statistic": "integral",
          "method": "gradient"}]})j"));
    for (const auto& gauge : readings.gauges)
        EXPECT_TRUE(gauge.value) << gauge.why;
    EXPECT_EQ(readings.gauges[0].method, "conservative");
    EXPECT_EQ(readings.gauges[2].method, "gradient");
    EXPECT_NEAR(*readings.gauges[1].gradientValue, *readings.gauges[2].value, 1e-9 * Pipe::heat());
    const auto error = [](double heat) { return std::abs(heat - Pipe::heat()) / Pipe::heat(); };
    return {error(-*readings.gauges[0].value), error(*readings.gauges[1].value), error(*readings.gauges[2].value)};
}

} // namespace

TEST(WallHeat, PipeWallWithinAThousandthOnTwentyCells) {
    for (const auto cells : {Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges}) {
        SCOPED_TRACE(nameOf(cells));
        const auto five = pipeErrors(5, cells);
        const auto ten = pipeErrors(10, cells);
        const auto twenty = pipeErrors(20, cells);
        EXPECT_LT(twenty.inside, 1e-3);
        EXPECT_LT(twenty.outside, 1e-3);
        // Second order against first order of the plain gradient.
        EXPECT_GT(std::log2(ten.outside / twenty.outside), 1.7);
        EXPECT_GT(std::log2(five.inside / ten.inside), 1.7);
        EXPECT_NEAR(std::log2(ten.gradient / twenty.gradient), 1.0, 0.3);
        EXPECT_GT(twenty.gradient, 5 * twenty.outside);
        RecordProperty(std::string(nameOf(cells)) + " conservative error on 20 cells", std::to_string(twenty.outside));
    }
}

// Sphere with uniform source (docs/bibliography.md: handbook formula): R 30 mm, k 1.5 W/(m.K), 2e5 W/m3, h 40 W/(m2.K)
// to 20 degC; surface 70 degC, 2000 W/m2, centre 90 degC, volume mean 78 degC. A sector of it, away from the axis.
TEST(WallHeat, SphereWithSource) {
    double before = 0;
    for (const int across : {6, 12, 24}) {
        BoxMesh box{{1, 1, 1}, {across, across, across}};
        box.map = [](const Point& p) {
            const double r = 0.03 * p[0];
            const double polar = pi / 4 + p[1] * pi / 2;
            const double around = p[2] * pi / 2;
            return Point{r * std::sin(polar) * std::cos(around), r * std::sin(polar) * std::sin(around),
                         -r * std::cos(polar)};
        };
        Wall sphere;
        write(sphere, box, Cells::Hexahedra, [](BlockData& part) {
            addNodeField(part, "T [degC]", [](const Point& p) {
                return 70 + 2e5 * (0.03 * 0.03 - p[0] * p[0] - p[1] * p[1] - p[2] * p[2]) / (6 * 1.5);
            });
            addNodeField(part, "heat_source", [](const Point&) { return 2e5; });
        });
        const auto readings = readOn(sphere.opened,
                                     Json::parse(R"j({"case": {"parts": {"wall": {"material": "pellet"}}},
            "materials": {"pellet": {"conductivity": "1.5 W/(m.K)"}}, "gauges": [
            {"id": "flux", "where": {"boundary": "x+"}, "quantity": "heat_flux"},
            {"id": "h", "where": {"boundary": "x+"}, "quantity": "film_coefficient", "reference": "20 degC"},
            {"id": "centre", "where": {"part": "wall"}, "quantity": "temperature", "statistic": "max", "unit": "degC"},
            {"id": "mean", "where": {"part": "wall"}, "quantity": "temperature", "unit": "degC"},
            {"id": "remainder", "where": {"part": "wall"}, "quantity": "heat_balance"},
            {"id": "produced", "where": {"part": "wall"}, "quantity": "heat_balance", "statistic": "produced"}]})j"));
        const auto value = [&](std::size_t at) {
            return readings.gauges[at].value ? *readings.gauges[at].value
                                             : (ADD_FAILURE() << readings.gauges[at].why, std::nan(""));
        };
        const double off = std::abs(value(0) - 2000) / 2000;
        if (before > 0) {
            EXPECT_GT(std::log2(before / off), 1.6) << across;
        }
        before = off;
        if (across < 24)
            continue;
        EXPECT_LT(off, 2.5e-3);
        EXPECT_NEAR(value(1), 40, 0.1);
        EXPECT_NEAR(value(2), 90, 1e-3);
        EXPECT_NEAR(value(3), 78, 0.05);
        EXPECT_LT(std::abs(value(4)), 5e-3 * value(5));
    }
}

// Rectangular fin (docs/bibliography.md): h 35, k 205, 3 mm thick, 40 mm long, adiabatic tip: efficiency tanh(mL)/(mL)
// = 0.94341. The field is the fin equation's, its loss to the air a sink of 2 h (T - Tair) / thickness.
TEST(WallHeat, FinEfficiencyByAFormula) {
    const double m = std::sqrt(2 * 35 / (205 * 0.003));
    const double exact = std::tanh(m * 0.04) / (m * 0.04);
    double before = 0;
    for (const int cells : {10, 20, 40}) {
        const BoxMesh box{{0.04, 0.003, 0.02}, {cells, 2, 2}};
        Wall fin;
        const auto excess = [m](const Point& p) { return 60 * std::cosh(m * (0.04 - p[0])) / std::cosh(m * 0.04); };
        write(fin, box, Cells::Hexahedra, [&](BlockData& part) {
            addNodeField(part, "T [degC]", [&](const Point& p) { return 25 + excess(p); });
            addNodeField(part, "heat_source", [&](const Point& p) { return -2 * 35 * excess(p) / 0.003; });
        });
        const auto readings = readOn(fin.opened, Json::parse(R"j({"case": {"parts": {"wall": {"material": "alloy"}}},
            "materials": {"alloy": {"conductivity": "205 W/(m.K)"}}, "gauges": [
            {"id": "Q", "where": {"boundary": "x-"}, "quantity": "heat_flux", "statistic": "integral"},
            {"id": "T_base", "where": {"boundary": "x-"}, "quantity": "temperature"},
            {"id": "efficiency",
              "formula": "-Q / (35 'W/(m2.K)' * 2 * 0.04 'm' * 0.02 'm' * (T_base - 25 'degC'))"}]})j"));
        ASSERT_TRUE(readings.gauges[2].value) << readings.gauges[2].why;
        EXPECT_EQ(readings.gauges[2].unit, "1");
        const double off = std::abs(*readings.gauges[2].value - exact);
        if (before > 0) {
            EXPECT_GT(std::log2(before / off), 1.7);
        }
        before = off;
    }
    EXPECT_LT(before, 1e-4);
    EXPECT_NEAR(exact, 0.94341, 5e-6);
}

// A nodal solution of the discrete equations on warped tetrahedra, assembled and solved here by Eigen: what the
// conservative method leaves over at inner nodes is the solver's residual, and the part's balance closes with it.
TEST(WallHeat, BalancesCloseOnTheDiscreteSolution) {
    BoxMesh box{{0.1, 0.08, 0.06}, {8, 7, 6}};
    box.warp = 0.002;
    TempFolder folder;
    auto part = boxPart("wall", box, Cells::Tetrahedra);
    ASSERT_TRUE(writeCase({part}, folder / "mesh.vtm"));
    const auto meshed = mustOpen(folder / "mesh.vtm");
    const auto& mesh = meshed.solved->parts[0].mesh; // its points as they are stored
    const auto nodes = static_cast<Eigen::Index>(mesh.nodes());
    std::vector<Eigen::Triplet<double>> entries;
    Eigen::VectorXd load = Eigen::VectorXd::Zero(nodes);
    for (std::size_t cell = 0; cell < mesh.cells(); ++cell) {
        const auto ids = mesh.cell(cell);
        Eigen::Matrix4d corners;
        for (int i = 0; i < 4; ++i) {
            const auto at = mesh.node(ids[static_cast<std::size_t>(i)]);
            corners.row(i) << 1, at[0], at[1], at[2];
        }
        const double volume = std::abs(corners.determinant()) / 6;
        const Eigen::Matrix4d shape = corners.inverse(); // column i: N_i = a + b x + c y + d z
        for (int i = 0; i < 4; ++i) {
            load[ids[static_cast<std::size_t>(i)]] += 5e4 * volume / 4;
            for (int j = 0; j < 4; ++j)
                entries.emplace_back(ids[static_cast<std::size_t>(i)], ids[static_cast<std::size_t>(j)],
                                     12.0 * volume * shape.col(i).tail<3>().dot(shape.col(j).tail<3>()));
        }
    }
    Eigen::SparseMatrix<double> stiffness(nodes, nodes);
    stiffness.setFromTriplets(entries.begin(), entries.end());
    const auto held = [&](Eigen::Index node) { return mesh.node(static_cast<std::size_t>(node))[0] < 1e-9; };
    Eigen::SparseMatrix<double> fixed = stiffness;
    Eigen::VectorXd right = load;
    fixed.prune(
        [&](Eigen::Index row, Eigen::Index column, double) { return row == column || (!held(row) && !held(column)); });
    for (Eigen::Index node = 0; node < nodes; ++node)
        if (held(node)) {
            fixed.coeffRef(node, node) = 1;
            right[node] = 0;
        }
    Eigen::ConjugateGradient<Eigen::SparseMatrix<double>, Eigen::Lower | Eigen::Upper> solver(fixed);
    solver.setTolerance(1e-14);
    const Eigen::VectorXd solution = solver.solve(right);
    part.arrays.push_back({"T", Location::Node, 1, {}});
    for (Eigen::Index node = 0; node < nodes; ++node)
        part.arrays.back().values.push_back(300 + solution[node]);
    addCellField(part, "heat_source", [](const Point&) { return 5e4; });
    ASSERT_TRUE(writeCase({part, boxSide("cold", box, 0, false, Cells::Tetrahedra)}, folder / "solved.vtm"));
    const auto solved = mustOpen(folder / "solved.vtm");
    const auto readings = readOn(solved, Json::parse(R"j({"case": {"parts": {"wall": {"material": "block"}}},
        "materials": {"block": {"conductivity": "12 W/(m.K)"}}, "gauges": [
        {"id": "cold", "where": {"boundary": "cold"}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "remainder", "where": {"part": "wall"}, "quantity": "heat_balance"},
        {"id": "produced", "where": {"part": "wall"}, "quantity": "heat_balance", "statistic": "produced"}]})j"));
    for (const auto& gauge : readings.gauges)
        ASSERT_TRUE(gauge.value) << gauge.why;
    EXPECT_LT(std::abs(*readings.gauges[1].value), 1e-8 * *readings.gauges[2].value);
    // Nodes on the rim of the boundary share their heat with the insulated faces beside it by what the gradient says
    // there.
    EXPECT_NEAR(*readings.gauges[0].value, load.sum(), 1e-3 * load.sum());
}
