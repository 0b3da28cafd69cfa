// Gauges on a box with known integrals: T = 20 degC + 100 x on [0, 0.2] x [0, 0.1] x [0, 0.1], a flux along x.
#include "core/survey/survey_file.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

class GaugeTest : public testing::Test {
protected:
    void SetUp() override {
        const BoxMesh box{{0.2, 0.1, 0.1}, {8, 3, 3}};
        auto part = boxPart("bar", box);
        addNodeField(part, "T [degC]", [](const Point& at) { return 20 + 100 * at[0]; });
        part.arrays.push_back({"heat_flux", Location::Cell, 3, {}});
        for (std::size_t cell = 0; cell + 1 < part.offsets.size(); ++cell)
            for (const double component : {-500.0, 0.0, 1200.0})
                part.arrays.back().values.push_back(component);
        auto other = boxPart("plate", {{0.2, 0.1, 0.1}, {2, 2, 2}, {0, 0, 0.1}});
        addNodeField(other, "T [degC]", [](const Point&) { return 50.0; });
        ASSERT_TRUE(writeCase({part, other, boxSide("cold end", box, 0, false), boxSide("hot end", box, 0, true)},
                              folder / "bar.vtm"));
        opened = mustOpen(folder / "bar.vtm");
    }
    GaugeReading read(const std::string& gauge) { return readGauge(opened, Json::parse(gauge)); }
    TempFolder folder;
    OpenedCase opened;
};

} // namespace

TEST_F(GaugeTest, ReadsWhatItNames) {
    const struct {
        const char* gauge;
        double value;
        const char* unit;
    } rows[]{
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature"})", 303.15, "K"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "unit": "degC"})", 30, "degC"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "max", "unit": "degC"})", 40,
         "degC"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "min", "unit": "degF"})", 68,
         "degF"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "range", "unit": "degF"})",
         36, "degF"},
        {R"({"id": "g", "where": {"part": ["bar", "plate"]}, "quantity": "temperature", "unit": "degC"})", 40, "degC"},
        {R"({"id": "g", "where": "all", "quantity": "temperature", "statistic": "max", "unit": "degC"})", 50, "degC"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "temperature", "unit": "degC"})", 40, "degC"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "volume", "statistic": "integral"})", 0.002, "m3"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "volume", "statistic": "integral", "unit": "cm3"})", 2000,
         "cm3"},
        {R"({"id": "g", "where": {"boundary": ["hot end", "cold end"]}, "quantity": "area", "statistic": "integral"})",
         0.02, "m2"},
        // A vector is its magnitude in parts, its part along the outward normal on boundaries.
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "heat_flux"})", 1300, "W/m2"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "heat_flux", "component": "z"})", 1200, "W/m2"},
        {R"({"id": "g", "where": {"boundary": "cold end"}, "quantity": "heat_flux"})", 500, "W/m2"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "heat_flux"})", -500, "W/m2"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "heat_flux", "component": "x"})", -500, "W/m2"},
        {R"({"id": "g", "where": {"boundary": "cold end"}, "quantity": "heat_flux", "statistic": "integral"})", 5, "W"},
        {R"({"id": "g", "where": {"boundary": "cold end"}, "quantity": "heat_flux", "statistic": "integral",
          "unit": "mW"})",
         5000, "mW"},
        {R"({"id": "g", "where": {"part": "plate"}, "quantity": "temperature", "statistic": "count"})", 27, "1"},
        // T is linear along x: deviation L/sqrt(12), percentiles at their share.
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "range"})", 20, "K"},
        {R"({"id": "g", "where": {"point": [0.05, 0.03, 0.07]}, "quantity": "temperature", "unit": "degC"})", 25,
         "degC"},
        {R"({"id": "g", "where": {"point": ["50 mm", 0.03, "7 cm"]}, "quantity": "temperature", "unit": "degC"})", 25,
         "degC"},
        {R"({"id": "g", "where": {"line": {"from": [0, 0.05, 0.05], "to": [0.2, 0.05, 0.05]}},
          "quantity": "temperature", "statistic": "mean", "unit": "degC"})",
         30, "degC"},
        {R"({"id": "g", "where": {"line": {"from": [0, 0.05, 0.05], "to": [0.2, 0.05, 0.05]}}, "quantity": "length"})",
         0.2, "m"},
        {R"({"id": "g", "where": {"plane": {"origin": [0.11, 0, 0], "normal": [1, 0, 0]}, "part": "bar"},
          "quantity": "temperature", "unit": "degC"})",
         31, "degC"},
        {R"({"id": "g", "where": {"plane": {"origin": [0.11, 0, 0], "normal": [2, 0, 0]}, "part": "bar"},
          "quantity": "area"})",
         0.01, "m2"},
        {R"({"id": "g", "where": {"plane": {"origin": [0.1, 0.05, 0], "normal": [0, 1, 0]}, "part": "bar"},
          "quantity": "temperature", "statistic": "max", "unit": "degC"})",
         40, "degC"},
        {R"({"id": "g", "where": {"plane": {"origin": [0.11, 0, 0], "normal": [-1, 0, 0]}, "part": "bar"},
          "quantity": "heat_flux", "statistic": "integral"})",
         5, "W"},
        {R"({"id": "g", "where": {"isotherm": {"value": "25 degC"}, "part": "bar"}, "quantity": "area"})", 0.01, "m2"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature_gradient", "component": "x"})", 100, "K/m"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "volume_above", "level": "35 degC"})", 0.0005, "m3"},
        {R"({"id": "g", "where": {"boundary": "cold end"}, "quantity": "film_coefficient", "reference": "10 degC"})",
         50, "W/(m2.K)"},
        {R"({"id": "g", "where": {"boundary": "cold end"}, "quantity": "film_coefficient", "reference": "10 degC",
          "mean_of": "local"})",
         50, "W/(m2.K)"},
        {R"j({"id": "g", "where": {"boundary": "cold end"}, "quantity": "biot_number", "reference": "10 degC",
          "length": "20 mm", "conductivity": "5 W/(m.K)"})j",
         0.2, "1"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "thermal_resistance", "statistic": "max",
          "reference": "20 degC", "per": "4 W"})",
         5, "K/W"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "dimensionless_temperature", "reference": "20 degC",
          "wall": "60 degC"})",
         0.25, "1"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "dimensionless_temperature", "reference": "20 degC",
          "wall": "60 degC", "complement": true})",
         0.75, "1"},
        {R"({"id": "g", "formula": "3 'W' * 2 / 4"})", 1.5, "W"},
    };
    for (const auto& row : rows) {
        SCOPED_TRACE(row.gauge);
        const auto measured = read(row.gauge);
        ASSERT_TRUE(measured.value) << measured.why;
        EXPECT_NEAR(*measured.value, row.value, 2e-6 * std::abs(row.value)); // the file holds its points as float
        EXPECT_EQ(measured.unit, row.unit);
    }
}

