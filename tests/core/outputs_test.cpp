// Readings as JSON, CSV and JUnit XML: the same numbers, nothing lost, never NaN.
#include "core/feedback/csv_rows.h"
#include "core/report/junit.h"
#include "core/report/readings_json.h"
#include "core/report/tables/table_writers.h"
#include "core/sheets/sheet_read.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

LimitReading judged(const std::string& part, Verdict verdict, double value, double limit) {
    LimitReading reading;
    reading.form = &valueForm;
    reading.target.name = part;
    reading.verdict = verdict;
    if (verdict != Verdict::Unknown) {
        reading.value = value;
        reading.margin = limit - value;
        reading.place = Place{{0.01, 0.02, 0.03}, Location::Node, 7, 0};
    } else {
        reading.why = "the case has no part named \"" + part + "\"";
    }
    reading.limit = limit;
    reading.source = "sheet & co";
    return reading;
}

SurveyRun twoSteps() {
    Readings first;
    first.step = 0;
    first.time = 0.0;
    first.limits = {judged("amp", Verdict::Within, 350, 383.15), judged("gone", Verdict::Unknown, 0, 360)};
    first.gauges = {{"T_amp", 350.25, "K", Place{{0.01, 0.02, 0.03}, Location::Cell, 7, 0}},
                    {"bad", {}, "K", {}, "there is no such thing"}};
    first.remarks = {{Severity::Warning, "unit-guessed", "taken as K", "T"}};
    auto second = first;
    second.step = 1;
    second.time = 60.0;
    second.limits[0] = judged("amp", Verdict::Over, 390, 383.15);
    SurveyRun run{"s.survey.json", {}};
    run.cases.push_back({"baseline", "b.vtm", std::nullopt, {first, second}});
    run.cases.push_back(
        {"broken", "x.vtu", Error{ErrorCode::FileMissing, "the file does not exist", "x.vtu", "Check its name"}, {}});
    return run;
}

Survey surveyOf() {
    Survey survey;
    survey.cases.push_back({"baseline",
                            "b.vtm",
                            {},
                            {{"amp", PartNote{"Amplifier", "", std::nullopt, "", Json::object()}}},
                            {},
                            Json::object()});
    survey.cases.push_back({"broken", "x.vtu", {}, {}, {}, Json::object()});
    return survey;
}

} // namespace

TEST(Outputs, JsonHoldsStepsWorstLimitsAndErrors) {
    const auto json = runToJson(twoSteps());
    EXPECT_EQ(json["verdict"], "over");
    const auto& read = json["cases"][0];
    ASSERT_EQ(read["steps"].size(), 2U);
    EXPECT_EQ(read["steps"][1]["time"], 60.0);
    EXPECT_EQ(read["steps"][0]["limits"][0]["part"], "amp");
    EXPECT_EQ(read["steps"][0]["limits"][0]["target"]["part"], "amp");
    EXPECT_EQ(read["steps"][0]["limits"][0]["at"][2], 0.03);
    EXPECT_EQ(read["limits"][0]["verdict"], "over") << "the worst over the steps";
    EXPECT_TRUE(read["steps"][0]["limits"][1]["value"].is_null());
    EXPECT_FALSE(read["steps"][0]["limits"][1]["why"].get<std::string>().empty());
    EXPECT_EQ(read["steps"][0]["gauges"][0]["on"], "cell");
    EXPECT_TRUE(read["steps"][0]["gauges"][1]["value"].is_null());
    EXPECT_EQ(read["steps"][0]["gauges"][1]["why"], "there is no such thing");
    EXPECT_EQ(read["remarks"].size(), 1U) << "each remark once, however many steps";
    EXPECT_EQ(json["cases"][1]["error"]["code"], "file-missing");
    EXPECT_FALSE(json["cases"][1].contains("steps"));
    EXPECT_EQ(twoSteps().exitStatus(), 2) << "a case that cannot be read comes before a limit that is exceeded";
}

TEST(Outputs, JsonNeverHoldsNaN) {
    auto run = twoSteps();
    run.cases[0].steps[0].gauges[0].value = std::nan("");
    run.cases[0].steps[0].limits[0].margin = INFINITY;
    const auto text = runToJson(run).dump();
    EXPECT_EQ(text.find("nan"), std::string::npos);
    EXPECT_EQ(text.find("inf"), std::string::npos);
}

TEST(Outputs, APartNamedLikeANumberStaysAName) {
    const TempFolder folder;
    auto run = twoSteps();
    auto survey = surveyOf();
    run.cases[0].steps[0].limits[0].target.name = "007";
    run.cases[0].steps[0].gauges[0].id = "1e3";
    ASSERT_TRUE(writeTable(limitsTable, {survey, run, TemperatureUnit::Celsius}, folder / "r.xlsx"));
    const auto sheets = readSheets(folder / "r.xlsx");
    ASSERT_TRUE(sheets) << sheets.error().text();
    const auto cells = [&](const std::string& sheet, const std::string& title) {
        const auto& rows = std::ranges::find(*sheets, sheet, &TableSheet::name)->rows;
        const auto column = static_cast<std::size_t>(std::ranges::find(rows[0], title) - rows[0].begin());
        std::vector<std::string> out;
        for (std::size_t i = 1; i < rows.size(); ++i)
            out.push_back(rows[i][column]);
        return out;
    };
    EXPECT_TRUE(std::ranges::count(cells("Limits", "name"), "007"));
    EXPECT_TRUE(std::ranges::count(cells("Gauges", "gauge"), "1e3"));
}

