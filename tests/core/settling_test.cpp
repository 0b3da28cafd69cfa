// Series whose end is known: what settles, drifts and swings is judged so; histories as files hold them.
#include "core/case/solver_history.h"
#include "core/trust/settling_fit.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <fstream>
#include <functional>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

Settling judged(const std::function<double(double)>& of, int count = 200, double step = 1) {
    std::vector<double> at;
    std::vector<double> value;
    for (int i = 0; i < count; ++i) {
        at.push_back(step * i);
        value.push_back(of(step * i));
    }
    return settlingOf(at, value);
}

} // namespace

// 350 - 50 exp(-t/20): after 200 the rest is 0.002 of 50.
TEST(Settling, ADampedSeriesHasSettled) {
    const auto settling = judged([](double t) { return 350 - 50 * std::exp(-t / 20); });
    EXPECT_EQ(settling.state, SettlingState::Settled);
    ASSERT_TRUE(settling.expected);
    EXPECT_NEAR(*settling.expected, 350, 0.02);
}

// With a time constant of 100 it stands at 0.86 of its way after 200; the end is told all the same.
TEST(Settling, ASlowOneDriftsAndItsEndIsForetold) {
    const auto settling = judged([](double t) { return 350 - 50 * std::exp(-t / 100); });
    EXPECT_EQ(settling.state, SettlingState::Drifting);
    EXPECT_GT(settling.drift, 0);
    ASSERT_TRUE(settling.expected);
    EXPECT_NEAR(*settling.expected, 350, 1); // of the 6.8 that are left
}

TEST(Settling, AStraightDriftHasNoEnd) {
    const auto settling = judged([](double t) { return 300 + 0.1 * t; });
    EXPECT_EQ(settling.state, SettlingState::Drifting);
    EXPECT_NEAR(settling.drift, 0.1 * 0.3 * 199, 0.1);
    EXPECT_FALSE(settling.expected);
}

// Moves by 0.3 % of its range in the last part, bent: less than the 0.5 % that are allowed, whatever it bends.
TEST(Settling, ADriftBelowWhatIsAllowedIsNone) {
    const auto settling = judged([](double t) { return t < 100 ? 300 + t : 400 + 0.3 * std::pow((t - 100) / 100, 4); });
    EXPECT_LT(std::abs(settling.drift), settling.allowed);
    EXPECT_LT(settling.oscillation, settling.allowed);
    EXPECT_EQ(settling.state, SettlingState::Settled);
}

// A residual that falls by a decade in 50 iterations and stays at 1e-7: it has settled there, at nothing below zero.
TEST(Settling, AResidualIsJudgedByItsLogarithm) {
    const auto held = judged([](double t) { return std::max(1e-7, std::pow(10, -t / 20)); }, 300);
    EXPECT_TRUE(held.logarithmic);
    EXPECT_EQ(held.state, SettlingState::Settled);
    EXPECT_NEAR(std::log10(held.expected.value_or(1)), -7, 0.01);
    const auto falling = judged([](double t) { return std::pow(10, -t / 20); });
    EXPECT_EQ(falling.state, SettlingState::Drifting);
    EXPECT_NEAR(falling.drift, -0.3 * 199 / 20, 0.1) << "decades";
    EXPECT_FALSE(falling.expected && *falling.expected <= 0);
    EXPECT_FALSE(judged([](double t) { return 300 + t; }).logarithmic);
}

// Swings of 2 about 340 that do not die away.
TEST(Settling, AnOscillationIsToldWithItsSize) {
    const auto settling = judged([](double t) { return 340 + 2 * std::sin(t / 2); });
    EXPECT_EQ(settling.state, SettlingState::Oscillating);
    EXPECT_NEAR(settling.oscillation, 4, 0.5); // the fitted line is a little tilted
    ASSERT_TRUE(settling.expected);
    EXPECT_NEAR(*settling.expected, 340, 0.2);
}

