// Contact resistances, radiation, changing environments, and what the rig refuses.
#include "rig/result.h"

#include <cmath>
#include <fmt/format.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::rig;

namespace {

std::string bar(const std::string& boxes, const std::string& environments, const std::string& more = "") {
    return fmt::format(
        R"j({{"rig": 1, "grid": {{"x": {{"spacing": 0.01}}, "y": {{"spacing": 1}}, "z": {{"spacing": 1}}}},
        "materials": {{"metal": {{"conductivity": 50, "density": 8000, "heat_capacity": 500}}}}, "boxes": [{}],
          "environments": [{}]{}}})j",
        boxes, environments, more);
}
const std::string halves =
    R"j({"part": "left", "material": "metal", "from": [0, 0, 0], "to": [0.1, 1, 1]}, {"part": "right",
      "material": "metal", "from": [0.1, 0, 0], "to": [0.2, 1, 1]})j";
const std::string plain =
    R"j({"boundary": "hot", "temperature": 400, "faces": [{"side": "-x"}]}, {"boundary": "cold", "temperature": 300,
      "faces": [{"side": "+x"}]})j";

std::string refusal(const std::string& text) {
    const auto model = modelFromText(text, "test");
    if (!model)
        return model.error().text();
    const auto grid = makeGrid(*model);
    if (!grid)
        return grid.error().text();
    NoProgress progress;
    const auto solution = solve(*model, *grid, progress);
    EXPECT_FALSE(solution);
    return solution ? std::string() : solution.error().text();
}

class Stopped final : public Progress {
public:
    void report(double, std::string_view) override { ++reports; }
    bool cancelled() const override { return reports > 2; }
    int reports = 0;
};

} // namespace

// Two resistances of 0.1 / 50 and the contact between: q = 100 / (0.004 + 0.001), the jump is q times the contact's.
TEST(RigPhysics, AContactIsAStepAtItsNodes) {
    const auto model = modelFromText(
        bar(halves, plain, R"j(, "contacts": [{"between": ["right", "left"], "resistance": "0.001 m2.K/W"}])j"),
        "test");
    ASSERT_TRUE(model) << model.error().text();
    const auto grid = makeGrid(*model);
    NoProgress progress;
    const auto solution = solve(*model, *grid, progress);
    ASSERT_TRUE(solution);
    EXPECT_NEAR(solution->fluxAbove[0][5], 100 / 0.005, 1e-6);
    const auto blocks = toBlocks(*model, *grid, *solution);
    const auto edge = [&](std::size_t block, double x) {
        for (std::size_t node = 0; node < blocks[block].points.size() / 3; ++node)
            if (std::abs(blocks[block].points[3 * node] - x) < 1e-9)
                return blocks[block].arrays[0].values[node];
        return std::nan("");
    };
    EXPECT_NEAR(edge(0, 0.1), 360, 1e-6);
    EXPECT_NEAR(edge(1, 0.1), 340, 1e-6);
}

// A surface that only radiates: k (T1 - T) / L = e s (T^4 - Te^4), solved here by bisection.
TEST(RigPhysics, ARadiatingSurfaceFollowsTheFourthPower) {
    const auto model = modelFromText(
        bar(R"j({"part": "bar", "material": "metal", "from": [0, 0, 0], "to": [0.5, 1, 1]})j",
            R"j({"boundary": "hot", "temperature": 800, "faces": [{"side": "-x"}]}, {"boundary": "sky",
              "temperature": 250, "emissivity": 0.9, "faces": [{"side": "+x"}]})j"),
        "test");
    ASSERT_TRUE(model) << model.error().text();
    const auto grid = makeGrid(*model);
    NoProgress progress;
    const auto solution = solve(*model, *grid, progress);
    ASSERT_TRUE(solution) << solution.error().text();
    double low = 250;
    double high = 800;
    while (high - low > 1e-10) {
        const double middle = 0.5 * (low + high);
        (50 * (800 - middle) / 0.5 > 0.9 * 5.670374419e-8 * (std::pow(middle, 4) - std::pow(250, 4)) ? low
                                                                                                     : high) = middle;
    }
    EXPECT_NEAR(nodeTemperatures(*model, *grid, *solution)[50], low, 1e-4);
    EXPECT_NEAR(solution->leaving, 0, 1e-3 * solution->turnover);
}