TEST_F(GaugeTest, TellsWhyItCannotRead) {
    const struct {
        const char* gauge;
        const char* reason; // a word of it
    } rows[]{
        {R"({"id": "g", "where": {"part": "gone"}, "quantity": "temperature"})", "gone"},
        {R"({"id": "g", "where": {"boundary": "gone"}, "quantity": "temperature"})", "gone"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "humour"})", "humour"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "p101"})", "p101"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "profile"})", "profile"},
        {R"({"id": "g", "where": {"point": [5, 0, 0]}, "quantity": "temperature"})", "outside"},
        {R"({"id": "g", "where": {"point": [0, 0]}, "quantity": "temperature"})", "point"},
        {R"({"id": "g", "where": {"line": {"from": [1, 1, 1], "to": [2, 2, 2]}}, "quantity": "temperature"})",
         "outside"},
        {R"({"id": "g", "where": {"plane": {"origin": [9, 0, 0], "normal": [1, 0, 0]}}, "quantity": "temperature"})",
         "misses"},
        {R"({"id": "g", "where": {"plane": {"origin": [0, 0, 0], "normal": [0, 0, 0]}}, "quantity": "temperature"})",
         "normal"},
        {R"({"id": "g", "where": {"isotherm": {"value": "400 degC"}}, "quantity": "temperature"})", "isotherm"},
        {R"({"id": "g", "where": {"interface": ["bar", "bar"]}, "quantity": "temperature"})", "two different"},
        {R"({"id": "g", "where": {"interface": ["bar", "plate"]}, "quantity": "area"})", "no face in common"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "film_coefficient"})", "reference"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "film_coefficient", "reference": "40 degC"})",
         "reference temperature"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "volume_flow"})", "velocity"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "thermal_resistance", "reference": "20 degC"})", "power"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "dimensionless_temperature", "reference": "20 degC",
          "wall": "20 degC"})",
         "same temperature"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "weight": "humour"})", "humour"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "heat_flux", "method": "conservative"})",
         "conductivity"},
        {R"({"id": "g", "quantity": "temperature"})", "where"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "unit": "W"})", "W"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "area"})", "area"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "volume"})", "volume"},
        {R"({"id": "g", "where": {"part": "plate"}, "quantity": "heat_flux"})", "heat_flux"},
        {R"({"id": "g", "formula": "a + b"})", "no gauge \"a\""},
        {R"({"id": "g", "formula": "g + 1"})", "depends on itself"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "temperature", "weight": "mass_flow"})",
         "velocity"},
    };
    for (const auto& row : rows) {
        SCOPED_TRACE(row.gauge);
        const auto measured = read(row.gauge);
        ASSERT_FALSE(measured.read());
        EXPECT_NE(measured.why.find(row.reason), std::string::npos) << measured.why;
    }
}

