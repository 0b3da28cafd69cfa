// Every check with one case that trips it and one that does not. Two bars end to end along x, from a warm side to a
// cold one.
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// What differs from a sound case.
struct Story {
    Field temperature = [](const Point& at) { return 350 - 250 * at[0]; }; // K, over both bars
    double gap = 0;                                                        // m between the bars
    Field second = {};                                                     // the second bar's own temperature
    std::string unit = "K";
    std::string survey = "{}";
    bool coldBoundary = true;
    double source = 0; // W/m3 in the first
    double conductivity2 = 50;
    std::shared_ptr<const SolverHistory> history = settledHistory();
    std::array<int, 3> cells{10, 4, 4};
    std::function<Point(const Point&)> map = {};
    std::string coldName = "cold";

    // Goes to 5 with a time constant of 4 of 100 iterations.
    static std::shared_ptr<const SolverHistory> settledHistory() {
        std::string text = "iteration,heat\n";
        for (int i = 0; i < 100; ++i)
            text += std::to_string(i) + "," + std::to_string(5 - 4 * std::exp(-i / 4.0)) + "\n";
        return std::make_shared<const SolverHistory>(*solverHistoryFrom(text, "case-history.csv"));
    }
};

class Trust : public testing::Test {
protected:
    std::vector<Check> check(const Story& story) {
        const BoxMesh first{{0.1, 0.05, 0.05}, story.cells, {0, 0, 0}, 0, story.map};
        const BoxMesh second{{0.1, 0.05, 0.05}, story.cells, {0.1 + story.gap, 0, 0}, 0, story.map};
        auto left = boxPart("left", first);
        auto right = boxPart("right", second);
        const auto name = "T [" + story.unit + "]";
        addNodeField(left, name, story.temperature);
        addNodeField(right, name, story.second ? story.second : story.temperature);
        addCellField(left, "conductivity", [](const Point&) { return 50.0; });
        addCellField(right, "conductivity", [&](const Point&) { return story.conductivity2; });
        addCellField(left, "heat_source", [&](const Point&) { return story.source; });
        addCellField(right, "heat_source", [](const Point&) { return 0.0; });
        std::vector<BlockData> blocks{left, right, boxSide("warm", first, 0, false)};
        if (story.coldBoundary)
            blocks.push_back(boxSide(story.coldName, second, 0, true));
        const auto file = folder / ("case" + std::to_string(++number) + ".vtm");
        EXPECT_TRUE(writeCase(blocks, file));
        StepContext context;
        context.balances = true;
        context.solver = story.history;
        return readOn(mustOpen(file), Json::parse(story.survey), context).checks;
    }
    static const Check& named(const std::vector<Check>& checks, const std::string& key) {
        const auto found = std::ranges::find(checks, key, &Check::key);
        if (found == checks.end()) {
            ADD_FAILURE() << "no check " << key;
            return checks.front();
        }
        return *found;
    }
    CheckState state(const Story& story, const std::string& key) { return named(check(story), key).state; }
    TempFolder folder;
    int number = 0;
};

const std::string sound = R"j({"case": {"parts": {"left": {}}}, "limits": [{"part": "left", "max": "400 K"}]})j";

} // namespace

TEST_F(Trust, ASoundCaseHoldsThroughout) {
    Story story;
    story.survey = sound;
    for (const auto& one : check(story))
        EXPECT_EQ(one.state, one.key == "mesh-convergence" ? CheckState::NotCheckable : CheckState::Passed)
            << one.key << ": " << one.figure << "; " << one.meaning;
}

TEST_F(Trust, NaNIsFoundWithItsPlace) {
    Story story;
    story.temperature = [](const Point& at) {
        return at[0] > 0.045 && at[0] < 0.055 ? std::nan("") : 350 - 250 * at[0];
    };
    const auto checks = check(story);
    const auto& finite = named(checks, "finite");
    EXPECT_EQ(finite.state, CheckState::Failed);
    EXPECT_EQ(finite.part, "left");
    ASSERT_TRUE(finite.at);
    EXPECT_NEAR((*finite.at)[0], 0.05, 1e-9);
    EXPECT_EQ(checks.front().state, CheckState::Failed) << "the broken ones come first";
}

TEST_F(Trust, AUnitThatDoesNotFit) {
    Story celsius; // 20 to 70, said to be kelvin
    celsius.temperature = [](const Point& at) { return 70 - 250 * at[0]; };
    EXPECT_EQ(state(celsius, "unit"), CheckState::Review);
    Story kelvin; // 300 to 350, said to be degC
    kelvin.unit = "degC";
    EXPECT_EQ(state(kelvin, "unit"), CheckState::Review);
    kelvin.temperature = [](const Point& at) { return 70 - 250 * at[0]; };
    EXPECT_EQ(state(kelvin, "unit"), CheckState::Passed);
}

