#include "core/field/distribution.h"

#include <gtest/gtest.h>

using pyro::Distribution;

TEST(Distribution, SharesOfAnEvenField) {
    Distribution even(300, 400, 1000);
    for (int i = 0; i < 100000; ++i)
        even.add(300 + 100 * (i + 0.5) / 100000, 2e-9);
    EXPECT_NEAR(even.shareBelow(325), 0.25, 1e-9);
    EXPECT_NEAR(even.shareAbove(390), 0.10, 1e-9);
    EXPECT_NEAR(even.valueWithShareAbove(0.1), 390, 1e-6);
    EXPECT_EQ(even.shareAbove(400), 0);
    EXPECT_EQ(even.shareBelow(300), 0);
    EXPECT_GT(even.shareAbove(399.999), 0);
}

TEST(Distribution, MergesAndRebins) {
    Distribution cold(0, 10, 100);
    cold.add(2.05, 3);
    Distribution hot(0, 10, 100);
    hot.add(9.95, 1);
    cold.merge(hot);
    const auto classes = cold.rebinned(0, 10, 2);
    EXPECT_NEAR(classes[0], 3, 1e-12);
    EXPECT_NEAR(classes[1], 1, 1e-12);
    EXPECT_NEAR(cold.shareAbove(5), 0.25, 1e-12);
}

TEST(Distribution, AConstantFieldStaysWhole) {
    Distribution constant(293.15, 293.15, 64);
    constant.add(293.15, 5);
    double sum = 0;
    for (const double extent : constant.rebinned(293, 294, 10))
        sum += extent;
    EXPECT_NEAR(sum, 5, 1e-12);
}