TEST_F(GaugeTest, ExtremesKnowTheirPlace) {
    const auto hottest = read(
        R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "max"})");
    ASSERT_TRUE(hottest.place);
    EXPECT_NEAR(hottest.place->at[0], 0.2, 1e-7);
    EXPECT_EQ(hottest.place->on, Location::Node);
    EXPECT_FALSE(read(R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature"})").place);
}

TEST_F(GaugeTest, PercentilesAndDeviationOfALinearField) {
    // Uniform between 20 and 40 degC along x: standard deviation 20/sqrt(12) K, percentiles at their share of the way.
    // The nodes hold the distribution, so that both come close with the mesh's eight cells along x.
    const auto deviation = read(
        R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "deviation"})");
    EXPECT_NEAR(*deviation.value, 20 / std::sqrt(12.0), 0.1);
    EXPECT_FALSE(deviation.isTemperature);
    const auto median = read(
        R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "p50", "unit": "degC"})");
    EXPECT_NEAR(*median.value, 30, 0.1);
    const auto most = read(
        R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "p100", "unit": "degC"})");
    EXPECT_NEAR(*most.value, 40, 1e-3);
}

TEST_F(GaugeTest, ALineThatLeavesTheMeshHasGapsAndAShare) {
    const auto line = read(
        R"({"id": "g", "where": {"line": {"from": [0.1, 0.05, 0.05], "to": [0.3, 0.05, 0.05], "points": 201}},
          "quantity": "temperature", "unit": "degC"})");
    ASSERT_TRUE(line.profile) << line.why;
    EXPECT_NEAR(line.profile->share, 0.5, 1e-6);
    EXPECT_NEAR(*line.outside, 0.5, 1e-6);
    EXPECT_NEAR(line.profile->value[50], 35, 1e-5);
    EXPECT_TRUE(std::isnan(line.profile->value[150]));
    EXPECT_EQ(line.profile->part[50], 0U);
    EXPECT_EQ(line.profile->part[150], Profile::noPart);
}

TEST_F(GaugeTest, ALineAcrossAPartWithoutTheQuantityHasAGapThere) {
    const BoxMesh water{{0.1, 0.1, 0.1}, {5, 5, 5}};
    const BoxMesh wall{{0.1, 0.1, 0.1}, {5, 5, 5}, {0.1, 0, 0}};
    auto flows = boxPart("water", water);
    auto stands = boxPart("wall", wall);
    for (auto* part : {&flows, &stands})
        addNodeField(*part, "T [K]", [](const Point& at) { return 300 + at[0]; });
    addNodeVector(flows, "velocity", [](const Point& at) { return Point{1 + 10 * at[0], 0, 0}; });
    ASSERT_TRUE(writeCase({flows, stands}, folder / "duct.vtm"));
    const auto duct = mustOpen(folder / "duct.vtm");
    const auto gauge = [&](const std::string& more) {
        return readGauge(duct,
                         Json::parse(
                             R"({"id": "g", "where": {"line": {"from": [0.001, 0.05, 0.05], "to": [0.199, 0.05, 0.05],
                  "points": 100}}, "quantity": )" +
                             more + "}"));
    };
    const auto line = gauge(R"("velocity", "component": "x")");
    ASSERT_TRUE(line.profile) << line.why;
    EXPECT_NEAR(line.profile->value[10], 1 + 10 * line.profile->at[10][0], 1e-6);
    EXPECT_TRUE(std::isnan(line.profile->value[90]));
    EXPECT_EQ(line.profile->part[90], 1U) << "the part is known all the same";
    EXPECT_EQ(line.lacking, "no velocity in wall");
    EXPECT_NEAR(*gauge(R"("velocity", "component": "x", "statistic": "mean")").value, 1.5, 0.02)
        << "over the water alone";
    EXPECT_EQ(gauge(R"("temperature")").lacking, "");
    EXPECT_NE(gauge(R"("pressure")").why.find("no quantity"), std::string::npos);
}

