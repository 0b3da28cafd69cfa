// Tables for people: aligned by characters, and what is not known said so.
#include "core/report/shown/shown_table.h"
#include "core/survey/survey_file.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// A bar of 0.1 m x 1 cm2 that conducts from 400 K to 300 K, in two halves; 20 W/(m K): 2 W pass.
class ShownTables : public testing::Test {
protected:
    void SetUp() override {
        const BoxMesh left{{0.05, 0.01, 0.01}, {5, 2, 2}};
        const BoxMesh right{{0.05, 0.01, 0.01}, {5, 2, 2}, {0.05, 0, 0}};
        std::vector<BlockData> blocks{boxPart("left", left), boxPart("right", right)};
        for (auto& one : blocks)
            addNodeField(one, "temperature", [](const Point& at) { return 400 - 1000 * at[0]; });
        blocks.push_back(boxSide("hot end", left, 0, false));
        blocks.push_back(boxSide("cold end", right, 0, true));
        ASSERT_TRUE(writeCase(blocks, folder / "bar.vtm"));
        writeText(folder / "s.survey.json", R"json({"pyrometer": 1, "cases": [{"name": "bar", "file": "bar.vtm",
            "parts": {"left": {"material": "steel", "label": "Left half", "power": "0 W"},
                      "right": {"material": "steel"}}}],
            "materials": {"steel": {"conductivity": "20 W/(m.K)"}},
            "limits": [{"part": "right", "max": "100 degC", "source": "sheet 4"},
                       {"part": "left", "max": "100 degC"},
                       {"part": "left", "share_above": {"level": "380 K"}, "max": "10 %"},
                       {"part": "nobody", "max": "50 degC"}]})json");
        auto read = loadSurvey(folder / "s.survey.json");
        ASSERT_TRUE(read) << read.error().text();
        survey = std::move(*read);
        opened = mustOpen(folder / "bar.vtm");
        NoProgress quiet;
        StepContext context;
        context.balances = true;
        auto evaluated = evaluate(survey, survey.cases[0], *opened, {}, quiet, context);
        ASSERT_TRUE(evaluated) << evaluated.error().text();
        readings = std::move(*evaluated);
    }
    const CaseEntry& entry() const { return survey.cases[0]; }
    TempFolder folder;
    Survey survey;
    std::optional<OpenedCase> opened;
    Readings readings;
};

} // namespace

TEST(ShownTable, StandsInColumnsByCharactersNotBytes) {
    const ShownTable table{{{"Name"}, {"Value", true}, {"Note"}},
                           {{"W\u00e4rmeleitpad", "9.5 \u00b0C", ""}, {"x", "112.25 \u00b0C", "over"}}};
    EXPECT_EQ(textOf(table), "Name              Value  Note\n"
                             "W\u00e4rmeleitpad     9.5 \u00b0C\n"
                             "x             112.25 \u00b0C  over\n");
    EXPECT_EQ(textOf({{{"A"}, {"B"}}, {}}, 2), "  A  B\n") << "a table without rows is its head";
}

TEST_F(ShownTables, LimitsStandWithTheLeastMarginFirst) {
    const auto table = shownLimits(survey, entry(), readings.limits, TemperatureUnit::Celsius);
    ASSERT_EQ(table.rows.size(), 4U);
    EXPECT_EQ(table.columns[2].title, "Value");
    EXPECT_TRUE(table.columns[2].isNumber);
    const auto rowOf = [&](const std::string& name, const std::string& allowed) {
        const auto found = std::ranges::find_if(table.rows,
                                                [&](const auto& row) { return row[1] == name && row[3] == allowed; });
        EXPECT_NE(found, table.rows.end()) << name;
        return found == table.rows.end() ? std::vector<std::string>(7) : *found;
    };
    EXPECT_EQ(rowOf("Left half", "100.0 \u00b0C")[2], "126.9 \u00b0C") << "by its label; 400 K";
    EXPECT_EQ(rowOf("Left half", "100.0 \u00b0C")[0], "over");
    EXPECT_EQ(rowOf("Left half", "100.0 \u00b0C")[4], "-26.9 K");
    EXPECT_EQ(rowOf("right", "100.0 \u00b0C")[6], "sheet 4");
    EXPECT_EQ(rowOf("Left half", "10 %")[2], "40 %") << "20 of the 50 mm are above 380 K";
    EXPECT_NE(rowOf("Left half", "10 %")[6].find("380"), std::string::npos) << "what is judged is told";
    EXPECT_EQ(rowOf("nobody", "50.0 \u00b0C")[0], "unknown");
    EXPECT_EQ(rowOf("nobody", "50.0 \u00b0C")[2], "unknown");
    EXPECT_FALSE(rowOf("nobody", "50.0 \u00b0C")[6].empty()) << "why it cannot be judged";
}

