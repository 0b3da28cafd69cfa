// Hotspots as a gauge: Gaussian peaks with known values, across parts, with their sizes; and what it says when there
// are none.
#include "core/evaluate/spot_tracks.h"
#include "core/feedback/csv_rows.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>

using namespace pyro;
using namespace pyro::test;

namespace {

double bump(const Point& at, double x, double y, double height, double width) {
    return height * std::exp(-((at[0] - x) * (at[0] - x) + (at[1] - y) * (at[1] - y)) / (2 * width * width));
}

class Hotspots : public testing::Test {
protected:
    void open(const std::vector<BlockData>& blocks) {
        ASSERT_TRUE(writeCase(blocks, folder / "case.vtm"));
        opened = mustOpen(folder / "case.vtm");
    }
    GaugeReading read(const std::string& gauge) { return readGauge(opened, Json::parse(gauge)); }
    TempFolder folder;
    OpenedCase opened;
};

} // namespace

TEST_F(Hotspots, TwoGaussianPeaks) {
    auto plate = boxPart("plate", {{1, 1, 0.05}, {50, 50, 1}});
    addNodeField(plate, "T [degC]",
                 [](const Point& at) { return 20 + bump(at, 0.3, 0.3, 60, 0.05) + bump(at, 0.7, 0.7, 40, 0.05); });
    open({plate});
    const auto reading = read(
        R"j({"id": "hot", "where": "all", "quantity": "temperature", "statistic": "hotspots", "prominence": "5 K",
          "drop": "20 K", "unit": "degC"})j");
    ASSERT_TRUE(reading.value) << reading.why;
    EXPECT_NEAR(*reading.value, 80, 1e-6);
    ASSERT_EQ(reading.derivation->spots.size(), 2U);
    const auto& first = reading.derivation->spots[0];
    const auto& second = reading.derivation->spots[1];
    EXPECT_NEAR(first.prominence, 60, 0.01);
    EXPECT_FALSE(first.saddle);
    EXPECT_NEAR(second.value, 60, 1e-6);
    EXPECT_NEAR(second.prominence, 40, 0.05); // down to 20, where the peaks meet they are nothing
    ASSERT_TRUE(second.saddle);
    EXPECT_NEAR(second.at[0], 0.7, 1e-9);
    EXPECT_NEAR(*second.nearest, std::hypot(0.4, 0.4), 1e-9);
    // Within 20 K of the second: r = width (2 ln(40 / 20))^1/2, a disk times the thickness.
    EXPECT_NEAR(second.size, std::numbers::pi * 0.05 * 0.05 * 2 * std::log(2.0) * 0.05, 0.1 * second.size);
    const auto cold = read(
        R"j({"id": "cold", "where": "all", "quantity": "temperature", "statistic": "hotspots", "prominence": 5,
          "cold": true})j");
    ASSERT_TRUE(cold.value);
    EXPECT_NEAR(*cold.value, 293.15, 0.01);
}

TEST_F(Hotspots, APeakAcrossTwoPartsIsOne) {
    auto left = boxPart("left", {{0.5, 1, 0.1}, {10, 20, 1}});
    auto right = boxPart("right", {{0.5, 1, 0.1}, {10, 20, 1}, {0.5, 0, 0}});
    for (auto* part : {&left, &right})
        addNodeField(*part, "T [K]", [](const Point& at) { return 300 + bump(at, 0.5, 0.5, 50, 0.1); });
    open({left, right});
    const auto together = read(
        R"j({"id": "hot", "where": "all", "quantity": "temperature", "statistic": "hotspots", "prominence": "10 K"})j");
    ASSERT_TRUE(together.value) << together.why;
    EXPECT_EQ(together.derivation->spots.size(), 1U);
    const auto one = read(
        R"j({"id": "hot", "where": {"part": "right"}, "quantity": "temperature", "statistic": "hotspots"})j");
    ASSERT_TRUE(one.value) << one.why;
    EXPECT_EQ(one.derivation->spots.size(), 1U);
    EXPECT_EQ(one.derivation->spots[0].part, 1U);
}

