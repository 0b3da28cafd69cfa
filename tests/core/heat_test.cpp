// Heat where parts touch, on cells, along axes, on walls: small cases with results by hand.
#include "core/gauge/places.h"
#include "core/report/tables/table_writers.h"
#include "core/report/xlsx.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>

using namespace pyro;
using namespace pyro::test;

namespace {

using std::numbers::pi;

const BoxMesh left{{0.1, 0.1, 0.1}, {4, 3, 3}};
const BoxMesh right{{0.05, 0.1, 0.1}, {5, 3, 3}, {0.1, 0, 0}};

// Two walls in series, 100 mm of 1 W/(m.K) and 50 mm of 2 W/(m.K), 300 K to 400 K: 800 W/m2 towards -x, 8 W; 380 K
// between.
double series(const Point& at) { return at[0] < 0.1 ? 300 + 800 * at[0] : 380 + 400 * (at[0] - 0.1); }

const char* const walls = R"j("case": {"parts": {"a": {"material": "one"}, "b": {"material": "two"}}},
    "materials": {"one": {"conductivity": "1 W/(m.K)"}, "two": {"conductivity": "2 W/(m.K)"}})j";

double valueOf(const GaugeReading& reading) {
    EXPECT_TRUE(reading.value) << reading.id << ": " << reading.why;
    return reading.value.value_or(std::nan(""));
}

} // namespace

TEST(Heat, FlowsThroughAnInterfaceFromTheFirstPartToTheSecond) {
    auto a = boxPart("a", left);
    auto b = boxPart("b", right);
    for (auto* part : {&a, &b})
        addNodeField(*part, "T", series);
    TempFolder folder;
    ASSERT_TRUE(writeCase({a, b, boxSide("hot", right, 0, true)}, folder / "walls.vtm"));
    const auto readings = readOn(mustOpen(folder / "walls.vtm"),
                                 Json::parse(std::string("{") + walls + R"j(, "gauges": [
        {"id": "ab", "where": {"interface": ["a", "b"]}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "ba", "where": {"interface": ["b", "a"]}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "area", "where": {"interface": ["a", "b"]}, "quantity": "area"},
        {"id": "faces", "where": {"interface": ["a", "b"]}, "quantity": "faces"},
        {"id": "T", "where": {"interface": ["a", "b"]}, "quantity": "temperature", "statistic": "max"},
        {"id": "hot", "where": {"boundary": "hot"}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "R", "where": {"boundary": "hot"}, "quantity": "thermal_resistance", "reference": {"gauge": "T"}},
        {"id": "left over", "where": {"part": "a"}, "quantity": "heat_balance"}]})j"));
    const auto& gauges = readings.gauges;
    EXPECT_NEAR(valueOf(gauges[0]), -8, 1e-4);
    EXPECT_NEAR(valueOf(gauges[1]), 8, 1e-4);
    EXPECT_EQ(gauges[0].method, "conservative");
    EXPECT_NEAR(*gauges[0].gradientValue, -8, 1e-4);
    EXPECT_NEAR(valueOf(gauges[2]), 0.01, 1e-8);
    EXPECT_EQ(valueOf(gauges[3]), 9);
    EXPECT_NEAR(valueOf(gauges[4]), 380, 1e-3);
    EXPECT_NEAR(valueOf(gauges[5]), -8, 1e-4);
    EXPECT_NEAR(valueOf(gauges[6]), 20 / -8.0, 1e-4) << "heat comes in through the hot side";
    EXPECT_NEAR(valueOf(gauges[7]), 0, 1e-4);
}

