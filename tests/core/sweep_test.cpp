// A sweep: its table, the best case, sensitivities, where a limit is met, and what is kept.
#include "core/compare/sweep.h"
#include "core/limits/limit_form.h"
#include "core/report/readings_json.h"
#include "core/report/shown/shown_table.h"
#include "tests/support/meshes.h"
#include "tests/support/survey_on_disk.h"

#include <fmt/format.h>

using namespace pyro;
using namespace pyro::test;

namespace {

constexpr double finLength = 0.05, finWidth = 0.1, finConductivity = 200, finHeat = 20, airKelvin = 293.15;

// Rise of the base of a straight fin with an adiabatic tip (handbook: theta_b = Q / (sqrt(h P k A) tanh(m L))).
double finRise(double h, double t) {
    const double perimeter = 2 * (finWidth + t);
    const double area = finWidth * t;
    const double m = std::sqrt(h * perimeter / (finConductivity * area));
    return finHeat / (std::sqrt(h * perimeter * finConductivity * area) * std::tanh(m * finLength));
}

void writeFin(const std::filesystem::path& file, double h, double t) {
    auto part = boxPart("fin", {{finLength, finWidth, t}, {8, 1, 1}});
    const double m = std::sqrt(h * 2 * (finWidth + t) / (finConductivity * finWidth * t));
    addNodeField(part, "T [K]", [&](const Point& at) {
        return airKelvin + finRise(h, t) * std::cosh(m * (finLength - at[0])) / std::cosh(m * finLength);
    });
    ASSERT_TRUE(writeBlock(part, file));
}

constexpr std::array finFilms{10.0, 20.0, 30.0, 45.0};   // W/(m2.K)
constexpr std::array finThicknesses{1.0, 1.5, 2.0, 3.0}; // mm

class FinSweep : public testing::Test {
protected:
    FinSweep() {
        std::filesystem::create_directories(folder / "cases");
        table = "file,h [W/(m2.K)],Thickness [mm]\n";
        for (const double h : finFilms)
            for (const double t : finThicknesses) {
                const auto name = fmt::format("fin_h{:g}_t{:g}.vtu", h, t);
                writeFin(folder / "cases" / name, h, t / 1000);
                table += fmt::format("cases/{},{:g},{:g}\n", name, h, t);
            }
        write();
    }
    void write() { writeText(folder / "sweep.csv", table); }
    SweepReading run() {
        const auto done = runIn(folder, survey);
        EXPECT_TRUE(done.sweep);
        return done.sweep.value_or(SweepReading{});
    }
    const TempFolder folder;
    std::string table;
    Json survey = Json::parse(R"j({"pyrometer": 1,
        "cases": [{"name": "like", "file": "cases/fin_h10_t1.vtu", "ambient": "293.15 K"}],
        "gauges": [{"id": "T_max", "where": {"part": "fin_h10_t1"}, "quantity": "temperature", "statistic": "max",
          "unit": "degC"}],
        "limits": [{"part": "fin_h10_t1", "max": "353.15 K"}],
        "sweep": {"table": "sweep.csv", "like": "like", "parameters": {
          "h": {"column": "h [W/(m2.K)]"}, "t": {"column": "thickness", "unit": "mm"}}}})j");
};

} // namespace

TEST_F(FinSweep, TheBestCaseIsThatOfTheExactSolution) {
    const auto found = run();
    ASSERT_EQ(found.cases.size(), 16U);
    ASSERT_TRUE(found.why.empty()) << found.why;
    std::vector<std::pair<double, std::string>> within;
    for (const double h : finFilms)
        for (const double t : finThicknesses) {
            const auto name = fmt::format("fin_h{:g}_t{:g}", h, t);
            const auto one = std::ranges::find(found.cases, name, &SweepCase::name);
            ASSERT_NE(one, found.cases.end()) << name;
            ASSERT_TRUE(one->gauges.at("T_max").value) << name;
            EXPECT_NEAR(*one->gauges.at("T_max").value, airKelvin + finRise(h, t / 1000) - 273.15, 1e-4) << name;
            EXPECT_EQ(one->parameters.at("t"), t);
            const double margin = 60 - finRise(h, t / 1000);
            EXPECT_EQ(one->verdict(), margin >= 0 ? Verdict::Within : Verdict::Over) << name;
            if (margin >= 0)
                within.emplace_back(-margin, name);
        }
    std::ranges::sort(within);
    ASSERT_EQ(found.best.size(), within.size());
    for (std::size_t i = 0; i < within.size(); ++i)
        EXPECT_EQ(found.best[i], within[i].second);
    EXPECT_EQ(found.best[0], "fin_h45_t3");
}