TEST_F(Hotspots, WhereThereAreNoneItSaysSo) {
    auto plate = boxPart("plate", {{1, 1, 0.05}, {5, 5, 1}});
    addNodeField(plate, "T [K]", [](const Point&) { return 300.0; });
    open({plate});
    EXPECT_NE(read(
                  R"j({"id": "hot", "where": "all", "quantity": "temperature", "statistic": "hotspots",
              "prominence": "1 K"})j")
                  .why.find("stands out"),
              std::string::npos);
    EXPECT_NE(
        read(
            R"j({"id": "hot", "where": {"point": [0.5, 0.5, 0]}, "quantity": "temperature", "statistic": "hotspots"})j")
            .why.find("those of parts"),
        std::string::npos);
    EXPECT_NE(read(
                  R"j({"id": "hot", "where": "all", "quantity": "temperature", "statistic": "hotspots",
              "prominence": "-3 K"})j")
                  .why.find("negative"),
              std::string::npos);
}

namespace {

Readings stepWith(int number, const std::vector<Spot>& spots) {
    Readings step{};
    step.step = number;
    step.time = 10.0 * number;
    step.parts.push_back({"board", 1, 8, 1.0, {}, {}, {}, {}, {}, {}});
    step.parts.push_back({"amp", 1, 8, 1.0, {}, {}, {}, {}, {}, {}});
    GaugeReading reading;
    auto derivation = std::make_shared<Derivation>();
    derivation->spots = spots;
    reading.derivation = derivation;
    step.gauges.push_back(reading);
    return step;
}

Spot spotAt(double x, std::size_t part, double value) {
    Spot spot;
    spot.at = {x, 0, 0};
    spot.part = part;
    spot.value = value;
    return spot;
}

} // namespace

// One spot of the board moves by 2 mm a step and lasts; one of the amplifier is there for two steps; a far one is
// another.
TEST(SpotTracks, AreBornMoveAndGo) {
    const std::vector<Readings> steps{stepWith(0, {spotAt(0.010, 0, 300)}),
                                      stepWith(1, {spotAt(0.012, 0, 320), spotAt(0.012, 1, 340)}),
                                      stepWith(2, {spotAt(0.012, 1, 345), spotAt(0.014, 0, 310)}),
                                      stepWith(3, {spotAt(0.016, 0, 305), spotAt(0.090, 0, 300)})};
    const std::vector<double> extent{0.1, 0.02};
    const auto tracks = spotTracks(0, steps, extent);
    ASSERT_EQ(tracks.size(), 3U);
    EXPECT_EQ(tracks[0].steps, (std::vector<int>{0, 1, 2, 3}));
    EXPECT_NEAR(tracks[0].moved, 0.006, 1e-12);
    EXPECT_EQ(tracks[0].hottest, 1U);
    EXPECT_FALSE(tracks[0].gone);
    EXPECT_EQ(tracks[1].partName, "amp");
    EXPECT_EQ(*tracks[1].born, 10);
    EXPECT_EQ(*tracks[1].gone, 30);
    EXPECT_EQ(tracks[1].hottest, 1U);
    EXPECT_EQ(*tracks[2].born, 30) << "74 mm away is no quarter of the board";
    EXPECT_TRUE(spotTracks(4, steps, extent).empty());
}

// Heat is produced in the middle third of a bar: there the source is told, and the flux near by is what leaves it.
TEST_F(Hotspots, TellTheSourceAndTheFluxNearby) {
    auto part = boxPart("bar", {{0.3, 0.02, 0.02}, {30, 2, 2}});
    addNodeField(part, "T [K]", [](const Point& at) { return 350 - 400 * std::abs(at[0] - 0.15); });
    addCellField(part, "heat_source", [](const Point& at) { return std::abs(at[0] - 0.15) < 0.05 ? 2e6 : 0.0; });
    addCellField(part, "conductivity", [](const Point&) { return 50.0; });
    open({part});
    const auto reading = read(
        R"j({"id": "spots", "where": "all", "quantity": "temperature", "statistic": "hotspots", "drop": "10 K"})j");
    ASSERT_TRUE(reading.derivation) << reading.why;
    ASSERT_EQ(reading.derivation->spots.size(), 1U);
    const auto& spot = reading.derivation->spots[0];
    EXPECT_NEAR(*spot.source, 2e6, 1e-6);
    EXPECT_NEAR(*spot.flux, 50 * 400, 1e-6);
}
