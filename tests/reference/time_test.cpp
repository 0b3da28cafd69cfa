// Fields that change with time: a semi-infinite solid after a step of its surface, and a lumped body.
#include "core/evaluate/survey_run.h"
#include "core/feedback/csv_rows.h"
#include "core/survey/survey_file.h"
#include "core/thermal/whole_heat.h"
#include "core/trust/checks.h"
#include "rig/run.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <fmt/format.h>
#include <fstream>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// Evaluates all steps of a series of boxes whose temperature is given over place and time.
CaseRun seriesRun(const BoxMesh& box, const std::vector<double>& times,
                  const std::function<double(const Point&, double)>& celsius, const std::string& survey) {
    TempFolder folder;
    for (std::size_t step = 0; step < times.size(); ++step) {
        auto part = boxPart("body", box);
        part.time = times[step];
        addNodeField(part, "T [degC]", [&](const Point& p) { return celsius(p, times[step]); });
        auto surface = boxSide("surface", box, 0, false);
        surface.time = times[step];
        EXPECT_TRUE(writeCase({part, surface}, folder / fmt::format("body_{:03}.vtm", step)));
    }
    std::ofstream(folder / "s.survey.json") << survey;
    const auto read = loadSurvey(folder / "s.survey.json");
    if (!read) {
        ADD_FAILURE() << read.error().text();
        return {};
    }
    NoProgress progress;
    const auto run = runSurvey(*read, folder / "s.survey.json", {"", -1, {}}, progress);
    if (!run || run->cases[0].error) {
        ADD_FAILURE() << (run ? run->cases[0].error->text() : run.error().text());
        return {};
    }
    return run->cases[0];
}

const GaugeReading& named(const std::vector<GaugeReading>& gauges, const std::string& id) {
    const auto found = std::ranges::find(gauges, id, &GaugeReading::id);
    if (found == gauges.end() || !found->value)
        ADD_FAILURE() << id << (found == gauges.end() ? " is not there" : ": " + found->why);
    return *found;
}

} // namespace

// docs/bibliography.md: alpha 1.17e-5 m2/s, k 43 W/(m.K), from 20 to 220 degC: 89.078 degC at 50 mm after 120 s, 129491
// W/m2 through the surface (handbook formula, erf).
TEST(TimeReference, SemiInfiniteSolid) {
    const auto celsius = [](const Point& p, double t) {
        return t > 0 ? 220 - 200 * std::erf(p[0] / (2 * std::sqrt(1.17e-5 * t))) : 20.0;
    };
    double before = 0;
    for (const int cells : {15, 30, 60}) {
        BoxMesh box{{1, 0.01, 0.01}, {cells, 1, 1}};
        box.map = [](const Point& p) { return Point{0.3 * p[0] * p[0], p[1], p[2]}; };
        const double step = 60.0 / cells; // in time as well, so that the backward difference refines with the mesh
        const auto run = seriesRun(box, {120 - 2 * step, 120 - step, 120}, celsius, R"j({"pyrometer": 1,
            "cases": [{"name": "body", "file": "body_000.vtm", "parts": {"body": {"material": "steel"}}}],
            "materials": {"steel": {"conductivity": "43 W/(m.K)", "density": "7350 kg/m3",
              "heat_capacity": "500.0291 J/(kg.K)"}},
            "gauges": [{"id": "T", "where": {"point": [0.05, 0.005, 0.005]}, "quantity": "temperature", "unit": "degC"},
                       {"id": "q", "where": {"boundary": "surface"}, "quantity": "heat_flux"},
                       {"id": "left", "where": {"part": "body"}, "quantity": "heat_balance"},
                       {"id": "kept", "where": {"part": "body"}, "quantity": "heat_balance",
                         "statistic": "stored"}]})j");
        ASSERT_EQ(run.steps.size(), 3U);
        const auto& last = run.steps.back().gauges;
        EXPECT_EQ(named(last, "q").method, "conservative");
        EXPECT_EQ(run.steps.front().gauges[1].method, "gradient") << "the first step has none before it";
        const double off = std::abs(*named(last, "q").value + 129491) / 129491;
        const double kelvin = std::abs(*named(last, "T").value - 89.078);
        if (before > 0) { // between nodes the field is linear: second order
            EXPECT_GT(std::log2(before / kelvin), 1.2) << cells;
        }
        before = kelvin;
        if (cells < 60)
            continue;
        EXPECT_LT(off, 0.01);
        EXPECT_LT(kelvin, 0.1);
        EXPECT_LT(std::abs(*named(last, "left").value), 0.02 * *named(last, "kept").value);
    }
}

