// Another ambient and another power against solving anew with the rig: the two must tell the same of every limit.
#include "core/estimate/estimate.h"
#include "core/evaluate/survey_run.h"
#include "core/survey/survey_file.h"
#include "rig/run.h"
#include "tests/support/temp_folder.h"

#include <fmt/format.h>
#include <fstream>
#include <gtest/gtest.h>

using namespace pyro;

namespace {

struct State {
    double air = 291.15;
    double plate = 291.15;
    double chip = 12; // W
    double coil = 4;  // W
};

// A chip and a coil on a plate: the top in air, the bottom on a cold (or warm) plate.
std::string model(const State& at) {
    return fmt::format(
        R"j({{"rig": 1, "grid": {{"x": {{"spacing": 0.004}}, "y": {{"spacing": 0.004}}, "z": {{"spacing": 0.002}}}},
        "materials": {{"aluminium": {{"conductivity": 160}}, "board": {{"conductivity": 0.8}},
          "silicon": {{"conductivity": 120}}}},
        "boxes": [{{"part": "board", "material": "board", "from": [0, 0, 0], "to": [0.04, 0.032, 0.004]}},
                  {{"part": "chip", "material": "silicon", "from": [0.004, 0.004, 0.004], "to": [0.016, 0.016, 0.008],
                    "power": "{2} W"}},
                  {{"part": "coil", "material": "aluminium", "from": [0.024, 0.012, 0.004], "to": [0.036, 0.028,
                    0.012], "power": "{3} W"}}],
        "environments": [{{"boundary": "plate", "temperature": {1}, "film_coefficient": 300, "faces": [{{"side": "-z",
          "to": [1, 1, 0]}}]}},
                         {{"boundary": "air", "temperature": {0}, "film_coefficient": 12,
                           "faces": [{{"side": "any"}}]}}]}})j",
        at.air, at.plate, at.chip, at.coil);
}

const Json limits = Json::parse(R"j([
    {"part": "chip", "max": "75 degC"}, {"part": "coil", "max": "60 degC", "margin": "5 K"}, {"part": "board",
      "min": "10 degC"},
    {"part": "chip", "rise": {}, "max": "45 K"}, {"part": "board", "gradient": {}, "max": "20 K/mm"},
    {"part": "board", "share_above": {"level": "45 degC"}, "max": "20 %"}, {"gauge": "into air", "max": "4 W"},
      {"gauge": "mean_board", "max": "50 degC"},
    {"gauge": "spread", "max": "40 K"}])j");
const Json gauges = Json::parse(R"j([
    {"id": "into air", "where": {"boundary": "air"}, "quantity": "heat_flux", "statistic": "integral"},
    {"id": "mean_board", "where": {"part": "board"}, "quantity": "temperature", "statistic": "mean"},
    {"id": "top", "where": {"part": "chip"}, "quantity": "temperature", "statistic": "max"},
    {"id": "spread", "formula": "top - mean_board", "unit": "K"}])j");

class EstimateTest : public testing::Test {
protected:
    void solve(const std::string& name, const State& at) {
        std::ofstream(folder / (name + ".rig.json")) << model(at);
        NoProgress progress;
        const auto done = rig::run({folder / (name + ".rig.json"), folder / (name + ".vtm"), {}}, progress);
        ASSERT_TRUE(done) << done.error().text();
    }
    // The readings of the first of these cases, with the estimate wished for.
    Readings evaluated(const std::vector<std::string>& cases, Json estimate = {}, const Json& ambient = "18 degC") {
        Json json{{"pyrometer", 1}, {"cases", Json::array()}, {"gauges", gauges}, {"limits", limits}};
        for (const auto& name : cases) {
            json["cases"].push_back({{"name", name}, {"file", name + ".vtm"}});
            if (!ambient.is_null())
                json["cases"].back()["ambient"] = ambient;
        }
        if (!estimate.is_null())
            json["estimate"] = std::move(estimate);
        const auto survey = surveyFromJson(json, "test");
        EXPECT_TRUE(survey) << (survey ? "" : survey.error().text());
        NoProgress progress;
        RunOptions options;
        options.onlyCase = cases.front();
        options.balances = true;
        const auto run = runSurvey(*survey, folder / "test.survey.json", options, progress);
        EXPECT_TRUE(run && run->cases[0].steps.size() == 1) << (run ? run->cases[0].error->text() : run.error().text());
        return run->cases[0].steps[0];
    }
    // Every limit as on the case solved there.
    void expectAsSolved(const Readings& with, const State& there, const std::string& ambient) {
        solve("there", there);
        const auto anew = evaluated({"there"}, {}, ambient);
        ASSERT_TRUE(with.estimate);
        ASSERT_EQ(with.estimate->why, "");
        for (std::size_t i = 0; i < anew.limits.size(); ++i) {
            const auto& told = with.estimate->limits[i].reading;
            SCOPED_TRACE(fmt::format("limit {}, {}", i, limits[i].dump()));
            ASSERT_TRUE(told.value && anew.limits[i].value) << told.why << anew.limits[i].why;
            EXPECT_NEAR(*told.value, *anew.limits[i].value,
                        2e-4 * std::max(1.0, std::abs(*anew.limits[i].value) / 100));
            EXPECT_EQ(told.verdict, anew.limits[i].verdict);
        }
    }
    test::TempFolder folder;
};

} // namespace

