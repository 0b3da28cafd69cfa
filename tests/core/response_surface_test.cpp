// Polynomials through a sweep, and what they advise.
#include "core/compare/response_surface.h"
#include "core/compare/sweep_values.h"
#include "core/limits/limit_form.h"

#include <Eigen/QR>
#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

namespace {

// Uneven, no grid.
const std::vector<std::vector<double>> places{{10, 1},   {20, 3},   {35, 2},   {50, 5},  {12, 4},
                                              {27, 1.5}, {44, 3.5}, {31, 4.5}, {18, 2.2}};

std::vector<double> valuesOf(double (*f)(double, double)) {
    std::vector<double> out;
    for (const auto& place : places)
        out.push_back(f(place[0], place[1]));
    return out;
}

double coefficient(const ResponseSurface& surface, const std::vector<std::size_t>& parameters) {
    for (const auto& term : surface.terms)
        if (term.parameters == parameters)
            return term.coefficient;
    ADD_FAILURE() << "no such term";
    return 0;
}

} // namespace

TEST(ResponseSurface, FindsTheQuadraticThatIsThere) {
    const auto found = fitSurface(places, valuesOf([](double a, double b) {
                                      return 5 + 0.3 * a - 2 * b + 0.01 * a * a + 0.7 * b * b - 0.05 * a * b;
                                  }));
    ASSERT_TRUE(found) << found.error().text();
    EXPECT_TRUE(found->quadratic);
    EXPECT_NEAR(coefficient(*found, {}), 5, 1e-8);
    EXPECT_NEAR(coefficient(*found, {0}), 0.3, 1e-9);
    EXPECT_NEAR(coefficient(*found, {1}), -2, 1e-8);
    EXPECT_NEAR(coefficient(*found, {0, 0}), 0.01, 1e-10);
    EXPECT_NEAR(coefficient(*found, {0, 1}), -0.05, 1e-9);
    EXPECT_NEAR(coefficient(*found, {1, 1}), 0.7, 1e-9);
    EXPECT_LT(found->error, 1e-8);
    EXPECT_NEAR(found->at(std::vector{25.0, 2.0}), 5 + 7.5 - 4 + 6.25 + 2.8 - 2.5, 1e-8);
}

// The error of leaving one out, by leaving each out and fitting the plane again (Eigen's own solver).
TEST(ResponseSurface, TheErrorIsThatOfFittingWithoutEachCase) {
    const auto values = valuesOf([](double a, double b) { return std::sin(a) + 0.1 * a + b; });
    const auto found = fitSurface(places, values);
    ASSERT_TRUE(found);
    ASSERT_FALSE(found->quadratic) << "of the wiggles the plane tells more";
    double squares = 0;
    for (std::size_t left = 0; left < places.size(); ++left) {
        Eigen::MatrixXd design(places.size() - 1, 3);
        Eigen::VectorXd own(places.size() - 1);
        Eigen::Index row = 0;
        for (std::size_t i = 0; i < places.size(); ++i)
            if (i != left) {
                design.row(row) << 1, places[i][0], places[i][1];
                own(row++) = values[i];
            }
        const Eigen::Vector3d plane = design.colPivHouseholderQr().solve(own);
        const double off = values[left] - plane.dot(Eigen::Vector3d(1, places[left][0], places[left][1]));
        EXPECT_NEAR(found->leftOut[left], off, 1e-9);
        squares += off * off;
    }
    EXPECT_NEAR(found->error, std::sqrt(squares / 9), 1e-9);
}

TEST(ResponseSurface, IsRefusedWhereItTellsNothing) {
    const std::vector<double> noise{3, -2, 3, -3, -3, 2.5, -2, 3, -3};
    const auto found = fitSurface(places, noise);
    ASSERT_TRUE(found);
    EXPECT_FALSE(found->holds());
    EXPECT_NE(fitSurface(std::span(places).first(2), std::span(noise).first(2)).error().what.find("too few"),
              std::string::npos);
    const std::vector<std::vector<double>> same(4, {1, 2});
    EXPECT_NE(fitSurface(same, std::span(noise).first(4)).error().what.find("two values"), std::string::npos);
}

namespace {

// Margins of two limits over one parameter x: one falls from 10 to -10, one rises; both meet where x is 6.
SweepReading twoLimits() {
    Survey survey;
    SweepPlan plan;
    plan.parameters = {{"x", "mm"}};
    std::vector<SweepCase> cases;
    for (const auto* name : {"hot", "cold"}) {
        survey.limits.emplace_back();
        survey.limits.back().target = {TargetKind::Part, name};
    }
    for (const double x : {0.0, 3.0, 5.0, 8.0, 10.0}) {
        SweepCase one;
        one.name = "x" + std::to_string(static_cast<int>(x));
        one.parameters = {{"x", x}};
        for (const double margin : {10 - 2 * x + 0.1 * x * x, -6 + x + 2.6 - 0.4 * x + 0.1 * x * x}) {
            LimitReading limit;
            limit.margin = margin;
            limit.verdict = margin >= 0 ? Verdict::Within : Verdict::Over;
            one.limits.push_back(limit);
        }
        cases.push_back(std::move(one));
    }
    return analyse(survey, plan, cases);
}

} // namespace

// By hand: 10 - 2x = -3.4 + 0.6x at x = 5.1538, where both leave 10 - 2x + x^2/10 = 2.3486.
TEST(SweepAdvice, TheBestCombinationLiesBetweenTheCases) {
    const auto found = twoLimits();
    ASSERT_TRUE(found.optimum);
    ASSERT_TRUE(found.optimum->why.empty()) << found.optimum->why;
    const double x = 13.4 / 2.6;
    EXPECT_NEAR(found.optimum->parameters.at("x"), x, 1e-5);
    EXPECT_NEAR(found.optimum->leastMargin, 10 - 2 * x + 0.1 * x * x, 1e-5);
    EXPECT_LT(found.optimum->error, 1e-9);
    EXPECT_FALSE(found.next) << "nothing is left to learn: the surfaces are exact";
}

// A kink that no polynomial follows: the next case lies beside the one that the others miss most.
TEST(SweepAdvice, TheNextCaseLiesWhereTheResponseIsLeastKnown) {
    Survey survey;
    survey.gauges.emplace_back();
    survey.gauges.back().id = "T";
    SweepPlan plan;
    plan.parameters = {{"x", ""}};
    std::vector<SweepCase> cases;
    for (const double x : {0.0, 1.0, 2.0, 3.0, 4.0, 8.0}) {
        SweepCase one;
        one.name = "x" + std::to_string(static_cast<int>(x));
        one.parameters = {{"x", x}};
        one.gauges["T"] = {x > 6 ? 300.0 : 0.0, "W", false};
        cases.push_back(std::move(one));
    }
    const auto found = analyse(survey, plan, cases);
    ASSERT_TRUE(found.next);
    EXPECT_EQ(found.next->nearest, "x8");
    EXPECT_NEAR(found.next->parameters.at("x"), 6, 0.02) << "half way to its neighbour";
    EXPECT_FALSE(found.optimum) << "there is no limit";
}
