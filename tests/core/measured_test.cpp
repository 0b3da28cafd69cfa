// Measured data held against a simulation: places, gauges, times, uncertainties.
#include "core/report/readings_json.h"
#include "core/report/shown/shown_table.h"
#include "tests/support/meshes.h"
#include "tests/support/survey_on_disk.h"

#include <fmt/format.h>
#include <fmt/ranges.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// T = 300 K + 40 x/m, in a bar of 1 m with a block beside it, 20 mm apart.
void writeMeasuredCase(const TempFolder& folder, const std::string& file, double constant = 300) {
    auto bar = boxPart("bar", {{1, 0.1, 0.1}, {4, 2, 2}});
    auto block = boxPart("block", {{0.1, 0.1, 0.1}, {1, 1, 1}, {1.02, 0, 0}});
    for (auto* part : {&bar, &block})
        addNodeField(*part, "T [K]", [&](const Point& at) { return constant + 40 * at[0]; });
    ASSERT_TRUE(writeCase(std::vector{bar, block}, folder / file));
}

Json measuredSurvey() {
    return Json::parse(R"j({"pyrometer": 1, "cases": [{"name": "bar", "file": "bar.vtm", "ambient": "290 K"}],
        "gauges": [{"id": "T_mean", "where": {"part": "bar"}, "quantity": "temperature"}],
        "measured": [{"id": "tc", "file": "tc.csv", "case": "bar"}]})j");
}

MeasuredReading measuredIn(const TempFolder& folder, const std::string& csv, Json survey = measuredSurvey()) {
    writeText(folder / "tc.csv", csv);
    const auto run = runIn(folder, survey);
    EXPECT_EQ(run.cases.at(0).measured.size(), 1U);
    return run.cases[0].measured.empty() ? MeasuredReading{} : run.cases[0].measured[0];
}

} // namespace

// By hand: simulated 46.85 and 56.85 degC at x = 0.5 and 0.75 m; E_n = deviation / U, ISO/IEC 17043.
TEST(Measured, DeviationsAndNormalisedDeviations) {
    const TempFolder folder;
    writeMeasuredCase(folder, "bar.vtm");
    const auto found = measuredIn(folder, "Name;x [mm];y [mm];z [mm];Value [degC];Uncertainty [K]\n"
                                          "TC1;500;50;50;45.85;2\nTC2;750;50;50;60.85;1\nTC3;0;0;0;27.85;\n");
    ASSERT_TRUE(found.why.empty()) << found.why;
    ASSERT_EQ(found.points.size(), 3U);
    EXPECT_NEAR(*found.points[0].simulated, 46.85, 1e-9);
    EXPECT_NEAR(*found.points[0].deviation, 1, 1e-9) << "simulated minus measured";
    EXPECT_NEAR(*found.points[0].normalised, 0.5, 1e-9);
    EXPECT_NEAR(*found.points[1].deviation, -4, 1e-9);
    EXPECT_NEAR(*found.points[1].normalised, -4, 1e-9);
    EXPECT_FALSE(found.points[2].normalised);
    EXPECT_NEAR(*found.mean, (1 - 4 - 1) / 3.0, 1e-9);
    EXPECT_NEAR(*found.rms, std::sqrt((1 + 16 + 1) / 3.0), 1e-9);
    EXPECT_NEAR(*found.largest, -4, 1e-9);
    EXPECT_NEAR(*found.within, 0.5, 1e-12);
    EXPECT_NE(found.notes.back().find("uncertainty of the simulation"), std::string::npos);
    const auto shown = shownMeasured(found, TemperatureUnit::Celsius);
    EXPECT_EQ(shown.rows[1][4], "-4.0 K");
    EXPECT_EQ(shown.rows[1][6], "-4.00");
}

