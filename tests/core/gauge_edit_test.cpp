// Changes of gauges and of their chart, and what follows them.
#include "core/report/chart_data.h"
#include "core/survey/gauge_edit.h"
#include "core/survey/survey_file.h"

#include <gtest/gtest.h>

using namespace pyro;

namespace {

Survey surveyOf(const char* json) {
    auto survey = surveyFromJson(Json::parse(json), "test");
    EXPECT_TRUE(survey) << survey.error().text();
    return *survey;
}

ChartCase profileCase(const std::string& name, double shift) {
    auto readings = std::make_shared<Readings>();
    auto profile = std::make_shared<Profile>();
    for (int i = 0; i < 5; ++i) {
        profile->s.push_back(0.01 * i);
        profile->value.push_back(20 + shift + i);
        profile->at.push_back({0.01 * i, 0, 0});
        profile->part.push_back(i < 3 ? 0 : 1);
    }
    GaugeReading reading{"spine", {}, "degC"};
    reading.isTemperature = true;
    reading.profile = profile;
    readings->gauges = {reading, {"delta", 0.02, "m"}};
    return {name, {"Die", "Plate"}, readings, {}};
}

} // namespace

TEST(GaugeEdit, RenamingFollowsEverywhere) {
    auto survey = surveyOf(
        R"j({"pyrometer": 1, "gauges": [{"id": "T_in", "where": {"part": "a"}, "quantity": "temperature"},
        {"id": "h", "where": {"boundary": "b"}, "quantity": "film_coefficient", "reference": {"gauge": "T_in"}},
        {"id": "Q", "formula": "2 'T_in' + T_in * T_inner"}],
        "limits": [{"gauge": "T_in", "max": "60 degC"}, {"part": "a", "rise": {"above": {"gauge": "T_in"}},
          "max": "20 K"}, {"gauge": "h", "difference": {"to": "T_in"}, "max": "5 K"}],
        "charts": [{"curves": [{"gauge": "T_in"}], "x_over": {"gauge": "T_in"}}], "viewpoints": [{"name": "v",
          "marks": [{"gauge": "T_in"}]}],
        "view": {"marks": [{"gauge": "T_in"}]}, "report": {"tables": [{"gauge": "T_in"}]}, "findings": [{"text": "f",
          "about": {"gauge": "T_in"}}]})j");
    const auto renamed = withGaugeId(survey, 0, "T_feed");
    ASSERT_TRUE(renamed);
    EXPECT_EQ(renamed->gauges[1].rest["reference"]["gauge"], "T_feed");
    EXPECT_EQ(renamed->gauges[2].formula, "2 'T_in' + T_feed * T_inner") << "a unit and a longer name are left alone";
    EXPECT_EQ(renamed->limits[0].target.name, "T_feed");
    EXPECT_EQ(renamed->limits[1].than, "T_feed") << "the ambient of a rise";
    EXPECT_EQ(renamed->limits[2].than, "T_feed") << "the other gauge of a difference";
    EXPECT_EQ(chartOf(*renamed).gauges, std::vector<std::string>{"T_feed"});
    auto left = surveyToJson(*renamed).dump();
    left.replace(left.find("2 'T_in'"), 8, "");
    EXPECT_EQ(left.find("T_in\""), std::string::npos) << "somewhere the old name is left: " << left;
    EXPECT_FALSE(withGaugeId(survey, 0, "h"));
    EXPECT_FALSE(withGaugeId(survey, 0, "2nd"));
    EXPECT_FALSE(withGaugeId(survey, 9, "x"));
}

TEST(GaugeEdit, AnotherQuantityTakesItsOwnUnitAndKeys) {
    const auto survey = surveyOf(
        R"j({"pyrometer": 1, "gauges": [{"id": "h", "where": {"boundary": "b"}, "quantity": "film_coefficient",
          "unit": "W/(cm2.K)", "decimals": 2,
        "reference": "20 degC", "method": "conservative", "component": "x", "group": "walls", "level": "3 K"}]})j");
    const auto now = withGaugeField(survey, 0, GaugeField::Quantity, "temperature")->gauges[0];
    EXPECT_EQ(now.unit, "");
    EXPECT_EQ(now.component, "");
    EXPECT_EQ(now.rest, (Json{{"group", "walls"}})) << "what any gauge may have stays: " << now.rest.dump();
    const auto flux = withGaugeField(survey, 0, GaugeField::Quantity, "heat_flux")->gauges[0];
    EXPECT_EQ(flux.rest.value("method", ""), "conservative") << "a heat flux has methods as well";
    const auto same = withGaugeField(survey, 0, GaugeField::Quantity, "film_coefficient")->gauges[0];
    EXPECT_EQ(same, survey.gauges[0]);
    const auto pressure = surveyOf(
        R"j({"pyrometer": 1, "gauges": [{"id": "p", "where": {"part": "b"}, "quantity": "pressure", "unit": "mbar",
          "statistic": "hotspots", "prominence": "3 Pa"}]})j");
    EXPECT_EQ(withGaugeField(pressure, 0, GaugeField::Quantity, "velocity")->gauges[0].rest.dump(), "{}")
        << "a prominence in Pa is none of a velocity";
}

