#include "core/survey/edit.h"
#include "core/survey/survey_file.h"
#include "core/survey/view_state.h"
#include "tests/support/temp_folder.h"

#include <fmt/format.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

const char* const example = R"json({
  "pyrometer": 1, "title": "Telemetry module", "spare": {"deep": [1, 2]},
  "cases": [{"name": "baseline", "file": "b.vtm", "colour": "blue",
    "quantities": {"temperature": {"array": "T", "unit": "K", "on": "cell"}, "pressure": null},
    "parts": {"amp": {"label": "Amplifier", "power": "12 W", "mass": "3 g"}},
    "boundaries": {"in": {"kind": "inlet", "temperature": "20 degC"}}}],
  "materials": {"silicon": {"conductivity": "148 W/(m.K)", "colour": 7}},
  "gauges": [{"id": "T_amp", "where": {"part": "amp"}, "quantity": "temperature", "statistic": "max", "future": true}],
  "limits": [{"part": "amp", "max": "110 degC", "margin": "10 K", "source": "data sheet", "kind": "junction"}],
  "viewpoints": [{"name": "x"}], "findings": [], "report": {"logo": "l.png"}
})json";

Error errorOf(const std::string& text) {
    const TempFolder folder;
    writeText(folder / "s.survey.json", text);
    const auto loaded = loadSurvey(folder / "s.survey.json");
    return loaded ? Error{ErrorCode::Usage, "no error", "", ""} : loaded.error();
}

} // namespace

TEST(Survey, ReadsValuesWithUnits) {
    const auto survey = surveyFromJson(Json::parse(example), "s");
    ASSERT_TRUE(survey) << survey.error().text();
    EXPECT_NEAR(survey->limits[0].max->si, 383.15, 1e-12);
    EXPECT_DOUBLE_EQ(survey->limits[0].margin->si, 10);
    EXPECT_DOUBLE_EQ(survey->cases[0].parts.at("amp").power->si, 12);
    EXPECT_TRUE(survey->cases[0].quantities.at("pressure").off);
    EXPECT_EQ(survey->cases[0].quantities.at("temperature").on, Location::Cell);
}

TEST(Survey, UnknownKeysAndSpellingsSurvive) {
    const TempFolder folder;
    writeText(folder / "s.survey.json", example);
    const auto survey = loadSurvey(folder / "s.survey.json");
    ASSERT_TRUE(saveSurvey(*survey, folder / "t.survey.json"));
    const auto before = nlohmann::json::parse(example);
    const auto after = nlohmann::json::parse(readText(folder / "t.survey.json"));
    EXPECT_EQ(before, after);
    EXPECT_EQ(*loadSurvey(folder / "t.survey.json"), *survey);
}

TEST(Survey, MistakesNameTheirPlace) {
    EXPECT_EQ(errorOf("{\"pyrometer\": 1,\n \"title\" 3}").code, ErrorCode::Syntax);
    EXPECT_NE(errorOf("{\"pyrometer\": 1,\n \"title\" 3}").what.find("line 2"), std::string::npos);
    EXPECT_EQ(errorOf("{\"pyrometer\": 2}").code, ErrorCode::WrongVersion);
    EXPECT_EQ(errorOf("{}").code, ErrorCode::WrongVersion);
    EXPECT_EQ(errorOf("[]").code, ErrorCode::WrongType);
    const auto unit = errorOf(
        R"({"pyrometer": 1, "limits": [{"part": "a", "max": "90 degC"}, {"part": "b", "max": "3 W"}]})");
    EXPECT_EQ(unit.code, ErrorCode::WrongUnit);
    EXPECT_NE(unit.where.find("limits[1].max"), std::string::npos);
    EXPECT_EQ(errorOf(R"({"pyrometer": 1, "limits": [{"max": "90 degC"}]})").code, ErrorCode::WrongType);
    EXPECT_EQ(errorOf(R"({"pyrometer": 1, "cases": {}})").code, ErrorCode::WrongType);
    EXPECT_EQ(loadSurvey("/no/such/file").error().code, ErrorCode::FileMissing);
}

TEST(Survey, AFailingDiskLeavesTheOldFile) {
    const TempFolder folder;
    std::filesystem::create_directories(folder / "s.survey.json"); // a folder stands where the file should go
    const auto failed = saveSurvey({}, folder / "s.survey.json");
    ASSERT_FALSE(failed);
    EXPECT_EQ(failed.error().code, ErrorCode::WriteFailed);
    EXPECT_TRUE(std::filesystem::is_directory(folder / "s.survey.json"));
    for (const auto& entry : std::filesystem::directory_iterator(folder.path()))
        EXPECT_EQ(entry.path().filename(), "s.survey.json") << "a temporary file stayed behind";
}