TEST(Measured, PlacesBesideTheMeshAreFoundOnTheSurface) {
    const TempFolder folder;
    writeMeasuredCase(folder, "bar.vtm");
    const std::string head = "name,x [mm],y [mm],z [mm],value [K],part\n";
    const auto found = measuredIn(folder, head + "near,500,50,104,310,\nfar,500,50,150,310,\ngap,1008,50,50,330,\n"
                                                 "forced,1005,50,50,340,block\nlost,1,1,1,300,nowhere\n");
    EXPECT_NEAR(*found.points[0].simulated, 320, 1e-9);
    EXPECT_NEAR(*found.points[0].distance, 0.004, 1e-9) << "within a hundredth of the bar's length";
    EXPECT_NE(found.points[1].why.find("50 mm away"), std::string::npos) << found.points[1].why;
    EXPECT_NEAR(*found.points[2].distance, 0.008, 1e-9) << "in the gap, at the nearer part";
    EXPECT_NE(found.points[3].why.find("block"), std::string::npos) << found.points[3].why;
    EXPECT_NE(found.points[4].why.find("\"nowhere\""), std::string::npos);
    auto survey = measuredSurvey();
    survey["measured"][0]["within"] = "60 mm";
    EXPECT_NEAR(*measuredIn(folder, head + "far,500,50,150,310,\n", survey).points[0].distance, 0.05, 1e-9);
}

TEST(Measured, GaugesAndTheirMeshUncertainty) {
    const TempFolder folder;
    writeMeasuredCase(folder, "bar.vtm");
    writeMeasuredCase(folder, "coarse.vtm", 303);
    auto survey = measuredSurvey();
    survey["cases"].push_back({{"name", "coarse"}, {"file", "coarse.vtm"}});
    survey["grids"] = {{"cases", {"bar", "coarse"}}, {"size", {"1 mm", "2 mm"}}};
    const auto found = measuredIn(folder, "gauge,value [degC],uncertainty [K]\nT_mean,44.85,12\nnone,1,1\n", survey);
    EXPECT_NEAR(*found.points[0].deviation, 2, 1e-9);
    // two meshes: 3 times the change of 3 K, over 2 - 1
    EXPECT_NEAR(*found.points[0].normalised, 2 / std::hypot(12, 9), 1e-9) << "with the uncertainty of the mesh";
    EXPECT_NE(found.points[1].why.find("no gauge"), std::string::npos);
}

TEST(Measured, TimesAreInterpolatedAndMustOverlap) {
    const TempFolder folder;
    writeMeasuredCase(folder, "a.vtm", 300);
    writeMeasuredCase(folder, "b.vtm", 310);
    writeText(folder / "bar.csv", "time,file\n0,a.vtm\n10,b.vtm\n");
    auto survey = measuredSurvey();
    survey["cases"][0]["file"] = "bar.csv";
    const auto found = measuredIn(folder,
                                  "name,x [m],y [m],z [m],time [min],value [K]\n"
                                  "a,0.5,0.05,0.05,0.1,325\nb,0.5,0.05,0.05,1,325\n",
                                  survey);
    EXPECT_NEAR(*found.points[0].time, 6, 1e-12);
    EXPECT_NEAR(*found.points[0].simulated, 326, 1e-9) << "between 320 K at 0 s and 330 K at 10 s";
    EXPECT_NE(found.points[1].why.find("from 0 s to 10 s"), std::string::npos);
}

TEST(Measured, TheAmbientOfTheTestIsShiftedWhereTheCaseIsLinear) {
    const TempFolder folder;
    writeMeasuredCase(folder, "bar.vtm");
    auto survey = measuredSurvey();
    survey["measured"][0]["ambient"] = "285 K"; // the case has 290 K
    const std::string csv = "name,x [m],y [m],z [m],value [K]\na,0.5,0.05,0.05,314\n";
    const auto found = measuredIn(folder, csv, survey);
    EXPECT_NEAR(*found.points[0].measured, 319, 1e-9);
    EXPECT_NEAR(*found.points[0].deviation, 1, 1e-9);
    EXPECT_NE(found.notes.back().find("+5 K"), std::string::npos) << found.notes.back();
    survey["cases"][0]["nonlinear"] = {"radiation"};
    EXPECT_NEAR(*measuredIn(folder, csv, survey).points[0].deviation, 6, 1e-9) << "not shifted, which is said";
}