// A bar whose warm end is 20 K above its cold one: what its hottest place reaches, its mean reaches later. Exact:
// linear in space and time.
TEST(TimeReference, TimesFollowTheStatisticInSpace) {
    std::vector<double> times;
    for (int i = 0; i <= 10; ++i)
        times.push_back(10.0 * i);
    const auto celsius = [](const Point& at, double t) { return 20 + t + 200 * at[0]; };
    const auto run = seriesRun({{0.1, 0.01, 0.01}, {4, 1, 1}}, times, celsius,
                               R"j({"pyrometer": 1, "cases": [{"name": "body", "file": "body_000.vtm"}],
        "gauges": [{"id": "max", "where": {"part": "body"}, "quantity": "temperature", "statistic": "time_to_reach",
          "space": "max", "level": "65 degC"},
                   {"id": "mean", "where": {"part": "body"}, "quantity": "temperature", "statistic": "time_to_reach",
                     "level": "65 degC"},
                   {"id": "min", "where": {"part": "body"}, "quantity": "temperature", "statistic": "duration_above",
                     "space": "min", "level": "65 degC"},
                   {"id": "kelvin", "where": {"part": "body"}, "quantity": "temperature", "unit": "s",
                     "statistic": "time_to_reach", "level": 338.15},
                   {"id": "most", "where": {"part": "body"}, "quantity": "temperature", "statistic": "max",
                     "over": "steps", "space": "max", "unit": "degC"},
                   {"id": "line", "where": {"line": {"from": [0, 0.005, 0.005], "to": [0.1, 0.005, 0.005],
                     "points": 21}}, "quantity": "temperature", "statistic": "max", "over": "steps", "unit": "degC"},
                   {"id": "wrong", "where": {"part": "body"}, "quantity": "temperature", "statistic": "time_to_reach",
                     "space": "profile", "level": "65 degC"}]})j");
    EXPECT_NEAR(*named(run.overSteps, "max").value, 25, 1e-4);
    EXPECT_NEAR(*named(run.overSteps, "mean").value, 35, 1e-4);
    EXPECT_NEAR(*named(run.overSteps, "min").value, 100 - 45, 1e-4);
    EXPECT_NEAR(*named(run.overSteps, "kelvin").value, 35, 1e-4) << "a bare level is SI";
    EXPECT_NEAR(*named(run.overSteps, "most").value, 140, 1e-4);
    EXPECT_NEAR(*named(run.overSteps, "line").value, 130, 1e-4) << "the mean along the line, at its latest";
    const auto wrong = std::ranges::find(run.overSteps, "wrong", &GaugeReading::id);
    EXPECT_NE(wrong->why.find("no statistic in space"), std::string::npos) << wrong->why;
}

// docs/bibliography.md: copper sphere, tau 63.689 s; from 180 into 25 degC: 60 degC after 94.77 s, 85.422 degC after 60
// s.
TEST(TimeReference, LumpedBody) {
    std::vector<double> times;
    for (int i = 0; i <= 60; ++i)
        times.push_back(4.0 * i);
    const auto celsius = [](const Point&, double t) { return 25 + 155 * std::exp(-t / 63.689); };
    const auto run = seriesRun({{0.01, 0.01, 0.01}, {1, 1, 1}}, times, celsius,
                               R"j({"pyrometer": 1, "cases": [{"name": "body", "file": "body_000.vtm"}],
        "gauges": [{"id": "T", "where": {"part": "body"}, "quantity": "temperature", "unit": "degC"},
                   {"id": "tau", "where": {"part": "body"}, "quantity": "temperature", "statistic": "time_constant"},
                   {"id": "tau_given", "where": {"part": "body"}, "quantity": "temperature",
                     "statistic": "time_constant", "final": "25 degC"},
                   {"id": "reach", "where": {"part": "body"}, "quantity": "temperature", "statistic": "time_to_reach",
                     "level": "60 degC", "unit": "min"},
                   {"id": "above", "where": {"part": "body"}, "quantity": "temperature", "statistic": "duration_above",
                     "level": "60 degC"},
                   {"id": "never", "where": {"part": "body"}, "quantity": "temperature", "statistic": "time_to_reach",
                     "level": "10 degC"},
                   {"id": "mean", "where": {"part": "body"}, "quantity": "temperature", "over": "steps"},
                   {"id": "span", "where": {"part": "body"}, "quantity": "temperature", "statistic": "range",
                     "over": "steps"}],
        "limits": [{"gauge": "above", "max": "90 s"}, {"gauge": "reach", "max": "2 min"}]})j");
    ASSERT_EQ(run.steps.size(), 61U);
    EXPECT_NEAR(*named(run.steps[15].gauges, "T").value, 85.422, 1e-3);
    EXPECT_NEAR(*named(run.overSteps, "tau").value, 63.689, 0.05);
    EXPECT_NEAR(*named(run.overSteps, "tau_given").value, 63.689, 1e-6);
    EXPECT_NEAR(*named(run.overSteps, "reach").value, 94.77 / 60, 1e-3);
    EXPECT_NEAR(*named(run.overSteps, "above").value, 94.77, 0.05);
    for (const auto& step : run.steps) { // one verdict for all steps, by the time and not by the temperature of each
        EXPECT_EQ(step.limits[0].verdict, Verdict::Over);
        EXPECT_NEAR(*step.limits[0].margin, 90 - 94.77, 0.05);
        EXPECT_EQ(step.limits[1].verdict, Verdict::Within);
    }
    const auto never = std::ranges::find(run.overSteps, "never", &GaugeReading::id);
    EXPECT_FALSE(never->read());
    EXPECT_NE(never->why.find("not reached"), std::string::npos) << never->why;
    // Integral of the exponential over 240 s, by the trapezoidal rule with steps of 4 s.
    EXPECT_NEAR(*named(run.overSteps, "mean").value - 273.15, 25 + 155 * 63.689 / 240 * (1 - std::exp(-240 / 63.689)),
                0.05);
}