// In a full grid of two parameters the plane's slopes are those of each parameter alone: covariance over variance.
TEST_F(FinSweep, SensitivitiesAreThoseOfIndependentLeastSquares) {
    const auto found = run();
    ASSERT_EQ(found.sensitivities.size(), 2U);
    std::array<double, 2> mean{};
    double all = 0;
    for (const auto& one : found.cases) {
        mean[0] += one.parameters.at("h") / 16;
        mean[1] += one.parameters.at("t") / 16;
        all += *one.gauges.at("T_max").value / 16;
    }
    for (std::size_t i = 0; i < 2; ++i) {
        double covariance = 0;
        double variance = 0;
        double whole = 0;
        for (const auto& one : found.cases) {
            const double off = one.parameters.at(i == 0 ? "h" : "t") - mean[i];
            covariance += off * (*one.gauges.at("T_max").value - all);
            variance += off * off;
            whole += std::pow(*one.gauges.at("T_max").value - all, 2);
        }
        const auto& told = found.sensitivities[i];
        EXPECT_EQ(told.parameter, i == 0 ? "h" : "t");
        EXPECT_NEAR(told.slope, covariance / variance, 1e-9 * std::abs(told.slope));
        EXPECT_NEAR(told.share, covariance * covariance / variance / whole, 1e-9);
    }
    EXPECT_EQ(found.sensitivities[1].unit, "K/(mm)");
}

TEST_F(FinSweep, ALimitIsMetWhereTheExactSolutionMeetsIt) {
    const auto found = run();
    std::size_t checked = 0;
    for (const auto& one : found.crossings) {
        if (one.parameter != "h")
            continue;
        const double t = one.others.at("t") / 1000;
        double low = 10;
        double high = 45;
        for (int i = 0; i < 100; ++i)
            (finRise((low + high) / 2, t) > 60 ? low : high) = (low + high) / 2;
        EXPECT_NEAR(one.value, low, 0.03 * low) << "between values 10 to 15 apart";
        ++checked;
    }
    EXPECT_EQ(checked, 4U) << "once for each thickness";
}

TEST_F(FinSweep, WhatHasNotChangedIsNotReadAgain) {
    const auto before = runToJson(runIn(folder, survey))["sweep"].dump();
    // kept readings stand in for a case that can no longer be read, as long as its file looks the same
    const auto file = folder / "cases" / "fin_h45_t3.vtu";
    const auto time = std::filesystem::last_write_time(file);
    const auto size = std::filesystem::file_size(file);
    writeText(file, std::string(size, 'x'));
    std::filesystem::last_write_time(file, time);
    EXPECT_EQ(runToJson(runIn(folder, survey))["sweep"].dump(), before);
    writeFin(file, 9, 0.003); // another result
    const auto after = runIn(folder, survey);
    EXPECT_NEAR(*after.sweep->cases.back().gauges.at("T_max").value, airKelvin + finRise(9, 0.003) - 273.15, 1e-4);
    survey["limits"][0]["max"] = "300 K"; // what the survey says counts as well
    EXPECT_TRUE(runIn(folder, survey).sweep->best.empty());
}

TEST_F(FinSweep, BadLinesSayWhyAndTheRestGoesOn) {
    table +=
        "cases/gone.vtu,10,1\ncases/fin_h10_t1.vtu,ten,1\n,1,1\ncases/broken.vtu,11,1\ncases/fin_h20_t1.vtu,20,1\n";
    writeText(folder / "cases" / "broken.vtu", "no grid");
    write();
    const auto found = run();
    ASSERT_EQ(found.cases.size(), 21U);
    EXPECT_NE(found.cases[16].why.find("does not exist"), std::string::npos) << found.cases[16].why;
    EXPECT_NE(found.cases[17].why.find("\"ten\" is no number"), std::string::npos) << found.cases[17].why;
    EXPECT_NE(found.cases[18].why.find("no file"), std::string::npos);
    EXPECT_FALSE(found.cases[19].why.empty());
    EXPECT_NE(found.cases[20].why.find("already"), std::string::npos);
    EXPECT_EQ(found.best[0], "fin_h45_t3");
    EXPECT_EQ(found.cases[16].verdict(), Verdict::Unknown);
    const auto shown = shownSweep(mustRead(survey), found, TemperatureUnit::Celsius);
    EXPECT_EQ(shown.rows.size(), 21U);
    EXPECT_NE(sweepSentences(mustRead(survey), found)[0].find("5 not evaluated"), std::string::npos);
}

TEST_F(FinSweep, TablesThatSayNothing) {
    survey["sweep"]["parameters"]["t"]["column"] = "width";
    EXPECT_NE(run().why.find("\"width\""), std::string::npos);
    survey["sweep"] = {{"table", "gone.csv"}};
    EXPECT_NE(run().why.find("gone.csv"), std::string::npos);
    survey["sweep"] = {{"table", "sweep.csv"}, {"file", "path"}};
    EXPECT_NE(run().why.find("\"path\""), std::string::npos);
    survey["sweep"] = {{"table", "sweep.csv"}, {"like", "never"}};
    EXPECT_NE(run().why.find("\"never\""), std::string::npos);
    survey["sweep"] = {{"table", "sweep.csv"}};
    const auto found = run();
    ASSERT_EQ(found.parameters.size(), 2U) << "every column of numbers";
    EXPECT_EQ(found.parameters[1].unit, "mm");
}