// Only cells have a temperature, as finite volumes give it: the two-point flux is exact for layers, the gradient is
// not.
TEST(Heat, TwoPointFluxesBalanceFieldsOnCells) {
    auto a = boxPart("a", left);
    auto b = boxPart("b", right);
    for (auto* part : {&a, &b})
        addCellField(*part, "T", series);
    auto cold = boxSide("cold", left, 0, false);
    auto hot = boxSide("hot", right, 0, true);
    addCellField(cold, "T", [](const Point&) { return 300.0; });
    addCellField(hot, "T", [](const Point&) { return 400.0; });
    TempFolder folder;
    ASSERT_TRUE(writeCase({a, b, cold, hot}, folder / "walls.vtm"));
    StepContext context;
    context.balances = true;
    const auto readings = readOn(mustOpen(folder / "walls.vtm"),
                                 Json::parse(std::string("{") + walls + R"j(, "gauges": [
        {"id": "ab", "where": {"interface": ["a", "b"]}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "cold", "where": {"boundary": "cold"}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "h", "where": {"boundary": "cold"}, "quantity": "film_coefficient", "reference": "280 K"}]})j"),
                                 context);
    EXPECT_NEAR(valueOf(readings.gauges[0]), -8, 1e-4);
    EXPECT_EQ(readings.gauges[0].method, "conservative");
    EXPECT_NEAR(valueOf(readings.gauges[1]), 8, 1e-4);
    EXPECT_NEAR(valueOf(readings.gauges[2]), 40, 1e-3);
    ASSERT_TRUE(readings.balances);
    for (const auto& part : readings.balances->parts) {
        ASSERT_TRUE(part.remainder()) << part.why;
        EXPECT_NEAR(*part.in, 8, 1e-3) << part.part;
        EXPECT_LT(std::abs(*part.remainder()), 1e-4) << part.part;
        EXPECT_LT(*part.share(), 1e-4);
    }
    EXPECT_NEAR(*readings.balances->boundaries[0].heat, 8, 1e-4);
    EXPECT_FALSE(readings.balances->boundaries[0].mass) << "nothing flows";
}

// Conductivity along x, y, z as an array: the same gradient drives another heat along each.
TEST(Heat, ConductivityAlongAxes) {
    auto part = boxPart("block", left);
    addNodeField(part, "T", [](const Point& at) { return 300 + 100 * at[0] + 100 * at[2]; });
    addCellVector(part, "conductivity", {2, 5, 0.5});
    TempFolder folder;
    ASSERT_TRUE(writeCase({part, boxSide("x", left, 0, true), boxSide("z", left, 2, true)}, folder / "block.vtm"));
    const auto readings = readOn(mustOpen(folder / "block.vtm"), Json::parse(R"j({"gauges": [
        {"id": "x", "where": {"boundary": "x"}, "quantity": "heat_flux"}, {"id": "z", "where": {"boundary": "z"},
          "quantity": "heat_flux"},
        {"id": "inside", "where": {"part": "block"}, "quantity": "heat_flux", "component": "x"},
        {"id": "cut", "where": {"plane": {"origin": [0.06, 0, 0], "normal": [1, 0, 0]}}, "quantity": "heat_flux",
          "statistic": "integral"},
        {"id": "plain", "where": {"boundary": "x"}, "quantity": "heat_flux", "method": "gradient"}]})j"));
    EXPECT_NEAR(valueOf(readings.gauges[0]), -200, 1e-2);
    EXPECT_NEAR(valueOf(readings.gauges[1]), -50, 1e-2);
    EXPECT_NEAR(valueOf(readings.gauges[2]), -200, 1e-2);
    EXPECT_NEAR(valueOf(readings.gauges[3]), -2, 1e-3);
    EXPECT_NEAR(valueOf(readings.gauges[4]), -200, 1e-2);
}

// One boundary over two parts that touch: on the rim each face reads its own part, where the other one is 50 K hotter.
TEST(Heat, ABoundaryOverTwoPartsReadsEachPartsOwnNodes) {
    auto a = boxPart("a", left);
    auto b = boxPart("b", right);
    addNodeField(a, "T", [](const Point&) { return 300.0; });
    addNodeField(b, "T", [](const Point&) { return 350.0; });
    BlockData top;
    top.name = "top";
    top.boundary = true;
    for (const auto& half : {boxSide("", left, 2, true), boxSide("", right, 2, true)}) {
        const auto shift = static_cast<std::uint32_t>(top.points.size() / 3);
        top.points.insert(top.points.end(), half.points.begin(), half.points.end());
        const auto before = top.offsets.back();
        for (const auto node : half.connectivity)
            top.connectivity.push_back(node + shift);
        for (std::size_t i = 1; i < half.offsets.size(); ++i)
            top.offsets.push_back(before + half.offsets[i]);
        top.types.insert(top.types.end(), half.types.begin(), half.types.end());
    }
    TempFolder folder;
    ASSERT_TRUE(writeCase({a, b, top}, folder / "walls.vtm"));
    const auto opened = mustOpen(folder / "walls.vtm");
    EXPECT_NEAR(valueOf(readGauge(
                    opened, Json::parse(R"({"id": "g", "where": {"boundary": "top"}, "quantity": "temperature"})"))),
                300 + 50.0 / 3, 1e-3);
    const auto places = placesOfBoundary(*opened.solved, *opened.index, 0);
    for (std::size_t i = 0; i < places.size(); ++i)
        for (auto node = places.begin[i]; node < places.begin[i + 1]; ++node)
            EXPECT_LT(places.node[node], opened.solved->parts[places.part[i]].mesh.nodes());
}