// What a coolant takes up in its channel while everything warms is not what the wall gives it: the rig's own books
// against what is evaluated from its files, step by step, with a part of two materials and temperatures on cells.
TEST(TimeReference, HeatLeavingAndStoredAreTheSolversOwnAtEveryStep) {
    TempFolder folder;
    std::ofstream(folder / "in.rig.json")
        << R"j({"rig": 1, "title": "channel", "transient": {"start": "18 degC", "duration": "90 s", "step": "15 s"},
        "grid": {"x": {"spacing": 0.01}, "y": {"spacing": 0.004}, "z": {"spacing": 0.004}},
        "materials": {"metal": {"conductivity": "160 W/(m.K)", "density": "2700 kg/m3",
          "heat_capacity": "900 J/(kg.K)"},
                      "ceramic": {"conductivity": "24 W/(m.K)", "density": "3700 kg/m3",
                        "heat_capacity": "830 J/(kg.K)"},
                      "water": {"conductivity": "0.6 W/(m.K)", "density": "1000 kg/m3",
                        "heat_capacity": "4180 J/(kg.K)"}},
        "boxes": [{"part": "plate", "material": "metal", "from": [0, 0, 0], "to": [0.1, 0.04, 0.02]},
                  {"part": "plate", "material": "ceramic", "from": [0, 0, 0.02], "to": [0.1, 0.04, 0.028],
                    "power": "20 W"},
                  {"part": "water", "material": "water", "from": [0, 0.012, 0.008], "to": [0.1, 0.028, 0.016]}],
        "channels": [{"part": "water", "flow": "0.1 L/min", "film_coefficient": "300 W/(m2.K)", "wall": "wall",
                      "inlet": {"boundary": "inlet", "temperature": "51 degC", "faces": [{"side": "-x"}]},
                        "outlet": {"boundary": "outlet", "faces": [{"side": "+x"}]}}],
        "environments": [{"boundary": "air", "temperature": "18 degC", "film_coefficient": "8 W/(m2.K)",
          "faces": [{"side": "any"}]}]})j";
    NoProgress progress;
    ASSERT_TRUE(rig::run({folder / "in.rig.json", folder / "out.vtm", folder / "history.csv"}, progress));
    const auto own = parseCsv(readText(folder / "history.csv"));
    std::ofstream(folder / "s.survey.json")
        << R"j({"pyrometer": 1, "cases": [{"name": "c", "file": "out_0000.vtm"}]})j";
    const auto survey = loadSurvey(folder / "s.survey.json");
    ASSERT_TRUE(own && survey);
    const auto run = runSurvey(*survey, folder / "s.survey.json", {"", -1, {}, true}, progress);
    ASSERT_TRUE(run && !run->cases[0].error);
    const auto& steps = run->cases[0].steps;
    ASSERT_EQ(steps.size() + 1, own->size());
    for (std::size_t step = 0; step < steps.size(); ++step) {
        const auto& balance = steps[step].balance;
        ASSERT_TRUE(balance) << step;
        const double leaving = std::stod((*own)[step + 1][2]);
        EXPECT_NEAR(balance->produced, 20, 1e-9);
        EXPECT_NEAR(balance->leaving, leaving, 1e-6 * std::abs(leaving)) << step;
        const auto whole = wholeHeat(steps[step]);
        if (step == 0) {
            EXPECT_FALSE(balance->stored) << "there is no step before";
            EXPECT_FALSE(whole);
            EXPECT_NE(balanceText(*balance).find("stored not known"), std::string::npos);
            continue;
        }
        ASSERT_TRUE(balance->stored) << balance->whyNotStored;
        const double stored = std::stod((*own)[step + 1][3]);
        EXPECT_NEAR(*balance->stored, stored, 1e-6 * std::abs(stored)) << step;
        EXPECT_LT(whole->open(), 1e-6) << whole->text();
        for (const auto& part : steps[step].balances->parts)
            EXPECT_LT(part.share().value_or(1), 1e-6) << step << " " << part.part << " " << part.why;
        const auto check = std::ranges::find(steps[step].checks, "whole-balance", &Check::key);
        ASSERT_NE(check, steps[step].checks.end());
        EXPECT_EQ(check->state, CheckState::Passed) << check->figure;
    }
}
