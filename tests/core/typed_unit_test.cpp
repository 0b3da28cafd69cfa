// What a bare number means in the fields of the window.
#include "core/survey/survey_file.h"
#include "core/survey/typed_unit.h"

#include <gtest/gtest.h>

using namespace pyro;

TEST(TypedUnit, ABareNumberTakesTheUnitAndNothingElseDoes) {
    EXPECT_EQ(withUnit("34", "degC"), "34 degC");
    EXPECT_EQ(withUnit("-2.5e1", "degC"), "-2.5e1 degC");
    EXPECT_EQ(withUnit("34 K", "degC"), "34 K");
    EXPECT_EQ(withUnit("34", ""), "34");
    EXPECT_EQ(withUnit("hot", "degC"), "hot");
    EXPECT_EQ(withUnit("", "degC"), "");
    EXPECT_EQ(unitOfText("10 mm"), "mm");
    EXPECT_EQ(unitOfText("10"), "");
}

TEST(TypedUnit, IsTheOneOnDisplayInEachField) {
    const auto survey = *surveyFromJson(
        Json::parse(
            R"j({"pyrometer": 1, "gauges": [{"id": "Q", "where": {"boundary": "b"}, "quantity": "heat_flux",
              "statistic": "integral", "unit": "kW"},
        {"id": "T", "where": {"part": "a"}, "quantity": "temperature", "unit": "degF"}, {"id": "t",
          "where": {"part": "a"}, "quantity": "temperature", "statistic": "time_to_reach"},
        {"id": "v", "where": {"part": "a"}, "quantity": "velocity", "statistic": "first_above"}, {"id": "h",
          "where": {"boundary": "b"}, "quantity": "film_coefficient"}],
        "limits": [{"part": "a", "max": "60 degC"}, {"gauge": "Q", "max": "2 kW"}, {"gauge": "T", "max": "90 degC"},
          {"part": "a", "rise": {}, "max": "40 K"},
                   {"part": "a", "share_above": {"level": "80 degC"}, "max": "5 %"}, {"gauge": "t",
                     "max": "60 s"}]})j"),
        "test");
    ViewState view;
    view.unit = TemperatureUnit::Celsius;
    view.units["velocity"] = "ft/min";
    const auto of = [&](std::size_t limit, LimitField field) {
        return typedUnit(survey, survey.limits[limit], field, view);
    };
    EXPECT_EQ(of(0, LimitField::Max), "degC");
    EXPECT_EQ(of(0, LimitField::Margin), "K") << "a margin is a difference";
    EXPECT_EQ(of(1, LimitField::Max), "kW");
    EXPECT_EQ(of(2, LimitField::Max), "degF");
    EXPECT_EQ(of(2, LimitField::Margin), "K");
    EXPECT_EQ(of(3, LimitField::Max), "K");
    EXPECT_EQ(of(3, LimitField::Above), "degC");
    EXPECT_EQ(of(4, LimitField::Max), "%");
    EXPECT_EQ(of(4, LimitField::Level), "degC");
    EXPECT_EQ(of(5, LimitField::Max), "s");
    EXPECT_EQ(of(0, LimitField::Source), "");
    const auto key = [&](std::size_t gauge, const char* name) { return typedUnit(survey.gauges[gauge], name, view); };
    EXPECT_EQ(key(2, "level"), "degC");
    EXPECT_EQ(key(3, "level"), "ft/min");
    EXPECT_EQ(key(1, "prominence"), "K");
    EXPECT_EQ(key(4, "reference"), "degC");
    EXPECT_EQ(key(4, "length"), "mm");
    EXPECT_EQ(key(4, "method"), "");
    view.unit = TemperatureUnit::Kelvin;
    EXPECT_EQ(of(0, LimitField::Max), "K");
}
