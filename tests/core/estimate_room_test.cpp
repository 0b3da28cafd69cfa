// The room of estimates by itself: causes of linear cases, weights by which they add up, and where a margin ends.
#include "core/estimate/causes.h"
#include "core/estimate/combined_case.h"
#include "core/estimate/crossing.h"
#include "core/estimate/superposition.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

HeatCauses causes(double room, double outside, double power) {
    HeatCauses made;
    made.temperatures = {{"room", room}, {"outside", outside}};
    made.produced = {{"chip", power}};
    return made;
}

// What the weights make of the causes.
HeatCauses sumOf(const std::vector<HeatCauses>& solved, const Weights& weights) {
    HeatCauses sum;
    for (std::size_t i = 0; i < weights.ofCases.size(); ++i) { // further cases are not needed
        for (const auto& [name, kelvin] : solved[i].temperatures)
            sum.temperatures[name] += weights.ofCases[i] * kelvin;
        for (const auto& [name, watt] : solved[i].produced)
            sum.produced[name] += weights.ofCases[i] * watt;
    }
    for (auto& [name, kelvin] : sum.temperatures)
        kelvin += weights.shift;
    return sum;
}

} // namespace

TEST(Superposition, OneCaseIsEnoughForAWarmerSurrounding) {
    const auto solved = causes(293.15, 293.15, 10);
    const auto weights = weightsFor({solved}, causes(313.15, 313.15, 10));
    ASSERT_TRUE(weights);
    EXPECT_NEAR(weights->ofCases[0], 1, 1e-9);
    EXPECT_NEAR(weights->shift, 20, 1e-6) << "every environment warmer alike: the whole field is";
}

TEST(Superposition, PowerScalesTheRiseAboveOneSurrounding) {
    const auto solved = causes(300, 300, 10);
    const auto weights = weightsFor({solved}, causes(300, 300, 25));
    ASSERT_TRUE(weights);
    EXPECT_NEAR(weights->ofCases[0], 2.5, 1e-9);
    EXPECT_NEAR(weights->shift, 300 - 2.5 * 300, 1e-6);
    const auto sum = sumOf({solved}, *weights);
    EXPECT_NEAR(sum.temperatures.at("room"), 300, 1e-6);
    EXPECT_NEAR(sum.produced.at("chip"), 25, 1e-9);
}

TEST(Superposition, IndependentCausesNeedACaseEach) {
    const std::vector<HeatCauses> solved{causes(293.15, 263.15, 0), causes(293.15, 293.15, 10)};
    EXPECT_FALSE(weightsFor({solved[0]}, causes(293.15, 263.15, 5))) << "no case tells what the power does";
    for (const auto& wanted : {causes(293.15, 263.15, 5), causes(303.15, 283.15, 12), causes(293.15, 273.15, 0)}) {
        const auto weights = weightsFor(solved, wanted);
        ASSERT_TRUE(weights);
        const auto sum = sumOf(solved, *weights);
        EXPECT_NEAR(sum.temperatures.at("room"), wanted.temperatures.at("room"), 1e-6);
        EXPECT_NEAR(sum.temperatures.at("outside"), wanted.temperatures.at("outside"), 1e-6);
        EXPECT_NEAR(sum.produced.at("chip"), wanted.produced.at("chip"), 1e-9);
    }
}

TEST(Superposition, CausesThatOtherCasesDoNotHaveAreNotMadeUp) {
    auto wanted = causes(293.15, 263.15, 5);
    wanted.produced["heater"] = 100;
    EXPECT_FALSE(weightsFor({causes(293.15, 263.15, 0), causes(293.15, 293.15, 10)}, wanted));
    wanted = causes(293.15, 263.15, 5);
    wanted.temperatures["cellar"] = 283;
    EXPECT_FALSE(weightsFor({causes(293.15, 263.15, 0), causes(293.15, 293.15, 10)}, wanted));
}