TEST(GaugeEdit, ATimeKeepsTheStatisticInSpace) {
    const auto survey = surveyOf(
        R"j({"pyrometer": 1, "gauges": [{"id": "T", "where": {"part": "b"}, "quantity": "temperature", "unit": "degC",
          "statistic": "max"}]})j");
    const auto reach = *withGaugeField(survey, 0, GaugeField::Statistic, "time_to_reach");
    EXPECT_EQ(reach.gauges[0].rest.value("space", ""), "max");
    EXPECT_EQ(reach.gauges[0].unit, "") << "a time is not in degC";
    const auto levelled = *withGaugeKey(reach, 0, "level", "60 degC");
    const auto above = *withGaugeField(levelled, 0, GaugeField::Statistic, "duration_above");
    EXPECT_EQ(above.gauges[0].rest, (Json{{"space", "max"}, {"level", "60 degC"}}));
    const auto back = *withGaugeField(above, 0, GaugeField::Statistic, "");
    EXPECT_EQ(back.gauges[0].statistic, "max");
    EXPECT_TRUE(back.gauges[0].rest.empty()) << back.gauges[0].rest.dump();
    EXPECT_FALSE(withGaugeKey(reach, 0, "space", "profile"));
    EXPECT_TRUE(withGaugeKey(reach, 0, "space", "p95"));
}

TEST(GaugeEdit, ProminencesAndLevelsHaveTheUnitOfTheirQuantity) {
    const auto survey = surveyOf(
        R"j({"pyrometer": 1, "gauges": [{"id": "p", "where": {"part": "b"}, "quantity": "pressure",
          "statistic": "hotspots"},
        {"id": "T", "where": {"part": "b"}, "quantity": "temperature", "statistic": "hotspots"}, {"id": "own",
          "where": {"part": "b"}, "quantity": "turbulence", "statistic": "hotspots"},
        {"id": "V", "where": {"part": "b"}, "quantity": "volume_above"}]})j");
    EXPECT_TRUE(withGaugeKey(survey, 3, "level", "80 degC")) << "the level of a volume is a temperature";
    EXPECT_FALSE(withGaugeKey(survey, 3, "level", "80 m3"));
    EXPECT_TRUE(withGaugeKey(survey, 0, "prominence", "3 Pa"));
    EXPECT_FALSE(withGaugeKey(survey, 0, "prominence", "3 K"));
    EXPECT_TRUE(withGaugeKey(survey, 1, "prominence", "3 K"));
    EXPECT_FALSE(withGaugeKey(survey, 1, "prominence", "3 Pa"));
    EXPECT_TRUE(withGaugeKey(survey, 2, "prominence", "3 m2/s2")) << "a quantity of the solver's own";
    EXPECT_TRUE(withGaugeKey(survey, 2, "final", "3 m2/s2")) << "the end of an approach is one of its values";
    EXPECT_FALSE(withGaugeKey(survey, 2, "prominence", "3 humours"));
}

TEST(GaugeEdit, FieldsAndKeysAreChecked) {
    Survey survey;
    Gauge gauge;
    gauge.where.written = {{"boundary", "Coolant outlet"}};
    gauge.quantity = "temperature";
    survey = withGauge(survey, gauge);
    EXPECT_EQ(survey.gauges[0].id, "T_coolant_outlet");
    EXPECT_EQ(withGauge(survey, gauge).gauges[1].id, "T_coolant_outlet_1");
    EXPECT_FALSE(withGaugeField(survey, 0, GaugeField::Unit, "humour"));
    EXPECT_FALSE(withGaugeField(survey, 0, GaugeField::Where, "{"));
    EXPECT_FALSE(withGaugeField(survey, 0, GaugeField::Where, R"({"sphere": 3})"));
    EXPECT_EQ(
        withGaugeField(survey, 0, GaugeField::Where, R"({"point": [0, 0, 1]})")->gauges[0].where.written["point"][2],
        1);
    EXPECT_FALSE(withGaugeKey(survey, 0, "reference", "20 W"));
    EXPECT_FALSE(withGaugeKey(survey, 0, "weight", "humour"));
    const auto set = withGaugeKey(survey, 0, "reference", R"({"bulk": "inlet"})");
    ASSERT_TRUE(set);
    EXPECT_EQ(gaugeKey(set->gauges[0], "reference"), R"({"bulk":"inlet"})");
    EXPECT_TRUE(withGaugeKey(*set, 0, "reference", "")->gauges[0].rest.empty());
    EXPECT_TRUE(withoutGauge(survey, 0).gauges.empty());
}

