// Published two-dimensional cases, read back through the whole path: rig, file, reader, gauges.
#include "core/evaluate/survey_run.h"
#include "tests/reference/solve_and_open.h"
#include "tests/support/gauges.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// The stored node value at a place that is a node.
double atNode(const OpenedCase& opened, double x, double y) {
    const auto& part = opened.solved->parts[0];
    const auto* array = part.find("temperature", Location::Node);
    for (std::size_t i = 0; i < part.mesh.nodes(); ++i) {
        const auto at = part.mesh.node(i);
        if (std::abs(at[0] - x) < 1e-9 && std::abs(at[1] - y) < 1e-9)
            return array->values[i] - 273.15;
    }
    ADD_FAILURE() << "no node at " << x << ", " << y;
    return std::nan("");
}

// ISO 10211, validation case 2 (docs/bibliography.md).
constexpr const char* case2 = R"json({"rig": 1, "length_unit": "mm",
        "grid": {"x": {"spacing": 5, "fine": 0.25, "growth": 1.2}, "y": {"spacing": 1, "fine": 0.25, "growth": 1.2},
          "z": {"spacing": 1000}},
        "materials": {"concrete": {"conductivity": 1.15}, "wood": {"conductivity": 0.12},
          "aluminium": {"conductivity": 230}, "insulation": {"conductivity": 0.029}},
        "boxes": [{"part": "section", "material": "insulation", "from": [0, 0, 0], "to": [500, 47.5, 1000]},
                  {"part": "section", "material": "concrete", "from": [0, 0, 0], "to": [500, 6, 1000]},
                  {"part": "section", "material": "wood", "from": [0, 6, 0], "to": [15, 11, 1000]},
                  {"part": "section", "material": "aluminium", "from": [0, 11, 0], "to": [15, 12.5, 1000]},
                  {"part": "section", "material": "aluminium", "from": [0, 11, 0], "to": [1.5, 47.5, 1000]},
                  {"part": "section", "material": "aluminium", "from": [0, 46, 0], "to": [500, 47.5, 1000]}],
        "environments": [{"boundary": "cold", "temperature": "0 degC", "surface_resistance": "0.06 m2.K/W",
          "faces": [{"side": "-y"}]},
                         {"boundary": "warm", "temperature": "20 degC", "surface_resistance": "0.11 m2.K/W",
                           "faces": [{"side": "+y"}]}]})json";

enum class Left { SolvedNodes, AveragedNodes, Cells }; // of the temperatures

// Case 2 as a solver writes it that stores nothing but a temperature and the conductivity.
OpenedCase bareCase2(Left left, const TempFolder& folder) {
    const auto model = rig::modelFromText(case2, "reference");
    const auto grid = rig::makeGrid(*model);
    NoProgress progress;
    const auto solution = rig::solve(*model, *grid, progress);
    auto blocks = rig::toBlocks(*model, *grid, *solution);
    for (auto& block : blocks) {
        const auto has = [&](const ArrayData& array, Location on) {
            return array.name.starts_with("temperature") && array.on == on;
        };
        if (left == Left::AveragedNodes && !block.boundary) {
            const auto& cells = std::ranges::find_if(block.arrays, [&](const auto& array) {
                                    return has(array, Location::Cell);
                                })->values;
            auto& nodes = std::ranges::find_if(block.arrays, [&](const auto& array) {
                              return has(array, Location::Node);
                          })->values;
            std::vector<double> times(nodes.size(), 0);
            std::ranges::fill(nodes, 0);
            for (std::size_t cell = 0; cell < cells.size(); ++cell)
                for (auto at = block.offsets[cell]; at < block.offsets[cell + 1]; ++at) {
                    nodes[block.connectivity[at]] += cells[cell];
                    times[block.connectivity[at]] += 1;
                }
            for (std::size_t node = 0; node < nodes.size(); ++node)
                nodes[node] /= times[node];
        }
        std::erase_if(block.arrays, [&](const ArrayData& array) {
            return block.boundary || !(has(array, left == Left::Cells ? Location::Cell : Location::Node) ||
                                       array.name.starts_with("conductivity"));
        });
    }
    EXPECT_TRUE(writeCase(blocks, folder / "bare.vtm"));
    return mustOpen(folder / "bare.vtm");
}

} // namespace

// ISO 10211, validation case 1, criterion 0.1 K; the table of docs/bibliography.md (published values from memory,
// confirmed there by a Fourier series).
TEST(Reference, Iso10211Case1) {
    const TempFolder folder;
    const auto opened = solveAndOpen(
        R"json({"rig": 1, "grid": {"x": {"spacing": 0.0125}, "y": {"spacing": 0.0125}, "z": {"spacing": 1}},
        "materials": {"any": {"conductivity": 1}},
        "boxes": [{"part": "column", "material": "any", "from": [0, 0, 0], "to": [1, 2, 0.1]}],
        "environments": [{"boundary": "top", "temperature": "20 degC", "faces": [{"side": "+y"}]},
                         {"boundary": "cold", "temperature": "0 degC", "faces": [{"side": "-x"},
                           {"side": "-y"}]}]})json",
        folder / "case1.vtm");
    constexpr std::array<std::array<double, 4>, 7> published{{{9.7, 13.4, 14.7, 15.1},
                                                              {5.3, 8.6, 10.3, 10.8},
                                                              {3.2, 5.6, 7.0, 7.5},
                                                              {2.0, 3.6, 4.7, 5.0},
                                                              {1.3, 2.3, 3.0, 3.2},
                                                              {0.7, 1.4, 1.8, 1.9},
                                                              {0.3, 0.6, 0.8, 0.9}}};
    for (std::size_t row = 0; row < 7; ++row)
        for (std::size_t column = 0; column < 4; ++column)
            EXPECT_NEAR(
                atNode(opened, 0.25 * static_cast<double>(column + 1), 2.0 * (7 - static_cast<double>(row)) / 8),
                published[row][column], 0.1);
    // The computed value in the middle of the symmetry line is exactly 5 (a quarter of 20, by superposition).
    EXPECT_NEAR(atNode(opened, 1, 1), 5.0, 0.005);
}