TEST_F(Trust, AnExtremeInsideNeedsASource) {
    Story story;
    story.temperature = [](const Point& at) {
        const bool middle = std::abs(at[0] - 0.05) < 1e-6 && std::abs(at[1] - 0.025) < 1e-6 &&
                            std::abs(at[2] - 0.025) < 1e-6;
        return 350 - 250 * at[0] + (middle ? 40 : 0);
    };
    const auto checks = check(story);
    EXPECT_EQ(named(checks, "interior-maximum").state, CheckState::Failed);
    EXPECT_EQ(named(checks, "interior-minimum").state, CheckState::Passed);
    story.source = 1e6;
    EXPECT_EQ(state(story, "interior-maximum"), CheckState::Passed);
}

// 1e6 W/m3 in 2.5e-4 m3 are 250 W.
TEST_F(Trust, PowersAgainstSourcesAndWhatLeaves) {
    Story story;
    story.source = 1e6;
    story.survey = R"j({"case": {"parts": {"left": {"power": "250 W"}}}})j";
    auto checks = check(story);
    EXPECT_EQ(named(checks, "power-source").state, CheckState::Passed) << named(checks, "power-source").figure;
    EXPECT_EQ(named(checks, "power-leaving").state, CheckState::Failed) << "the straight field lets as much in as out";
    story.survey = R"j({"case": {"parts": {"left": {"power": "200 W"}}}})j";
    EXPECT_EQ(state(story, "power-source"), CheckState::Failed);
}

TEST_F(Trust, HeatThatDoesNotBalance) {
    Story story;
    story.temperature = [](const Point& at) { return 350 - 250 * at[0] - 900 * at[0] * at[0]; };
    const auto checks = check(story);
    EXPECT_EQ(named(checks, "part-balance").state, CheckState::Failed) << "the bent field would need a source";
    EXPECT_EQ(named(checks, "whole-balance").state, CheckState::Failed) << named(checks, "whole-balance").figure;
    Story side; // a gradient across the sides, where no boundary lies
    side.temperature = [](const Point& at) { return 350 - 250 * at[0] - 400 * at[1]; };
    EXPECT_EQ(state(side, "leaks"), CheckState::Failed);
    EXPECT_EQ(state(Story{}, "leaks"), CheckState::Passed);
}

TEST_F(Trust, AGapIsFoundWithItsWidth) {
    Story story;
    story.gap = 0.0004;
    const auto checks = check(story);
    const auto& gap = named(checks, "gaps");
    EXPECT_EQ(gap.state, CheckState::Failed) << gap.figure;
    EXPECT_NE(gap.figure.find("0.4 mm between left and right, over 25 cm2"), std::string::npos) << gap.figure;
    ASSERT_TRUE(gap.at);
    EXPECT_NEAR((*gap.at)[0], 0.1, 0.001);
    story.gap = 0.05;
    EXPECT_EQ(state(story, "gaps"), CheckState::Passed) << "far apart is apart";
}

TEST_F(Trust, AStepWhereTheyTouchIsAContactResistance) {
    Story story;
    story.second = [](const Point& at) { return 340 - 250 * at[0]; };
    const auto checks = check(story);
    const auto& jump = named(checks, "jumps");
    EXPECT_EQ(jump.state, CheckState::Review);
    EXPECT_NE(jump.figure.find("10 K between left and right"), std::string::npos) << jump.figure;
    // 10 K over 250 K/m x 50 W/(m.K)
    EXPECT_NE(jump.figure.find("resistance of 0.0008 m2.K/W"), std::string::npos) << jump.figure;
    story.temperature = [](const Point&) { return 350.0; };
    story.second = [](const Point&) { return 320.0; };
    EXPECT_EQ(state(story, "jumps"), CheckState::Failed) << "no heat passes";
}

TEST_F(Trust, APartThatIsAlone) {
    Story story;
    story.gap = 0.05;
    story.coldBoundary = false;
    const auto checks = check(story);
    EXPECT_EQ(named(checks, "alone").state, CheckState::Failed);
    EXPECT_EQ(named(checks, "alone").part, "right");
}

TEST_F(Trust, CellsThatSpanTooMuch) {
    Story story;
    story.temperature = [](const Point& at) { return at[0] < 0.055 ? 350.0 : 300.0; };
    EXPECT_EQ(state(story, "resolution"), CheckState::Failed);
    story.temperature = [](const Point&) { return 300.0; };
    EXPECT_EQ(state(story, "resolution"), CheckState::NotCheckable) << "the same everywhere";
}

