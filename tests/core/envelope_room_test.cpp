// The room of the envelope by itself: a wall of plaster and brick between a room and the outside, whose steady state is
// known in closed form (ISO 6946: resistances in series), read by each of the room's functions in turn.
#include "core/envelope/environments.h"
#include "core/envelope/flanks.h"
#include "core/envelope/ray.h"
#include "core/envelope/sides.h"
#include "core/envelope/transmittance.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;
using testing::HasSubstr;

namespace {

constexpr double inside = 293.15;
constexpr double outside = 268.15;
constexpr double plaster = 0.02; // m
constexpr double brick = 0.24;
constexpr double lambdaPlaster = 0.7; // W/(m.K)
constexpr double lambdaBrick = 0.99;
constexpr double inner = 0.13; // m2.K/W
constexpr double outer = 0.04;
constexpr double total = inner + plaster / lambdaPlaster + brick / lambdaBrick + outer;
constexpr double flux = (inside - outside) / total;
constexpr double width = 1.2; // along y
constexpr double height = 1;  // along z, where the model is one cell deep

double wallTemperature(double x) {
    const double surface = inside - flux * inner;
    return x < plaster ? surface - flux * x / lambdaPlaster
                       : surface - flux * (plaster / lambdaPlaster + (x - plaster) / lambdaBrick);
}

class Wall : public testing::Test {
protected:
    void SetUp() override {
        const BoxMesh first{{plaster, width, height}, {2, 6, 1}};
        const BoxMesh second{{brick, width, height}, {12, 6, 1}, {plaster, 0, 0}};
        std::vector<BlockData> blocks{boxPart("plaster", first), boxPart("brick", second)};
        for (auto& one : blocks)
            addNodeField(one, "temperature", [](const Point& at) { return wallTemperature(at[0]); });
        blocks.push_back(boxSide("room", first, 0, false));
        blocks.push_back(boxSide("air", second, 0, true));
        ASSERT_TRUE(writeCase(blocks, folder / "wall.vtm"));
        opened = mustOpen(folder / "wall.vtm");
        quantities = *recognise(*opened->solved, {});
        properties.resize(2);
        properties[0].conductivity = lambdaPlaster;
        properties[1].conductivity = lambdaBrick;
        given = {{"room", {inside, inner}}, {"air", {outside, outer}}};
        build();
    }
    void build(Transience transience = {}) {
        heat.reset();
        fields = std::make_unique<PartFields>(*opened->solved, *opened->index, quantities, properties);
        heat = std::make_unique<CaseHeat>(*fields, transience, given);
    }
    EnvelopeTools tools() const {
        return {*heat, given, {{"loam", 0.8}}, [](const std::string& id) -> Result<Measured> {
                    if (id == "U_wall")
                        return Measured{.value = 1 / total, .siUnit = "W.m-2.K-1"};
                    return fail(ErrorCode::NameUnknown, "there is no gauge \"" + id + "\"");
                }};
    }
    static Gauge gauge(const char* keys, const char* where = "{}") {
        Gauge one;
        one.id = "g";
        one.rest = Json::parse(keys);
        one.where.written = Json::parse(where);
        return one;
    }
    std::size_t boundary(const char* name) const { return *opened->solved->boundaryNamed(name); }
    std::vector<Environment> environments() const { return environmentsOf(*heat, given); }

    TempFolder folder;
    std::optional<OpenedCase> opened;
    QuantityList quantities;
    std::vector<PartProperties> properties;
    GivenEnvironments given;
    std::unique_ptr<PartFields> fields;
    std::unique_ptr<CaseHeat> heat;
};

} // namespace

TEST_F(Wall, ARayPassesLayersInTheirOrder) {
    const auto ray = rayThrough(*fields, {0, 0.5, 0.4}, {1, 0, 0});
    ASSERT_TRUE(ray) << ray.error().text();
    ASSERT_EQ(ray->layers.size(), 2U);
    EXPECT_EQ(opened->solved->parts[ray->layers[0].part].name, "plaster");
    EXPECT_NEAR(ray->layers[0].thickness, plaster, 1e-7);
    EXPECT_NEAR(ray->layers[1].thickness, brick, 1e-7);
    EXPECT_NEAR(ray->layers[1].resistance, brick / lambdaBrick, 1e-7);
    EXPECT_NEAR(ray->layers[1].conductivity(), lambdaBrick, 1e-6);
    EXPECT_NEAR(ray->to[0], plaster + brick, 1e-7);
    const auto slanted = rayThrough(*fields, {0, 0.2, 0.4}, {0.8, 0.6, 0});
    ASSERT_TRUE(slanted);
    EXPECT_NEAR(slanted->layers[0].thickness, plaster / 0.8, 1e-7) << "along the ray";
    const auto none = rayThrough(*fields, {0, 0.5, 0.4}, {-1, 0, 0});
    ASSERT_FALSE(none) << "no part begins there";
    EXPECT_EQ(none.error().code, ErrorCode::NotSupported);
}

