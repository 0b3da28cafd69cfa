// Gauges on a box with known integrals: T = 20 degC + 100 x on [0, 0.2] x [0, 0.1] x [0, 0.1], a flux along x.
#include "core/gauge/gauge_read.h"
#include "core/survey/survey_file.h"
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
        ASSERT_TRUE(writeCase({part, other, boxSide("cold end", box, 0, false), boxSide("hot end", box, 0, true)}, folder / "bar.vtm"));
        opened = mustOpen(folder / "bar.vtm");
        quantities = *recognise(*opened.solved, {});
    }
    Result<MeasuredGauge> read(const std::string& gauge) {
        const auto survey = surveyFromJson(Json::parse(R"({"pyrometer": 1, "gauges": [)" + gauge + "]}"), "test");
        EXPECT_TRUE(survey) << gauge;
        return readGauge(survey->gauges[0], *opened.solved, *opened.index, quantities);
    }
    TempFolder folder;
    OpenedCase opened;
    QuantityList quantities;
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
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "max", "unit": "degC"})", 40, "degC"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "min", "unit": "degF"})", 68, "degF"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "range", "unit": "degF"})", 36, "degF"},
        {R"({"id": "g", "where": {"part": ["bar", "plate"]}, "quantity": "temperature", "unit": "degC"})", 40, "degC"},
        {R"({"id": "g", "where": "all", "quantity": "temperature", "statistic": "max", "unit": "degC"})", 50, "degC"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "temperature", "unit": "degC"})", 40, "degC"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "volume", "statistic": "integral"})", 0.002, "m3"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "volume", "statistic": "integral", "unit": "cm3"})", 2000, "cm3"},
        {R"({"id": "g", "where": {"boundary": ["hot end", "cold end"]}, "quantity": "area", "statistic": "integral"})", 0.02, "m2"},
        // A vector is its magnitude in parts, its part along the outward normal on boundaries.
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "heat_flux"})", 1300, "W/m2"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "heat_flux", "component": "z"})", 1200, "W/m2"},
        {R"({"id": "g", "where": {"boundary": "cold end"}, "quantity": "heat_flux"})", 500, "W/m2"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "heat_flux"})", -500, "W/m2"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "heat_flux", "component": "x"})", -500, "W/m2"},
        {R"({"id": "g", "where": {"boundary": "cold end"}, "quantity": "heat_flux", "statistic": "integral"})", 5, "W"},
        {R"({"id": "g", "where": {"boundary": "cold end"}, "quantity": "heat_flux", "statistic": "integral", "unit": "mW"})", 5000, "mW"},
        {R"({"id": "g", "where": {"part": "plate"}, "quantity": "temperature", "statistic": "count"})", 27, "1"},
    };
    for (const auto& row : rows) {
        SCOPED_TRACE(row.gauge);
        const auto measured = read(row.gauge);
        ASSERT_TRUE(measured) << measured.error().text();
        EXPECT_NEAR(measured->value, row.value, 2e-6 * std::abs(row.value)); // the file holds its points as float
        EXPECT_EQ(measured->unit, row.unit);
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
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "p95"})", "p95"},
        {R"({"id": "g", "where": {"point": [0, 0, 0]}, "quantity": "temperature"})", "point"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "unit": "W"})", "W"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "area"})", "area"},
        {R"({"id": "g", "where": {"boundary": "hot end"}, "quantity": "volume"})", "volume"},
        {R"({"id": "g", "where": {"part": "plate"}, "quantity": "heat_flux"})", "heat_flux"},
        {R"({"id": "g", "formula": "a + b"})", "formula"},
        {R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "weight": "mass_flow"})", "weight"},
    };
    for (const auto& row : rows) {
        SCOPED_TRACE(row.gauge);
        const auto measured = read(row.gauge);
        ASSERT_FALSE(measured);
        EXPECT_NE(measured.error().what.find(row.reason), std::string::npos) << measured.error().what;
    }
}

TEST_F(GaugeTest, ExtremesKnowTheirPlace) {
    const auto hottest = read(R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "max"})");
    ASSERT_TRUE(hottest && hottest->place);
    EXPECT_NEAR(hottest->place->at[0], 0.2, 1e-7);
    EXPECT_EQ(hottest->place->on, Location::Node);
    EXPECT_FALSE(read(R"({"id": "g", "where": {"part": "bar"}, "quantity": "temperature"})")->place);
}