TEST_F(Trust, LimitsThatCannotBeJudged) {
    Story story;
    EXPECT_EQ(state(story, "limits"), CheckState::Review) << "there are none";
    story.survey = R"j({"limits": [{"part": "middle", "max": "400 K"}]})j";
    const auto checks = check(story);
    EXPECT_EQ(named(checks, "limits").state, CheckState::Review);
    EXPECT_NE(named(checks, "limits").meaning.find("middle"), std::string::npos);
}

TEST_F(Trust, AFieldBeyondWhatSurroundsIt) {
    Story story;
    story.survey =
        R"j({"case": {"boundaries": {"warm": {"temperature": "351 K", "film_coefficient": 100},
          "cold": {"temperature": "299 K", "film_coefficient": 100}}}})j";
    EXPECT_EQ(state(story, "span"), CheckState::Passed);
    story.survey =
        R"j({"case": {"boundaries": {"warm": {"temperature": "340 K", "film_coefficient": 100},
          "cold": {"temperature": "299 K", "film_coefficient": 100}}}})j";
    const auto checks = check(story);
    EXPECT_EQ(named(checks, "span").state, CheckState::Failed) << named(checks, "span").figure;
    EXPECT_NE(named(checks, "span").figure.find("10 K hotter"), std::string::npos) << named(checks, "span").figure;
    story.source = 1e6;
    EXPECT_EQ(state(story, "span"), CheckState::Passed) << "a source may make it hotter";
}

TEST_F(Trust, AHistoryThatStillMoves) {
    Story story;
    EXPECT_EQ(state(story, "settled"), CheckState::Passed);
    std::string text = "iteration,heat,amp max K\n";
    for (int i = 0; i < 100; ++i)
        text += std::to_string(i) + ",5," + std::to_string(300 + 0.3 * i) + "\n";
    story.history = std::make_shared<const SolverHistory>(*solverHistoryFrom(text, "case-history.csv"));
    const auto checks = check(story);
    EXPECT_EQ(named(checks, "settled").state, CheckState::Review);
    EXPECT_NE(named(checks, "settled").figure.find("amp max K: drifting"), std::string::npos)
        << named(checks, "settled").figure;
    story.history = nullptr;
    EXPECT_EQ(state(story, "settled"), CheckState::NotCheckable);
}

TEST_F(Trust, DistortedCellsAreMarked) {
    Story story;
    EXPECT_EQ(state(story, "cell-shape"), CheckState::Passed);
    story.map = [](const Point& at) { return Point{at[0] + 8 * at[1], at[1], at[2]}; }; // sheared to about 7 degrees
    const auto checks = check(story);
    const auto& shape = named(checks, "cell-shape");
    EXPECT_EQ(shape.state, CheckState::Review) << shape.figure;
    ASSERT_TRUE(shape.cells);
    EXPECT_EQ(shape.cells->size(), 2U * 10 * 4 * 4);
}

TEST_F(Trust, ThinRegionsWithADrop) {
    Story story;
    EXPECT_EQ(state(story, "thin-regions"), CheckState::Passed);
    story.cells = {2, 4, 4}; // 25 K across each bar in two cells
    const auto checks = check(story);
    const auto& thin = named(checks, "thin-regions");
    EXPECT_EQ(thin.state, CheckState::Review) << thin.figure;
    ASSERT_TRUE(thin.cells);
    EXPECT_EQ(thin.cells->size(), 2U * 2 * 4 * 4);
    story.cells = {3, 4, 4};
    EXPECT_EQ(state(story, "thin-regions"), CheckState::Passed);
}

TEST_F(Trust, NamesThatAProgramMadeUp) {
    Story story;
    EXPECT_EQ(state(story, "names"), CheckState::Passed);
    story.coldName = "boundary 2";
    EXPECT_EQ(state(story, "names"), CheckState::Review);
}

TEST_F(Trust, PartsThatReadAlike) {
    Story story;
    EXPECT_EQ(state(story, "shared-names"), CheckState::Passed);
    story.survey = R"j({"case": {"parts": {"left": {"label": "Bar 1"}, "right": {"label": "bar_1"}}}})j";
    const auto checks = check(story);
    const auto& found = named(checks, "shared-names");
    EXPECT_EQ(found.state, CheckState::Review);
    EXPECT_EQ(found.part, "right");
}

