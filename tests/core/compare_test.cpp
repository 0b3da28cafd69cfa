// Several cases as one subject: against a baseline, and over meshes.
#include "core/report/readings_json.h"
#include "core/report/shown/shown_table.h"
#include "tests/support/meshes.h"
#include "tests/support/survey_on_disk.h"

using namespace pyro;
using namespace pyro::test;

namespace {

// A bar and a block beside it, each of one temperature.
void writeTwoParts(const TempFolder& folder, const std::string& name, double bar, double block, bool withBlock = true) {
    std::vector parts{boxPart("bar", {{1, 0.1, 0.1}, {4, 1, 1}})};
    addNodeField(parts[0], "T [K]", [&](const Point&) { return bar; });
    if (withBlock) {
        parts.push_back(boxPart("block", {{0.1, 0.1, 0.1}, {1, 1, 1}, {2, 0, 0}}));
        addNodeField(parts[1], "T [K]", [&](const Point&) { return block; });
    }
    ASSERT_TRUE(writeCase(parts, folder / (name + ".vtm")));
}

Json twoCases() {
    return Json::parse(R"j({"pyrometer": 1, "title": "",
        "cases": [{"name": "old", "file": "old.vtm", "ambient": "300 K"}, {"name": "new", "file": "new.vtm"}],
        "gauges": [{"id": "T_bar", "where": {"part": "bar"}, "quantity": "temperature", "unit": "degC"},
                   {"id": "V", "where": {"part": "block"}, "quantity": "volume"}],
        "limits": [{"part": "bar", "max": "345 K", "margin": "10 K"}, {"part": "block", "max": "400 K"}]})j");
}

const ComparedThing& thingNamed(const std::vector<ComparedThing>& things, const std::string& name) {
    const auto found = std::ranges::find(things, name, &ComparedThing::name);
    EXPECT_NE(found, things.end()) << name;
    return found == things.end() ? things.front() : *found;
}

const Json& entryOf(const Json& list, const char* key, const Json& value) {
    for (const auto& one : list)
        if (one.contains(key) && one[key] == value)
            return one;
    ADD_FAILURE() << key << " " << value;
    return list;
}

} // namespace

TEST(Compare, DifferencesAgainstTheBaseline) {
    const TempFolder folder;
    writeTwoParts(folder, "old", 320, 340);
    writeTwoParts(folder, "new", 350, 330);
    const auto run = runIn(folder, twoCases());
    ASSERT_TRUE(run.compare);
    EXPECT_EQ(run.compare->baseline, "old") << "the first, where nothing is said";
    const auto& gauge = thingNamed(run.compare->gauges, "T_bar");
    EXPECT_NEAR(*gauge.of("new")->value, 350 - 273.15, 1e-9);
    EXPECT_NEAR(*gauge.of("new")->difference, 30, 1e-9);
    EXPECT_NEAR(*gauge.of("new")->relative, 30.0 / 20, 1e-9) << "of the rise above 300 K";
    EXPECT_EQ(*gauge.of("old")->difference, 0);
    const auto& bar = run.compare->limits[0];
    EXPECT_EQ(bar.of("old")->verdict, Verdict::Within);
    EXPECT_EQ(bar.of("new")->verdict, Verdict::Over);
    EXPECT_NEAR(*bar.of("new")->margin, -5, 1e-9);
    EXPECT_NEAR(*thingNamed(run.compare->parts, "block").of("new")->difference, -10, 1e-9);

    const auto rows = comparedRows(mustRead(twoCases()), *run.compare, CompareOrder::Worse);
    EXPECT_EQ(thingOf(*run.compare, rows[0]).name, "bar") << "what got worse first";
    EXPECT_EQ(rows[0].limit, 0U) << "its limit stands in the same row";
    EXPECT_EQ(rows.size(), 4U) << "two parts with their limits and two gauges";
    const auto shown = shownCompare(mustRead(twoCases()), *run.compare, rows, TemperatureUnit::Celsius);
    EXPECT_EQ(shown.rows[0].back(), "over, was within");
    EXPECT_EQ(shown.rows[0][4], "+30.0 K");

    const auto json = runToJson(run)["compare"];
    const auto& written = entryOf(json["parts"], "part", "bar");
    EXPECT_NEAR(entryOf(written["cases"], "case", "new")["difference"].get<double>(), 30, 1e-9);
    EXPECT_EQ(entryOf(entryOf(json["limits"], "target", {{"part", "bar"}})["cases"], "case", "new")["verdict"], "over");
}

