// Environments: told by the survey, by the case, or recognised from temperature and flux of the faces; and sides of
// several.
#include "rig/result.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// A corner of two walls with a room that faces them in two boundaries of different surface resistance.
class Environments : public testing::Test {
protected:
    void SetUp() override {
        const auto model = rig::modelFromText(
            R"j({"rig": 1, "grid": {"x": {"spacing": 0.06, "fine": 0.01}, "y": {"spacing": 0.06, "fine": 0.01},
              "z": {"spacing": 1}},
            "materials": {"brick": {"conductivity": 1}},
            "boxes": [{"part": "west", "material": "brick", "from": [0, 0, 0], "to": [0.3, 1.5, 1]}, {"part": "south",
              "material": "brick", "from": [0.3, 0, 0], "to": [1.5, 0.3, 1]}],
            "environments": [{"boundary": "outside", "temperature": "-10 degC", "surface_resistance": 0.04,
              "faces": [{"side": "-x"}, {"side": "-y"}]},
                             {"boundary": "room wall", "temperature": "20 degC", "surface_resistance": 0.13,
                               "faces": [{"side": "+x", "to": [0.31, 9, 9]}]},
                             {"boundary": "room floor", "temperature": "20 degC", "surface_resistance": 0.17,
                               "faces": [{"side": "+y", "to": [9, 0.31, 9]}]}]})j",
            "corner");
        ASSERT_TRUE(model) << model.error().text();
        const auto grid = rig::makeGrid(*model);
        NoProgress progress;
        const auto solution = rig::solve(*model, *grid, progress);
        ASSERT_TRUE(solution);
        blocks = rig::toBlocks(*model, *grid, *solution);
    }
    // As of a solver that tells nothing of its environments.
    void silence() {
        for (auto& block : blocks)
            std::erase_if(block.arrays, [](const ArrayData& array) {
                return array.name == "environment_temperature" || array.name == "surface_resistance";
            });
    }
    Readings read(const std::string& survey) {
        const auto file = folder / ("case" + std::to_string(++number) + ".vtm");
        EXPECT_TRUE(writeCase(blocks, file));
        StepContext context;
        context.balances = true;
        return readOn(mustOpen(file), Json::parse(survey), context);
    }
    static const Environment* named(const Readings& readings, const std::string& name) {
        const auto found = std::ranges::find(readings.environments, name, &Environment::name);
        return found == readings.environments.end() ? nullptr : &*found;
    }
    TempFolder folder;
    std::vector<BlockData> blocks;
    int number = 0;
};

const char* const psi =
    R"j({"gauges": [{"id": "psi", "quantity": "linear_transmittance", "dimensions": "internal"}]})j";

} // namespace

TEST_F(Environments, TheCaseTellsThem) {
    const auto readings = read(psi);
    ASSERT_EQ(readings.environments.size(), 3U);
    const auto* floor = named(readings, "room floor");
    ASSERT_NE(floor, nullptr);
    EXPECT_NEAR(floor->temperature, 293.15, 1e-9);
    EXPECT_NEAR(floor->resistance, 0.17, 1e-9);
    EXPECT_EQ(floor->origin, "case");
    EXPECT_NEAR(floor->area, 1.2, 1e-9);
    ASSERT_TRUE(floor->heat);
    EXPECT_LT(*floor->heat, 0) << "heat comes in from the room";
    ASSERT_TRUE(readings.gauges[0].value) << readings.gauges[0].why;
    EXPECT_GT(*readings.gauges[0].value, 0);
    EXPECT_NE(readings.gauges[0].reference.find("room wall and room floor"), std::string::npos)
        << "both are the warm side";
}

// A straight line through the faces: as exact as the fluxes that are stored.
TEST_F(Environments, TheyAreRecognisedFromTheFaces) {
    silence();
    const auto found = read(psi);
    for (const auto& [name, kelvin, resistance] :
         {std::tuple{"outside", 263.15, 0.04}, {"room wall", 293.15, 0.13}, {"room floor", 293.15, 0.17}}) {
        const auto* one = named(found, name);
        ASSERT_NE(one, nullptr) << name;
        EXPECT_EQ(one->origin, "field");
        // surface temperatures at nodes are means of what is around them
        EXPECT_NEAR(one->temperature, kelvin, 0.5) << name;
        EXPECT_NEAR(one->resistance, resistance, 0.03 * resistance + 0.002) << name;
    }
}

