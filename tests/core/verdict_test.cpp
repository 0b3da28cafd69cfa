#include "core/limits/judge.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

TEST(Verdict, AtTheEdges) {
    EXPECT_EQ(judge({10}, {10}), Verdict::Within); // exactly the required margin is enough
    EXPECT_EQ(judge({std::nextafter(10, 0)}, {10}), Verdict::Tight);
    EXPECT_EQ(judge({0}, {10}), Verdict::Tight);
    EXPECT_EQ(judge({0}, {0}), Verdict::Within);
    EXPECT_EQ(judge({-1e-9}, {0}), Verdict::Over);
    EXPECT_EQ(judge({std::nan("")}, {0}), Verdict::Unknown);
}

TEST(Verdict, OverBeforeUnknownBeforeTight) {
    EXPECT_EQ(worse(Verdict::Unknown, Verdict::Over), Verdict::Over);
    EXPECT_EQ(worse(Verdict::Tight, Verdict::Unknown), Verdict::Unknown);
    EXPECT_EQ(worse(Verdict::Within, Verdict::Tight), Verdict::Tight);
}

namespace {

Readings readingsOf(const std::string& part, double min, double max) {
    Readings readings{};
    RegionReading region{part, 1, 8, 1.0, Temperature{min}, Temperature{max}, Temperature{max}, {}, {}, {}};
    readings.parts.push_back(region);
    return readings;
}

Limit limitOn(const std::string& part, std::optional<double> max, std::optional<double> min, double margin) {
    Limit limit;
    limit.target = {TargetKind::Part, part};
    if (max)
        limit.max = Bound{"", *max};
    if (min)
        limit.min = Bound{"", *min};
    limit.margin = Bound{"", margin};
    return limit;
}

} // namespace

TEST(Limits, MaximumAndMinimumTheSmallerMarginDecides) {
    const auto readings = readingsOf("battery", 268, 320);
    const auto cold = judgeLimit(limitOn("battery", 333, 263, 10), readings);
    EXPECT_FALSE(cold.isMaximum);
    EXPECT_DOUBLE_EQ(*cold.margin, 5);
    EXPECT_EQ(cold.verdict, Verdict::Tight);
    const auto hot = judgeLimit(limitOn("battery", 318, 200, 0), readings);
    EXPECT_EQ(hot.verdict, Verdict::Over);
    EXPECT_DOUBLE_EQ(*hot.margin, -2);
}

TEST(Limits, WhatCannotBeJudgedIsUnknownNeverWithin) {
    auto readings = readingsOf("battery", 268, 320);
    EXPECT_EQ(judgeLimit(limitOn("amp", 400, {}, 0), readings).verdict, Verdict::Unknown);
    EXPECT_NE(judgeLimit(limitOn("amp", 400, {}, 0), readings).why.find("amp"), std::string::npos);
    EXPECT_EQ(judgeLimit(limitOn("battery", {}, {}, 0), readings).verdict, Verdict::Unknown);
    readings.parts[0].max.reset();
    readings.parts[0].why = "NaN";
    EXPECT_EQ(judgeLimit(limitOn("battery", 400, {}, 0), readings).verdict, Verdict::Unknown);
}

TEST(Limits, GaugeLimitsAreComparedInTheGaugesUnit) {
    Readings readings{};
    readings.gauges.push_back({"Q", 1200, "W"});
    Limit limit;
    limit.target = {TargetKind::Gauge, "Q"};
    limit.max = Bound{"1.5 kW", 1.5};
    const auto judged = judgeLimit(limit, readings);
    EXPECT_NEAR(*judged.margin, 300, 1e-9);
    EXPECT_EQ(judged.unit, "W");
    limit.max = Bound{"90 degC", 90};
    EXPECT_EQ(judgeLimit(limit, readings).verdict, Verdict::Unknown);
}

// 12 K below a limit that asks for 10 K is closer than 9 % below one that asks for 1 %, and both are closer than 2 W/K
// where 0.5 are asked for.
TEST(Limits, MarginsOfSeveralUnitsAreOrderedByWhatIsRequired) {
    Readings readings{};
    readings.ambient = 293.15;
    readings.gauges = {{"share", 0.01, "1"}, {"H", 8, "W/K"}};
    RegionReading battery;
    battery.name = "battery";
    battery.max = battery.min = Temperature{371.15};
    readings.parts = {battery};
    const auto on = [](TargetKind kind, const char* name, Bound max, std::optional<Bound> margin) {
        Limit limit;
        limit.target = {kind, name};
        limit.max = max;
        limit.margin = margin;
        return limit;
    };
    std::vector<LimitReading> limits{
        judgeLimit(on(TargetKind::Gauge, "share", {"0.1 1", 0.1}, Bound{"0.01 1", 0.01}), readings),
        judgeLimit(on(TargetKind::Gauge, "H", {"10 W/K", 10}, Bound{"0.5 W/K", 0.5}), readings),
        judgeLimit(on(TargetKind::Part, "battery", {"383.15 K", 383.15}, Bound{"10 K", 10}), readings)};
    for (const auto& one : limits)
        EXPECT_EQ(one.verdict, Verdict::Within) << one.why;
    EXPECT_EQ(byMargin(limits), (std::vector<std::size_t>{2, 1, 0}));
    // Nothing required: 12 K of 90 K that it may rise.
    EXPECT_NEAR(*judgeLimit(on(TargetKind::Part, "battery", {"383.15 K", 383.15}, {}), readings).relativeMargin,
                12.0 / 90, 1e-12);
}

TEST(Limits, SortedByMarginWithOverAndUnknownFirst) {
    std::vector<LimitReading> limits(4);
    limits[0].verdict = Verdict::Within;
    limits[0].margin = 20;
    limits[1].verdict = Verdict::Unknown;
    limits[2].verdict = Verdict::Over;
    limits[2].margin = -3;
    limits[3].verdict = Verdict::Tight;
    limits[3].margin = 2;
    EXPECT_EQ(byMargin(limits), (std::vector<std::size_t>{2, 1, 3, 0}));
}
