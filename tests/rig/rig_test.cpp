// The rig against exact solutions, so that what it writes can be trusted as a stand-in for a solver.
#include "rig/result.h"

#include <cmath>
#include <fmt/format.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::rig;

namespace {

struct Solved {
    Model model;
    Grid grid;
    Solution solution;
    std::vector<double> nodes;

    double atNode(std::size_t i, std::size_t j = 0, std::size_t k = 0) const {
        return nodes[i + (grid.cells(0) + 1) * (j + (grid.cells(1) + 1) * k)];
    }
};

Solved solveText(const std::string& text) {
    auto model = modelFromText(text, "test.rig.json");
    EXPECT_TRUE(model) << model.error().text();
    auto grid = makeGrid(*model);
    NoProgress progress;
    auto solution = solve(*model, *grid, progress);
    EXPECT_TRUE(solution) << solution.error().text();
    auto nodes = nodeTemperatures(*model, *grid, *solution);
    return {std::move(*model), std::move(*grid), std::move(*solution), std::move(nodes)};
}

// A bar along x with a cross-section of 1 m2.
std::string spacedBar(const std::string& boxes, const std::string& environments, const std::string& spacing = "10 mm") {
    return fmt::format(
        R"json({{"rig": 1, "grid": {{"x": {{"spacing": "{}"}}, "y": {{"spacing": 1}}, "z": {{"spacing": 1}}}},
        "materials": {{"brick": {{"conductivity": "0.8 W/(m.K)"}}, "foam": {{"conductivity": "0.035 W/(m.K)"}}}},
        "boxes": [{}], "environments": [{}]}})json",
        spacing, boxes, environments);
}

const std::string wall = R"({"part": "wall", "material": "brick", "from": [0, 0, 0], "to": [0.4, 1, 1]})";

} // namespace

// Plane wall without source: the profile is linear, q = k (T1 - T2) / L.
TEST(Rig, PlaneWall) {
    const auto solved = solveText(
        spacedBar(wall, R"({"boundary": "warm", "temperature": "20 degC", "faces": [{"side": "-x"}]},
                                              {"boundary": "cold", "temperature": "-10 degC",
                                                "faces": [{"side": "+x"}]})"));
    EXPECT_NEAR(solved.solution.fluxAbove[0][0], 0.8 * 30 / 0.4, 1e-8);
    for (std::size_t i = 0; i <= 40; ++i)
        EXPECT_NEAR(solved.atNode(i), 293.15 - 30 * static_cast<double>(i) / 40, 1e-8);
    EXPECT_NEAR(solved.solution.leaving, 0, 1e-8);
}

// Plane wall with uniform source S between equal faces: T = Ts + S/(2k) x (L - x). Source: Incropera, Fundamentals of
// Heat and Mass Transfer, chapter 3 (formula from memory). Node values follow from cell values and exact face fluxes
// and are exact; cell values are off by S h^2 / (8 k) at their centres, a quarter for half the width.
TEST(Rig, WallWithUniformSource) {
    constexpr double source = 1000;
    for (const double spacing : {0.02, 0.01}) {
        const auto solved = solveText(spacedBar(
            R"({"part": "wall", "material": "brick", "from": [0, 0, 0], "to": [0.4, 1, 1], "source": "1000 W/m3"})",
            R"({"boundary": "both", "temperature": 300, "faces": [{"side": "-x"}, {"side": "+x"}]})",
            fmt::format("{} m", spacing)));
        const auto exact = [&](double x) { return 300 + source / (2 * 0.8) * x * (0.4 - x); };
        for (std::size_t i = 0; i < solved.grid.cells(0); ++i) {
            EXPECT_NEAR(solved.atNode(i), exact(solved.grid.lines[0][i]), 1e-8);
            EXPECT_NEAR(solved.solution.temperature[i] - exact(solved.grid.centre(0, i)),
                        source * spacing * spacing / (8 * 0.8), 1e-8);
        }
        EXPECT_NEAR(solved.solution.produced, 400, 1e-9);
        EXPECT_NEAR(solved.solution.leaving, 400, 1e-6 * 400);
    }
}

// Two layers between surface resistances: q = dT / (Rsi + d1/k1 + d2/k2 + Rse). Surface resistances for horizontal heat
// flow 0.13 and 0.04 m2K/W after ISO 6946 (from memory, see docs/bibliography.md).
TEST(Rig, TwoLayerWallWithSurfaceResistances) {
    const auto solved = solveText(spacedBar(
        R"({"part": "brick", "material": "brick", "from": [0, 0, 0], "to": [0.24, 1, 1]},
                                         {"part": "foam", "material": "foam", "from": [0.24, 0, 0], "to": [0.34, 1,
                                           1]})",
        R"({"boundary": "inside", "temperature": "20 degC", "surface_resistance": "0.13 m2.K/W",
          "faces": [{"side": "-x"}]},
                                         {"boundary": "outside", "temperature": "-5 degC",
                                           "surface_resistance": "0.04 m2.K/W", "faces": [{"side": "+x"}]})"));
    const double flux = 25 / (0.13 + 0.24 / 0.8 + 0.10 / 0.035 + 0.04);
    EXPECT_NEAR(solved.solution.fluxBelow[0][0], flux, 1e-8);
    EXPECT_NEAR(solved.atNode(0), 293.15 - flux * 0.13, 1e-8);
    EXPECT_NEAR(solved.atNode(24), 293.15 - flux * (0.13 + 0.24 / 0.8), 1e-8);
    EXPECT_NEAR(solved.atNode(34), 268.15 + flux * 0.04, 1e-8);
}

