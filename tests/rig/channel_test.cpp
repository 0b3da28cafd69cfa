// Channels with a moving coolant: what flows in flows out, what is produced is carried away, and the temperature
// along a channel follows the exact solutions.
#include "rig/result.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::rig;

namespace {

struct SolvedChannel {
    Model model;
    Grid grid;
    Solution solution;
};

Result<SolvedChannel> solved(const std::string& text) {
    auto model = modelFromText(text, "test.rig.json");
    if (!model)
        return tl::unexpected(model.error());
    auto grid = makeGrid(*model);
    NoProgress progress;
    auto solution = solve(*model, *grid, progress);
    if (!solution)
        return tl::unexpected(solution.error());
    return SolvedChannel{*model, *grid, *solution};
}

// A duct along x, 1 m long and 0.02 m high, under a copper wall 0.002 m thick; 0.1 m deep.
std::string duct(int cells, const std::string& channel, const std::string& wall,
                 const std::string& environments = "[]") {
    return fmt::format(R"json({{"rig": 1,
        "grid": {{"x": {{"spacing": {}}}, "y": {{"spacing": 0.1}}, "z": {{"spacing": 0.02}}}},
        "materials": {{"liquid": {{"conductivity": 1e-6, "density": 1000, "heat_capacity": 4000}},
                       "copper": {{"conductivity": [1e-6, 1e-6, 1e6], "density": 8900, "heat_capacity": 400}}}},
        "boxes": [{{"part": "stream", "material": "liquid", "from": [0, 0, 0], "to": [1, 0.1, 0.02]}},
                  {{"part": "wall", "material": "copper", "from": [0, 0, 0.02], "to": [1, 0.1, 0.022]{}}}],
        "channels": [{{"part": "stream", "flow": "1e-5 m3/s", "wall": "wetted", {}
                       "inlet": {{"boundary": "in", "temperature": 300, "faces": [{{"side": "-x", "to": [0, 1,
                         0.02]}}]}},
                       "outlet": {{"boundary": "out", "faces": [{{"side": "+x", "to": [1, 1, 0.02]}}]}}}}],
        "environments": {}}})json",
                       1.0 / cells, wall, channel, environments);
}

double outletTemperature(const SolvedChannel& one, int cells) {
    return one.solution.temperature[one.grid.cell(static_cast<std::size_t>(cells) - 1, 0, 0)];
}

// A channel with a bend: along x, then along y.
const std::string bend = R"json({"rig": 1,
    "grid": {"x": {"spacing": 0.5}, "y": {"spacing": 0.5}, "z": {"spacing": 1}},
    "materials": {"liquid": {"conductivity": 0.6, "density": 1000, "heat_capacity": 4000}},
    "boxes": [{"part": "stream", "material": "liquid", "from": [0, 0, 0], "to": [6, 2, 1]},
              {"part": "stream", "material": "liquid", "from": [4, 2, 0], "to": [6, 5, 1], "power": "80 kW"}],
    "channels": [{"part": "stream", "flow": "0.3 m3/s",
                  "inlet": {"boundary": "in", "temperature": 300, "faces": [{"side": "-x", "to": [0, 2, 1]}]},
                  "outlet": {"boundary": "out", "faces": [{"side": "+y", "from": [4, 5, 0]}]}}]})json";

const BlockData* blockNamed(const std::vector<BlockData>& blocks, const std::string& name) {
    const auto found = std::ranges::find(blocks, name, &BlockData::name);
    return found == blocks.end() ? nullptr : &*found;
}

const ArrayData* arrayOf(const BlockData& block, const std::string& name, Location on) {
    const auto found = std::ranges::find_if(
        block.arrays, [&](const ArrayData& array) { return array.name == name && array.on == on; });
    return found == block.arrays.end() ? nullptr : &*found;
}

} // namespace

