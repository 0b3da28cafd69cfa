// Every name in a survey that means something else is found, so that a rename reaches all of them.
#include "core/survey/edit.h"
#include "core/survey/gauge_edit.h"
#include "core/survey/names.h"
#include "core/survey/survey_file.h"
#include "core/survey/viewpoints.h"
#include "tests/support/temp_folder.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;
using testing::UnorderedElementsAre;

namespace {

// Speaks of the gauge "hot", the part "chip", the boundary "lid", the case "first" and the material "paste" wherever a
// survey can.
constexpr const char* everything = R"json({"pyrometer": 1,
    "cases": [{"name": "first", "file": "a.vtm",
        "parts": {"chip": {"material": "paste", "label": "Chip"}},
        "boundaries": {"lid": {"temperature": "20 degC", "surface_resistance": 0.13}},
        "split": {"cut": [{"boundary": "lid", "angle": "20 deg"}],
                  "join": [{"name": "both", "boundaries": ["lid", "side"]}]}}],
    "materials": {"paste": {"conductivity": "3 W/(m.K)"}},
    "gauges": [
        {"id": "hot", "where": {"part": "chip"}, "quantity": "temperature", "statistic": "max"},
        {"id": "twice", "formula": "2 * hot + max(hot, hotter) - hot 'hot'"},
        {"id": "hotter", "where": {"point": [0, 0, 0], "boundary": "lid"}, "quantity": "heat_transfer_coefficient",
         "reference": {"gauge": "hot"}},
        {"id": "touch", "where": {"interface": ["chip", "board"]}, "quantity": "heat_flux"},
        {"id": "U", "quantity": "transmittance", "where": {"environments": [["lid"], "floor"]},
         "layers": [{"thickness": "1 mm", "material": "paste"}]}],
    "limits": [{"part": "chip", "max": "90 degC"}, {"boundary": "lid", "max": "60 degC"},
               {"gauge": "hot", "max": "95 degC"},
               {"part": "chip", "rise": {"above": {"gauge": "hot"}}, "max": "30 K"}],
    "charts": [{"curves": [{"gauge": "hot"}, {"gauge": "touch"}], "x_axis": {"gauge": "hot"},
                "x_over": {"gauge": "touch"}}],
    "view": {"case": "first", "hidden": ["chip", "board"], "isolated": "chip", "opacity": {"chip": 0.5},
             "boundaries": ["lid"]},
    "findings": [{"text": "look", "case": "first", "part": "chip"}],
    "viewpoints": [{"name": "near", "view": {"case": "first", "hidden": ["chip"]}}],
    "future": {"gauge": "hot", "deep": [{"part": ["chip"]}]}})json";

Survey read(const char* text) {
    const TempFolder folder;
    writeText(folder / "s.survey.json", text);
    auto survey = loadSurvey(folder / "s.survey.json");
    EXPECT_TRUE(survey) << survey.error().text();
    return survey ? std::move(*survey) : Survey{};
}

int countOf(Survey survey, NameOf what, const std::string& name) {
    int count = 0;
    visitNames(survey, [&](NameOf of, std::string& one) { count += of == what && one == name ? 1 : 0; });
    return count;
}

} // namespace

TEST(Names, AllOfASurveyAreVisited) {
    const auto survey = read(everything);
    EXPECT_EQ(countOf(survey, NameOf::Gauge, "hot"), 3 + 1 + 1 + 1 + 1 + 1 + 1)
        << "thrice in the formula, the reference, a limit, the ambient of a rise, the chart twice, what is not known";
    EXPECT_EQ(countOf(survey, NameOf::Material, "paste"), 2) << "of the part and of the layer";
    EXPECT_EQ(countOf(survey, NameOf::Case, "first"), 3) << "view, finding, viewpoint";
    EXPECT_GE(countOf(survey, NameOf::Part, "chip"), 10);
    EXPECT_GE(countOf(survey, NameOf::Boundary, "lid"), 6);
    EXPECT_EQ(countOf(survey, NameOf::Part, "Chip"), 0) << "a label is no name";
    EXPECT_EQ(countOf(survey, NameOf::Part, "lid") + countOf(survey, NameOf::Boundary, "chip"), 0);
}

TEST(Names, LookingChangesNothing) {
    auto survey = read(everything);
    const auto before = survey;
    visitNames(survey, [](NameOf, std::string&) {});
    EXPECT_TRUE(survey == before);
    rename(survey, NameOf::Part, "no such part", "anything");
    EXPECT_TRUE(survey == before);
}

TEST(Names, EachKindIsRenamedByItself) {
    auto survey = read(everything);
    rename(survey, NameOf::Part, "chip", "die");
    EXPECT_EQ(countOf(survey, NameOf::Part, "chip"), 0);
    EXPECT_EQ(survey.gauges[0].where.written["part"], "die");
    EXPECT_EQ(survey.gauges[3].where.written["interface"][0], "die");
    EXPECT_EQ(survey.limits[0].target.name, "die");
    EXPECT_TRUE(survey.view.hidden.contains("die"));
    EXPECT_EQ(survey.view.opacity.at("die"), 0.5);
    EXPECT_EQ(*survey.view.isolated, "die");
    EXPECT_TRUE(survey.cases[0].parts.contains("die"));
    EXPECT_EQ(survey.cases[0].parts.at("die").label, "Chip");
    EXPECT_EQ(survey.findings[0].part, "die");
    EXPECT_EQ(survey.rest["future"]["deep"][0]["part"][0], "die");
    rename(survey, NameOf::Boundary, "lid", "cover");
    EXPECT_EQ(countOf(survey, NameOf::Boundary, "lid"), 0);
    EXPECT_EQ(survey.gauges[4].where.written["environments"][0][0], "cover");
    EXPECT_EQ(survey.cases[0].split.cuts[0].boundary, "cover");
    EXPECT_THAT(survey.cases[0].split.joins[0].boundaries, UnorderedElementsAre("cover", "side"));
    rename(survey, NameOf::Case, "first", "one");
    EXPECT_EQ(survey.view.caseName, "one");
    EXPECT_EQ(survey.findings[0].caseName, "one");
}