TEST(Compare, WithoutAnAmbientATemperatureHasNoPerCent) {
    const TempFolder folder;
    writeTwoParts(folder, "old", 320, 340);
    writeTwoParts(folder, "new", 350, 330);
    auto survey = twoCases();
    survey["cases"][0].erase("ambient");
    survey["gauges"][0]["unit"] = "degF";
    const auto run = runIn(folder, survey);
    const auto& gauge = thingNamed(run.compare->gauges, "T_bar");
    EXPECT_FALSE(gauge.of("new")->relative);
    EXPECT_NEAR(*gauge.of("new")->difference, 30, 1e-9) << "in kelvin, not in degF";
    EXPECT_NEAR(*thingNamed(run.compare->gauges, "V").of("new")->relative, 0, 1e-12);
}

TEST(Compare, WhatIsMissingSaysWhy) {
    const TempFolder folder;
    writeTwoParts(folder, "old", 320, 340);
    writeTwoParts(folder, "new", 350, 0, false);
    auto survey = twoCases();
    survey["cases"].push_back({{"name", "lost"}, {"file", "lost.vtm"}});
    survey["compare"] = {{"baseline", "old"}, {"of", {"new", "lost", "never"}}};
    const auto run = runIn(folder, survey);
    const auto& block = thingNamed(run.compare->parts, "block");
    EXPECT_EQ(block.of("new")->why, "no part of this name");
    EXPECT_FALSE(block.of("lost")->why.empty());
    EXPECT_EQ(run.compare->limits[0].of("lost")->verdict, Verdict::Unknown);
    ASSERT_EQ(run.compare->remarks.size(), 1U);
    EXPECT_NE(run.compare->remarks[0].find("never"), std::string::npos);

    survey["compare"]["baseline"] = "gone";
    const auto without = runIn(folder, survey);
    EXPECT_NE(without.compare->why.find("\"gone\""), std::string::npos);
    EXPECT_EQ(runToJson(without)["compare"]["gauges"].size(), 0U);
}

// Celik et al. 2008, table 1 (docs/bibliography.md): reattachment length, and a value that oscillates. From memory;
// the second confirmed by solving equations 3 to 5 by hand.
TEST(GridConvergence, PublishedExample) {
    const double sizes[]{1, 1.5, 1.5 * 1.333};
    const double values[]{6.063, 5.972, 5.863};
    const auto found = convergenceOf(values, sizes);
    ASSERT_TRUE(found);
    EXPECT_NEAR(*found->order, 1.5372, 1e-4);
    EXPECT_NEAR(*found->extrapolated, 6.1682, 1e-4);
    EXPECT_NEAR(*found->approximateError, 0.01501, 1e-5);
    EXPECT_NEAR(*found->extrapolatedError, 0.01706, 1e-5);
    EXPECT_NEAR(*found->index, 0.02169, 1e-5);
    EXPECT_EQ(found->state, GridState::Monotone);

    const double wide[]{1, 2, 2 * 2.143};
    const double swinging[]{6.0042, 5.9624, 6.0909};
    const auto other = convergenceOf(swinging, wide);
    ASSERT_TRUE(other);
    EXPECT_EQ(other->state, GridState::Oscillating);
    EXPECT_NEAR(*other->order, 1.51, 0.005);
    EXPECT_NEAR(*other->extrapolated, 6.0269, 1e-3);
    EXPECT_NEAR(*other->index, 0.005, 5e-4);
}

