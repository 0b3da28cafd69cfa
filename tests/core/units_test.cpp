#include "core/units/display.h"
#include "core/units/unit.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

// Fixed points of the temperature scales by definition (BIPM, SI brochure, 9th edition): 0 degC = 273.15 K,
// 32 degF = 0 degC, 212 degF = 100 degC.
TEST(Units, TemperaturesAreOffset) {
    EXPECT_NEAR(parseTemperature("0 degC")->kelvin, 273.15, 1e-12);
    EXPECT_NEAR(parseTemperature("32 degF")->kelvin, 273.15, 1e-10);
    EXPECT_NEAR(parseTemperature("212 \u00b0F")->kelvin, 373.15, 1e-10);
    EXPECT_NEAR(parseTemperature("-40 \u00b0C")->kelvin, parseTemperature("-40 degF")->kelvin, 1e-10);
    EXPECT_DOUBLE_EQ(parseTemperature("300")->kelvin, 300);
}

TEST(Units, DifferencesAreNeverOffset) {
    EXPECT_DOUBLE_EQ(parseDifference("10 K")->kelvin, 10);
    const auto celsius = parseDifference("10 degC");
    ASSERT_FALSE(celsius);
    EXPECT_EQ(celsius.error().code, ErrorCode::WrongUnit);
    EXPECT_NE(celsius.error().remedy.find("10 K"), std::string::npos);
    EXPECT_DOUBLE_EQ(toDisplay(TemperatureDifference{10}, TemperatureUnit::Fahrenheit), 18);
    EXPECT_DOUBLE_EQ(toDisplay(TemperatureDifference{10}, TemperatureUnit::Celsius), 10);
}

TEST(Units, ConvertsEngineeringUnits) {
    // International table values by definition: 1 Btu = 1055.05585262 J, 1 ft = 0.3048 m (NIST SP 811, appendix B).
    EXPECT_NEAR(*parseMeasured("1 Btu/(h.ft2)", "W/m2"), 1055.05585262 / 3600 / (0.3048 * 0.3048), 1e-3);
    EXPECT_NEAR(*parseMeasured("2 L/min", "m3/s"), 2e-3 / 60, 1e-12);
    EXPECT_NEAR(*parseMeasured("4.186 kJ/(kg.K)", "J/(kg.K)"), 4186, 1e-9);
    EXPECT_NEAR(*parseMeasured("4 mm", "m"), 0.004, 1e-15);
    EXPECT_DOUBLE_EQ(*parseMeasured("12", "W"), 12);
}

TEST(Units, RefusesWhatDoesNotFitAndNamesBoth) {
    const auto wrong = parseMeasured("12 W/m2", "W");
    ASSERT_FALSE(wrong);
    EXPECT_EQ(wrong.error().code, ErrorCode::WrongUnit);
    EXPECT_NE(wrong.error().what.find("W/m2"), std::string::npos);
    EXPECT_NE(wrong.error().what.find("\"W\""), std::string::npos);
    EXPECT_EQ(parseMeasured("12 wobbles", "W").error().code, ErrorCode::WrongUnit);
    EXPECT_EQ(parseMeasured("twelve W", "W").error().code, ErrorCode::Syntax);
    EXPECT_EQ(parseMeasured("nan W", "W").error().code, ErrorCode::Syntax);
    EXPECT_EQ(parseTemperature("-300 degC").error().code, ErrorCode::WrongType);
}

// UDUNITS converts a unit to its reciprocal too, which no straight line does.
TEST(Units, AReciprocalIsAnotherQuantity) {
    EXPECT_FALSE(conversion("K/W", "W/K"));
    EXPECT_FALSE(sameDimension("1/K", "K"));
    EXPECT_FALSE(sameDimension("s", "Hz"));
    EXPECT_FALSE(parseMeasured("5 W/K", "K/W"));
    EXPECT_TRUE(sameDimension("1/s", "Hz"));
    EXPECT_TRUE(sameDimension("%", "1"));
    EXPECT_NEAR(conversion("degF", "K")->operator()(32), 273.15, 1e-9);
}

TEST(Display, NoMisleadingZero) {
    EXPECT_EQ(formatNumber(0.0), "0.0");
    EXPECT_EQ(formatNumber(0.004), "4.00e-03");
    EXPECT_EQ(formatNumber(-0.004), "-4.00e-03");
    EXPECT_EQ(formatNumber(0.06), "0.1");
    EXPECT_EQ(formatNumber(std::nan("")), "unknown");
    EXPECT_EQ(formatShare(0), "0 %");
    EXPECT_EQ(formatShare(1e-7), "< 0.1 %");
    EXPECT_EQ(formatShare(0.99999), "> 99.9 %");
}

TEST(Display, TemperaturesInThreeUnits) {
    EXPECT_EQ(formatTemperature({383.15}, TemperatureUnit::Celsius), "110.0 \u00b0C");
    EXPECT_EQ(formatTemperature({383.15}, TemperatureUnit::Fahrenheit), "230.0 \u00b0F");
    EXPECT_EQ(formatTemperature({383.15}, TemperatureUnit::Kelvin), "383.1 K");
    for (const auto unit : {TemperatureUnit::Celsius, TemperatureUnit::Kelvin, TemperatureUnit::Fahrenheit})
        EXPECT_NEAR(fromDisplay(toDisplay(Temperature{351.2}, unit), unit).kelvin, 351.2, 1e-10);
}