// ISO 10211, validation case 2, criterion 0.1 K and 0.1 W/m; docs/bibliography.md (published values from memory,
// confirmed).
TEST(Reference, Iso10211Case2) {
    const TempFolder folder;
    const auto opened = solveAndOpen(case2, folder / "case2.vtm");
    struct Published {
        double x, y, celsius;
    };
    for (const auto& [x, y, celsius] : {Published{0, 0, 7.1},
                                        {500, 0, 0.8},
                                        {0, 6, 7.9},
                                        {15, 6, 6.3},
                                        {500, 6, 0.8},
                                        {0, 11, 16.4},
                                        {15, 11, 16.3},
                                        {0, 47.5, 16.8},
                                        {500, 47.5, 18.3}})
        EXPECT_NEAR(atNode(opened, x / 1000, y / 1000), celsius, 0.1) << x << " " << y;
    // Heat flow by a gauge on the boundary, depth 1 m: 9.5 W/m.
    Survey survey;
    survey.cases.push_back({"case2", "", {}, {}, {}, Json::object()});
    Gauge gauge;
    gauge.id = "Q";
    gauge.where.written = Json::parse(R"({"boundary": "cold"})");
    gauge.quantity = "heat_flux";
    gauge.statistic = "integral";
    survey.gauges.push_back(gauge);
    NoProgress progress;
    const auto readings = evaluate(survey, survey.cases[0], opened, Step{}, progress);
    ASSERT_TRUE(readings);
    ASSERT_TRUE(readings->gauges[0].value) << readings->gauges[0].why;
    EXPECT_NEAR(*readings->gauges[0].value, 9.5, 0.1);
    EXPECT_EQ(readings->gauges[0].unit, "W");
}

TEST(Reference, Iso10211Case2ByTemperaturesAlone) {
    for (const auto left : {Left::SolvedNodes, Left::AveragedNodes, Left::Cells}) {
        SCOPED_TRACE(static_cast<int>(left));
        const TempFolder folder;
        const auto opened = bareCase2(left, folder);
        const auto readings = readOn(
            opened,
            Json::parse(
                R"j({"case": {"boundaries": {"warm": {"temperature": "20 degC", "surface_resistance": "0.11 m2.K/W"},
                  "cold": {"temperature": "0 degC", "surface_resistance": "0.06 m2.K/W"}}},
            "gauges": [{"id": "warm", "where": {"boundary": "warm"}, "quantity": "heat_flux", "statistic": "integral"},
              {"id": "cold", "where": {"boundary": "cold"}, "quantity": "heat_flux", "statistic": "integral"},
            {"id": "L", "quantity": "coupling_coefficient", "between": ["warm", "cold"]}]})j"));
        const auto& warm = readings.gauges[0];
        const auto& cold = readings.gauges[1];
        ASSERT_TRUE(warm.value && cold.value && readings.gauges[2].value);
        EXPECT_NEAR(*warm.value, -9.5, 0.1);
        EXPECT_NEAR(*cold.value, 9.5, 0.1);
        EXPECT_NEAR(*readings.gauges[2].value, 9.5 / 20, 0.1 / 20);
        EXPECT_EQ(warm.method, left == Left::AveragedNodes ? "film" : "conservative")
            << "the field's own equation, where it holds";
        EXPECT_TRUE(warm.gradientValue) << "both are told";
    }
}

// NAFEMS T4: two-dimensional conduction with convection; 18.25 C at (0.6, 0.2) m (from memory, confirmed to 18.253 in
// docs/bibliography.md).
TEST(Reference, NafemsT4) {
    const TempFolder folder;
    const auto opened = solveAndOpen(
        R"json({"rig": 1, "grid": {"x": {"spacing": 0.005}, "y": {"spacing": 0.005}, "z": {"spacing": 1}},
        "materials": {"steel": {"conductivity": 52}},
        "boxes": [{"part": "plate", "material": "steel", "from": [0, 0, 0], "to": [0.6, 1.0, 0.1]}],
        "environments": [{"boundary": "base", "temperature": "100 degC", "faces": [{"side": "-y"}]},
                         {"boundary": "air", "temperature": "0 degC", "film_coefficient": "750 W/(m2.K)",
                           "faces": [{"side": "+x"}, {"side": "+y"}]}]})json",
        folder / "t4.vtm");
    EXPECT_NEAR(atNode(opened, 0.6, 0.2), 18.25, 0.05);
}
