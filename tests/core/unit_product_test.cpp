// Units to multiply and divide (against the SI brochure's derived units), sentences with units, histories of one value.
#include "core/readings/history.h"
#include "core/units/typographic.h"
#include "core/units/unit_product.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

namespace {

UnitProduct unit(const char* text) {
    auto made = UnitProduct::of(text);
    EXPECT_TRUE(made) << text;
    return made ? *made : UnitProduct();
}

History history(std::vector<double> time, std::vector<double> value) {
    return {std::move(time), std::move(value), "degC", true, true};
}

} // namespace

TEST(UnitProduct, DerivedUnitsAreThoseOfTheSi) {
    const std::pair<UnitProduct, const char*> same[]{
        {unit("J") / unit("s"), "W"},
        {unit("W") / unit("m2"), "W/m2"},
        {unit("W/m2") / unit("K"), "W/(m2.K)"},
        {unit("kg/s") * unit("J/(kg.K)") * unit("K"), "W"},
        {unit("Pa") * unit("m3"), "J"},
        {unit("N") / unit("m2"), "Pa"},
        {unit("kg/m3") * unit("m/s") * unit("m") / unit("Pa.s"), "1"}, // Reynolds
        {unit("m2.K/W") * unit("W/m2"), "K"},
    };
    for (const auto& [product, name] : same)
        EXPECT_TRUE(product.sameAs(unit(name))) << product.text() << " against " << name;
    EXPECT_TRUE((unit("m") / unit("mm")).isNumber());
    EXPECT_TRUE(UnitProduct().isNumber());
    EXPECT_FALSE(unit("K").isNumber());
    EXPECT_FALSE(unit("K").sameAs(unit("m")));
}

TEST(UnitProduct, TextsAreThoseOfTheTrade) {
    EXPECT_EQ(unit("W/(m2.K)").text(), "W/(m2.K)");
    EXPECT_EQ((unit("W") / unit("m") / unit("K")).text(), "W/(m.K)");
    EXPECT_EQ(unit("degC").text(), "K") << "scales and offsets are dropped";
    EXPECT_EQ(unit("kW").text(), "W");
}

TEST(UnitProduct, PowersAndWhatIsNoUnit) {
    EXPECT_TRUE(unit("m").power(2)->sameAs(unit("m2")));
    EXPECT_TRUE(unit("m2").power(0.5)->sameAs(unit("m")));
    EXPECT_TRUE(unit("s").power(-1)->sameAs(unit("Hz")));
    EXPECT_TRUE(unit("m").power(0)->isNumber());
    const auto half = unit("m").power(0.5);
    ASSERT_FALSE(half);
    EXPECT_EQ(half.error().code, ErrorCode::WrongUnit);
    const auto unknown = UnitProduct::of("furlongs per fortnight and a half");
    ASSERT_FALSE(unknown);
    EXPECT_EQ(unknown.error().code, ErrorCode::WrongUnit);
}

TEST(Typographic, UnitsInSentencesAreSetAndNumbersStay) {
    EXPECT_EQ(typographic("0.13 W/(m.K) at 20 degC"), "0.13 W/(m\u00b7K) at 20 \u00b0C");
    EXPECT_EQ(typographic("2 m2.K/W, 3 cm2, 4 cm3"), "2 m\u00b2\u00b7K/W, 3 cm\u00b2, 4 cm\u00b3");
    EXPECT_EQ(typographic("no unit in 3.5 of 7"), "no unit in 3.5 of 7");
    EXPECT_EQ(typographic(""), "");
}

TEST(History, CrossingsAreFoundBetweenSteps) {
    const auto rising = history({0, 10, 20, 30}, {20, 40, 60, 80});
    EXPECT_NEAR(*crossing(rising, 50, false), 15, 1e-12);
    EXPECT_NEAR(*crossing(rising, 80, false), 30, 1e-12) << "reached at the very end";
    EXPECT_FALSE(crossing(rising, 81, false));
    EXPECT_NEAR(crossing(rising, 20, false).value_or(-1), 0, 1e-12) << "where it begins";
    const auto falling = history({0, 10}, {80, 20});
    EXPECT_NEAR(*crossing(falling, 50, false), 5, 1e-12);
    EXPECT_NEAR(crossing(falling, 50, true).value_or(-1), 0, 1e-12) << "above from the beginning";
    const auto late = history({0, 10, 20, 30}, {40, 45, 40, 60});
    EXPECT_NEAR(*crossing(late, 44, true), 8, 1e-12) << "the first time";
    EXPECT_NEAR(*crossing(late, 50, true), 25, 1e-12);
}

TEST(History, TimeAboveALevelIsSummedOverAllPeaks) {
    const auto peaks = history({0, 10, 20, 30, 40}, {40, 60, 40, 60, 40});
    EXPECT_NEAR(durationAbove(peaks, 50), 20, 1e-12) << "two times ten seconds";
    EXPECT_NEAR(durationAbove(peaks, 60), 0, 1e-12);
    EXPECT_NEAR(durationAbove(peaks, 30), 40, 1e-12) << "always";
    EXPECT_NEAR(durationAbove(history({0, 1, 5}, {10, 10, 10}), 10), 0, 1e-12) << "at the level is not above";
}

TEST(History, LevelsAreReadInItsUnit) {
    const auto celsius = history({0, 1}, {20, 30});
    EXPECT_NEAR(*inUnitOf(celsius, "85 degC"), 85, 1e-9);
    EXPECT_NEAR(*inUnitOf(celsius, "358.15 K"), 85, 1e-9);
    EXPECT_NEAR(*inUnitOf(celsius, "358.15"), 85, 1e-9) << "a bare number is SI";
    EXPECT_NEAR(*inUnitOf(celsius, "185 degF"), 85, 1e-6);
    EXPECT_FALSE(inUnitOf(celsius, "5 W"));
    EXPECT_FALSE(inUnitOf(celsius, "warm"));
}