TEST_F(GaugeTest, FormulasReadOtherGaugesWithTheirUnits) {
    const auto readings = readOn(opened, Json::parse(R"j({"gauges": [
        {"id": "hot", "where": {"boundary": "hot end"}, "quantity": "temperature", "unit": "degC"},
        {"id": "cold", "where": {"boundary": "cold end"}, "quantity": "temperature", "unit": "degF"},
        {"id": "rise", "formula": "hot - cold", "unit": "degF"},
        {"id": "power", "formula": "0.01 'kg/s' * 4186 'J/(kg.K)' * (hot - cold)", "unit": "kW"},
        {"id": "sum", "formula": "hot + cold"},
        {"id": "loop", "formula": "pool * 2"}, {"id": "pool", "formula": "loop / 2"},
        {"id": "odd", "formula": "hot - 3 'W'"},
        {"id": "hot", "formula": "1"},
        {"id": "per_zero", "formula": "1 / (hot - hot)"},
        {"id": "watt", "formula": "2 * 3", "unit": "W"}]})j"));
    const auto& gauges = readings.gauges;
    EXPECT_NEAR(*gauges[2].value, 36, 1e-4); // 20 K as a difference in degF
    EXPECT_NEAR(*gauges[3].value, 0.01 * 4.186 * 20, 1e-6);
    const std::vector<std::pair<std::size_t, const char*>> reasons{{4, "two temperatures"},
                                                                   {5, "depends on itself"},
                                                                   {6, "depends on itself"},
                                                                   {7, "subtracted"},
                                                                   {8, "already"},
                                                                   {9, "division by zero"},
                                                                   {10, "W"}};
    for (const auto& [at, reason] : reasons) {
        EXPECT_FALSE(gauges[at].read()) << gauges[at].id;
        EXPECT_NE(gauges[at].why.find(reason), std::string::npos) << gauges[at].why;
    }
}

// A surface reads the same however coarsely its file divides it: squares of two triangles, wider than the quarter tube
// that they cross, against the plane there, within the tube and on its ends, on every kind of cell.
class DividedSurfaceTest : public testing::TestWithParam<Cells> {};
INSTANTIATE_TEST_SUITE_P(AllCells, DividedSurfaceTest,
                         testing::Values(Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges));

