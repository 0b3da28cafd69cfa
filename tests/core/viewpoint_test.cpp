#include "core/survey/survey_file.h"
#include "core/survey/viewpoints.h"

#include <gtest/gtest.h>

using namespace pyro;

namespace {

ViewState everythingSet() {
    ViewState view;
    view.stage = "Field";
    view.caseName = "first";
    view.hidden = {"box"};
    view.boundaries = {"inlet", "outlet"};
    view.isolated = "amplifier";
    view.opacity = {{"plate", 0.25}};
    view.quantity = "heat_flux";
    view.range = {{300.5, 380.25}};
    view.unit = TemperatureUnit::Fahrenheit;
    view.camera = CameraState{{1, 2, 3}, {0.1, 0.2, 0.3}, {0, 0.6, 0.8}, 0.07};
    view.field.sections.push_back({"Section A", {{0.1, 0.2, 0.3}, {0.6, 0, 0.8}}, false, false, true, true, {"box"}});
    view.units = {{"velocity", "ft/min"}};
    view.decimals = {{"temperature", 3}};
    view.component = "y";
    view.field.isotherms = {
        true,
        false,
        7,
        Ground::Materials,
        {{"temperature",
          {2.5, {285.75}, {{MarkSource::Kind::Gauge, "dew"}, {MarkSource::Kind::Part, "amp"}}, {300, 310}}},
         {"velocity x", {{}, {}, {}, {0.04}}}}};
    view.field.paths = {true,        "velocity", PathStart::Section,
                        "Section A", {1, 2, 3},  {4, 5, 6},
                        0.25,        12,         false,
                        true,        0.5,        false,
                        true,        true,       true};
    view.field.arrows = {true, "heat_flux", false, {"inlet"}, 0.004, false};
    view.field.labels = {{0.5, 0.25, 0.125}};
    view.field.strip = {PaletteName::Tide, true, true, true, 12};
    return view;
}

} // namespace

TEST(Viewpoints, RestoreEverySetting) {
    const auto view = everythingSet();
    auto survey = withViewpoint({}, {"Hot core", view, "iVBOR"});
    const auto again = surveyFromJson(Json::parse(surveyToJson(survey).dump()), "test"); // as after saving
    ASSERT_TRUE(again);
    const auto& known = again->viewpoints;
    ASSERT_EQ(known.size(), 1U);
    EXPECT_EQ(known[0].view, view);
    EXPECT_EQ(known[0].thumbnail, "iVBOR");
    ViewState now;
    now.caseName = "second";
    now.stage = "Limits";
    auto expected = view;
    expected.caseName = "second";
    expected.stage = "Limits";
    EXPECT_EQ(restored(known[0], now), expected);
}

TEST(Viewpoints, CarryTheirCaseAndStepWhereAsked) {
    ViewState kept;
    kept.caseName = "flow";
    kept.step = 3;
    kept.field.deformed = {true, "stress", "u", 250.0, false, true};
    const auto again = surveyFromJson(Json::parse(surveyToJson(withViewpoint({}, {"Bent", kept, "", true})).dump()),
                                      "test");
    ASSERT_TRUE(again);
    EXPECT_EQ(again->viewpoints[0].view, kept);
    ViewState now;
    now.caseName = "thermal";
    now.stage = "Trust";
    const auto back = restored(again->viewpoints[0], now);
    EXPECT_EQ(back.caseName, "flow");
    EXPECT_EQ(back.step, 3);
    EXPECT_EQ(back.stage, "Trust");
}

TEST(Viewpoints, AreNamedReplacedAndTakenAway) {
    auto survey = withViewpoint({}, {freeViewpointName({}), {}, ""});
    EXPECT_EQ(freeViewpointName(survey), "Viewpoint 2");
    survey = withViewpoint(survey, {"Viewpoint 1", everythingSet(), ""});
    EXPECT_EQ(survey.viewpoints.size(), 1U);
    EXPECT_EQ(survey.viewpoints[0].view.quantity, "heat_flux");
    survey = withViewpoint(survey, {"Other", {}, ""});
    EXPECT_FALSE(withViewpointRenamed(survey, "Other", "Viewpoint 1"));
    EXPECT_FALSE(withViewpointRenamed(survey, "Other", ""));
    EXPECT_FALSE(withViewpointRenamed(survey, "None", "X"));
    const auto renamed = withViewpointRenamed(survey, "Other", "X");
    ASSERT_TRUE(renamed);
    EXPECT_EQ(renamed->viewpoints[1].name, "X");
    EXPECT_EQ(withoutViewpoint(*renamed, "Viewpoint 1").viewpoints.size(), 1U);
}

TEST(Viewpoints, MalformedOnesAreLeftOutButKept) {
    const auto survey = surveyFromJson(
        Json::parse(
            R"({"pyrometer": 1, "viewpoints": [7, {"name": "a"}, {"name": "b", "view": {"range": [5, 3], "sections": [
        {"name": "S", "origin": [0, 0, 0], "normal": [0, 0, 0]}, 3], "isotherms": {"spacing": -2}}}]})"),
        "test");
    ASSERT_TRUE(survey);
    const auto& known = survey->viewpoints;
    ASSERT_EQ(known.size(), 1U);
    EXPECT_FALSE(known[0].view.range) << "a range with its ends swapped is none";
    EXPECT_TRUE(known[0].view.field.sections.empty());
    EXPECT_FALSE(known[0].view.field.isotherms.of("temperature").spacing);
    EXPECT_EQ(surveyToJson(*survey)["viewpoints"].size(), 3U);
    EXPECT_EQ(*surveyFromJson(surveyToJson(*survey), "again"), *survey);
}