TEST_F(Wall, EnvironmentsAreThoseOfTheSurvey) {
    const auto known = environments();
    ASSERT_EQ(known.size(), 2U);
    const auto& room = known[0].name == "room" ? known[0] : known[1];
    EXPECT_EQ(room.temperature, inside);
    EXPECT_EQ(room.resistance, inner);
    EXPECT_EQ(room.origin, "survey");
    EXPECT_NEAR(room.area, width * height, 1e-9);
    ASSERT_TRUE(room.heat);
    EXPECT_NEAR(*room.heat, -flux * width * height, 1e-3 * flux) << "into the wall";
    const auto unknown = environmentOf(*heat, boundary("room"), {});
    ASSERT_FALSE(unknown) << "all faces are alike: no straight line runs through them";
    EXPECT_FALSE(unknown.error().what.empty());
}

TEST_F(Wall, TheResistanceIsFoundWhereTheTemperatureIsGiven) {
    const auto known = environmentOf(*heat, boundary("air"), {outside, std::nullopt});
    ASSERT_TRUE(known) << known.error().text();
    EXPECT_NEAR(known->resistance, outer, 1e-3 * outer);
}

TEST_F(Wall, HeatPassesFromTheWarmerSideToTheColder) {
    const auto plain = gauge("{}");
    const auto aids = tools();
    const auto flow = caught([&]() -> Between { return Sides(plain, aids).between(); });
    ASSERT_TRUE(flow) << flow.error().text();
    EXPECT_EQ(flow->inside.name(), "room") << "the warmer one";
    EXPECT_NEAR(flow->difference(), 25, 1e-12);
    EXPECT_NEAR(flow->flow, flux * width * height, 1e-4 * flux);
    EXPECT_NEAR(flow->coupling(), width * height / total, 1e-4);
    EXPECT_TRUE(flow->inside.has(boundary("room")));
    EXPECT_FALSE(flow->inside.has(boundary("air")));
    const auto turned = gauge("{}", R"({"environments": ["air", "room"]})");
    const auto back = caught([&]() -> Between { return Sides(turned, aids).between(); });
    ASSERT_TRUE(back);
    EXPECT_EQ(back->inside.name(), "air") << "as it was asked for";
    EXPECT_NEAR(back->coupling(), flow->coupling(), 1e-9) << "flow and difference turn together";
}

TEST_F(Wall, SidesThatCannotBeToldAreRefusedWithTheReason) {
    const std::pair<const char*, const char*> wrong[]{
        {R"({"environments": ["room"]})", "two boundaries"},
        {R"({"environments": "room"})", "two boundaries"},
        {R"({"environments": ["room", "cellar"]})", "cellar"},
        {R"({"environments": ["room", "room"]})", "two boundaries"},
        {R"({"environments": ["room", ["room"]]})", "same temperature"},
        {R"({"environments": [["room", "air"], "air"]})", "differ in temperature"},
        {R"({"environments": [[], "air"]})", "no boundary"},
    };
    for (const auto& [keys, word] : wrong) {
        const auto reading = measureCoupling(gauge("{}", keys), tools());
        ASSERT_FALSE(reading) << keys;
        EXPECT_THAT(reading.error().what, HasSubstr(word)) << keys;
    }
    properties[1].power = 5;
    build();
    EXPECT_THAT(measureTransmittance(gauge("{}"), tools()).error().what, HasSubstr("\"brick\" produces heat"));
    properties[1].power.reset();
    build({.changes = true});
    EXPECT_THAT(measureTransmittance(gauge("{}"), tools()).error().what, HasSubstr("changes with time"));
    given.erase("air");
    build();
    EXPECT_THAT(measureTransmittance(gauge("{}"), tools()).error().what, HasSubstr("known environment"));
}