TEST_P(DividedSurfaceTest, ReadsAsThePlaneThere) {
    constexpr double radius = 0.005;
    BoxMesh box{{1, 1, 0.02}, {8, 12, 10}};
    box.map = [](const Point& p) {
        return Point{radius * p[0] * std::cos(1.57 * p[1]), radius * p[0] * std::sin(1.57 * p[1]), p[2]};
    };
    auto part = boxPart("water", box, GetParam());
    addNodeField(part, "T [degC]", [](const Point& p) { return 40 + 1e6 * (p[0] * p[0] + p[1] * p[1]) + 500 * p[2]; });
    addNodeVector(part, "velocity", [](const Point& p) {
        return Point{0, 0, 1 - (p[0] * p[0] + p[1] * p[1]) / (radius * radius)};
    });
    TempFolder folder;
    ASSERT_TRUE(writeCase({part}, folder / "tube.vtm"));
    const auto square = [](double z, int pieces) {
        std::string text = "solid s\n";
        const double step = 0.0064 / pieces;
        const auto triangle = [&](std::array<std::array<double, 2>, 3> xy) {
            text += "facet normal 0 0 1\nouter loop\n";
            for (const auto& [x, y] : xy)
                text += "vertex " + std::to_string(1000 * x) + " " + std::to_string(1000 * y) + " " +
                        std::to_string(1000 * z) + "\n";
            text += "endloop\nendfacet\n";
        };
        for (int i = 0; i < pieces; ++i)
            for (int j = 0; j < pieces; ++j) {
                const double x = -0.0007 + i * step;
                const double y = -0.0009 + j * step;
                triangle({{{x, y}, {x + step, y}, {x + step, y + step}}});
                triangle({{{x, y}, {x + step, y + step}, {x, y + step}}});
            }
        return text + "endsolid s\n";
    };
    for (const double z : {0.0, 0.0073, 0.01, 0.02}) {
        SCOPED_TRACE(z);
        writeText(folder / "two.stl", square(z, 1));
        writeText(folder / "many.stl", square(z, 37));
        Json survey{{"case", {{"parts", {{"water", {{"material", "water"}, {"kind", "fluid"}}}}}}},
                    {"materials", {{"water", {{"density", 1000}, {"heat_capacity", 4200}}}}},
                    {"gauges", Json::array()}};
        const double inside = std::clamp(z, 1e-7, 0.02 - 1e-7); // a plane in the end itself is one side's affair
        for (const auto& [name, where] :
             {std::pair<std::string, Json>{"plane", {{"plane", {{"origin", {0, 0, inside}}, {"normal", {0, 0, 1}}}}}},
              {"two", {{"surface", {{"file", "two.stl"}, {"unit", "mm"}}}}},
              {"many", {{"surface", {{"file", "many.stl"}, {"unit", "mm"}}}}}}) {
            survey["gauges"].push_back(
                {{"id", name + " mass"}, {"where", where}, {"quantity", "mass_flux"}, {"statistic", "integral"}});
            survey["gauges"].push_back({{"id", name + " bulk"},
                                        {"where", where},
                                        {"quantity", "temperature"},
                                        {"weight", "mass_flow"},
                                        {"unit", "degC"}});
            survey["gauges"].push_back(
                {{"id", name + " mean"}, {"where", where}, {"quantity", "temperature"}, {"unit", "degC"}});
            survey["gauges"].push_back({{"id", name + " area"}, {"where", where}, {"quantity", "area"}});
        }
        StepContext context;
        context.folder = folder.path();
        const auto readings = readOn(mustOpen(folder / "tube.vtm"), survey, context);
        for (std::size_t i = 0; i < 4; ++i) {
            const auto& plane = readings.gauges[i];
            ASSERT_TRUE(plane.value) << plane.why;
            for (const std::size_t other : {4 + i, 8 + i}) {
                const auto& told = readings.gauges[other];
                ASSERT_TRUE(told.value) << told.id << ": " << told.why;
                // linear within triangles there, within quadrangles here
                EXPECT_NEAR(*told.value / *plane.value, 1, 3e-4) << told.id;
                EXPECT_NEAR(*told.value / *readings.gauges[4 + i].value, 1, 1e-6) << told.id;
                ASSERT_TRUE(told.outside);
                EXPECT_NEAR(*told.outside, 1 - *readings.gauges[3].value / (0.0064 * 0.0064), 1e-4);
            }
        }
    }
}

// A boundary of the file whose faces are none of the mesh's, as CAD writes them, is read where it cuts the cells.
TEST(ProductTest, BoundaryAcrossTheCellsIsCut) {
    auto part = boxPart("water", {{1, 1, 1}, {3, 3, 3}}, Cells::Hexahedra);
    addNodeField(part, "T [degC]", [](const Point& p) { return 20 + 10 * p[0] + 30 * p[2]; });
    BoxMesh sheet{{1, 1, 0.4}, {1, 1, 1}};
    TempFolder folder;
    ASSERT_TRUE(writeCase({part, boxSide("sheet", sheet, 2, true)}, folder / "duct.vtm"));
    const auto readings = readOn(mustOpen(folder / "duct.vtm"), Json::parse(R"({"gauges": [
        {"id": "mean", "where": {"boundary": "sheet"}, "quantity": "temperature", "unit": "degC"},
        {"id": "highest", "where": {"boundary": "sheet"}, "quantity": "temperature", "statistic": "max",
          "unit": "degC"},
        {"id": "area", "where": {"boundary": "sheet"}, "quantity": "area"}]})"));
    const std::array<double, 3> expected{20 + 5 + 12, 20 + 10 + 12, 1};
    for (std::size_t i = 0; i < 3; ++i) {
        ASSERT_TRUE(readings.gauges[i].value) << readings.gauges[i].why;
        EXPECT_NEAR(*readings.gauges[i].value, expected[i], 1e-5) << readings.gauges[i].id;
    }
}

