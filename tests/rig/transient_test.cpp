// The rig's transients against exact solutions, and the balance of every step.
#include "rig/result.h"

#include <cmath>
#include <fmt/format.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::rig;

namespace {

std::vector<Solution> steps(const std::string& text) {
    const auto model = modelFromText(text, "test.rig.json");
    EXPECT_TRUE(model) << model.error().text();
    const auto grid = makeGrid(*model);
    NoProgress progress;
    std::vector<Solution> all;
    const auto done = solveTransient(
        *model, *grid,
        [&](const Solution& one) {
            all.push_back(one);
            return Done();
        },
        progress);
    EXPECT_TRUE(done) << done.error().text();
    return all;
}

// A bar along x of 1 m2, `length` long in `cells` cells, with an environment at x = 0.
std::string warmingBar(double conductivity, double length, int cells, const std::string& environment,
                       const std::string& transient, const std::string& power = "") {
    return fmt::format(
        R"json({{"rig": 1, "grid": {{"x": {{"spacing": {}}}, "y": {{"spacing": 1}}, "z": {{"spacing": 1}}}},
        "materials": {{"block": {{"conductivity": {}, "density": "2000 kg/m3", "heat_capacity": "500 J/(kg.K)"}}}},
        "boxes": [{{"part": "block", "material": "block", "from": [0, 0, 0], "to": [{}, 1, 1]{}}}],
        "environments": [{}], "transient": {}}})json",
        length / cells, conductivity, length, power, environment, transient);
}

const std::string air = R"({"boundary": "air", "temperature": 300, "film_coefficient": 10, "faces": [{"side": "-x"}]})";

} // namespace

// Lumped capacity: T - Tair falls with exp(-t / tau), tau = rho c L / h (Incropera, chapter 5.1, from memory). With a
// conductivity that leaves no gradient the only error is that of the steps, which halves with them.
TEST(Transient, ALumpedBlockCoolsExponentially) {
    const double tau = 2000 * 500 * 0.01 / 10;
    std::array<double, 2> error{};
    for (std::size_t i = 0; i < 2; ++i) {
        const double step = i == 0 ? 20 : 10;
        const auto all = steps(
            warmingBar(1e6, 0.01, 1, air, fmt::format(R"({{"start": 400, "duration": 1000, "step": {}}})", step)));
        ASSERT_EQ(all.size(), static_cast<std::size_t>(1000 / step) + 1);
        EXPECT_DOUBLE_EQ(all.front().temperature[0], 400);
        EXPECT_DOUBLE_EQ(all.front().time, 0);
        EXPECT_DOUBLE_EQ(all.back().time, 1000);
        error[i] = all.back().temperature[0] - (300 + 100 * std::exp(-1000 / tau));
        // The steps themselves are exact: every one divides by 1 + dt / tau.
        // but for the half cell before the film
        EXPECT_NEAR(all.back().temperature[0], 300 + 100 * std::pow(1 + step / tau, -1000 / step), 1e-5);
    }
    EXPECT_LT(std::abs(error[0]), 0.5);
    EXPECT_NEAR(error[0] / error[1], 2, 0.05);
}

// A semi-infinite body whose surface is held at Ts: T = Ts + (T0 - Ts) erf(x / (2 sqrt(a t))) (Carslaw and Jaeger,
// Conduction of Heat in Solids, chapter 2.4, from memory). The bar is long against sqrt(a t).
TEST(Transient, ASuddenlyCooledBodyFollowsTheErrorFunction) {
    const double diffusivity = 1.0 / (2000 * 500);
    const auto all = steps(
        warmingBar(1.0, 0.2, 400,
                   R"({"boundary": "face", "temperature": 300, "film_coefficient": 1e9, "faces": [{"side": "-x"}]})",
                   R"({"start": 350, "duration": 600, "step": 1, "write_every": 200})"));
    ASSERT_EQ(all.size(), 4U);
    for (std::size_t i = 1; i < all.size(); ++i) {
        EXPECT_DOUBLE_EQ(all[i].time, 200.0 * static_cast<double>(i));
        for (const std::size_t cell : {2U, 10U, 30U, 60U, 120U}) {
            const double x = (static_cast<double>(cell) + 0.5) * 0.2 / 400;
            const double exact = 300 + 50 * std::erf(x / (2 * std::sqrt(diffusivity * all[i].time)));
            EXPECT_NEAR(all[i].temperature[cell], exact, 0.1) << "t = " << all[i].time << ", x = " << x;
        }
    }
}

TEST(Transient, EveryStepIsBalancedAndEndsSteady) {
    const auto all = steps(warmingBar(5, 0.05, 10, air,
                                      R"({"start": 300, "duration": 200000, "step": 2000, "write_every": 10})",
                                      R"(, "power": "40 W")"));
    for (std::size_t i = 1; i < all.size(); ++i)
        EXPECT_NEAR(all[i].produced, all[i].leaving + all[i].stored, 1e-6 * all[i].produced) << i;
    EXPECT_NEAR(all.back().leaving, 40, 1e-3);
    EXPECT_NEAR(all.back().stored, 0, 1e-3);
    EXPECT_GT(all[1].stored, all[2].stored) << "ever less is taken up";
}

TEST(Transient, WithoutAnEnvironmentEverythingIsStored) {
    const auto all = steps(warmingBar(5, 0.1, 4, "", R"({"start": 300, "duration": 100, "step": 10, "write_every": 3})",
                                      R"(, "power": "1 kW")"));
    ASSERT_EQ(all.size(), 5U) << "the start, three steps, and the last one";
    EXPECT_DOUBLE_EQ(all[3].time, 90);
    EXPECT_DOUBLE_EQ(all[4].time, 100);
    EXPECT_NEAR(all.back().temperature[0], 300 + 1000 * 100 / (2000.0 * 500 * 0.1), 1e-6); // Q = m c dT
}

TEST(Transient, MistakesAreTold) {
    const auto refused = [](const std::string& transient, const std::string& word) {
        const auto model = modelFromText(warmingBar(1, 0.1, 2, air, transient), "test.rig.json");
        ASSERT_FALSE(model) << transient;
        EXPECT_NE(model.error().what.find(word), std::string::npos) << model.error().text();
        EXPECT_NE(model.error().where.find("transient"), std::string::npos);
    };
    refused(R"({"duration": 10, "step": 1})", "start");
    refused(R"({"start": 300, "duration": 10, "step": 0})", "step");
    refused(R"({"start": 300, "duration": 10, "step": 20})", "duration");
    refused(R"({"start": 300, "duration": 10, "step": 1, "write_every": 0})", "write_every");
    auto bare = warmingBar(1, 0.1, 2, air, R"({"start": 300, "duration": 10, "step": 1})");
    bare.replace(bare.find(", \"density\": \"2000 kg/m3\""), 25, "");
    const auto model = modelFromText(bare, "test.rig.json");
    ASSERT_FALSE(model);
    EXPECT_NE(model.error().what.find("density"), std::string::npos);
}
