// Places from which lines start: where they lie and how evenly they are spread.
#include "core/field/seeds.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

namespace {

double distance(const Point& a, const Point& b) { return std::hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]); }

} // namespace

TEST(Seeds, AroundAPlaceLieOnASphere) {
    const Point centre{1, 2, 3};
    const auto seeds = seedsAround(centre, 0.5, 200);
    ASSERT_EQ(seeds.size(), 200U);
    Point mean{};
    for (const auto& seed : seeds) {
        EXPECT_NEAR(distance(seed, centre), 0.5, 1e-12);
        for (std::size_t axis = 0; axis < 3; ++axis)
            mean[axis] += seed[axis] / 200;
    }
    EXPECT_LT(distance(mean, centre), 0.01) << "as many on one side as on the other";
}

// Half of the seeds lie within the circle of half the area.
TEST(Seeds, OnADiskTheyAreSpreadByArea) {
    const Point centre{0, 0, 1};
    const Point normal{0, 3, 4};
    const auto seeds = seedsOnDisk(centre, normal, 2, 1000);
    int inner = 0;
    for (const auto& seed : seeds) {
        EXPECT_NEAR(3 * seed[1] + 4 * (seed[2] - 1), 0, 1e-12) << "in the plane";
        EXPECT_LT(distance(seed, centre), 2);
        inner += distance(seed, centre) < 2 / std::sqrt(2.0) ? 1 : 0;
    }
    EXPECT_EQ(inner, 500);
}

TEST(Seeds, ALineHasBothEnds) {
    const auto seeds = seedsOnLine({0, 0, 0}, {1, 2, 3}, 5);
    ASSERT_EQ(seeds.size(), 5U);
    EXPECT_EQ(seeds.front(), (Point{0, 0, 0}));
    EXPECT_EQ(seeds.back(), (Point{1, 2, 3}));
    EXPECT_NEAR(seeds[1][2], 0.75, 1e-12);
    EXPECT_EQ(seedsOnLine({0, 0, 0}, {1, 2, 3}, 1).front(), (Point{0.5, 1, 1.5}));
}

TEST(Seeds, TrianglesTakeThemByTheirArea) {
    // Areas 3 and 1 in the plane z = 0, and one without any.
    const std::vector<float> points{0, 0, 0, 3, 0, 0, 0, 2, 0, 5, 0, 0, 6, 0, 0, 5, 2, 0};
    const std::vector<std::int32_t> triangles{0, 1, 2, 0, 1, 1, 3, 4, 5};
    const auto seeds = seedsOnTriangles(points, triangles, 400);
    ASSERT_EQ(seeds.size(), 400U);
    int first = 0;
    for (const auto& seed : seeds) {
        ASSERT_NE(seed.triangle, 1U);
        first += seed.triangle == 0 ? 1 : 0;
        const double x = seed.triangle == 0 ? seed.at[0] / 3 : seed.at[0] - 5;
        const double y = seed.at[1] / 2;
        EXPECT_GE(x, 0);
        EXPECT_GE(y, 0);
        EXPECT_LE(x + y, 1 + 1e-12);
    }
    EXPECT_EQ(first, 300);
    EXPECT_TRUE(seedsOnTriangles(points, std::vector<std::int32_t>{0, 1, 1}, 10).empty());
}