TEST(Causes, OneTemperatureIsToldWithinTheAccuracy) {
    EXPECT_TRUE(HeatCauses().haveOneTemperature()) << "none at all";
    EXPECT_TRUE(causes(300, 300.005, 1).haveOneTemperature());
    EXPECT_FALSE(causes(300, 301, 1).haveOneTemperature());
    auto rough = causes(300, 301, 1);
    rough.accuracy = 2;
    EXPECT_TRUE(rough.haveOneTemperature());
}

TEST(Crossing, IsFoundOnStraightAndBentCurves) {
    const auto straight = [](double at) { return std::optional(12 - 3 * at); };
    EXPECT_NEAR(*crossing(straight, {.start = 0, .step = 1, .least = -100, .most = 100}), 4, 1e-5);
    const auto bent = [](double at) { return std::optional(std::exp(-at) - 0.1); };
    EXPECT_NEAR(*crossing(bent, {.start = 0, .step = 0.5, .least = 0, .most = 50}), std::log(10.0), 1e-4);
    const auto rising = [](double at) { return std::optional(at * at - 2); };
    EXPECT_NEAR(*crossing(rising, {.start = 1, .step = 0.5, .least = 0, .most = 10, .falls = false}), std::sqrt(2.0),
                1e-4);
}

TEST(Crossing, IsNotInventedBeyondTheBoundsOrTheKnown) {
    const auto straight = [](double at) { return std::optional(12 - 3 * at); };
    EXPECT_FALSE(crossing(straight, {.start = 0, .step = 1, .least = -3, .most = 3})) << "at 4";
    const auto never = [](double) { return std::optional(5.0); };
    EXPECT_FALSE(crossing(never, {.start = 0, .step = 1, .least = -1000, .most = 1000}));
    const auto unknown = [](double at) { return at > 2 ? std::nullopt : std::optional(12 - 3 * at); };
    EXPECT_FALSE(crossing(unknown, {.start = 0, .step = 1, .least = 0, .most = 100}));
    EXPECT_FALSE(crossing([](double) { return std::optional<double>(); }, {}));
}

TEST(CombinedCase, FieldsAreAddedAndShifted) {
    const TempFolder folder;
    const auto make = [&](const char* name, double base, double slope) {
        auto part = boxPart("bar", {{1, 1, 1}, {2, 2, 2}});
        addNodeField(part, "temperature", [=](const Point& at) { return base + slope * at[0]; });
        addNodeVector(part, "heat_flux [W/m2]", [=](const Point&) { return Point{-slope, 0, 0}; });
        addCellField(part, "remark", [](const Point&) { return 7.0; });
        EXPECT_TRUE(writeCase({part}, folder / name));
        auto opened = mustOpen(folder / name);
        auto quantities = *recognise(*opened.solved, {});
        return SolvedCase{std::move(opened), std::move(quantities)};
    };
    const std::vector<SolvedCase> cases{make("a.vtm", 300, 40), make("b.vtm", 290, -10)};
    ASSERT_TRUE(addable(cases[0], cases[1]));
    // 2 a - b + 15: 2 (300 + 40 x) - (290 - 10 x) + 15 = 325 + 90 x.
    const auto sum = combined(cases, {{2, -1}, 15});
    const auto& part = sum.solved->parts[0];
    const auto* kelvin = part.find("temperature", Location::Node);
    ASSERT_NE(kelvin, nullptr);
    for (std::size_t node = 0; node < part.mesh.nodes(); ++node)
        EXPECT_NEAR(kelvin->values[node], 325 + 90 * part.mesh.node(node)[0], 1e-3);
    EXPECT_EQ(part.find("remark", Location::Cell), nullptr) << "nobody knows what it means";
    auto finer = boxPart("bar", {{1, 1, 1}, {3, 2, 2}});
    addNodeField(finer, "temperature", [](const Point&) { return 300.0; });
    ASSERT_TRUE(writeCase({finer}, folder / "c.vtm"));
    auto opened = mustOpen(folder / "c.vtm");
    auto quantities = *recognise(*opened.solved, {});
    const auto other = addable(cases[0], {std::move(opened), std::move(quantities)});
    ASSERT_FALSE(other);
    EXPECT_EQ(other.error().code, ErrorCode::NotSupported);
}