TEST(Outputs, CsvHasALineForEachStepAndLimit) {
    const auto survey = surveyOf();
    const auto run = twoSteps();
    const auto rows = parseCsv(csvOf(limitsTable.make({survey, run, TemperatureUnit::Celsius})));
    ASSERT_TRUE(rows);
    ASSERT_EQ(rows->size(), 1U + 4U + 2U) << "of both steps, and the worst of them";
    const auto column = [&](const std::string& name) {
        return static_cast<std::size_t>(std::ranges::find(rows->front(), name) - rows->front().begin());
    };
    const auto& over = (*rows)[3];
    EXPECT_EQ(over[column("step")], "1");
    EXPECT_EQ(over[column("label")], "Amplifier");
    EXPECT_EQ(over[column("verdict")], "over");
    EXPECT_NEAR(std::stod(over[column("value")]), 116.85, 1e-9);
    EXPECT_NEAR(std::stod(over[column("margin")]), -6.85, 1e-9) << "a difference is not offset";
    EXPECT_EQ(over[column("margin_unit")], "K");
    EXPECT_EQ(over[column("source")], "sheet & co");
    for (const auto& row : *rows)
        EXPECT_EQ(row.size(), rows->front().size());
    const auto gauges = parseCsv(csvOf(gaugesTable.make({survey, run, TemperatureUnit::Celsius})));
    ASSERT_EQ(gauges->size(), 1U + 4U);
    EXPECT_EQ((*gauges)[2][4], "") << "a gauge that cannot be read has no value";
    EXPECT_EQ((*gauges)[2].back(), "there is no such thing");
}

TEST(Outputs, MaterialsAreListedForEveryPartOfTheReadings) {
    auto survey = surveyOf();
    auto run = twoSteps();
    RegionReading part{};
    part.name = "amp";
    run.cases[0].steps[0].parts = {part, part};
    run.cases[0].steps[0].parts[1].name = "board";
    survey.cases[0].parts["amp"].material = "copper";
    survey.cases[0].parts["amp"].power = Written<double>{"2 W", 2};
    survey.materials["copper"].conductivity = Written<double>{"390 W/(m.K)", 390};
    const auto rows = jsonOf(materialsTable.make({survey, run, TemperatureUnit::Celsius}));
    ASSERT_EQ(rows.size(), 2U);
    EXPECT_EQ(rows[0]["material"], "copper");
    EXPECT_EQ(rows[0]["conductivity_W_per_m_K"], 390);
    EXPECT_EQ(rows[0]["power_W"], 2);
    EXPECT_FALSE(rows[0].contains("density_kg_per_m3")) << "what is not said is left empty, not zero";
    EXPECT_FALSE(rows[1].contains("material"));
}

TEST(Outputs, EveryTableIsWrittenInEveryForm) {
    const TempFolder folder;
    const auto survey = surveyOf();
    const auto run = twoSteps();
    const TableInput input{survey, run, TemperatureUnit::Celsius};
    for (const auto* kind : tableKinds()) {
        const auto table = kind->make(input);
        for (const auto& row : table.rows)
            EXPECT_EQ(row.size(), table.columns.size()) << kind->name;
        for (const auto& format : tableFormats())
            EXPECT_TRUE(writeTable(*kind, input, folder / (std::string(kind->name) + std::string(format.ending))))
                << kind->name << format.ending;
    }
    const auto refused = writeTable(limitsTable, input, folder / "limits.txt");
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::FormatUnknown);
    ASSERT_TRUE(writeTablesCsv(input, folder / "csv"));
    EXPECT_FALSE(std::filesystem::exists(folder / "csv/estimate.csv")) << "nothing was estimated";
    EXPECT_TRUE(std::filesystem::exists(folder / "csv/materials.csv"));
}

TEST(Outputs, JunitCountsFailuresAndErrors) {
    const auto xml = junitXml(twoSteps());
    EXPECT_NE(xml.find("<testsuite name=\"baseline\" tests=\"2\" failures=\"1\" errors=\"1\">"), std::string::npos)
        << xml;
    EXPECT_NE(xml.find("<testsuite name=\"broken\" tests=\"1\" failures=\"0\" errors=\"1\">"), std::string::npos)
        << xml;
    EXPECT_NE(xml.find("116.9 \u00b0C exceeds the maximum of 110.0 \u00b0C by 6.9 K"), std::string::npos) << xml;
    EXPECT_NE(xml.find("named &quot;gone&quot;"), std::string::npos) << "names are escaped";
}
