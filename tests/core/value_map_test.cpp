// The map of a sweep: bilinear between cases, the line where a limit is met, slices, and what makes no map.
#include "core/compare/value_map.h"
#include "core/limits/limit_form.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

namespace {

// Cases over x and y (and z), each with the margin that a function gives.
template <class Margin>
SweepReading mapped(const std::vector<double>& xs, const std::vector<double>& ys, const std::vector<double>& zs,
                    Margin margin, const std::string& unit = "K") {
    SweepReading sweep;
    sweep.parameters = {{"x", "mm"}, {"y", "L/min"}, {"z", ""}};
    for (const double z : zs)
        for (const double y : ys)
            for (const double x : xs) {
                SweepCase one;
                one.name = "case " + std::to_string(sweep.cases.size());
                one.parameters = {{"x", x}, {"y", y}, {"z", z}};
                LimitReading limit;
                limit.form = limitForms().front();
                limit.margin = margin(x, y, z);
                limit.unit = unit;
                limit.verdict = *limit.margin >= 0 ? Verdict::Within : Verdict::Over;
                one.limits = {limit};
                sweep.cases.push_back(one);
            }
    return sweep;
}

// The least margin, further parameters as those of one of the cases.
Result<ValueMap> marginMap(const SweepReading& sweep, const std::string& x, const std::string& y, std::size_t like) {
    const auto values = sweepValues({}, sweep.cases);
    return valueMap(sweep, *valueNamed(values, leastMarginKey), x, y, heldBy(sweep.cases.at(like), {x, y}));
}

} // namespace

TEST(ValueMap, IsExactForABilinearMargin) {
    const auto margin = [](double x, double y, double) { return 3 - 2 * x + y + 0.5 * x * y; };
    const auto map = marginMap(mapped({0, 1, 3}, {-1, 2}, {0}, margin), "x", "y", 0);
    ASSERT_TRUE(map);
    EXPECT_EQ(map->xs, (std::vector<double>{0, 1, 3}));
    EXPECT_EQ(map->unit, "K");
    for (const double x : {0.0, 0.3, 1.0, 2.2, 3.0})
        for (const double y : {-1.0, 0.1, 2.0})
            EXPECT_NEAR(map->at(x, y), margin(x, y, 0), 1e-12) << x << " " << y;
    EXPECT_TRUE(std::isnan(map->at(3.1, 0))) << "nothing is told beyond the cases";
    EXPECT_TRUE(std::isnan(map->at(1, -1.01)));
}

TEST(ValueMap, TheZeroLineOfAPlaneIsAStraightLineFromEndToEnd) {
    const auto margin = [](double x, double y, double) { return x + 2 * y - 3; };
    const auto map = marginMap(mapped({0, 1, 2, 4}, {0, 1, 3}, {0}, margin), "x", "y", 0);
    ASSERT_TRUE(map);
    double length = 0;
    for (const auto& [a, b] : map->lineAt(0)) {
        for (const auto& place : {a, b})
            EXPECT_NEAR(place[0] + 2 * place[1], 3, 1e-9);
        length += std::hypot(b[0] - a[0], b[1] - a[1]);
    }
    EXPECT_NEAR(length, std::hypot(3, 1.5), 1e-9) << "from (0, 1.5) to (3, 0), without gaps or doubles";
    const auto within = [](double, double, double) { return 5.0; };
    EXPECT_TRUE(marginMap(mapped({0, 1}, {0, 1}, {0}, within), "x", "y", 0)->lineAt(0).empty());
}

TEST(ValueMap, OfFurtherParametersItIsOneSlice) {
    const auto margin = [](double x, double y, double z) { return x + y + 10 * z; };
    const auto sweep = mapped({0, 1}, {0, 1}, {1, 2}, margin);
    EXPECT_NEAR(marginMap(sweep, "x", "y", 0)->at(0.5, 0.5), 11, 1e-12);
    EXPECT_NEAR(marginMap(sweep, "x", "y", 7)->at(0.5, 0.5), 21, 1e-12);
    EXPECT_NEAR(marginMap(sweep, "x", "z", 2)->at(0.5, 1.5), 16.5, 1e-12) << "at y = 1";
}