TEST(ViewState, SurvivesASaveAndDefaultsWhereBroken) {
    ViewState view;
    view.stage = "Limits";
    view.hidden = {"box", "l\u00f6tstelle"};
    view.isolated = "amp";
    view.opacity["plate"] = 0.25;
    view.range = {300.0, 350.5};
    view.unit = TemperatureUnit::Fahrenheit;
    view.camera = CameraState{{1, 2, 3}, {4, 5, 6}, {0, 1, 0}, 0.07};
    const auto again = surveyFromJson(surveyToJson(withView({}, view)), "s");
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again->view, view);
    const auto broken = surveyFromJson(
        Json::parse(R"({"pyrometer": 1, "view": {"range": [5, 1], "camera": {"position": "x"}, "opacity": 3,
        "hidden": [1], "isotherms": {"values": 7, "marks": [1]}, "paths": {"from": 3}, "kept": true}})"),
        "s");
    ASSERT_TRUE(broken) << broken.error().text();
    auto expected = ViewState{};
    expected.rest = {{"kept", true}};
    expected.field.isotherms.values["temperature"].marks = {1};
    EXPECT_EQ(broken->view, expected);
    EXPECT_EQ(surveyToJson(*broken)["view"]["kept"], true);
}

TEST(Edit, EachEditChangesOneThingOrSaysWhy) {
    const auto survey = *surveyFromJson(Json::parse(example), "s");
    EXPECT_DOUBLE_EQ(
        withPartField(survey, "baseline", "amp", PartNoteField::Power, "3.5 W")->cases[0].parts.at("amp").power->si,
        3.5);
    EXPECT_EQ(withPartField(survey, "baseline", "amp", PartNoteField::Power, "3 W/m2").error().code,
              ErrorCode::WrongUnit);
    EXPECT_EQ(withPartField(survey, "baseline", "amp", PartNoteField::Kind, "gas").error().code, ErrorCode::WrongType);
    EXPECT_EQ(withPartField(survey, "none", "amp", PartNoteField::Label, "x").error().code, ErrorCode::NameUnknown);
    EXPECT_EQ(withLimitField(survey, 0, LimitField::Margin, "5 degC").error().code, ErrorCode::WrongUnit);
    EXPECT_NEAR(withLimitField(survey, 0, LimitField::Max, "230 degF")->limits[0].max->si, 383.15, 1e-9);
    EXPECT_EQ(withCase(survey, "x/baseline.vtm").cases[1].name, "baseline (2)");
    const auto role = withQuantityRole(survey, "baseline", {"temperature", "T", Location::Node, 1, "K", "K", {}, 0, 1},
                                       "density");
    EXPECT_TRUE(role->cases[0].quantities.at("temperature").off);
    EXPECT_EQ(role->cases[0].quantities.at("density").array, "T");
}

// What an engineer reads on the screen may stand in the file as well; it is written back under the one key.
TEST(SurveyWords, TheWordsOfTheWindowAreKeysToo) {
    const auto survey = surveyFromJson(
        Json::parse(
            R"j({"pyrometer": 1, "gauges": [{"id": "R", "where": {"part": "a"}, "quantity": "thermal_resistance",
              "reference_temperature": "20 degC", "divided_by_power": "3 W"}],
        "limits": [{"part": "a", "maximum": "80 degC", "required_margin": "5 K", "limit_type": "case"}],
          "cases": [{"name": "c", "file": "c.vtm", "symmetry_factor": 4}]})j"),
        "test");
    ASSERT_TRUE(survey) << survey.error().text();
    EXPECT_EQ(survey->gauges[0].rest["reference"], "20 degC");
    EXPECT_EQ(survey->gauges[0].rest["per"], "3 W");
    EXPECT_NEAR(survey->limits[0].max->si, 353.15, 1e-9);
    EXPECT_NEAR(survey->limits[0].margin->si, 5, 1e-12);
    EXPECT_EQ(survey->limits[0].kind, "case");
    EXPECT_EQ(surveyToJson(*survey)["limits"][0]["max"], "80 degC");
    EXPECT_FALSE(surveyToJson(*survey)["limits"][0].contains("maximum"));
    EXPECT_EQ(surveyToJson(*survey)["cases"][0]["symmetry_factor"], 4);
    const auto both = surveyFromJson(
        Json::parse(R"j({"pyrometer": 1, "limits": [{"part": "a", "max": "80 degC", "maximum": "90 degC"}]})j"),
        "test");
    ASSERT_FALSE(both);
    EXPECT_NE(both.error().what.find("say the same"), std::string::npos);
    for (const char* factor : {"0", "\"4\"", "-2", "5000"})
        EXPECT_FALSE(surveyFromJson(
            Json::parse(fmt::format(
                R"j({{"pyrometer": 1, "cases": [{{"name": "c", "file": "c.vtm", "symmetry_factor": {}}}]}})j", factor)),
            "test"))
            << factor;
}