TEST_F(Trust, LimitsOfNothing) {
    Story story;
    EXPECT_EQ(state(story, "limit-targets"), CheckState::Passed);
    story.survey = R"j({"limits": [{"part": "middle", "max": "400 K"}]})j";
    EXPECT_EQ(state(story, "limit-targets"), CheckState::Review);
}

// A case of one cell answers every check with a sentence, and none of them fails.
TEST_F(Trust, ACaseOfOneCell) {
    const BoxMesh box{{0.1, 0.1, 0.1}, {1, 1, 1}};
    auto part = boxPart("block", box);
    addNodeField(part, "T [K]", [](const Point&) { return 300.0; });
    const auto file = folder / "one.vtm";
    ASSERT_TRUE(writeCase(std::vector{part}, file));
    StepContext context;
    context.balances = true;
    const auto checks = readOn(mustOpen(file), Json::object(), context).checks;
    EXPECT_GT(checks.size(), 10U);
    for (const auto& one : checks) {
        EXPECT_FALSE(one.meaning.empty()) << one.key;
        EXPECT_NE(one.state, CheckState::Failed) << one.key << ": " << one.figure;
    }
}

// A uniform source in a bar that is insulated but for its cold end: T = 350 - S x^2 / (2 k), and all of S V leaves.
TEST_F(Trust, StatedPowerThatLeavesHolds) {
    const BoxMesh box{{0.1, 0.05, 0.05}, {10, 4, 4}};
    const auto checksWith = [&](const std::string& power) {
        auto part = boxPart("bar", box);
        addNodeField(part, "T [K]", [](const Point& at) { return 350 - 1e6 * at[0] * at[0] / (2 * 50); });
        addCellField(part, "conductivity", [](const Point&) { return 50.0; });
        addCellField(part, "heat_source", [](const Point&) { return 1e6; });
        const auto file = folder / ("power" + power + ".vtm");
        EXPECT_TRUE(writeCase({part, boxSide("cold", box, 0, true)}, file));
        StepContext context;
        context.balances = true;
        return readOn(mustOpen(file),
                      Json::parse(R"j({"case": {"parts": {"bar": {"power": ")j" + power + R"j( W"}}}})j"), context)
            .checks;
    };
    const auto right = checksWith("250"); // 1e6 x 2.5e-4
    for (const char* key : {"power-source", "power-leaving", "part-balance", "whole-balance"})
        EXPECT_EQ(named(right, key).state, CheckState::Passed) << key << ": " << named(right, key).figure;
    const auto perArea = checksWith("100000"); // 250 W over the 25 cm2 through which they leave
    EXPECT_EQ(named(perArea, "power-leaving").state, CheckState::Failed);
    EXPECT_NE(named(perArea, "power-leaving").meaning.find("a power per area was taken for a power"), std::string::npos)
        << named(perArea, "power-leaving").meaning;
}

// Water that flows through a duct; where it grows on its way, mass comes from nowhere.
TEST_F(Trust, MassThatDoesNotBalance) {
    const BoxMesh box{{0.1, 0.05, 0.05}, {10, 4, 4}};
    const auto checksWith = [&](double growth) {
        auto part = boxPart("water", box);
        addNodeField(part, "T [K]", [](const Point& at) { return 300 + at[0]; });
        addNodeVector(part, "velocity", [&](const Point& at) { return Point{0.1 * (1 + growth * at[0]), 0, 0}; });
        const auto file = folder / ("duct" + std::to_string(growth) + ".vtm");
        EXPECT_TRUE(writeCase({part, boxSide("inlet", box, 0, false), boxSide("outlet", box, 0, true)}, file));
        StepContext context;
        context.balances = true;
        return readOn(mustOpen(file),
                      Json::parse(
                          R"j({"materials": {"water": {"density": "1000 kg/m3", "heat_capacity": "4186 J/(kg.K)",
                         "conductivity": "0.6 W/(m.K)"}}, "case": {"parts": {"water": {"material": "water",
                         "kind": "fluid"}}}})j"),
                      context)
            .checks;
    };
    const auto steady = checksWith(0);
    EXPECT_EQ(named(steady, "mass-balance").state, CheckState::Passed) << named(steady, "mass-balance").figure;
    for (const char* opening : {"inlet -0.25", "outlet +0.25"}) // kg/s: 1000 x 0.1 x 0.0025
        EXPECT_NE(named(steady, "mass-balance").figure.find(opening), std::string::npos)
            << named(steady, "mass-balance").figure;
    EXPECT_EQ(named(checksWith(2), "mass-balance").state, CheckState::Failed);
}