// Velocity 2 x y and temperature 20 + 10 x y over a unit square of one cell: the bulk is 20 + 10 (1/9)/(1/4), on an
// oblique section too, whose y and z run together; mass and enthalpy by the same products. By one point for each face
// the bulk would be 22.5.
TEST(ProductTest, BulkOnCoarseFacesIsExact) {
    auto part = boxPart("water", {{1, 1, 1}, {1, 1, 1}}, Cells::Hexahedra);
    addNodeField(part, "T [degC]", [](const Point& p) { return 20 + 10 * p[0] * p[1]; });
    addNodeVector(part, "velocity", [](const Point& p) { return Point{0, 0, 2 * p[0] * p[1]}; });
    auto outlet = boxSide("outlet", {{1, 1, 1}, {1, 1, 1}}, 2, true);
    TempFolder folder;
    ASSERT_TRUE(writeCase({part, outlet}, folder / "duct.vtm"));
    const auto readings = readOn(mustOpen(folder / "duct.vtm"), Json::parse(R"({
        "case": {"parts": {"water": {"material": "water", "kind": "fluid"}}}, "materials": {"water": {"density": 1000,
          "heat_capacity": 4200}},
        "gauges": [
        {"id": "section", "where": {"plane": {"origin": [0, 0, 0.4], "normal": [0, 0, 1]}}, "quantity": "temperature",
          "weight": "mass_flow", "unit": "degC"},
        {"id": "oblique", "where": {"plane": {"origin": [0.5, 0.5, 0.5], "normal": [0, -0.3, 1]}},
          "quantity": "temperature", "weight": "mass_flow", "unit": "degC"},
        {"id": "end", "where": {"plane": {"origin": [0, 0, 1], "normal": [0, 0, 1]}}, "quantity": "temperature",
          "weight": "mass_flow", "unit": "degC"},
        {"id": "outlet", "where": {"boundary": "outlet"}, "quantity": "temperature", "weight": "mass_flow",
          "unit": "degC"},
        {"id": "enthalpy", "where": {"boundary": "outlet"}, "quantity": "enthalpy_flow", "reference": "20 degC"}]})"));
    for (std::size_t i = 0; i < 4; ++i) {
        ASSERT_TRUE(readings.gauges[i].value) << readings.gauges[i].id << ": " << readings.gauges[i].why;
        EXPECT_NEAR(*readings.gauges[i].value, 20 + 40.0 / 9, 1e-5) << readings.gauges[i].id;
    }
    ASSERT_TRUE(readings.gauges[4].value) << readings.gauges[4].why;
    EXPECT_NEAR(*readings.gauges[4].value / (1000 * 4200 * 20.0 / 9), 1, 1e-5);
}

