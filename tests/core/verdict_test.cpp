#include "core/thermal/limits.h"

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
