// The room of heat by itself: fields of parts, heat through faces, balances. Against Fourier's law for linear fields
// and against the closed form of a bar with an even source q and both ends at T0, T = T0 + q x (L - x) / (2 k) (Carslaw
// and Jaeger, Conduction of Heat in Solids, 2nd ed., from memory).
#include "core/thermal/balances.h"
#include "core/thermal/case_heat.h"
#include "core/thermal/site_values.h"
#include "core/thermal/wall_line.h"
#include "core/thermal/whole_heat.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gmock/gmock.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;
using testing::HasSubstr;

namespace {

constexpr double reach = 0.1;
constexpr double area = 4e-4; // m2 across

// A bar along x, its ends as boundaries, in cells of any kind.
class Bar : public testing::Test {
protected:
    using Temperature = std::function<double(double x)>;
    void make(const Temperature& temperature, Cells cells = Cells::Hexahedra, int count = 10) {
        const BoxMesh box{{reach, 0.02, 0.02}, {count, 2, 2}};
        auto part = boxPart("bar", box, cells);
        addNodeField(part, "temperature", [&](const Point& at) { return temperature(at[0]); });
        open({part, boxSide("start", box, 0, false, cells), boxSide("end", box, 0, true, cells)});
    }
    void open(const std::vector<BlockData>& blocks) {
        ASSERT_TRUE(writeCase(blocks, folder / "bar.vtm"));
        heat.reset();
        fields.reset();
        opened = mustOpen(folder / "bar.vtm");
        quantities = *recognise(*opened->solved, {});
        properties.assign(opened->solved->parts.size(), {});
        properties[0].conductivity = 50;
        build();
    }
    void build(Transience transience = {}) {
        heat.reset();
        fields = std::make_unique<PartFields>(*opened->solved, *opened->index, quantities, properties);
        heat = std::make_unique<CaseHeat>(*fields, transience);
    }
    std::size_t boundary(const char* name) const { return *opened->solved->boundaryNamed(name); }

    TempFolder folder;
    std::optional<OpenedCase> opened;
    QuantityList quantities;
    std::vector<PartProperties> properties;
    std::unique_ptr<PartFields> fields;
    std::unique_ptr<CaseHeat> heat;
    NoProgress quiet;
};

double linear(double x) { return 400 - 1000 * x; } // 50 kW/m2 at 50 W/(m K)

} // namespace