TEST_F(EstimateTest, OneEnvironmentTellsAmbientAndPower) {
    solve("now", {});
    const auto with = evaluated({"now"}, {{"ambient", "40 degC"}, {"power", "80 %"}});
    expectAsSolved(with, {313.15, 313.15, 12 * 0.8, 4 * 0.8}, "40 degC");
    EXPECT_EQ(with.estimate->basis, std::vector<std::string>{"now"});
}

// The coolant is not where the air is: one case tells the shift of both alike, and says why it cannot tell the power.
TEST_F(EstimateTest, SeveralEnvironmentsMoveAlikeAndRefuseThePower) {
    solve("now", {291.15, 324.15});
    const auto with = evaluated({"now"}, {{"ambient", "28 degC"}});
    expectAsSolved(with, {301.15, 334.15}, "28 degC");
    EXPECT_FALSE(with.estimate->firstByPower);
    EXPECT_NE(with.estimate->whyNoPower.find("several temperatures (air 18 degC, plate 51 degC)"), std::string::npos)
        << with.estimate->whyNoPower;
    ASSERT_EQ(with.estimate->environments.size(), 2U);
    for (const auto& one : with.estimate->environments)
        EXPECT_EQ(one.isAmbient, one.boundary == "air");
    const auto refused = evaluated({"now"}, {{"power", "80 %"}});
    EXPECT_EQ(refused.estimate->verdict(), Verdict::Unknown);
    EXPECT_EQ(refused.estimate->why, with.estimate->whyNoPower);
    const auto unsaid = evaluated({"now"}, {{"ambient", "28 degC"}}, {});
    EXPECT_NE(unsaid.estimate->why.find("give the case the one that is its ambient"), std::string::npos)
        << unsaid.estimate->why;
}

TEST_F(EstimateTest, TwoCasesThatDifferInPowerSeparateIt) {
    solve("now", {291.15, 324.15});
    solve("idle", {291.15, 324.15, 3, 1});
    const auto with = evaluated({"now", "idle"}, {{"ambient", "25 degC"}, {"power", "130 %"}});
    expectAsSolved(with, {298.15, 331.15, 12 * 1.3, 4 * 1.3}, "25 degC");
    EXPECT_EQ(with.estimate->basis, (std::vector<std::string>{"now", "idle"}));
}

TEST_F(EstimateTest, TwoCasesThatDifferInAnEnvironmentSeparateThePowerToo) {
    solve("now", {291.15, 324.15});
    solve("summer", {308.15, 324.15});
    expectAsSolved(evaluated({"now", "summer"}, {{"power", "60 %"}}), {291.15, 324.15, 12 * 0.6, 4 * 0.6}, "18 degC");
}

// At the ambient and at the power that are told for a limit, a case solved anew just meets it.
TEST_F(EstimateTest, WhereALimitIsMetItIsMet) {
    solve("now", {});
    const auto with = evaluated({"now"}, {{"ambient", "30 degC"}});
    for (std::size_t i = 0; i < with.estimate->limits.size(); ++i) {
        const auto& one = with.estimate->limits[i];
        SCOPED_TRACE(fmt::format("limit {}, {}", i, limits[i].dump()));
        if (one.ambient.value) {
            solve("met", {*one.ambient.value, *one.ambient.value});
            EXPECT_NEAR(*evaluated({"met"}, {}, *one.ambient.value).limits[i].margin, 0, 2e-3);
        } else {
            EXPECT_NE(one.ambient.why, "");
        }
        if (one.power.value) {
            solve("met", {303.15, 303.15, 12 * *one.power.value, 4 * *one.power.value});
            EXPECT_NEAR(*evaluated({"met"}, {}, "30 degC").limits[i].margin, 0, 2e-3);
        } else {
            EXPECT_NE(one.power.why, "");
        }
    }
    ASSERT_TRUE(with.estimate->firstByAmbient && with.estimate->firstByPower);
    EXPECT_FALSE(with.estimate->limits[3].ambient.value) << "a rise does not follow the ambient";
    EXPECT_TRUE(with.estimate->limits[5].ambient.value)
        << with.estimate->limits[5].ambient.why << "a share above a level does";
}

TEST_F(EstimateTest, AnotherMeshIsNotAdded) {
    solve("now", {291.15, 324.15});
    auto text = model({291.15, 324.15, 3, 1});
    text.replace(text.find("0.004"), 5, "0.002");
    std::ofstream(folder / "finer.rig.json") << text;
    NoProgress progress;
    ASSERT_TRUE(rig::run({folder / "finer.rig.json", folder / "finer.vtm", {}}, progress));
    const auto with = evaluated({"now", "finer"}, {{"power", "80 %"}});
    EXPECT_NE(with.estimate->why.find("finer cannot be added: it has another mesh"), std::string::npos)
        << with.estimate->why;
}

TEST_F(EstimateTest, WhatIsNotLinearIsRefused) {
    solve("now", {});
    Json json{{"pyrometer", 1},
              {"cases", {{{"name", "now"}, {"file", "now.vtm"}, {"nonlinear", {"radiation"}}}}},
              {"limits", limits},
              {"estimate", {{"ambient", "40 degC"}}}};
    NoProgress progress;
    RunOptions options;
    options.balances = true;
    const auto run = runSurvey(*surveyFromJson(json, "test"), folder / "test.survey.json", options, progress);
    ASSERT_TRUE(run);
    EXPECT_NE(run->cases[0].steps[0].estimate->why.find("radiates"), std::string::npos);
    EXPECT_EQ(run->cases[0].steps[0].estimate->verdict(), Verdict::Unknown);
}