// Water that warms up on its way, heated from below, but of an unknown density: what it carries is not known, and so is
// not the whole.
TEST_F(Trust, WhatIsNotKnownOfAPartIsNotKnownOfTheWhole) {
    const BoxMesh box{{0.1, 0.05, 0.05}, {10, 4, 4}};
    const auto wholeWith = [&](const std::string& water) {
        auto part = boxPart("water", box);
        addNodeField(part, "T [K]", [](const Point& at) { return 300 + 100 * at[0]; });
        addNodeVector(part, "velocity", [](const Point&) { return Point{0.01, 0, 0}; });
        // what the flow carries away
        addCellField(part, "heat_source", [](const Point&) { return 1000.0 * 4000 * 0.01 * 100; });
        const auto file = folder / "warm.vtm";
        EXPECT_TRUE(writeCase({part, boxSide("inlet", box, 0, false), boxSide("outlet", box, 0, true)}, file));
        StepContext context;
        context.balances = true;
        return named(
            readOn(mustOpen(file),
                   Json::parse(R"j({"materials": {"water": )j" + water +
                               R"j(}, "case": {"parts": {"water": {"material": "water", "kind": "fluid"}}}})j"),
                   context)
                .checks,
            "whole-balance");
    };
    const auto known = wholeWith(
        R"j({"density": "1000 kg/m3", "heat_capacity": "4000 J/(kg.K)", "conductivity": "0.6 W/(m.K)"})j");
    EXPECT_EQ(known.state, CheckState::Passed) << known.figure;
    EXPECT_NE(known.figure.find(" W in, "), std::string::npos) << known.figure;
    const auto unknown = wholeWith(R"j({"conductivity": "0.6 W/(m.K)"})j");
    EXPECT_EQ(unknown.state, CheckState::NotCheckable) << unknown.figure;
    EXPECT_NE(unknown.meaning.find("water"), std::string::npos) << unknown.meaning;
    EXPECT_NE(unknown.meaning.find("density"), std::string::npos) << unknown.meaning;
}

// As solvers of conjugate heat transfer store it: a velocity everywhere, zero in the solid. Noted as a solid it stays
// one whatever is stored.
TEST_F(Trust, AVelocityOfZeroMakesNoFluid) {
    const BoxMesh box{{0.1, 0.05, 0.05}, {10, 4, 4}};
    const auto coefficient = [&](double speed, const char* note) {
        auto part = boxPart("block", box);
        addNodeField(part, "T [K]", [](const Point& at) { return 400 - 500 * at[0]; });
        addNodeVector(part, "velocity", [speed](const Point&) { return Point{speed, 0, 0}; });
        const auto file = folder / ("block" + std::to_string(speed) + ".vtm");
        EXPECT_TRUE(writeCase({part, boxSide("skin", box, 0, true)}, file));
        const auto readings = readOn(mustOpen(file),
                                     Json::parse(std::string(
                                                     R"j({"materials": {"metal": {"conductivity": "15 W/(m.K)"}},
                      "case": {"parts": {"block": {"material": "metal")j") +
                                                 note + R"j(}}},
            "gauges": [{"id": "h", "where": {"boundary": "skin"}, "quantity": "film_coefficient", "reference": "300 K",
              "method": "gradient"}]})j"));
        return readings.gauges.at(0).value.value_or(std::nan(""));
    };
    const double exact = 15 * 500 / (350.0 - 300);
    EXPECT_NEAR(coefficient(0, ""), exact, 1e-6 * exact);
    EXPECT_NEAR(coefficient(0.2, R"(, "kind": "solid")"), exact, 1e-6 * exact);
    EXPECT_NEAR(coefficient(0.2, R"(, "kind": "fluid")"), -exact, 1e-6 * exact)
        << "heat goes from the fluid into the wall";
}

TEST_F(Trust, CoverageOfMaterialsAndBoundaries) {
    EXPECT_EQ(state(Story{}, "conductivities"), CheckState::Passed);
    EXPECT_EQ(state(Story{}, "boundaries"), CheckState::Passed);
    auto part = boxPart("block", {{0.1, 0.1, 0.1}, {2, 2, 2}});
    addNodeField(part, "T [K]", [](const Point& at) { return 300 + at[0]; });
    ASSERT_TRUE(writeCase({part}, folder / "bare.vtm"));
    StepContext context;
    context.balances = true;
    const auto checks = readOn(mustOpen(folder / "bare.vtm"), Json::object(), context).checks;
    EXPECT_EQ(named(checks, "conductivities").state, CheckState::Review);
    EXPECT_EQ(named(checks, "boundaries").state, CheckState::Review);
}
