// How values are written for people.
#include "core/units/display.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

TEST(Display, Numbers) {
    const struct {
        double value;
        int decimals;
        const char* text;
    } rows[]{
        {112.689, 1, "112.7"}, {112.65, 0, "113"},           {-2.69, 1, "-2.7"},
        {0, 1, "0.0"},         {0.04, 1, "4.00e-02"},        {-0.04, 1, "-4.00e-02"},
        {0.05, 1, "0.1"},      {1e-5, 3, "1.00e-05"},        {1e-14, 1, "0.0"},
        {1e6, 1, "1000000.0"}, {std::nan(""), 1, "unknown"}, {INFINITY, 1, "unknown"},
    };
    for (const auto& row : rows)
        EXPECT_EQ(formatNumber(row.value, row.decimals), row.text) << row.value;
}

TEST(Display, Shares) {
    const struct {
        double share;
        const char* text;
    } rows[]{{0, "0 %"},         {1, "100 %"},         {0.5, "50.0 %"},  {0.0005, "< 0.1 %"},
             {1e-12, "< 0.1 %"}, {0.9999, "> 99.9 %"}, {0.123, "12.3 %"}};
    for (const auto& row : rows)
        EXPECT_EQ(formatShare(row.share), row.text) << row.share;
}

TEST(Display, TemperaturesAndDifferencesThereAndBack) {
    for (const auto unit : {TemperatureUnit::Celsius, TemperatureUnit::Kelvin, TemperatureUnit::Fahrenheit}) {
        EXPECT_EQ(temperatureUnitFromName(udunitsName(unit)), unit);
        for (const double kelvin : {0.0, 255.372, 273.15, 383.15})
            EXPECT_NEAR(fromDisplay(toDisplay(Temperature{kelvin}, unit), unit).kelvin, kelvin, 1e-9);
    }
    EXPECT_FALSE(temperatureUnitFromName("rankine"));
    EXPECT_EQ(formatTemperature({383.15}, TemperatureUnit::Fahrenheit), "230.0 \u00b0F");
    EXPECT_EQ(formatDifference({10}, TemperatureUnit::Celsius), "10.0 K") << "a difference is never in degrees Celsius";
    EXPECT_EQ(formatDifference({-10}, TemperatureUnit::Fahrenheit), "-18.0 \u00b0F (difference)");
    EXPECT_EQ(formatSi(22.8, "W"), "22.8 W");
    EXPECT_EQ(formatSi(1.23456e-7, "W"), "1.235e-07 W");
    EXPECT_EQ(formatSi(std::nan(""), "W"), "unknown");
}