// f = 3 + 0.7 h^p has this order and this limit, whatever the refinement.
TEST(GridConvergence, FindsTheOrderOfAPower) {
    for (const double order : {0.5, 1.0, 2.0, 3.7})
        for (const auto& sizes : {std::array{1.0, 2.0, 4.0}, {1.0, 2.0, 2.4}, {0.3, 0.36, 1.1}}) {
            std::vector<double> values;
            for (const double h : sizes)
                values.push_back(3 + 0.7 * std::pow(h, order));
            const auto found = convergenceOf(values, sizes);
            ASSERT_TRUE(found);
            EXPECT_NEAR(*found->order, order, 1e-7) << sizes[2];
            EXPECT_NEAR(*found->extrapolated, 3, 1e-7);
            EXPECT_EQ(found->state, GridState::Monotone);
            EXPECT_NEAR(*found->uncertainty, 1.25 * std::abs(values[0] - 3), 1e-7) << "the factor on what is left";
        }
}

TEST(GridConvergence, SaysWhatCannotBeTold) {
    const double sizes[]{1, 2, 4};
    const double growing[]{3, 5, 6};
    const auto diverging = convergenceOf(growing, sizes);
    EXPECT_EQ(diverging->state, GridState::Diverging);
    EXPECT_FALSE(diverging->order);
    EXPECT_EQ(*diverging->uncertainty, 6);
    const double swinging[]{3, 5, 4};
    EXPECT_EQ(convergenceOf(swinging, sizes)->state, GridState::Diverging);
    const double same[]{3, 3, 3};
    EXPECT_EQ(*convergenceOf(same, sizes)->uncertainty, 0);
    const auto two = convergenceOf(std::span(growing).first(2), std::span(sizes).first(2));
    EXPECT_EQ(two->safety, 3);
    EXPECT_EQ(*two->extrapolated, 1);
    EXPECT_EQ(*two->uncertainty, 6);
    EXPECT_FALSE(two->note.empty());
    const double close[]{1, 1.05, 2};
    EXPECT_NE(convergenceOf(growing, close).error().what.find("1.1"), std::string::npos);
    const double reversed[]{4, 2, 1};
    EXPECT_FALSE(convergenceOf(growing, reversed));
    EXPECT_FALSE(convergenceOf(std::span(growing).first(1), std::span(sizes).first(1)));
}

// T = 340 K + 2 K h^2 on meshes of 16, 8 and 4 cells, h = 1, 2, 4.
class Meshes : public testing::Test {
protected:
    Meshes() {
        for (const int count : {4, 8, 16}) {
            auto part = boxPart("bar", {{1, 1, 1}, {count, count, count}});
            const double h = 16.0 / count;
            addNodeField(part, "T [K]", [&](const Point&) { return 340 + 2 * h * h; });
            EXPECT_TRUE(writeCase(std::vector{part}, folder / ("m" + std::to_string(count) + ".vtm")));
            const auto name = "m" + std::to_string(count);
            const Json entry{{"name", name}, {"file", name + ".vtm"}, {"ambient", "300 K"}};
            survey["cases"].insert(survey["cases"].begin(), entry);
        }
    }
    const TempFolder folder;
    Json survey = Json::parse(R"j({"pyrometer": 1, "cases": [],
        "gauges": [{"id": "T", "where": {"part": "bar"}, "quantity": "temperature", "unit": "degC"}],
        "limits": [{"part": "bar", "max": "344 K"}],
        "grids": {"cases": ["m16", "m8", "m4"], "size": "cells"}})j");
};

TEST_F(Meshes, GaugesAndLimitsCarryTheirUncertainty) {
    const auto run = runIn(folder, survey);
    ASSERT_EQ(run.grids.size(), 1U);
    const auto& gauge = run.grids[0].rows[0];
    EXPECT_NEAR(*gauge.found.order, 2, 1e-6);
    EXPECT_NEAR(*gauge.found.extrapolated, 340 - 273.15, 1e-6);
    EXPECT_NEAR(*gauge.found.uncertainty, 2.5, 1e-6);
    EXPECT_NEAR(*gauge.found.index, 2.5 / 42, 1e-6) << "of the rise above 300 K";
    EXPECT_NEAR(*gauge.found.approximateError, 6.0 / 42, 1e-6);
    const auto& limit = run.cases[0].steps[0].limits[0];
    EXPECT_NEAR(*limit.margin, 2, 1e-6);
    EXPECT_EQ(limit.verdict, Verdict::Tight) << "2 K are left, the mesh may take 2.5 K";
    EXPECT_TRUE(limit.tightByMesh);
    EXPECT_EQ(run.compare->limits[0].baseline().verdict, Verdict::Tight);
    const auto json = runToJson(run);
    EXPECT_EQ(json["cases"][0]["limits"][0]["tight_by"], "mesh");
    EXPECT_EQ(json["grids"][0]["state"], "monotone");
    EXPECT_EQ(json["grids"][0]["uncertainty_unit"], "K");
}