TEST(ValueMap, ACaseThatIsMissingLeavesAHole) {
    auto sweep = mapped({0, 1, 2}, {0, 1}, {0}, [](double x, double, double) { return x; });
    sweep.cases[2].why = "cannot be read";
    const auto map = marginMap(sweep, "x", "y", 0);
    EXPECT_NEAR(map->at(0.5, 0.5), 0.5, 1e-12);
    EXPECT_TRUE(std::isnan(map->at(1.5, 0.5)));
    sweep.cases.erase(sweep.cases.begin() + 5);
    EXPECT_EQ(marginMap(sweep, "x", "y", 0)->cases[5], ValueMap::noCase);
}

TEST(ValueMap, SaysWhatMakesNoMap) {
    const auto flat = [](double, double, double) { return 1.0; };
    EXPECT_NE(marginMap(mapped({0, 1}, {0}, {0}, flat), "x", "y", 0).error().what.find("two values"),
              std::string::npos);
    EXPECT_FALSE(marginMap(mapped({0, 1}, {0, 1}, {0}, flat), "x", "x", 0));
    auto mixed = mapped({0, 1}, {0, 1}, {0}, flat);
    mixed.cases[1].limits[0].unit = "W";
    EXPECT_EQ(valueNamed(sweepValues({}, mixed.cases), leastMarginKey), nullptr) << "of several units there is none";
    for (auto& one : mixed.cases)
        one.limits[0].margin.reset();
    EXPECT_TRUE(sweepValues({}, mixed.cases).empty());
}

TEST(SweepCurves, AreOnePerValueOfAnotherParameter) {
    const auto sweep = mapped({2, 0, 1}, {5, 7}, {1, 2}, [](double x, double y, double z) { return x + y + 10 * z; });
    const auto values = sweepValues({}, sweep.cases);
    const auto curves = curvesOf(sweep, values[0], "x", "y", {{"z", 2}});
    ASSERT_EQ(curves.size(), 2U);
    EXPECT_EQ(curves[1].by, 7);
    EXPECT_EQ(curves[1].x, (std::vector<double>{0, 1, 2})) << "rising, whatever the order of the cases";
    EXPECT_EQ(curves[1].y, (std::vector<double>{27, 28, 29}));
    EXPECT_EQ(curvesOf(sweep, values[0], "x", "", {{"y", 5}, {"z", 1}}).size(), 1U);
}

// Least temperature against least pressure loss: by hand.
TEST(SweepFront, HoldsWhatNoOtherCaseBeats) {
    const auto gauge = [](std::vector<std::optional<double>> values) {
        return SweepValue{"g", "K", false, {}, "g", std::move(values)};
    };
    const auto hot = gauge({90, 70, 80, 60, 75, std::nullopt});
    const auto loss = gauge({1, 5, 2, 9, 6, 0});
    EXPECT_EQ(frontOf(hot, loss), (std::vector<std::size_t>{3, 1, 2, 0})) << "75 at 6 is beaten by 70 at 5";
    SweepValue margin = hot;
    margin.gauge.clear(); // larger is better
    EXPECT_EQ(frontOf(margin, loss), (std::vector<std::size_t>{0}));
}

TEST(SweepFilter, LeavesTheCasesWithinEveryRange) {
    const auto sweep = mapped({0, 1, 2}, {0, 1}, {0}, [](double x, double y, double) { return x - y; });
    const auto values = sweepValues({}, sweep.cases);
    EXPECT_EQ(casesWithin(sweep, values, {{"x", {1, 2}}, {"least margin", {0.5, 1}}}),
              (std::vector<std::size_t>{1, 5}));
    EXPECT_EQ(casesWithin(sweep, values, {{"gone", {0, 0}}}).size(), 6U);
}

TEST(LeastMargin, OfSeveralUnitsIsTheSmallestShare) {
    auto sweep = mapped({0, 1}, {0, 1}, {0}, [](double, double, double) { return 2.0; });
    auto& one = sweep.cases[0];
    one.limits.push_back(one.limits[0]);
    one.limits[1].margin = 1;
    EXPECT_EQ(leastMargin(one), &one.limits[1]) << "in one unit the smallest";
    one.limits[1].unit = "W";
    one.limits[0].relativeMargin = 0.1;
    one.limits[1].relativeMargin = 0.4;
    EXPECT_EQ(leastMargin(one), &one.limits[0]);
    one.limits.clear();
    EXPECT_EQ(leastMargin(one), nullptr);
}