TEST(Names, AGaugeIsFollowedIntoFormulasChartsAndWhatIsNotKnown) {
    const auto renamed = withGaugeId(read(everything), 0, "peak");
    ASSERT_TRUE(renamed) << renamed.error().text();
    EXPECT_EQ(renamed->gauges[1].formula, "2 * peak + max(peak, hotter) - peak 'hot'") << "a unit is no name";
    EXPECT_EQ(renamed->gauges[2].id, "hotter");
    EXPECT_EQ(renamed->gauges[2].rest["reference"]["gauge"], "peak");
    EXPECT_EQ(renamed->limits[2].target.name, "peak");
    EXPECT_EQ(renamed->limits[3].than, "peak");
    EXPECT_EQ(renamed->charts[0].gauges[0], "peak");
    EXPECT_EQ(renamed->charts[0].xOver, "peak");
    EXPECT_EQ(renamed->rest["future"]["gauge"], "peak");
    EXPECT_EQ(countOf(*renamed, NameOf::Gauge, "hot"), 0);
    const auto taken = withGaugeId(*renamed, 0, "touch");
    ASSERT_FALSE(taken);
    EXPECT_EQ(taken.error().code, ErrorCode::NameUnknown);
}

TEST(Names, AMaterialIsFollowedIntoPartsAndLayers) {
    const auto renamed = withMaterialName(read(everything), "paste", "gap filler");
    ASSERT_TRUE(renamed);
    EXPECT_TRUE(renamed->materials.contains("gap filler"));
    EXPECT_EQ(renamed->cases[0].parts.at("chip").material, "gap filler");
    EXPECT_EQ(renamed->gauges[4].rest["layers"][0]["material"], "gap filler");
    EXPECT_FALSE(withMaterialName(*renamed, "paste", "x")) << "it is gone";
}

// Rows of blocks are gauges, viewpoints or who signs: each follows its own kind only.
TEST(Names, BlocksOfTheReportFollowWhatTheySpeakOf) {
    auto survey = read(everything);
    const auto id = survey.gauges[0].id;
    survey.viewpoints.resize(1);
    survey.viewpoints[0].name = id;
    for (const auto* kind : {"gauges", "viewpoint", "signatures"}) {
        survey.report.blocks.emplace_back();
        survey.report.blocks.back().kind = kind;
        survey.report.blocks.back().rows = {id};
    }
    survey.report.blocks[1].name = id;
    const auto gauge = withGaugeId(survey, 0, "peak");
    ASSERT_TRUE(gauge) << gauge.error().text();
    EXPECT_EQ(gauge->report.blocks[0].rows, std::vector<std::string>{"peak"});
    EXPECT_EQ(gauge->report.blocks[1].rows, std::vector<std::string>{id});
    EXPECT_EQ(gauge->report.blocks[2].rows, std::vector<std::string>{id});
    const auto viewpoint = withViewpointRenamed(survey, id, "Front");
    ASSERT_TRUE(viewpoint) << viewpoint.error().text();
    EXPECT_EQ(viewpoint->report.blocks[0].rows, std::vector<std::string>{id});
    EXPECT_EQ(viewpoint->report.blocks[1].rows, std::vector<std::string>{"Front"});
    EXPECT_EQ(viewpoint->report.blocks[1].name, "Front");
    EXPECT_EQ(viewpoint->report.blocks[2].rows, std::vector<std::string>{id});
}

TEST(Names, OfCasesThatAreComparedFollowARename) {
    auto survey = surveyFromJson(Json::parse(R"j({"pyrometer": 1,
        "cases": [{"name": "old", "file": "a.vtm"}, {"name": "new", "file": "b.vtm"}],
        "compare": {"baseline": "old", "of": ["new", "old"]}, "grids": {"cases": ["old", "new"], "size": "cells"},
        "sweep": {"table": "s.csv", "like": "old"}, "measured": [{"id": "m", "file": "m.csv", "case": "old"}],
        "gauges": [{"id": "d", "where": {"part": "p"}, "quantity": "temperature", "minus": {"case": "old"}}],
        "view": {"compare": {"left_out": ["old"]}}})j"),
                                 "test");
    ASSERT_TRUE(survey) << survey.error().text();
    rename(*survey, NameOf::Case, "old", "as built");
    EXPECT_EQ(survey->compare->baseline, "as built");
    EXPECT_EQ(survey->compare->of, (std::vector<std::string>{"new", "as built"}));
    EXPECT_EQ(survey->grids[0].cases[0], "as built");
    EXPECT_EQ(survey->sweep->like, "as built");
    EXPECT_EQ(survey->measured[0].caseName, "as built");
    EXPECT_EQ(survey->gauges[0].rest["minus"]["case"], "as built");
    EXPECT_TRUE(survey->view.compare.left.contains("as built"));
}