TEST_F(FinSweep, CasesWrittenOutBelongToItToo) {
    survey.erase("sweep");
    survey["cases"] = {{{"name", "a"}, {"file", "cases/fin_h10_t1.vtu"}, {"parameters", {{"h", "10 W/(m2.K)"}}}},
                       {{"name", "b"}, {"file", "cases/fin_h45_t3.vtu"}, {"parameters", {{"h", "0.045 kW/(m2.K)"}}}}};
    const auto found = run();
    ASSERT_EQ(found.cases.size(), 2U);
    EXPECT_NEAR(found.cases[1].parameters.at("h"), 45, 1e-9) << "in the unit of the first";
    EXPECT_TRUE(found.sensitivities.empty()) << "two cases fit any line";
}

// Fritsch and Carlson's data (RPN 15A, 1980; from memory) rise in a step; the curve must not leave its neighbours.
TEST(SweepCrossings, TheCurveNeverOvershoots) {
    SweepPlan plan;
    plan.parameters = {{"x", "mm"}};
    std::vector<SweepCase> cases;
    const std::array<double, 9> x{7.99, 8.09, 8.19, 8.7, 9.2, 10, 12, 15, 20};
    const std::array<double, 9> y{0,        2.76429e-5, 4.37498e-2, 0.169183, 0.469428,
                                  0.943740, 0.998636,   0.999919,   0.999994};
    for (std::size_t i = 0; i < x.size(); ++i) {
        SweepCase one;
        one.name = std::to_string(i);
        one.parameters["x"] = x[i];
        LimitReading limit;
        limit.form = limitForms().front();
        limit.margin = y[i] - 0.9999; // met between 12 and 15, close to the end
        one.limits = {limit};
        cases.push_back(one);
    }
    const auto found = analyse({}, plan, cases);
    ASSERT_EQ(found.crossings.size(), 1U);
    EXPECT_GT(found.crossings[0].value, 12);
    EXPECT_LT(found.crossings[0].value, 15);
}

TEST_F(FinSweep, APatternNamesFilesAndParameters) {
    const auto byTable = run();
    survey["sweep"] = {{"pattern", "cases/fin_h{h}_t{t}.vtu"}, {"parameters", {{"t", {{"unit", "mm"}}}}}};
    writeText(folder / "cases" / "fin_hot.txt", "beside");
    const auto found = run();
    ASSERT_EQ(found.cases.size(), 16U) << found.why;
    ASSERT_EQ(found.parameters.size(), 2U);
    EXPECT_EQ(found.parameters[0].name, "h");
    EXPECT_EQ(found.parameters[1].unit, "mm");
    const auto one = std::ranges::find(found.cases, "fin_h20_t1.5", &SweepCase::name);
    ASSERT_NE(one, found.cases.end());
    EXPECT_EQ(one->parameters.at("h"), 20);
    EXPECT_EQ(one->parameters.at("t"), 1.5);
    EXPECT_EQ(found.best, byTable.best);
    ASSERT_TRUE(found.optimum);
    EXPECT_TRUE(found.optimum->why.empty());
    EXPECT_EQ(found.optimum->caseName, "fin_h45_t3") << "more air and more metal are always better";
    EXPECT_NEAR(found.optimum->parameters.at("h"), 45, 1e-9);
    EXPECT_NEAR(found.optimum->parameters.at("t"), 3, 1e-9);
    EXPECT_NEAR(found.optimum->leastMargin, 60 - finRise(45, 0.003), 1e-4);
    survey["sweep"]["pattern"] = "cases/rib_h{h}.vtu";
    EXPECT_NE(run().why.find("no file fits"), std::string::npos);
    survey["sweep"]["pattern"] = "cases/fin_h{}.vtu";
    EXPECT_NE(run().why.find("between each pair of braces"), std::string::npos);
    survey["sweep"]["pattern"] = "cases/fin.vtu";
    EXPECT_NE(run().why.find("names no parameter"), std::string::npos);
}

// Solvers often write one name into a folder for each case.
TEST_F(FinSweep, FoldersNameCasesWhereFilesAreAllCalledAlike) {
    std::string lines = "file,h\n";
    for (const double h : finFilms) {
        const auto own = folder / fmt::format("h{:g}", h);
        std::filesystem::create_directories(own);
        writeFin(own / "result.vtu", h, 0.001);
        lines += fmt::format("h{:g}/result.vtu,{:g}\n", h, h);
    }
    writeText(folder / "sweep.csv", lines);
    survey["sweep"] = {{"table", "sweep.csv"}};
    auto found = run();
    ASSERT_EQ(found.cases.size(), 4U);
    EXPECT_EQ(found.cases[1].name, "h20/result");
    EXPECT_TRUE(found.cases[1].why.empty()) << found.cases[1].why;
    survey["sweep"] = {{"pattern", "h{h}/result.vtu"}};
    found = run();
    ASSERT_EQ(found.cases.size(), 4U) << found.why;
    EXPECT_EQ(found.cases[3].parameters.at("h"), 45);
}