// A quarter of a drum, r 20 mm, hotter along its height: the trace of a level plane on its skin is a quarter circle.
TEST(Heat, TracesOnAWallAndTheFluidBesideIt) {
    BoxMesh drum{{1, 1, 0.05}, {8, 24, 5}};
    drum.map = [](const Point& p) {
        const double r = 0.01 + 0.01 * p[0];
        return Point{r * std::cos(p[1] * pi / 2), r * std::sin(p[1] * pi / 2), p[2]};
    };
    auto part = boxPart("oil", drum);
    addNodeField(part, "T",
                 [](const Point& at) { return 300 + 100 * at[2] + 1000 * (0.02 - std::hypot(at[0], at[1])); });
    TempFolder folder;
    ASSERT_TRUE(writeCase({part, boxSide("skin", drum, 0, true)}, folder / "drum.vtm"));
    const auto readings = readOn(mustOpen(folder / "drum.vtm"), Json::parse(R"j({
        "case": {"parts": {"oil": {"material": "oil", "kind": "fluid"}}},
          "materials": {"oil": {"conductivity": "0.15 W/(m.K)"}}, "gauges": [
        {"id": "length", "where": {"trace": {"origin": [0, 0, 0.02], "normal": [0, 0, 1]}, "boundary": "skin"},
          "quantity": "length"},
        {"id": "along", "where": {"trace": {"origin": [0, 0, 0.02], "normal": [0, 0, 1], "points": 40},
          "boundary": "skin"}, "quantity": "temperature"},
        {"id": "h", "where": {"boundary": "skin"}, "quantity": "film_coefficient", "reference": {"distance": "5 mm"},
          "method": "gradient"},
        {"id": "too far", "where": {"boundary": "skin"}, "quantity": "film_coefficient",
          "reference": {"distance": "50 mm"}},
        {"id": "missed", "where": {"trace": {"origin": [0, 0, 2], "normal": [0, 0, 1]}, "boundary": "skin"},
          "quantity": "length"}]})j"));
    EXPECT_NEAR(valueOf(readings.gauges[0]), 0.01 * pi, 1e-4 * pi);
    ASSERT_TRUE(readings.gauges[1].profile) << readings.gauges[1].why;
    for (const double kelvin : readings.gauges[1].profile->value)
        EXPECT_NEAR(kelvin, 302, 0.05);
    // -k dT/dr = 150 W/m2 out of the oil; the oil 5 mm away is 5 K hotter: 30 W/(m2.K), positive from hot to cold.
    EXPECT_NEAR(valueOf(readings.gauges[2]), 30, 0.5);
    EXPECT_NE(readings.gauges[2].reference.find("5 mm"), std::string::npos);
    EXPECT_NE(readings.gauges[3].why.find("outside of the mesh"), std::string::npos) << readings.gauges[3].why;
    EXPECT_NE(readings.gauges[4].why.find("misses"), std::string::npos) << readings.gauges[4].why;
}

TEST(Heat, AChangingFieldWithoutTheStepBeforeFallsBackAndSaysSo) {
    auto part = boxPart("a", left);
    addNodeField(part, "T", series);
    TempFolder folder;
    ASSERT_TRUE(writeCase({part, boxSide("cold", left, 0, false)}, folder / "a.vtm"));
    StepContext context;
    context.changes = true;
    context.balances = true;
    const auto readings = readOn(mustOpen(folder / "a.vtm"),
                                 Json::parse(R"j({"case": {"parts": {"a": {"material": "one"}}},
        "materials": {"one": {"conductivity": "1 W/(m.K)", "density": "1000 kg/m3", "heat_capacity": "1000 J/(kg.K)"}},
        "gauges": [{"id": "q", "where": {"boundary": "cold"}, "quantity": "heat_flux"},
                   {"id": "asked", "where": {"boundary": "cold"}, "quantity": "heat_flux",
                     "method": "conservative"}]})j"),
                                 context);
    EXPECT_EQ(readings.gauges[0].method, "gradient");
    EXPECT_NE(readings.gauges[1].why.find("step before"), std::string::npos) << readings.gauges[1].why;
    EXPECT_FALSE(readings.balances->parts[0].remainder()) << "what is stored is not known";
    EXPECT_NE(readings.balances->parts[0].why, "");
}