TEST(Settling, ADampedOscillationHasSettledOnceItIsSmall) {
    const auto swing = [](double decay) {
        return [decay](double t) { return 340 + 30 * std::exp(-t / decay) * std::cos(t / 2); };
    };
    EXPECT_EQ(judged(swing(15)).state, SettlingState::Settled);
    EXPECT_EQ(judged(swing(150)).state, SettlingState::Oscillating);
}

TEST(Settling, AConstantHasSettledAndAShortOneIsNotJudged) {
    EXPECT_EQ(judged([](double) { return 300; }).state, SettlingState::Settled);
    EXPECT_EQ(judged([](double t) { return t; }, 5).state, SettlingState::TooShort);
    EXPECT_EQ(judged([](double t) { return t; }, 50, 0).state, SettlingState::TooShort) << "no span";
    EXPECT_EQ(settlingOf({}, {}).state, SettlingState::TooShort);
}

TEST(Settling, GapsAreLeftOut) {
    const auto settling = judged(
        [](double t) { return std::fmod(t, 7) == 0 ? std::nan("") : 350 - 50 * std::exp(-t / 20); });
    EXPECT_EQ(settling.state, SettlingState::Settled);
}

TEST(SolverHistory, ColumnsAlongTheTime) {
    const auto history = solverHistoryFrom("heat_W,time_s,\"amp max K\"\n1,0,300\n2,0.5,301\n3,1,302\n", "h.csv");
    ASSERT_TRUE(history) << history.error().text();
    EXPECT_EQ(history->along, "time_s");
    EXPECT_EQ(history->at, (std::vector{0.0, 0.5, 1.0}));
    ASSERT_EQ(history->columns.size(), 2U);
    EXPECT_EQ(history->columns[1].title, "amp max K");
    EXPECT_EQ(history->columns[1].values, (std::vector{300.0, 301.0, 302.0}));
    EXPECT_TRUE(history->remarks.empty());
}

TEST(SolverHistory, ALineThatIsBeingWrittenWaits) {
    const auto history = solverHistoryFrom("time,T\n0,300\n1,30", "h.csv");
    ASSERT_TRUE(history);
    EXPECT_EQ(history->at.size(), 1U);
    EXPECT_TRUE(history->remarks.empty());
}

TEST(SolverHistory, GapsRepeatedAndDecreasingTimesAreTold) {
    const auto history = solverHistoryFrom("time,T\n0,300\n1,\n1,301\n2,302\n3,303\n2,350\nend,1\n", "h.csv");
    ASSERT_TRUE(history);
    EXPECT_EQ(history->at, (std::vector{0.0, 1.0, 2.0}));
    EXPECT_EQ(history->columns[0].values, (std::vector{300.0, 301.0, 350.0})) << "the later line counts";
    std::vector<std::string> codes;
    for (const auto& remark : history->remarks)
        codes.push_back(remark.code);
    EXPECT_EQ(codes, (std::vector<std::string>{"history-line", "history-repeated", "history-back", "history-gap"}));
}

TEST(SolverHistory, WhatIsNoneSaysSo) {
    EXPECT_EQ(solverHistoryFrom("nothing here\n", "h.csv").error().code, ErrorCode::Syntax);
    EXPECT_EQ(solverHistoryFrom("a,b\nx,y\n", "h.csv").error().code, ErrorCode::Syntax);
    EXPECT_EQ(solverHistoryFrom("", "h.csv").error().code, ErrorCode::Syntax);
    EXPECT_EQ(readSolverHistory("/nowhere/h.csv").error().code, ErrorCode::FileMissing);
}

TEST(SolverHistory, IsFoundBesideItsCase) {
    const TempFolder folder;
    EXPECT_FALSE(historyBeside(folder / "warm_0003.vtm"));
    std::ofstream(folder / "warm-history.csv") << "time,T\n";
    EXPECT_EQ(historyBeside(folder / "warm_0003.vtm"), folder / "warm-history.csv");
    EXPECT_EQ(historyBeside(folder / "warm.vtm"), folder / "warm-history.csv");
    EXPECT_FALSE(historyBeside(folder / "cold.vtm"));
}