// A square across the bar at x = 0.05 m in millimetres, as STL with two solids; half of the second lies outside. One
// triangle stands twice.
TEST_F(GaugeTest, SurfacesFromFilesReadTheirSolids) {
    const auto facet = [](double x, std::array<std::array<double, 2>, 3> yz) {
        std::string text = "facet normal 1 0 0\nouter loop\n";
        for (const auto& [y, z] : yz)
            text += "vertex " + std::to_string(x) + " " + std::to_string(y) + " " + std::to_string(z) + "\n";
        return text + "endloop\nendfacet\n";
    };
    const auto square = [&](double x, double y0, double y1) {
        return facet(x, {{{y0, 20}, {y1, 20}, {y1, 80}}}) + facet(x, {{{y0, 20}, {y1, 80}, {y0, 80}}});
    };
    writeText(folder / "cut über.stl", "solid inner cut\n" + square(50, 20, 80) +
                                           facet(50, {{{20, 20}, {80, 20}, {80, 80}}}) +
                                           "endsolid inner cut\nsolid beyond\n" + square(150, 50, 99) +
                                           square(150, 101, 150) + "endsolid beyond\n");
    StepContext context;
    context.folder = folder.path();
    const auto readings = readOn(opened, Json::parse(R"({"gauges": [
        {"id": "T", "where": {"surface": {"file": "cut über.stl", "unit": "mm", "solid": "inner cut"}},
          "quantity": "temperature", "unit": "degC"},
        {"id": "A", "where": {"surface": {"file": "cut über.stl", "unit": "mm", "solid": "inner cut"}},
          "quantity": "area"},
        {"id": "Q", "where": {"surface": {"file": "cut über.stl", "unit": "mm", "solid": "inner cut"}},
          "quantity": "heat_flux", "statistic": "integral"},
        {"id": "half", "where": {"surface": {"file": "cut über.stl", "unit": "mm", "solid": "beyond"}},
          "quantity": "temperature", "unit": "degC"},
        {"id": "gone", "where": {"surface": {"file": "none.stl", "unit": "mm"}}, "quantity": "temperature"},
        {"id": "no solid", "where": {"surface": {"file": "cut über.stl", "unit": "mm", "solid": "x"}},
          "quantity": "temperature"},
        {"id": "far", "where": {"surface": {"file": "cut über.stl", "unit": "m"}}, "quantity": "temperature"}]})"),
                                 context);
    const auto& gauges = readings.gauges;
    ASSERT_TRUE(gauges[0].value) << gauges[0].why;
    EXPECT_NEAR(*gauges[0].value, 25, 1e-4);
    EXPECT_NEAR(*gauges[1].value, 0.0036, 1e-8) << "the triangle that stands twice counts once";
    EXPECT_NEAR(*gauges[2].value, -500 * 0.0036, 1e-5) << "along the facets' normals";
    ASSERT_TRUE(gauges[3].value) << gauges[3].why;
    EXPECT_NEAR(*gauges[3].value, 35, 1e-4);
    EXPECT_NEAR(*gauges[3].outside, 49.0 / 98, 1e-6);
    for (const auto& [at, word] : {std::pair{4U, "does not exist"}, {5U, "no solid"}, {6U, "misses"}})
        EXPECT_NE(gauges[at].why.find(word), std::string::npos) << gauges[at].why;
}

// A plate of 2 x 2 m without a volume: a scalar flux is its part along the normal, sizes are areas, an integral of what
// has no unit has none.
TEST(SurfaceCase, ReadsAreasAndScalarFluxes) {
    TempFolder folder;
    auto plate = boxSide("plate", {{2, 2, 1}, {4, 4, 1}}, 2, false);
    plate.boundary = false;
    addNodeField(plate, "T [degC]", [](const Point& at) { return 40 + 5 * at[0]; });
    addCellField(plate, "heat_flux [W/m2]", [](const Point&) { return 125e3; });
    addCellField(plate, "roughness", [](const Point&) { return 2.0; });
    ASSERT_TRUE(writeCase({plate}, folder / "plate.vtm"));
    StepContext context;
    context.balances = true;
    const auto readings = readOn(mustOpen(folder / "plate.vtm"),
                                 Json::parse(R"j({"case": {"parts": {"plate": {"power": "125 kW"}}}, "gauges": [
        {"id": "Q", "where": {"part": "plate"}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "q", "where": {"part": "plate"}, "quantity": "heat_flux", "component": "normal"},
        {"id": "A", "where": {"part": "plate"}, "quantity": "area"},
        {"id": "r", "where": {"part": "plate"}, "quantity": "roughness", "statistic": "integral"},
        {"id": "T", "where": {"part": "plate"}, "quantity": "temperature", "unit": "degC"}]})j"),
                                 context);
    const std::array<std::pair<double, const char*>, 5> wanted{
        {{5e5, "W"}, {125e3, "W/m2"}, {4, "m2"}, {8, ""}, {45, "degC"}}};
    for (std::size_t i = 0; i < wanted.size(); ++i) {
        ASSERT_TRUE(readings.gauges[i].value) << readings.gauges[i].why;
        EXPECT_NEAR(*readings.gauges[i].value, wanted[i].first, 1e-6 * wanted[i].first);
        EXPECT_EQ(readings.gauges[i].unit, wanted[i].second);
    }
    EXPECT_EQ(readings.parts[0].dimension, 2);
    const auto check = [&](const char* key) {
        const auto found = std::ranges::find(readings.checks, key, &Check::key);
        return found == readings.checks.end() ? Check{} : *found;
    };
    EXPECT_EQ(check("power-leaving").state, CheckState::Failed);
    EXPECT_NE(check("power-leaving").figure.find("5e+05 W leaving through the surfaces"), std::string::npos)
        << check("power-leaving").figure;
    EXPECT_NE(check("power-leaving").meaning.find("power per area was taken for a power"), std::string::npos);
    EXPECT_EQ(check("whole-balance").state, CheckState::NotCheckable) << check("whole-balance").figure;
}