TEST(RigPhysics, AChangingEnvironmentIsFollowed) {
    const auto model = modelFromText(
        bar(R"j({"part": "bar", "material": "metal", "from": [0, 0, 0], "to": [0.01, 1, 1]})j",
            R"j({"boundary": "air", "course": [["0 s", 300], ["100 s", 400]], "film_coefficient": 1e6,
              "faces": [{"side": "-x"}]})j",
            R"j(, "transient": {"start": 300, "duration": 150, "step": 0.5, "write_every": 100})j"),
        "test");
    ASSERT_TRUE(model) << model.error().text();
    EXPECT_NEAR(model->environments[0].temperatureAt(25), 325, 1e-12);
    EXPECT_NEAR(model->environments[0].temperatureAt(1e9), 400, 1e-12);
    const auto grid = makeGrid(*model);
    NoProgress progress;
    std::vector<double> all;
    ASSERT_TRUE(solveTransient(
        *model, *grid,
        [&](const Solution& solution) -> Done {
            all.push_back(solution.temperature[0]);
            return {};
        },
        progress));
    ASSERT_EQ(all.size(), 4U);
    // a ramp of 1 K/s, followed at a lag of rho c L times the resistance of half a cell and film
    EXPECT_NEAR(all[1], 350 - 4.04, 0.01);
    EXPECT_NEAR(all[3], 400, 0.1);
}

TEST(RigPhysics, MistakesNameTheBoxAndTheKey) {
    EXPECT_NE(refusal(bar(halves + R"j(, {"part": "all", "material": "metal", "from": [0, 0, 0], "to": [0.2, 1, 1]})j",
                          plain))
                  .find("nothing is left of box 0, part \"left\""),
              std::string::npos);
    const auto idle = refusal(
        bar(halves,
            plain + R"j(, {"boundary": "roof", "temperature": 300, "faces": [{"side": "+x", "from": [5, 0, 0]}]})j"));
    EXPECT_NE(idle.find("\"roof\" touches no outer face"), std::string::npos) << idle;
    EXPECT_NE(idle.find("environments.2"), std::string::npos) << idle;
    for (const auto& [more, word] :
         {std::pair{R"j(, "contacts": [{"between": ["left", "middle"], "resistance": 1}])j", "\"middle\""},
          {R"j(, "contacts": [{"between": ["left", "right"], "resistance": 0}])j", "must be positive"},
          {R"j(, "refine": {"change": 0})j", "refine"}})
        EXPECT_NE(refusal(bar(halves, plain, more)).find(word), std::string::npos) << more;
    EXPECT_NE(refusal(bar(halves,
                          R"j({"boundary": "hot", "temperature": 400, "emissivity": 1.5, "faces": [{"side": "-x"}]})j"))
                  .find("emissivity"),
              std::string::npos);
    EXPECT_NE(
        refusal(
            bar(halves, R"j({"boundary": "hot", "course": [["0 s", 300], ["0 s", 310]], "faces": [{"side": "-x"}]})j"))
            .find("rise"),
        std::string::npos);
    EXPECT_NE(refusal(bar(halves, R"j({"boundary": "hot", "course": [["0 s", 300]], "faces": [{"side": "-x"}]})j"))
                  .find("transient"),
              std::string::npos);
}

TEST(RigPhysics, RefinementEndsAtItsMostCells) {
    const auto model = modelFromText(bar(halves, plain, R"j(, "refine": {"change": 1e-30, "most_cells": 50})j"),
                                     "test");
    ASSERT_TRUE(model);
    NoProgress progress;
    auto grid = makeGrid(*model);
    const auto refined = solveRefined(
        *model, std::move(*grid), [](const RefinementStep&) {}, progress);
    ASSERT_FALSE(refined);
    EXPECT_EQ(refined.error().code, ErrorCode::NotConverged);
    EXPECT_NE(refined.error().what.find("halving would need 80"), std::string::npos) << refined.error().what;
}

TEST(RigPhysics, SolvingIsCancelled) {
    const auto model = modelFromText(
        R"j({"rig": 1, "grid": {"x": {"spacing": 0.02}, "y": {"spacing": 0.02}, "z": {"spacing": 0.02}},
          "materials": {"metal": {"conductivity": 50}},
        "boxes": [{"part": "cube", "material": "metal", "from": [0, 0, 0], "to": [1, 1, 1]}],
          "environments": [{"boundary": "hot", "temperature": 400, "faces": [{"side": "-x"}]},
        {"boundary": "cold", "temperature": 300, "faces": [{"side": "+y"}]}]})j",
        "test");
    ASSERT_TRUE(model);
    const auto grid = makeGrid(*model);
    Stopped progress;
    const auto solution = solve(*model, *grid, progress);
    ASSERT_FALSE(solution);
    EXPECT_EQ(solution.error().code, ErrorCode::Cancelled);
}
