// Reference curves against handbook numbers.
#include "core/thermal/correlations.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

namespace {

// at 300 K, handbook, from memory
FlowConditions air(double speed, double length) { return {speed, length, 0.0263, 15.89e-6, 0.707, 1.0 / 300, 50}; }

} // namespace

TEST(Correlations, HandbookValues) {
    // docs/bibliography.md: 0.332 Pr^1/3 = 0.3320 for Pr = 1; the mean over a plate is twice the local value at its
    // end.
    FlowConditions water = air(1, 0);
    water.prandtl = 1;
    const double root = std::sqrt(1 * 0.2 / 15.89e-6);
    const auto local = correlate(Correlation::PlateLaminarLocal, water, 0.2);
    ASSERT_TRUE(local);
    EXPECT_NEAR(local->nusselt / root, 0.332, 1e-12);
    EXPECT_NEAR(correlate(Correlation::PlateLaminarMean, water, 0.2)->nusselt, 2 * local->nusselt, 1e-9);
    EXPECT_NEAR(correlate(Correlation::TubeLaminarFlux, air(0.5, 0.01), 0)->nusselt, 4.364, 1e-3);
    // Gnielinski at Re = 1e4, Pr = 0.7: Nu about 30 (handbook, from memory).
    EXPECT_NEAR(
        correlate(Correlation::TubeTurbulent, {15.89e-6 * 1e4 / 0.05, 0.05, 0.0263, 15.89e-6, 0.7, 0, 0}, 0)->nusselt,
        30, 0.5);
    // Worked by hand: Re = 6000 in air, Churchill and Bernstein give Nu about 40.
    EXPECT_NEAR(correlate(Correlation::Cylinder, air(6000 * 15.89e-6 / 0.0127, 0.0127), 0)->nusselt, 40, 1.5);
    // A sphere in still fluid conducts: Nu = 2.
    EXPECT_NEAR(correlate(Correlation::Sphere, air(1e-12, 0.01), 0)->nusselt, 2, 1e-4);
    // Ra = 1e9, Pr = 0.71: Churchill and Chu give Nu about 125 (0.1 Ra^1/3 = 100 is the cruder rule).
    FlowConditions still = air(0, 1);
    still.difference = 1e9 / (9.81 / 300 / (15.89e-6 * 15.89e-6) * 0.707);
    EXPECT_NEAR(correlate(Correlation::VerticalPlate, still, 0)->nusselt, 124, 3);
}

TEST(Correlations, SayWhereTheyDoNotHoldAndWhatIsMissing) {
    EXPECT_EQ(correlate(Correlation::PlateLaminarLocal, air(1, 0), 0.2)->outside, "");
    EXPECT_NE(correlate(Correlation::PlateLaminarLocal, air(100, 0), 0.2)->outside.find("Re"), std::string::npos);
    EXPECT_NE(correlate(Correlation::TubeTurbulent, air(0.1, 0.01), 0)->outside.find("3000"), std::string::npos);
    EXPECT_FALSE(correlate(Correlation::PlateLaminarLocal, air(0, 0), 0.2));
    EXPECT_FALSE(correlate(Correlation::Cylinder, air(1, 0), 0));
    EXPECT_FALSE(correlate(Correlation::VerticalPlate, {0, 1, 0.026, 1.6e-5, 0.7, 0, 10}, 0));
    for (const auto& facts : correlations()) {
        EXPECT_EQ(correlationNamed(facts.key), &facts);
        EXPECT_FALSE(facts.source.empty());
        EXPECT_FALSE(facts.range.empty());
    }
}