TEST(Xlsx, IsWrittenWholeOrNotAtAll) {
    TempFolder folder;
    ChartData chart;
    chart.title = "spine";
    chart.xTitle = "Distance, mm";
    chart.yTitle = "Temperature, °C";
    chart.curves = {{"first", "spine", {0, 1, 2}, {20, std::nan(""), 22}, {}, {}, false}};
    ASSERT_TRUE(writeChartXlsx(chart, folder / "c.xlsx"));
    EXPECT_EQ(readText(folder / "c.xlsx").substr(0, 2), "PK"); // a zip archive, as the format asks
    const Survey survey;
    const SurveyRun run;
    const TableInput input{survey, run, TemperatureUnit::Celsius};
    ASSERT_TRUE(writeTable(gaugesTable, input, folder / "r.xlsx"));
    const auto failed = writeTable(gaugesTable, input, "/no/such/folder/r.xlsx");
    ASSERT_FALSE(failed);
    EXPECT_EQ(failed.error().code, ErrorCode::WriteFailed);
    EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 2) << "no half files are left";
}

// A lone grid without boundaries: a plane in its outer face is read by the conservative method all the same, and where
// the plain gradient is asked for its spread is told. T = exp(-y/L) cos(x/L) solves Laplace's equation; the flux
// through y = 0 is k/L cos(x/L), its integral over x up to L/2 per depth k sin(1/2).
TEST(WallOfALoneGrid, IsReadConservativelyAndTellsTheSpread) {
    constexpr double scale = 0.1, k = 20, depth = 0.02;
    const BoxMesh box{{scale / 2, scale, depth}, {10, 10, 2}};
    auto part = boxPart("block", box);
    addNodeField(part, "T [degC]",
                 [](const Point& at) { return 50 + 30 * std::exp(-at[1] / scale) * std::cos(at[0] / scale); });
    TempFolder folder;
    ASSERT_TRUE(writeBlock(part, folder / "block.vtu"));
    const auto readings = readOn(mustOpen(folder / "block.vtu"),
                                 Json::parse(
                                     R"j({"case": {"parts": {"block": {"material": "steel"}}},
              "materials": {"steel": {"conductivity": "20 W/(m.K)"}}, "gauges": [
        {"id": "best", "where": {"plane": {"origin": [0, 0, 0], "normal": [0, 1, 0]}}, "quantity": "heat_flux",
          "statistic": "integral"},
        {"id": "out", "where": {"plane": {"origin": [0, 0, 0], "normal": [0, -1, 0]}}, "quantity": "heat_flux",
          "statistic": "integral"},
        {"id": "plain", "where": {"plane": {"origin": [0, 0, 0], "normal": [0, 1, 0]}}, "quantity": "heat_flux",
          "statistic": "integral", "method": "gradient"},
        {"id": "within", "where": {"plane": {"origin": [0, 0.033, 0], "normal": [0, 1, 0]}}, "quantity": "heat_flux",
          "statistic": "integral"}]})j"));
    const double exact = 30 * k * std::sin(0.5) * depth;
    const auto& best = readings.gauges[0];
    const auto& plain = readings.gauges[2];
    ASSERT_TRUE(best.value && plain.value) << best.why << plain.why;
    EXPECT_EQ(best.method, "conservative");
    EXPECT_EQ(plain.method, "gradient");
    EXPECT_NEAR(*best.value, exact, 0.006 * exact); // the sides count as adiabatic
    EXPECT_NEAR(*readings.gauges[1].value, -*best.value, 1e-9) << "along the plane's normal";
    EXPECT_GT(std::abs(*plain.value - exact), 3 * std::abs(*best.value - exact));
    ASSERT_TRUE(plain.spread);
    EXPECT_GT(*plain.spread, std::abs(*plain.value - exact));
    EXPECT_LT(*plain.spread, 4 * std::abs(*plain.value - exact));
    EXPECT_FALSE(best.spread);
    EXPECT_EQ(readings.gauges[3].method, "gradient") << "within the mesh nothing better serves";
}
