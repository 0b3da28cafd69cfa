// Plane elements and moist air.
#include "core/envelope/humid_air.h"
#include "core/envelope/material_library.h"
#include "core/envelope/moisture.h"
#include "core/envelope/plane_layers.h"

#include <gtest/gtest.h>

using namespace pyro;

namespace {

PlaneElement worked() {
    return {{{"plaster", 0.015, 0.70, {}},
             {"brick", 0.24, 0.99, {}},
             {"insulation", 0.1, 0.04, {}},
             {"render", 0.01, 0.87, {}}},
            0.13,
            0.04};
}

} // namespace

// Worked element (sum of resistances, ISO 6946); temperatures by hand: q = 30 / 2.9453 = 10.186 W/m2, 20 - 10.186 x
// 0.13 = 18.676 degC and so on.
TEST(PlaneLayers, WorkedElement) {
    const auto element = worked();
    ASSERT_TRUE(checkElement(element));
    EXPECT_NEAR(totalResistance(element), 2.9453, 5e-5);
    EXPECT_NEAR(transmittance(element), 0.3395, 5e-5);
    const auto faces = faceTemperatures(element, 293.15, 263.15);
    ASSERT_EQ(faces.size(), 5U);
    EXPECT_NEAR(faces[0] - 273.15, 18.676, 1e-3);
    EXPECT_NEAR(faces[2] - 273.15, 15.988, 1e-3);
    EXPECT_NEAR(faces[4] - 273.15, -9.593, 1e-3);
    // 9.3 degC within the insulation: (15.988 - 9.3) / 10.186 x 0.04 = 26.26 mm behind the brick, which ends at 255 mm.
    const auto depth = depthOfTemperature(element, 293.15, 263.15, 9.3 + 273.15);
    ASSERT_TRUE(depth);
    EXPECT_NEAR(*depth, 0.28126, 2e-5);
    EXPECT_FALSE(depthOfTemperature(element, 293.15, 263.15, 299));
}

TEST(PlaneLayers, BadLayersAreNamed) {
    const auto what = [](const PlaneElement& element) {
        const auto checked = checkElement(element);
        EXPECT_FALSE(checked);
        return checked ? std::string() : checked.error().what;
    };
    auto element = worked();
    element.layers[2].thickness = 0;
    EXPECT_EQ(what(element), "layer 3 (insulation) has the thickness 0 m");
    element = worked();
    element.layers[1].conductivity = -1;
    EXPECT_EQ(what(element), "layer 2 (brick) has the conductivity -1 W/(m.K)");
    element = worked();
    element.layers[0].given = 0;
    EXPECT_EQ(what(element), "layer 1 (plaster) has the resistance 0 m2.K/W");
    element = worked();
    element.outer = -0.1;
    EXPECT_FALSE(checkElement(element));
    EXPECT_FALSE(checkElement({{}, 0.13, 0.04}));
}

// ISO 6946, tables 7 and 8, from memory.
TEST(PlaneLayers, SurfacesAndAirLayersOfTheStandard) {
    EXPECT_EQ(innerSurfaceResistance(HeatFlowDirection::Horizontal), 0.13);
    EXPECT_EQ(innerSurfaceResistance(HeatFlowDirection::Upwards), 0.10);
    EXPECT_EQ(innerSurfaceResistance(HeatFlowDirection::Downwards), 0.17);
    EXPECT_NEAR(*airLayerResistance(0.025, HeatFlowDirection::Horizontal), 0.18, 1e-12);
    EXPECT_NEAR(*airLayerResistance(0.020, HeatFlowDirection::Upwards), 0.16, 1e-12);
    EXPECT_NEAR(*airLayerResistance(0.075, HeatFlowDirection::Downwards), 0.215, 1e-12);
    EXPECT_NEAR(*airLayerResistance(0, HeatFlowDirection::Horizontal), 0, 1e-12);
    EXPECT_FALSE(airLayerResistance(0.4, HeatFlowDirection::Horizontal));
    EXPECT_FALSE(airLayerResistance(-0.01, HeatFlowDirection::Horizontal));
}

// Steam table, saturation pressures at 0, 10 and 20 degC: 611, 1228, 2339 Pa (handbook); 20 degC and 50 % condense
// at 9.3 degC and reach 80 % on a surface of 12.6 degC, the trade's usual figure for mould (common practice, no
// source).
TEST(HumidAir, DewPointAndMould) {
    EXPECT_NEAR(saturationPressure(273.15), 611, 1);
    EXPECT_NEAR(saturationPressure(283.15), 1228, 3);
    EXPECT_NEAR(saturationPressure(293.15), 2339, 3);
    EXPECT_NEAR(*dewPoint(293.15, 0.5) - 273.15, 9.3, 0.05);
    EXPECT_NEAR(*lowestSurfaceTemperature(293.15, 0.5, mouldHumidity) - 273.15, 12.6, 0.05);
    for (const double celsius : {-15.0, -1.0, 0.0, 1.0, 25.0})
        EXPECT_NEAR(*saturationTemperature(saturationPressure(celsius + 273.15)) - 273.15, celsius, 1e-9);
    EXPECT_FALSE(dewPoint(293.15, 0));
    EXPECT_FALSE(dewPoint(293.15, 50));
    EXPECT_FALSE(saturationTemperature(-1));
}

// By hand from the resistances of ISO 6946 (0.13, d over lambda, 0.04) between 20 and -10 degC at 50 %: dew point 9.3
// degC.
TEST(Moisture, SurfaceAndInsideNeverContradictEachOther) {
    const auto wall = [](double thickness, double conductivity) {
        return PlaneElement{{{"one", thickness, conductivity}}};
    };
    const auto thin = *moistureOf(wall(0.05, 1), 293.15, 263.15, 0.5); // 20 - 30 x 0.13 / 0.22 = 2.3 degC
    EXPECT_NEAR(thin.surface - 273.15, 20 - 30 * 0.13 / 0.22, 1e-9);
    EXPECT_EQ(thin.state, SurfaceMoisture::Condensation);
    EXPECT_EQ(thin.depth, 0.0);
    EXPECT_NE(thin.text().find("water condenses on it"), std::string::npos);
    EXPECT_EQ(thin.text().find("No place"), std::string::npos) << thin.text();
    const auto insulated = *moistureOf(wall(0.2, 0.035), 293.15, 263.15, 0.5);
    EXPECT_EQ(insulated.state, SurfaceMoisture::Dry);
    EXPECT_NEAR(*insulated.depth, 0.035 * ((293.15 - insulated.dewPoint) / 30 * (0.17 + 0.2 / 0.035) - 0.13), 1e-9);
    EXPECT_NE(insulated.text().find("The dew point is reached 69 mm from the inner surface"), std::string::npos)
        << insulated.text();
    const auto mild = *moistureOf(wall(0.2, 0.035), 293.15, 288.15, 0.5);
    EXPECT_FALSE(mild.depth);
    EXPECT_NE(mild.text().find("No place in the element"), std::string::npos);
    EXPECT_FALSE(moistureOf(wall(0.2, 0.035), 293.15, 263.15, 50));
}

TEST(BuildingMaterials, AreNamedOnceWithTheirSource) {
    ASSERT_NE(libraryMaterial("gypsum plaster"), nullptr);
    EXPECT_EQ(libraryMaterial("stone of the wise"), nullptr);
    for (const auto& one : materialLibrary()) {
        EXPECT_EQ(libraryMaterial(one.name), &one);
        EXPECT_GT(one.conductivity, 0);
        EXPECT_FALSE(one.source.empty());
    }
}