// Energy balance: the mixed-cup temperature rises by P / (rho c V) (Incropera, chapter 8.3, from memory).
TEST(Channel, ACoolantTakesUpWhatTheWallProduces) {
    const auto one = solved(duct(20, R"("film_coefficient": 500,)", R"(, "power": "200 W")"));
    ASSERT_TRUE(one) << one.error().text();
    EXPECT_NEAR(outletTemperature(*one, 20), 300 + 200 / (1000 * 4000 * 1e-5), 1e-6);
    EXPECT_NEAR(one->solution.produced, 200, 1e-9);
    EXPECT_NEAR(one->solution.leaving, 200, 1e-6);
    // Even flux over the wall: everywhere 200 W over 0.1 m2, and a film of 1/500 below it.
    for (std::size_t i = 0; i < 20; ++i) {
        EXPECT_NEAR(-one->solution.fluxBelow[2][one->grid.cell(i, 0, 1)], 2000, 1e-3) << i;
        EXPECT_NEAR(one->solution.temperature[one->grid.cell(i, 0, 1)] -
                        one->solution.temperature[one->grid.cell(i, 0, 0)],
                    2000.0 / 500, 1e-3);
    }
}

// Along a wall of one temperature: (Tw - T) falls with exp(-h P x / (m c)) (Incropera, equation 8.41b, from memory);
// the error of upwinding halves with the cells.
TEST(Channel, ACoolantApproachesTheWallExponentially) {
    const double exact = 350 - 50 * std::exp(-400 * 0.1 / (1000 * 4000 * 1e-5));
    std::array<double, 2> error{};
    for (std::size_t i = 0; i < 2; ++i) {
        const int cells = i == 0 ? 40 : 80;
        const auto one = solved(
            duct(cells, R"("film_coefficient": 400,)", "",
                 R"([{"boundary": "held", "temperature": 350, "faces": [{"side": "+z", "from": [0, 0, 0.022]}]}])"));
        ASSERT_TRUE(one) << one.error().text();
        error[i] = outletTemperature(*one, cells) - exact;
        EXPECT_NEAR(one->solution.leaving, 0, 1e-2); // of 1264 W; what the held wall gives, the coolant carries off
    }
    EXPECT_LT(std::abs(error[0]), 0.3);
    EXPECT_NEAR(error[0] / error[1], 2, 0.1);
}

TEST(Channel, WhatEntersEveryCellLeavesIt) {
    const auto one = solved(bend);
    ASSERT_TRUE(one) << one.error().text();
    const auto& flow = one->solution.flow;
    std::vector<double> net(one->grid.cellCount(), 0.0);
    double through = 0; // of the section x = 2
    one->grid.forSides([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t) {
        net[cell] += flow.outward(one->grid, cell, at, axis, above);
        if (axis == 0 && above && std::abs(one->grid.faceCentre(at, axis, above)[0] - 2) < 1e-9)
            through += flow.outward(one->grid, cell, at, axis, above);
    });
    for (const double left : net)
        EXPECT_NEAR(left, 0, 1e-9);
    EXPECT_NEAR(through, 0.3, 1e-9);
    EXPECT_NEAR(one->solution.leaving, 80000, 1e-3);
    // Far from the bend the flow is even over the section.
    EXPECT_NEAR(flow.above[0][one->grid.cell(0, 0, 0)], 0.15, 1e-3);
    EXPECT_NEAR(flow.above[0][one->grid.cell(0, 3, 0)], 0.15, 1e-3);
}