TEST_F(Wall, TransmittanceAndCouplingAreThoseOfTheLayers) {
    const auto u = measureTransmittance(gauge("{}"), tools());
    ASSERT_TRUE(u) << u.error().text();
    EXPECT_NEAR(u->value, 1 / total, 1e-4 / total);
    const auto layers = measureTransmittance(gauge(R"j({"layers": [{"thickness": "20 mm", "conductivity": 0.7},
                              {"thickness": 0.24, "conductivity": "0.99 W/(m.K)"}]})j"),
                                             tools());
    ASSERT_TRUE(layers) << layers.error().text();
    EXPECT_NEAR(layers->value, 1 / total, 1e-12) << "ISO 6946 alone";
    const auto coupling = measureCoupling(gauge("{}"), tools());
    ASSERT_TRUE(coupling);
    EXPECT_NEAR(coupling->value, width / total, 1e-4) << "per metre: the model is one cell deep";
    EXPECT_TRUE(sameDimension(coupling->siUnit, "W/(m.K)"));
    ASSERT_TRUE(coupling->derivation || !coupling->reference.empty()) << "what it is made of is told";
}

TEST_F(Wall, TheTemperatureFactorIsThatOfThePlaneWall) {
    const double exact = 1 - inner / total; // ISO 10211: fRsi of an undisturbed element
    const auto factor = measureTemperatureFactor(gauge("{}"), tools());
    ASSERT_TRUE(factor) << factor.error().text();
    EXPECT_NEAR(factor->value, exact, 1e-5);
    auto highest = gauge("{}");
    highest.statistic = "max";
    EXPECT_NEAR(measureTemperatureFactor(highest, tools())->value, exact, 1e-5) << "all places are alike";
}

TEST_F(Wall, AnUndisturbedWallIsItsOwnFlank) {
    ASSERT_TRUE(depthOf(*opened->solved, *opened->index));
    EXPECT_EQ(depthOf(*opened->solved, *opened->index)->axis, 2U);
    EXPECT_NEAR(depthOf(*opened->solved, *opened->index)->metres, height, 1e-9);
    std::vector<Environment> warm;
    std::vector<Environment> cold;
    for (const auto& one : environments())
        (one.name == "room" ? warm : cold).push_back(one);
    const auto flanks = flanksBetween(*heat, warm, cold);
    ASSERT_TRUE(flanks) << flanks.error().text();
    ASSERT_EQ(flanks->size(), 1U);
    const auto& flank = flanks->front();
    ASSERT_EQ(flank.element.layers.size(), 2U);
    EXPECT_NEAR(flank.element.layers[0].thickness, plaster, 1e-7);
    EXPECT_NEAR(flank.element.layers[1].conductivity, lambdaBrick, 1e-5);
    EXPECT_NEAR(flank.transmittance(), 1 / total, 1e-6);
    EXPECT_NEAR(flank.deviation, 0, 1e-4);
    for (const auto dimensions : {Dimensions::Internal, Dimensions::External, Dimensions::OverallInternal})
        EXPECT_NEAR(flank.size(dimensions), width * height, 1e-6) << dimensionsText(dimensions);
    EXPECT_THAT(flank.text(), HasSubstr("240 mm"));
    // A wall without a bridge loses nothing beside its plane part.
    const auto psi = measureLinearTransmittance(gauge("{}"), tools());
    ASSERT_TRUE(psi) << psi.error().text();
    EXPECT_NEAR(psi->value, 0, 1e-4);
}

TEST_F(Wall, ComponentsAreSummedWithTheReadingsOfOtherGauges) {
    const auto sum = measureTransmission(
        gauge(R"j({"sum": [{"gauge": "U_wall", "area": "10 m2"}, {"value": "0.1 W/(m.K)", "length": 4},
                           {"value": "0.05 W/K", "count": 6}]})j"),
        tools());
    ASSERT_TRUE(sum) << sum.error().text();
    EXPECT_NEAR(sum->value, 10 / total + 0.4 + 0.3, 1e-9);
}

TEST_F(Wall, MaterialsOfLayersAreLookedUpByName) {
    const auto materials = tools().materials;
    const auto named = elementOf(Json::parse(R"([{"thickness": "0.3 m", "material": "loam"}])"), nullptr, materials);
    ASSERT_TRUE(named) << named.error().text();
    EXPECT_EQ(named->layers[0].conductivity, 0.8);
    EXPECT_EQ(named->inner, 0.13) << "of a wall, where none is given";
    const auto resistances = Json::parse("[0.10, 0.04]");
    EXPECT_NEAR(
        transmittance(*elementOf(Json::parse(R"([{"thickness": 0.3, "material": "loam"}])"), &resistances, materials)),
        1 / (0.1 + 0.3 / 0.8 + 0.04), 1e-12);
    for (const auto* layers : {R"([])", R"([{"thickness": 0.1}])", R"([{"thickness": 0.1, "material": "unobtainium"}])",
                               R"([{"thickness": -1, "conductivity": 1}])", R"("loam")"})
        EXPECT_FALSE(elementOf(Json::parse(layers), nullptr, materials)) << layers;
}