TEST_F(Bar, FieldsAreStoredGivenOrDerived) {
    make(linear);
    const auto conductivity = fields->field(0, "conductivity");
    ASSERT_TRUE(conductivity);
    EXPECT_TRUE(conductivity->isConstant());
    EXPECT_EQ(conductivity->at(17), 50);
    const auto gradient = fields->field(0, "temperature_gradient");
    ASSERT_TRUE(gradient);
    EXPECT_EQ(gradient->components, 3);
    EXPECT_EQ(gradient->on, Location::Cell);
    EXPECT_NEAR(gradient->at(5, 0), -1000, 1e-2);
    EXPECT_NEAR(gradient->at(5, 1), 0, 1e-2);
    const auto flux = fields->field(0, "heat_flux", Location::Node);
    ASSERT_TRUE(flux);
    EXPECT_EQ(flux->on, Location::Node);
    for (std::size_t node = 0; node < opened->solved->parts[0].mesh.nodes(); ++node)
        EXPECT_NEAR(flux->at(node, 0), 50'000, 1) << node;
    EXPECT_EQ(fields->stored(0, "heat_flux"), std::nullopt) << "it is not in the file";
    EXPECT_TRUE(fields->stored(0, "temperature"));
    EXPECT_TRUE(fields->temperatureOn(0, Location::Node));
    EXPECT_FALSE(fields->temperatureOn(0, Location::Cell));
}

TEST_F(Bar, WhatIsMissingIsToldInASentence) {
    make(linear);
    properties[0].conductivity.reset();
    build();
    for (const auto& [name, word] : {std::pair{"heat_flux", "conductivity"},
                                     {"mass_flux", "velocity"},
                                     {"density", "density"},
                                     {"speed", "velocity"},
                                     {"enthalpy_of_nothing", "enthalpy_of_nothing"}}) {
        const auto field = fields->field(0, name);
        ASSERT_FALSE(field) << name;
        EXPECT_THAT(field.error().what, HasSubstr(word));
    }
    EXPECT_FALSE(heat->through(boundary("start")));
    EXPECT_EQ(producedIn(*fields, 0), std::optional(0.0)) << "a solid that nobody gave a power";
    EXPECT_FALSE(producesHeat(*fields, 0));
}

TEST_F(Bar, ThePowerOfAPartIsSpreadOverIt) {
    make(linear);
    properties[0].power = 8;
    build();
    EXPECT_TRUE(producesHeat(*fields, 0));
    EXPECT_NEAR(*producedIn(*fields, 0), 8, 1e-9);
    const auto source = fields->field(0, "heat_source");
    ASSERT_TRUE(source);
    EXPECT_NEAR(source->at(0), 8 / (reach * area), 1e-3);
}

TEST_F(Bar, LinearFieldsConductExactlyInCellsOfEveryKind) {
    for (const auto cells : {Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids}) {
        make(linear, cells);
        for (const auto method : {HeatMethod::Conservative, HeatMethod::Gradient}) {
            const auto start = heat->through(boundary("start"), method);
            const auto end = heat->through(boundary("end"), method);
            ASSERT_TRUE(start && end);
            EXPECT_EQ(start->method, method) << heatMethodName(start->method);
            EXPECT_NEAR(start->total, -20, 2e-3) << "50 kW/m2 on 4 cm2 into the bar";
            EXPECT_NEAR(end->total, 20, 2e-3) << "and out of it";
        }
        const auto balance = partBalance(*heat, 0);
        ASSERT_TRUE(balance.in && balance.out);
        EXPECT_NEAR(*balance.in, 20, 2e-3);
        EXPECT_NEAR(*balance.remainder(), 0, 2e-3);
    }
}

TEST_F(Bar, AnEvenSourceLeavesThroughBothEnds) {
    // Both ends at 300 K, 2 MW/m3: 80 W made, 40 W out of each end; T rises by q L^2 / (8 k) = 50 K in the middle.
    constexpr double source = 2e6;
    make([](double x) { return 300 + source * x * (reach - x) / (2 * 50); });
    properties[0].power = source * reach * area;
    build();
    const auto end = heat->through(boundary("end"));
    ASSERT_TRUE(end);
    EXPECT_EQ(end->method, HeatMethod::Conservative);
    EXPECT_NEAR(end->total, 40, 0.01) << "the weak form is exact at the nodes of this mesh";
    ASSERT_TRUE(end->gradientTotal);
    EXPECT_NEAR(*end->gradientTotal, 40, 4.1) << "the plain gradient is taken half a cell away";
    const auto balance = partBalance(*heat, 0);
    EXPECT_NEAR(*balance.produced, 80, 1e-6);
    EXPECT_NEAR(*balance.out, 80, 0.02);
    EXPECT_NEAR(*balance.share(), 0, 1e-3);
    const auto all = balancesOf(*heat, quiet);
    ASSERT_TRUE(all);
    const auto whole = wholeBalance(*heat, *all, {{"bar", 80.0}});
    ASSERT_TRUE(whole);
    EXPECT_NEAR(whole->produced, 80, 1e-6);
    EXPECT_NEAR(whole->leaving, 80, 0.02);
    EXPECT_THAT(balanceText(*whole), HasSubstr("produced 80 W"));
    EXPECT_NEAR(*flowOfAll(*all).heat, 80, 0.02);
}

TEST_F(Bar, WhatIsStoredBetweenStepsIsPartOfTheBalance) {
    // The bar warms evenly by 2 K in 10 s: rho c V dT/dt = 8000 * 500 * 4e-5 * 0.2 = 32 W stored.
    make([](double) { return 320.0; });
    const auto late = *opened;
    const auto lateQuantities = quantities;
    TempFolder other;
    auto part = boxPart("bar", {{reach, 0.02, 0.02}, {10, 2, 2}});
    addNodeField(part, "temperature", [](const Point&) { return 318.0; });
    ASSERT_TRUE(writeCase({part}, other / "early.vtm"));
    const auto early = mustOpen(other / "early.vtm");
    properties[0].density = 8000;
    properties[0].heatCapacity = 500;
    const auto earlyQuantities = *recognise(*early.solved, {});
    const PartFields before(*early.solved, *early.index, earlyQuantities, properties);
    build({.changes = true, .before = &before, .seconds = 10});
    const auto balance = partBalance(*heat, 0);
    ASSERT_TRUE(balance.stored) << balance.why;
    EXPECT_NEAR(*balance.stored, 32, 0.01);
    build({.changes = true});
    EXPECT_FALSE(partBalance(*heat, 0).stored) << "without the step before it is not known";
    EXPECT_FALSE(partBalance(*heat, 0).why.empty());
}

TEST_F(Bar, StoredFluxesComeFirst) {
    const BoxMesh box{{reach, 0.02, 0.02}, {10, 2, 2}};
    auto part = boxPart("bar", box);
    addNodeField(part, "temperature", [](const Point& at) { return linear(at[0]); });
    auto end = boxSide("end", box, 0, true);
    addCellField(end, "heat_flux [W/m2]", [](const Point&) { return 1234.0; });
    open({part, end});
    const auto through = heat->through(boundary("end"));
    ASSERT_TRUE(through);
    EXPECT_EQ(through->method, HeatMethod::Stored);
    EXPECT_NEAR(through->total, 1234 * area, 1e-6);
    EXPECT_NEAR(heat->through(boundary("end"), HeatMethod::Conservative)->total, 20, 2e-3) << "as asked for";
}

TEST_F(Bar, FlowsCarryMassAndHeatThroughOpenings) {
    const BoxMesh box{{reach, 0.02, 0.02}, {10, 2, 2}};
    auto part = boxPart("duct", box);
    addNodeField(part, "temperature", [](const Point& at) { return 300 + 100 * at[0]; });
    addNodeVector(part, "velocity", [](const Point&) { return Point{0.5, 0, 0}; });
    open({part, boxSide("inlet", box, 0, false), boxSide("outlet", box, 0, true)});
    properties[0].conductivity = 0.6;
    properties[0].density = 1000;
    properties[0].heatCapacity = 4000;
    build();
    EXPECT_TRUE(fields->isFluid(0)) << "it has a velocity";
    properties[0].fluid = false;
    build();
    EXPECT_FALSE(fields->isFluid(0)) << "noted otherwise";
    properties[0].fluid = true;
    build();
    const auto mass = massThrough(*fields, 0);
    ASSERT_TRUE(mass) << mass.error().text();
    EXPECT_NEAR(mass->in, 0.2, 1e-6) << "1000 kg/m3 * 0.5 m/s * 4 cm2";
    EXPECT_NEAR(mass->out, 0.2, 1e-6);
    const auto outlet = boundaryFlow(*heat, boundary("outlet"));
    EXPECT_NEAR(*outlet.mass, 0.2, 1e-6);
    EXPECT_NEAR(*outlet.volume, 2e-4, 1e-9);
    EXPECT_NEAR(outlet.bulk->kelvin, 310, 1e-4);
    EXPECT_NEAR(*outlet.enthalpy, 0.2 * 4000 * (310 - 273.15), 0.1);
    const auto balance = partBalance(*heat, 0);
    ASSERT_TRUE(balance.carried);
    EXPECT_NEAR(*balance.carried, 0.2 * 4000 * 10, 0.1) << "warmed by 10 K";
}

TEST_F(Bar, SitesReadStoredAndDerivedQuantities) {
    make(linear);
    const auto shape = shapeOf({Json::parse(R"({"line": {"from": [0.005, 0.01, 0.01], "to": [0.095, 0.01, 0.01],
        "points": 10}})")});
    const auto site = siteOf(*shape, {*opened->solved, *opened->index, quantities, nullptr});
    ASSERT_TRUE(site);
    const auto kelvin = readAt(site->points, *fields, "temperature", Component::Natural);
    ASSERT_TRUE(kelvin);
    for (std::size_t i = 0; i < kelvin->size(); ++i)
        EXPECT_NEAR((*kelvin)[i], linear(site->points.at[i][0]), 1e-3);
    const auto along = readAt(site->points, *fields, "heat_flux", Component::X);
    ASSERT_TRUE(along);
    EXPECT_NEAR((*along)[4], 50'000, 5);
    const auto size = readAt(site->points, *fields, "heat_flux", Component::Magnitude);
    ASSERT_TRUE(size);
    EXPECT_NEAR((*size)[4], 50'000, 5);
    EXPECT_FALSE(readAt(site->points, *fields, "pressure", Component::Natural));
    const auto values = valuesAt(*site, *fields, "temperature", Component::Natural);
    ASSERT_TRUE(values);
    EXPECT_NEAR(accumulated(*values).max().value, 395, 1e-2);
}

TEST_F(Bar, TheWallTellsItsFluxAndTemperatureAlongALine) {
    make(linear);
    const auto shape = shapeOf({Json::parse(R"({"line": {"from": [0.1, 0.002, 0.01], "to": [0.1, 0.018, 0.01],
        "points": 5}, "boundary": "end"})")});
    const auto site = siteOf(*shape, {*opened->solved, *opened->index, quantities, nullptr});
    ASSERT_TRUE(site) << site.error().text();
    const auto wall = wallLine(*site, *heat, std::nullopt);
    ASSERT_TRUE(wall) << wall.error().text();
    for (std::size_t i = 0; i < site->points.size(); ++i) {
        EXPECT_NEAR(wall->flux[i], 50'000, 10);
        EXPECT_NEAR(wall->kelvin[i], 300, 1e-3);
    }
    for (const auto& normal : wallNormals(*site, *heat))
        EXPECT_NEAR(normal[0], 1, 1e-9) << "out of the bar";
}