TEST(Channel, VelocityAndOpeningsAreWrittenWithTheCase) {
    const auto one = solved(bend);
    ASSERT_TRUE(one) << one.error().text();
    const auto blocks = toBlocks(one->model, one->grid, one->solution);
    const auto* stream = blockNamed(blocks, "stream");
    const auto* in = blockNamed(blocks, "in");
    const auto* out = blockNamed(blocks, "out");
    ASSERT_TRUE(stream && in && out);
    EXPECT_EQ(blockNamed(blocks, ""), nullptr); // the wall has no name, so it is not written
    ASSERT_TRUE(arrayOf(*stream, "velocity", Location::Node) && arrayOf(*stream, "velocity", Location::Cell));
    const auto& nodes = arrayOf(*stream, "velocity", Location::Node)->values;
    for (std::size_t node = 0; node < stream->points.size() / 3; ++node)
        if (stream->points[3 * node + 1] == 0) { // along the wall y = 0 it slips, and never crosses
            EXPECT_EQ(nodes[3 * node + 1], 0) << node;
            EXPECT_GT(nodes[3 * node] + (stream->points[3 * node] == 6 ? 1 : 0), 0) << node;
        }
    double flow = 0; // m3/s out of the openings, all faces 0.5 m2
    for (const double v : arrayOf(*out, "velocity", Location::Cell)->values)
        flow += 0.5 * v;
    EXPECT_NEAR(flow, 0.3, 1e-9);
    for (const double t : arrayOf(*in, "temperature", Location::Cell)->values)
        EXPECT_DOUBLE_EQ(t, 300);
    for (const double q : arrayOf(*out, "heat_flux", Location::Cell)->values)
        EXPECT_EQ(q, 0);
}

// The wall keeps its own surface temperature, the coolant its mean: the jump between them is the film.
TEST(Channel, TheFilmStaysAJumpAtTheNodes) {
    const auto one = solved(duct(20, R"("film_coefficient": 500,)", R"(, "power": "200 W")"));
    ASSERT_TRUE(one) << one.error().text();
    const auto blocks = toBlocks(one->model, one->grid, one->solution);
    const auto* wall = blockNamed(blocks, "wall");
    const auto* stream = blockNamed(blocks, "stream");
    const auto* wetted = blockNamed(blocks, "wetted");
    ASSERT_TRUE(wall && stream && wetted);
    const auto lowest = [](const BlockData& block) {
        return std::ranges::min(arrayOf(block, "temperature", Location::Node)->values);
    };
    EXPECT_NEAR(lowest(*wall) - lowest(*stream), 4, 0.05);
    const auto& flux = arrayOf(*wetted, "heat_flux", Location::Cell)->values; // out of the wall, downwards
    ASSERT_EQ(flux.size(), 60U);
    EXPECT_NEAR(flux[2], -2000, 1e-3);
}

TEST(Channel, MistakesNameTheChannel) {
    const auto text = [](const std::string& from, const std::string& to) {
        auto changed = bend;
        changed.replace(changed.find(from), from.size(), to);
        return changed;
    };
    const auto says = [](const Result<SolvedChannel>& one, const std::string& what) {
        ASSERT_FALSE(one);
        EXPECT_NE(one.error().text().find(what), std::string::npos) << one.error().text();
    };
    says(solved(text(R"("0.3 m3/s")", R"("-0.3 m3/s")")), "the flow must be positive");
    says(solved(text(R"("to": [0, 2, 1]}]})", R"("to": [-1, 2, 1]}]})")),
         "no outer face of \"stream\" lies in its inlet");
    says(solved(text(R"("side": "+y", "from": [4, 5, 0])", R"("side": "+z", "from": [9, 9, 9])")),
         "lies in its outlet");
    says(solved(text(R"("part": "stream", "flow")", R"("part": "steam", "flow")")),
         "no box belongs to the part \"steam\"");
    says(solved(text(R"(, "density": 1000)", "")), "a coolant needs density");
}

// A solve with a coolant can be stopped in its iterations, not only before and after them.
TEST(Channel, ASolveIsCancelledWhileItRuns) {
    struct Counting final : Progress {
        int last = 1 << 30; // the question that is answered with yes
        mutable int asked = 0;
        void report(double, std::string_view) override {}
        bool cancelled() const override { return ++asked >= last; }
    } counting, stopping;
    const auto model = modelFromText(bend, "test.rig.json");
    ASSERT_TRUE(model) << model.error().text();
    const auto grid = makeGrid(*model);
    ASSERT_TRUE(solve(*model, *grid, counting));
    EXPECT_GT(counting.asked, 3) << "in its iterations too";
    stopping.last = counting.asked - 1;
    const auto solution = solve(*model, *grid, stopping);
    ASSERT_FALSE(solution);
    EXPECT_EQ(solution.error().code, ErrorCode::Cancelled);
}