TEST(Measured, TablesThatCannotBeReadSayWhy) {
    const TempFolder folder;
    writeMeasuredCase(folder, "bar.vtm");
    const auto why = [&](const std::string& csv) { return measuredIn(folder, csv).why; };
    EXPECT_NE(why("name,x,y,z,value\na,0,0,0,30\n").find("degC or K"), std::string::npos) << "no guess";
    EXPECT_NE(why("name,x,y,z,T [degC]\na,0,0,0,30\n").find("\"value\""), std::string::npos);
    EXPECT_NE(why("name,value [degC]\na,30\n").find("x, y and z"), std::string::npos);
    EXPECT_NE(why("name,x,y,z,value [W]\na,0,0,0,30\n").find("W"), std::string::npos);
    EXPECT_NE(why("").find("empty"), std::string::npos);
    const auto some = measuredIn(folder,
                                 "name,x [m],y [m],z [m],value [K]\na,0.5,?,0,300\nb,0.5,0,0,\nc,0.5,0,0,320\n");
    EXPECT_NE(some.points[0].why.find("\"?\" is no number"), std::string::npos);
    EXPECT_NE(some.points[1].why.find("no value"), std::string::npos);
    EXPECT_NEAR(*some.points[2].deviation, 0, 1e-9) << "the rest goes on";
    auto survey = measuredSurvey();
    survey["measured"][0]["file"] = "gone.csv";
    const auto run = runIn(folder, survey);
    EXPECT_NE(run.cases[0].measured[0].why.find("gone.csv"), std::string::npos);
    EXPECT_EQ(runToJson(run)["measured"][0]["points"].size(), 0U);
}

// A logger: a column of times, one for each sensor; what the survey does not know is left out and told.
TEST(Measured, ColumnsOfALoggerAreSensors) {
    const TempFolder folder;
    writeMeasuredCase(folder, "a.vtm", 300);
    writeMeasuredCase(folder, "b.vtm", 310);
    writeText(folder / "bar.csv", "time,file\n0,a.vtm\n10,b.vtm\n");
    auto survey = measuredSurvey();
    survey["cases"][0]["file"] = "bar.csv";
    survey["measured"][0]["uncertainty"] = "2 K";
    survey["measured"][0]["sensors"] = {{"CH1", {{"at", {"500 mm", 0.05, 0.05}}, {"uncertainty", "1 K"}}},
                                        {"CH9", {{"at", {0, 0, 0}}}}};
    const auto found = measuredIn(folder,
                                  "Time;CH1 [degC];T_mean [K];Battery [V]\n2026-05-04 12:00:00;46.85;320;12\n"
                                  "2026-05-04 12:00:05;51.85;;12\n2026-05-04 12:00:10;57.85;x;12\n",
                                  survey);
    ASSERT_TRUE(found.why.empty()) << found.why;
    ASSERT_EQ(found.points.size(), 5U) << "an empty field is no reading";
    EXPECT_EQ(found.points[0].name, "CH1");
    EXPECT_NEAR(*found.points[0].deviation, 0, 1e-9);
    EXPECT_EQ(found.points[1].name, "T_mean");
    EXPECT_NEAR(*found.points[1].uncertainty, 2, 1e-12);
    EXPECT_NEAR(*found.points[1].deviation, 0, 1e-9);
    EXPECT_NEAR(*found.points[2].time, 5, 1e-9);
    EXPECT_NEAR(*found.points[2].deviation, 0, 1e-9) << "325 K half way between two steps";
    EXPECT_NEAR(*found.points[3].normalised, -1, 1e-9);
    EXPECT_NE(found.points[4].why.find("\"x\" is no number"), std::string::npos);
    const auto notes = fmt::format("{}", fmt::join(found.notes, "; "));
    for (const auto* word : {"CH9", "Battery", "counted from 2026-05-04 12:00:00"})
        EXPECT_NE(notes.find(word), std::string::npos) << notes;
    survey["measured"][0].erase("sensors");
    EXPECT_NE(measuredIn(folder, "time,CH1 [degC]\n0,1\n", survey).why.find("like a gauge"), std::string::npos);
}