// A conductivity along the axes is no direction: sqrt(390^2 + 390^2 + 390^2) = 675 means nothing.
TEST(AlongAxes, HasNoMagnitude) {
    TempFolder folder;
    auto part = boxPart("copper", {{0.1, 0.1, 0.1}, {2, 2, 2}});
    addNodeField(part, "T [degC]", [](const Point&) { return 20.0; });
    part.arrays.push_back({"conductivity", Location::Cell, 3, {}});
    for (int cell = 0; cell < 8; ++cell)
        part.arrays.back().values.insert(part.arrays.back().values.end(), {390, 390, 200});
    ASSERT_TRUE(writeBlock(part, folder / "copper.vtu"));
    const auto readings = readOn(mustOpen(folder / "copper.vtu"), Json::parse(R"j({"wishes": 1, "gauges": [
        {"id": "plain", "where": {"part": "copper"}, "quantity": "conductivity"}, {"id": "z",
          "where": {"part": "copper"}, "quantity": "conductivity", "component": "z"}]})j"));
    EXPECT_FALSE(readings.gauges[0].value);
    EXPECT_NE(readings.gauges[0].why.find("along x, y and z"), std::string::npos) << readings.gauges[0].why;
    EXPECT_NEAR(*readings.gauges[1].value, 200, 1e-9);
    EXPECT_TRUE(has(readings.remarks, "unknown-key")) << "a top-level key that is not known";
}

// "array": [x, y, z]: three scalars are one vector, at nodes and in cells, and the survey keeps them as it had them.
TEST(JoinedArrays, ThreeScalarsAreAVector) {
    TempFolder folder;
    auto part = boxPart("box", {{1, 1, 1}, {2, 2, 2}});
    addNodeField(part, "u, x", [](const Point& at) { return 3 * at[0]; });
    addNodeField(part, "uy", [](const Point&) { return 4.0; });
    addNodeField(part, "uz", [](const Point& at) { return at[2]; });
    for (const auto* name : {"qx", "qy", "qz"})
        addCellField(part, name, [](const Point&) { return 2.0; });
    ASSERT_TRUE(writeBlock(part, folder / "box.vtu"));
    const auto opened = mustOpen(folder / "box.vtu");
    const auto survey = Json::parse(
        R"({"case": {"quantities": {"velocity": {"array": ["u, x", "uy", "uz"]}, "heat_flux": {"array": ["qx", "qy",
          "qz"], "on": "cell", "unit": "kW/m2"}}},
        "gauges": [{"id": "v", "where": {"point": [1, 0.5, 0]}, "quantity": "velocity", "component": "magnitude"},
                   {"id": "z", "where": {"part": "box"}, "quantity": "velocity", "component": "z"},
                   {"id": "q", "where": {"part": "box"}, "quantity": "heat_flux", "component": "magnitude",
                     "statistic": "max"}]})");
    const auto readings = readOn(opened, survey);
    EXPECT_NEAR(readings.gauges[0].value.value_or(-1), 5, 1e-12);
    EXPECT_NEAR(readings.gauges[1].value.value_or(-1), 0.5, 1e-12);
    EXPECT_NEAR(readings.gauges[2].value.value_or(-1), 2000 * std::sqrt(3.0), 1e-9);
    const auto read = surveyFromJson(
        Json::parse(
            R"({"pyrometer": 1, "cases": [{"name": "a", "file": "box.vtu", "quantities": {"velocity": {"array": ["a",
              "b", "c"]}}}]})"),
        "s.json");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(surveyToJson(*read)["cases"][0]["quantities"]["velocity"]["array"], Json::parse(R"(["a", "b", "c"])"));
    EXPECT_FALSE(surveyFromJson(
        Json::parse(
            R"({"pyrometer": 1, "cases": [{"name": "a", "file": "box.vtu", "quantities": {"velocity": {"array": ["a",
              "b"]}}}]})"),
        "s.json"));
}