TEST_F(Environments, TheSurveyHasTheLastWord) {
    silence();
    const auto readings = read(
        R"j({"case": {"boundaries": {"outside": {"temperature": "-10 degC"}, "room wall": {"temperature": "20 degC",
          "film_coefficient": "7.6923 W/(m2.K)"},
        "room floor": {"temperature": "20 degC", "surface_resistance": "0.17 m2.K/W"}}}, "gauges": [{"id": "psi",
          "quantity": "linear_transmittance"}]})j");
    const auto* outside = named(readings, "outside");
    ASSERT_NE(outside, nullptr);
    EXPECT_EQ(outside->origin, "survey");
    EXPECT_NEAR(outside->resistance, 0.04, 0.003) << "from mean temperature and mean flux";
    EXPECT_NEAR(named(readings, "room wall")->resistance, 0.13, 1e-5);
    EXPECT_TRUE(readings.gauges[0].value) << readings.gauges[0].why;
}

TEST_F(Environments, SidesAreListsOfOneTemperature) {
    const auto value = [&](const std::string& where) {
        const auto readings = read(
            R"j({"gauges": [{"id": "L", "quantity": "coupling_coefficient", "where": {"environments": )j" + where +
            "}}]}");
        return readings.gauges[0];
    };
    const auto both = value(R"j([["room wall", "room floor"], "outside"])j");
    const auto wall = value(R"j(["room wall", "outside"])j");
    const auto floor = value(R"j(["room floor", "outside"])j");
    ASSERT_TRUE(both.value && wall.value && floor.value) << both.why << wall.why << floor.why;
    EXPECT_NEAR(*wall.value + *floor.value, *both.value, 1e-6) << "nothing flows between sides of one temperature";
    EXPECT_NE(value(R"j([["room wall", "outside"], "room floor"])j").why.find("differ in temperature"),
              std::string::npos);
    EXPECT_NE(value(R"j(["room wall"])j").why.find("two boundaries"), std::string::npos);
    EXPECT_NE(value(R"j([[], "outside"])j").why.find("no boundary on one side"), std::string::npos);
}

TEST_F(Environments, HeatThatIsLeftOverIsNotBelieved) {
    std::erase_if(blocks, [](const BlockData& block) { return block.name == "room floor"; });
    const auto readings = read(psi);
    EXPECT_FALSE(readings.gauges[0].value);
    EXPECT_NE(readings.gauges[0].why.find("over"), std::string::npos) << readings.gauges[0].why;
}

// What the humidity asks for, and what there is: ISO 13788. 20 degC, 50 %, -10 degC outside: (12.6 + 10) / 30 = 0.754.
TEST_F(Environments, TheTemperatureFactorAgainstWhatIsRequired) {
    const auto readings = read(
        R"j({"gauges": [{"id": "f", "quantity": "temperature_factor"}, {"id": "need",
          "quantity": "required_temperature_factor", "air": "20 degC", "humidity": "50 %", "outside": "-10 degC"},
        {"id": "reserve", "formula": "f - need"}, {"id": "wet", "quantity": "required_temperature_factor",
          "air": "20 degC", "humidity": "500 %", "outside": "-10 degC"},
        {"id": "dew", "quantity": "dew_point", "air": "20 degC", "humidity": "50 %", "unit": "degC"}],
          "limits": [{"gauge": "reserve", "min": "0"}]})j");
    ASSERT_TRUE(readings.gauges[0].value && readings.gauges[1].value && readings.gauges[2].value &&
                readings.gauges[4].value);
    EXPECT_NEAR(*readings.gauges[1].value, 0.754, 0.002);
    EXPECT_NEAR(*readings.gauges[2].value, *readings.gauges[0].value - *readings.gauges[1].value, 1e-12);
    EXPECT_FALSE(readings.gauges[3].value);
    EXPECT_NE(readings.gauges[3].why.find("0 to 100 %"), std::string::npos) << readings.gauges[3].why;
    EXPECT_NEAR(*readings.gauges[4].value, 9.3, 0.05);
    EXPECT_EQ(readings.limits[0].verdict, *readings.gauges[2].value < 0 ? Verdict::Over : Verdict::Within);
    ASSERT_TRUE(readings.gauges[0].place);
    EXPECT_NEAR(readings.gauges[0].place->at[0], 0.3, 1e-9) << "lowest in the inner corner";
    EXPECT_NEAR(readings.gauges[0].place->at[1], 0.3, 1e-9);
}