TEST_F(ShownTables, BalancesEndWithTheWhole) {
    const auto table = shownBalances(entry(), readings);
    ASSERT_EQ(table.rows.size(), 3U) << "two parts and the whole";
    EXPECT_EQ(table.rows[2][0], "whole case");
    EXPECT_EQ(table.rows[0][0], "Left half");
    EXPECT_NEAR(std::stod(table.rows[0][1]), 2, 1e-3);
    EXPECT_NEAR(std::stod(table.rows[2][2]), 2, 1e-3);
    for (const auto& row : table.rows)
        EXPECT_EQ(row.size(), table.columns.size());
    readings.balances = nullptr;
    EXPECT_TRUE(shownBalances(entry(), readings).rows.empty());
    EXPECT_TRUE(shownFlows(readings, TemperatureUnit::Celsius).rows.empty());
    EXPECT_TRUE(shownLinks(entry(), readings).rows.empty());
}

TEST_F(ShownTables, FlowsAndLinksSayWhereTheHeatGoes) {
    const auto flows = shownFlows(readings, TemperatureUnit::Kelvin);
    const auto cold = std::ranges::find_if(flows.rows, [](const auto& row) { return row[0] == "cold end"; });
    ASSERT_NE(cold, flows.rows.end());
    EXPECT_NEAR(std::stod((*cold)[1]), 2, 1e-3);
    EXPECT_EQ((*cold)[2], "300.0") << "its mean";
    EXPECT_EQ((*cold)[3], "1 cm\u00b2");
    EXPECT_TRUE((*cold)[5].empty()) << "no mass flows";
    const auto links = shownLinks(entry(), readings);
    const auto across = std::ranges::find_if(
        links.rows, [](const auto& row) { return row[0] == "Left half" && row[1] == "right"; });
    ASSERT_NE(across, links.rows.end());
    EXPECT_NEAR(std::stod((*across)[2]), 2, 1e-3);
}

TEST(ShownTable, TermsAndSpotsOfAGauge) {
    GaugeReading gauge;
    gauge.unit = "K";
    EXPECT_TRUE(shownTerms(gauge).rows.empty());
    Derivation made;
    made.terms = {{"L2D", 1.25, "W/(m.K)", "from two sides"}, {"share", 0.5, "1", ""}};
    Spot spot{};
    spot.value = 371.2;
    spot.prominence = 12.34;
    spot.at = {0.01, 0.02, 0};
    spot.nearest = 0.005;
    made.spots = {spot};
    gauge.derivation = std::make_shared<const Derivation>(made);
    const auto terms = shownTerms(gauge);
    EXPECT_EQ(terms.rows[0], (std::vector<std::string>{"L2D", "1.25 W/(m\u00b7K)", "from two sides"}));
    EXPECT_EQ(terms.rows[1][1], "0.5") << "a bare number has no unit";
    Readings readings;
    readings.parts.emplace_back();
    readings.parts[0].name = "chip";
    CaseEntry entry;
    const auto spots = shownSpots(entry, readings, gauge);
    ASSERT_EQ(spots.rows.size(), 1U);
    EXPECT_EQ(spots.rows[0][1], "371.2");
    EXPECT_EQ(spots.rows[0][3], "chip");
    EXPECT_TRUE(spots.rows[0][5].empty()) << "no source is known";
    EXPECT_EQ(spots.rows[0][7], "5 mm");
    EXPECT_EQ(spots.rows[0][8], "10.0  20.0  0.0");
}
