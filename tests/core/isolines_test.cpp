// Isolines on a plane with a linear field are straight lines at known places.
#include "core/field/isolines.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

namespace {

// The unit square in n x n x 2 triangles, z = 0.
struct Square {
    std::vector<float> points;
    std::vector<std::int32_t> triangles;
    std::vector<float> values;
    SurfaceField field() const { return {points, triangles, values}; }
};

template <class Field>
Square square(int n, Field field) {
    Square out;
    for (int j = 0; j <= n; ++j)
        for (int i = 0; i <= n; ++i) {
            const float x = static_cast<float>(i) / static_cast<float>(n);
            const float y = static_cast<float>(j) / static_cast<float>(n);
            out.points.insert(out.points.end(), {x, y, 0});
            out.values.push_back(static_cast<float>(field(x, y)));
        }
    for (int j = 0; j < n; ++j)
        for (int i = 0; i < n; ++i) {
            const int a = i + j * (n + 1);
            out.triangles.insert(out.triangles.end(), {a, a + 1, a + n + 2, a, a + n + 2, a + n + 1});
        }
    return out;
}

double length(const Isoline& line) {
    double sum = 0;
    for (std::size_t i = 0; i + 5 < line.points.size(); i += 6)
        sum += std::hypot(line.points[i] - line.points[i + 3], line.points[i + 1] - line.points[i + 4]);
    return sum;
}

} // namespace

TEST(Isolines, OfALinearFieldAreStraightAndComplete) {
    const auto surface = square(7, [](double x, double) { return 300 + 100 * x; });
    const auto lines = isolines(surface.field(), {273.15, 10, 5, {333.0}});
    ASSERT_EQ(lines.size(), 11U); // 303.15 .. 393.15 and the mark
    for (const auto& line : lines) {
        EXPECT_NEAR(length(line), 1, 1e-5);
        for (std::size_t i = 0; i < line.points.size(); i += 3)
            EXPECT_NEAR(line.points[i], (line.value - 300) / 100, 1e-5);
    }
    EXPECT_TRUE(lines[2].heavy); // 323.15 K = 50 degC
    EXPECT_FALSE(lines[3].heavy);
    EXPECT_TRUE(lines.back().mark);
}

TEST(Isolines, OfADistanceAreCircles) {
    const auto surface = square(60, [](double x, double y) { return std::hypot(x - 0.5, y - 0.5); });
    const auto lines = isolines(surface.field(), {0, 0.3, 1, {}});
    ASSERT_EQ(lines.size(), 2U); // 0.3 and 0.6
    EXPECT_NEAR(length(lines[0]), 2 * 3.14159265 * 0.3, 0.003);
}

TEST(Isolines, NothingWrongIsDrawn) {
    auto surface = square(4, [](double x, double) { return 300 + x; });
    EXPECT_TRUE(isolines(surface.field(), {273.15, 1000, 5, {}}).empty());
    EXPECT_TRUE(isolines(surface.field(), {273.15, 1e-6, 5, {}}).empty()) << "a million lines are none";
    EXPECT_TRUE(isolines(surface.field(), {273.15, 0, 5, {}}).empty());
    EXPECT_TRUE(isolines(surface.field(), {273.15, 1000, 5, {250.0, 400.0}}).empty()) << "marks outside the range";
    surface.values[7] = NAN;
    const auto lines = isolines(surface.field(), {300, 0.5, 1, {}});
    for (const auto& line : lines)
        for (const float at : line.points)
            EXPECT_TRUE(std::isfinite(at));
}

TEST(Isolines, SpacingIsRound) {
    EXPECT_DOUBLE_EQ(niceSpacing(51.9, 112.7, 20), 5);
    EXPECT_DOUBLE_EQ(niceSpacing(0, 1, 20), 0.05);
    EXPECT_DOUBLE_EQ(niceSpacing(0, 21, 20), 2);
    EXPECT_DOUBLE_EQ(niceSpacing(5, 5, 20), 1);
}
