// How values are written: unit and digits by the user's choice, and never a misleading zero.
#include "core/survey/shown_unit.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

TEST(ShownUnit, TemperaturesFollowTheChosenUnit) {
    ViewState view;
    const auto celsius = shownUnit("temperature", "K", view);
    EXPECT_EQ(celsius.text(373.15), "100.0 \u00b0C");
    EXPECT_EQ(celsius.differenceText(5), "5.0 K");
    EXPECT_NEAR(celsius.si(100), 373.15, 1e-12);
    view.unit = TemperatureUnit::Fahrenheit;
    view.decimals["temperature"] = 2;
    const auto fahrenheit = shownUnit("temperature", "K", view);
    EXPECT_EQ(fahrenheit.text(373.15), "212.00 \u00b0F");
    EXPECT_EQ(fahrenheit.differenceText(5), "9.00 \u00b0F (difference)");
    EXPECT_TRUE(fahrenheit.isTemperature());
}

// 1 ft = 0.3048 m by definition; 1 Btu(IT) = 1055.056 J (NIST SP 811, from memory).
TEST(ShownUnit, OtherQuantitiesHaveUnitsOfTheirOwn) {
    ViewState view;
    EXPECT_EQ(shownUnit("velocity", "m/s", view).text(0.02345678), "0.02346 m/s");
    view.units["velocity"] = "ft/min";
    view.units["heat_flux"] = "Btu/(h.ft2)";
    EXPECT_EQ(shownUnit("velocity", "m/s", view).text(0.3048), "60 ft/min");
    EXPECT_NEAR(shownUnit("heat_flux", "W/m2", view).of(1000), 1000 * 3600 * 0.3048 * 0.3048 / 1055.056, 1e-3);
    EXPECT_EQ(shownUnit("velocity", "m/s", view).symbol(), "ft/min");
}

TEST(ShownUnit, AUnitThatDoesNotFitCountsAsNone) {
    ViewState view;
    view.units["velocity"] = "kg";
    EXPECT_EQ(shownUnit("velocity", "m/s", view).text(1.5), "1.5 m/s");
    EXPECT_EQ(shownUnit("swirl", "", view).text(1.5), "1.5");
    EXPECT_EQ(shownUnit("velocity", "m/s", view).text(std::nan("")), "unknown");
}

TEST(ShownUnit, SmallValuesKeepTheirDigits) {
    ViewState view;
    view.decimals["velocity"] = 1;
    EXPECT_EQ(shownUnit("velocity", "m/s", view).text(0.00021), "2.10e-04 m/s");
    EXPECT_EQ(shownUnit("velocity", "m/s", view).text(0), "0.0 m/s");
    EXPECT_EQ(shownUnit("velocity", "m/s", view).number(0.25, 2), "0.250");
}

TEST(ShownUnit, ChoicesMeasureTheSame) {
    for (const char* unit : {"m/s", "W/m2", "W/m3", "W", "W/(m2.K)", "W/(m.K)", "Pa", "kg/s", "m"}) {
        const auto choices = unitChoices(unit);
        EXPECT_GT(choices.size(), 1U) << unit;
        EXPECT_EQ(choices.front(), unit);
        for (const auto& choice : choices)
            EXPECT_TRUE(conversion(unit, choice)) << choice;
    }
    EXPECT_EQ(unitChoices("kg/m3").size(), 1U);
    EXPECT_TRUE(unitChoices("").empty());
}