TEST_F(Meshes, StudiesThatCannotBeMadeSayWhy) {
    RunOptions checking;
    checking.balances = true;
    const auto check = [&](std::size_t which) {
        const auto checked = runIn(folder, survey, checking);
        const auto& checks = checked.cases.at(which).steps.at(0).checks;
        const auto found = std::ranges::find(checks, "mesh-convergence", &Check::key);
        EXPECT_NE(found, checks.end());
        return found == checks.end() ? Check{} : *found;
    };
    EXPECT_EQ(check(0).state, CheckState::Review) << "2.5 K of a rise of 42 K are more than 5 %";
    EXPECT_NE(check(0).figure.find("3 meshes: 2 of 2 values converge"), std::string::npos) << check(0).figure;
    EXPECT_NE(check(1).figure.find("coarser mesh"), std::string::npos);
    const auto kept = survey["grids"];
    survey.erase("grids");
    EXPECT_EQ(check(0).state, CheckState::NotCheckable);
    EXPECT_EQ(check(0).figure, "a single mesh");
    survey["grids"] = kept;
    survey["grids"]["cases"] = {"m4", "m8", "m16"};
    EXPECT_NE(runIn(folder, survey).grids[0].rows[0].why.find("not coarser"), std::string::npos);
    survey["grids"]["cases"] = {"m16", "m8", "gone"};
    EXPECT_NE(runIn(folder, survey).grids[0].why.find("\"gone\""), std::string::npos);
    survey["grids"] = {{"cases", {"m16", "m8"}}, {"size", {"1 mm"}}};
    EXPECT_NE(runIn(folder, survey).grids[0].why.find("1 sizes for 2"), std::string::npos);
    survey["grids"]["size"] = {"1 mm", "3 mm"};
    EXPECT_NEAR(*runIn(folder, survey).grids[0].rows[0].found.uncertainty, 3 * 6 / 2.0, 1e-6);
}

TEST(Together, KeysSurviveTheFile) {
    const auto json = Json::parse(R"j({"pyrometer": 1, "cases": [{"name": "a", "file": "a.vtm",
          "parameters": {"flow": "2 L/min", "count": 4}}],
        "compare": {"baseline": "a", "of": ["a"], "kept": 1}, "grids": {"cases": ["a"], "size": ["1 mm"]},
        "sweep": {"table": "s.csv", "like": "a", "parameters": {"h": {"column": "h [W/m2K]", "unit": "W/(m2.K)"}}},
        "measured": [{"id": "tc", "file": "tc.csv", "case": "a", "within": "2 mm"}]})j");
    const auto survey = mustRead(json);
    const auto written = surveyToJson(survey);
    for (const auto* key : {"compare", "grids", "measured"})
        EXPECT_EQ(written[key], key == std::string("measured")
                                    ? Json::parse(R"j([{"id": "tc", "file": "tc.csv", "case": "a",
                                                        "quantity": "temperature", "within": "2 mm"}])j")
                                    : json[key]);
    EXPECT_EQ(written["sweep"]["parameters"], json["sweep"]["parameters"]);
    EXPECT_EQ(written["cases"][0]["parameters"]["flow"], "2 L/min");
    EXPECT_EQ(mustRead(written), survey);
    EXPECT_FALSE(surveyFromJson(Json::parse(R"j({"pyrometer": 1, "grids": {"cases": ["a"], "size": ["0 mm"]}})j"), ""));
}
