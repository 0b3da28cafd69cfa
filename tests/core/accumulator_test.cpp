#include "core/gauge/accumulator.h"

#include <cmath>
#include <gtest/gtest.h>
#include <random>
#include <vector>

using namespace pyro;

namespace {

Accumulator over(const std::vector<double>& values, std::size_t from, std::size_t to) {
    Accumulator sums;
    for (auto i = from; i < to; ++i)
        sums.add(values[i], 1.0 + static_cast<double>(i % 3), 0, i);
    return sums;
}

} // namespace

TEST(Accumulator, MergedPiecesEqualTheWhole) {
    constexpr unsigned seed = 20261124;
    SCOPED_TRACE(seed);
    std::mt19937 random(seed);
    std::normal_distribution<double> field(350, 20);
    std::vector<double> values(1000);
    for (auto& value : values)
        value = field(random);
    const auto whole = over(values, 0, 1000);
    for (const std::size_t cut : {1U, 10U, 500U, 999U}) {
        auto merged = over(values, cut, 1000); // the later piece first: order must not matter
        merged.merge(over(values, 0, cut));
        EXPECT_NEAR(merged.mean(), whole.mean(), 1e-12 * whole.mean());
        EXPECT_EQ(merged.count(), whole.count());
        EXPECT_EQ(merged.max().number, whole.max().number);
        EXPECT_EQ(merged.min().number, whole.min().number);
    }
}

TEST(Accumulator, OfEqualExtremesTheFirstIsKept) {
    Accumulator late;
    late.add(5, 1, 0, 7);
    Accumulator early;
    early.add(5, 1, 0, 3);
    late.merge(early);
    EXPECT_EQ(late.max().number, 3U);
    EXPECT_EQ(late.min().number, 3U);
}

TEST(Accumulator, KeepsSmallTermsBesideLargeOnes) {
    Accumulator sums;
    sums.add(1e16, 1, 0, 0);
    for (std::uint64_t i = 1; i <= 1000; ++i)
        sums.add(1, 1, 0, i);
    sums.add(-1e16, 1, 0, 1001);
    EXPECT_DOUBLE_EQ(sums.integral(), 1000); // a plain sum gives 0
}

TEST(Accumulator, CountsWhatIsNotFinite) {
    Accumulator sums;
    sums.add(300, 1, 0, 0);
    sums.add(std::nan(""), 1, 0, 9);
    Accumulator other;
    other.add(INFINITY, 1, 0, 4);
    sums.merge(other);
    EXPECT_EQ(sums.notFinite(), 2U);
    EXPECT_EQ(sums.firstNotFinite().number, 4U);
    EXPECT_EQ(sums.max().value, 300);
}