TEST(GaugeEdit, PlacesAreToldInWords) {
    const auto text = [](const char* where) {
        Gauge gauge;
        gauge.where.written = Json::parse(where);
        return placeText(gauge);
    };
    EXPECT_EQ(text(R"({"part": ["a", "b"]})"), "part a, b");
    EXPECT_EQ(text(R"("all")"), "all parts");
    EXPECT_EQ(text(R"({"point": [0.001, "2 mm", 0], "boundary": "skin"})"), "point x 1  y 2  z 0 mm on skin");
    EXPECT_EQ(text(R"({"line": {"from": [0, 0, 0], "to": [0.003, 0.004, 0]}})"), "line of 5 mm");
    EXPECT_EQ(text(R"({"interface": ["a", "b"]})"), "a to b");
    EXPECT_EQ(text(R"({"isotherm": {"value": "85 degC"}})"), "isotherm 85 degC");
}

TEST(ChartData, CurvesMarksDifferencesAndScales) {
    const auto survey = surveyOf(
        R"({"pyrometer": 1, "gauges": [{"id": "spine", "where": {"line": {"from": [0, 0, 0], "to": [0.04, 0, 0]}},
          "quantity": "temperature"},
        {"id": "delta", "where": {"line": {"from": [0, 0, 0], "to": [0.04, 0, 0]}},
          "quantity": "boundary_layer_thickness"}]})");
    const std::vector<ChartCase> cases{profileCase("first", 0), profileCase("second", 3)};
    ChartView view;
    auto chart = chartData(view, "spine", survey, cases);
    ASSERT_EQ(chart.curves.size(), 2U);
    EXPECT_EQ(chart.curves[0].title, "first");
    EXPECT_DOUBLE_EQ(chart.curves[0].x[4], 40);
    EXPECT_EQ(chart.xTitle, "Distance, mm");
    ASSERT_EQ(chart.marks.size(), 1U);
    EXPECT_DOUBLE_EQ(chart.marks[0].first, 25);
    EXPECT_EQ(chart.marks[0].second, "Plate");
    view.difference = true;
    chart = chartData(view, "spine", survey, cases);
    ASSERT_EQ(chart.curves.size(), 1U);
    EXPECT_NEAR(chart.curves[0].y[2], 3, 1e-12);
    EXPECT_EQ(chart.yTitle, "Difference, Temperature, K");
    view.difference = false;
    view.xScale = "delta";
    chart = chartData(view, "spine", survey, cases);
    EXPECT_NEAR(chart.curves[0].x[4], 2, 1e-12);
    EXPECT_NEAR(chart.marks[0].first, 1.25, 1e-12);
    view.xScale.clear();
    view.xAxis = "x";
    EXPECT_DOUBLE_EQ(chartData(view, "spine", survey, cases).curves[0].x[4], 40);
    EXPECT_EQ(chartData(view, "spine", survey, cases).xTitle, "x, mm");
    view.xOver = "spine";
    const auto over = chartData(view, "spine", survey, cases);
    EXPECT_EQ(over.curves[1].x, over.curves[1].y) << "each case over its own profile";
    EXPECT_EQ(over.xTitle, "spine, \u00b0C");
    view.xOver = "delta";
    EXPECT_NE(chartData(view, "spine", survey, cases).remarks.at(0).find("no profile"), std::string::npos);
    view.xOver.clear();
    view.xAxis.clear();
    view.gauges = {"gone"};
    EXPECT_EQ(chartData(view, "spine", survey, cases).remarks.size(), 1U);
    EXPECT_NE(chartCsv(chart).find("first,2,24,0.04,0,0"), std::string::npos) << chartCsv(chart);
}

TEST(ChartView, ASurveyHasSeveral) {
    Survey survey;
    ChartView first;
    first.gauges = {"a"};
    ChartView second;
    second.title = "Walls";
    second.xAxis = "z";
    second.yRange = {20, 90};
    survey = withChart(withChart(survey, first), second, 1);
    EXPECT_EQ(chartOf(survey), first);
    EXPECT_EQ(chartOf(survey, 1), second);
    EXPECT_EQ(chartName(survey, 0), "a");
    EXPECT_EQ(chartName(survey, 1), "Walls");
    EXPECT_EQ(chartOf(withoutChart(survey, 0)), second);
    EXPECT_EQ(chartOf(survey, 7), ChartView{}) << "one that is not there is as a new one";
}

TEST(ChartView, SurvivesASaveAndDefaultsWhereBroken) {
    ChartView view;
    view.gauges = {"a", "b"};
    view.logY = true;
    view.yTitle = "q";
    view.xRange = {1.0, 2.0};
    view.references = {{"plate_laminar_local", {2, 0, 0.026, 1.6e-5, 0.7, 0, 0}, 0.01}};
    const auto survey = withChart({}, view);
    EXPECT_EQ(chartOf(*surveyFromJson(surveyToJson(survey), "test")), view);
    const auto broken = surveyFromJson(
        Json::parse(R"({"pyrometer": 1, "charts": [{"curves": 3, "log_x": "yes", "x_range": [2, 1]}, 4]})"), "test");
    ASSERT_TRUE(broken);
    EXPECT_EQ(chartOf(*broken), ChartView());
    EXPECT_EQ(surveyToJson(*broken)["charts"][1], 4) << "what cannot be read stays";
}