// U-value of docs/bibliography.md, "U-value, worked": 0.3395 W/m2K (sum of resistances, own example).
TEST(Rig, WorkedTransmittance) {
    const auto solved = solveText(
        R"json({"rig": 1, "length_unit": "mm", "grid": {"x": {"spacing": 5}, "y": {"spacing": 1000},
          "z": {"spacing": 1000}},
      "materials": {"plaster": {"conductivity": 0.70}, "sand-lime": {"conductivity": 0.99},
        "insulation": {"conductivity": 0.040}, "render": {"conductivity": 0.87}},
      "boxes": [{"part": "p", "material": "plaster", "from": [0,0,0], "to": [15,1000,1000]}, {"part": "s",
        "material": "sand-lime", "from": [15,0,0], "to": [255,1000,1000]},
                {"part": "i", "material": "insulation", "from": [255,0,0], "to": [355,1000,1000]}, {"part": "r",
                  "material": "render", "from": [355,0,0], "to": [365,1000,1000]}],
      "environments": [{"boundary": "in", "temperature": 294.15, "surface_resistance": 0.13, "faces": [{"side": "-x"}]},
                       {"boundary": "out", "temperature": 293.15, "surface_resistance": 0.04,
                         "faces": [{"side": "+x"}]}]})json");
    EXPECT_NEAR(solved.solution.fluxBelow[0][0], 0.3395, 5e-5);
}

TEST(Rig, GradedLinesMeetTheFaces) {
    const auto lines = gridLines({0, 0.1, 0.04, 0.1}, {0.01, 0.001, 1.3});
    EXPECT_DOUBLE_EQ(lines.front(), 0);
    EXPECT_DOUBLE_EQ(lines.back(), 0.1);
    EXPECT_NE(std::ranges::find(lines, 0.04), lines.end());
    for (std::size_t i = 1; i < lines.size(); ++i) {
        EXPECT_GT(lines[i], lines[i - 1]);
        EXPECT_LE(lines[i] - lines[i - 1], 0.0101);
    }
    EXPECT_LT(lines[1], 0.0012);
}

TEST(Rig, BadInputNamesItsPlace) {
    const auto wrong = [](const std::string& boxes, const std::string& environments) {
        const auto model = modelFromText(spacedBar(boxes, environments), "test.rig.json");
        return model ? Error{ErrorCode::Usage, "no error", "", ""} : model.error();
    };
    const std::string cold = R"({"boundary": "cold", "temperature": "0 degC", "faces": [{"side": "+x"}]})";
    EXPECT_NE(wrong(R"({"part": "a", "material": "gold", "from": [0,0,0], "to": [1,1,1]})", cold).what.find("gold"),
              std::string::npos);
    EXPECT_NE(
        wrong(R"({"part": "a", "material": "brick", "from": [1,0,0], "to": [1,1,1]})", cold).where.find("boxes.0"),
        std::string::npos);
    EXPECT_EQ(wrong(wall, R"({"boundary": "c", "temperature": "3 W", "faces": []})").code, ErrorCode::WrongUnit);
    EXPECT_NE(wrong(wall, R"({"boundary": "c", "temperature": 3, "faces": [{"side": "up"}]})").what.find("up"),
              std::string::npos);
    EXPECT_EQ(modelFromText("{", "x").error().code, ErrorCode::Syntax);
    // Nothing holds the level of the temperature.
    auto floating = modelFromText(spacedBar(wall, R"({"boundary": "c", "temperature": 300, "faces": []})"), "x");
    NoProgress progress;
    EXPECT_FALSE(solve(*floating, *makeGrid(*floating), progress));
}
