// Ways of heat in networks that are solved by hand: parts in series and side by side.
#include "core/report/heat_flow_diagram.h"
#include "core/thermal/heat_path.h"
#include "core/thermal/whole_heat.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

BlockData bar(const std::string& name, const BoxMesh& box, double conductivity, const Field& temperature) {
    auto part = boxPart(name, box);
    addNodeField(part, "T [K]", temperature);
    addCellField(part, "conductivity", [=](const Point&) { return conductivity; });
    addCellField(part, "heat_source", [](const Point&) { return 0.0; });
    return part;
}

Readings readingsOn(const std::vector<BlockData>& blocks, const std::string& survey = "{}") {
    const TempFolder folder;
    EXPECT_TRUE(writeCase(blocks, folder / "case.vtm"));
    StepContext context;
    context.balances = true;
    return readOn(mustOpen(folder / "case.vtm"), Json::parse(survey), context);
}

Balances balancesOn(const std::vector<BlockData>& blocks, const std::string& survey = "{}") {
    return *readingsOn(blocks, survey).balances;
}

const PartLink& link(const Balances& balances, const std::string& from, const std::string& to) {
    const auto found = std::ranges::find_if(balances.links,
                                            [&](const PartLink& one) { return one.from == from && one.to == to; });
    if (found == balances.links.end()) {
        ADD_FAILURE() << "no way from " << from << " to " << to;
        static const PartLink none;
        return none;
    }
    return *found;
}

} // namespace

// 250 K/m through 25 cm2: in the first 50 W/(m.K), 31.25 W; in the second, of half the conductivity, twice the slope.
TEST(Links, InSeries) {
    const BoxMesh first{{0.1, 0.05, 0.05}, {10, 2, 2}};
    const BoxMesh second{{0.1, 0.05, 0.05}, {10, 2, 2}, {0.1, 0, 0}};
    const auto balances = balancesOn(
        {bar("second", second, 25, [](const Point& at) { return 325 - 500 * (at[0] - 0.1); }),
         bar("first", first, 50, [](const Point& at) { return 350 - 250 * at[0]; }), boxSide("warm", first, 0, false),
         boxSide("cold", second, 0, true)},
        R"j({"case": {"boundaries": {"cold": {"temperature": "265 K", "surface_resistance": 1e-9}}}})j");
    const auto& between = link(balances, "first", "second");
    EXPECT_NEAR(between.heat, 31.25, 1e-6);
    EXPECT_NEAR(between.area, 25e-4, 1e-9);
    ASSERT_TRUE(between.share && between.difference && between.resistance);
    EXPECT_NEAR(*between.share, 1, 1e-9);
    EXPECT_NEAR(*between.difference, 12.5 + 25, 1e-6);    // from the middle of one to the middle of the other
    EXPECT_NEAR(*between.resistance, 37.5 / 31.25, 1e-6); // 0.05 / (50 A) + 0.05 / (25 A)
    const auto& out = link(balances, "second", "cold");
    EXPECT_TRUE(out.toBoundary);
    EXPECT_NEAR(out.heat, 31.25, 1e-6);
    ASSERT_TRUE(out.difference);
    EXPECT_NEAR(*out.difference, 300 - 265, 1e-6);
    const auto& in = link(balances, "first", "warm");
    EXPECT_NEAR(in.heat, -31.25, 1e-6) << "a boundary keeps its direction: heat comes in";
    EXPECT_FALSE(in.share);
}

// Two posts of 10 and 30 W/(m.K) on one base at the same slope: a quarter and three quarters of what leaves it.
TEST(Links, SideBySide) {
    const BoxMesh low{{0.1, 0.1, 0.05}, {4, 4, 5}};
    const BoxMesh left{{0.05, 0.1, 0.05}, {2, 4, 5}, {0, 0, 0.05}};
    const BoxMesh right{{0.05, 0.1, 0.05}, {2, 4, 5}, {0.05, 0, 0.05}};
    const Field upwards = [](const Point& at) { return 350 - 400 * at[2]; };
    const auto balances = balancesOn(
        {bar("left", left, 10, upwards), bar("right", right, 30, upwards), bar("base", low, 20, upwards)});
    EXPECT_NEAR(link(balances, "base", "left").heat, 10 * 400 * 0.005, 1e-6);
    EXPECT_NEAR(link(balances, "base", "right").heat, 30 * 400 * 0.005, 1e-6);
    EXPECT_NEAR(*link(balances, "base", "left").share, 0.25, 1e-9);
    EXPECT_NEAR(*link(balances, "base", "right").share, 0.75, 1e-9);
    const auto first = std::ranges::find(balances.links, false, &PartLink::toBoundary);
    EXPECT_EQ(first->to, "right") << "the largest first";
    EXPECT_NEAR(link(balances, "base", "base z min").heat, -(10 + 30) * 400 * 0.005, 1e-6)
        << "what the file does not name lets it in";
    // They touch each other along x, where nothing flows.
    for (const auto& one : balances.links) {
        if (one.from != "base" && !one.toBoundary) {
            EXPECT_NEAR(one.heat, 0, 1e-9) << one.from << " " << one.to;
        }
    }
}

// Three bars in series of 100, 50 and 25 W/(m.K), 0.1 m long, 25 cm2 across, with 25 W through them and a contact
// between the second and the third that takes 4 K. By hand: 10, 20 and 40 K along the bars; 0.4, 0.8, 1.6 and 0.16 K/W.
TEST(HeatPath, ThreePartsInSeriesWithAContact) {
    const auto box = [](double from) { return BoxMesh{{0.1, 0.05, 0.05}, {5, 2, 2}, {from, 0, 0}}; };
    const auto fall = [](double start, double slope, double from) {
        return Field([=](const Point& at) { return start - slope * (at[0] - from); });
    };
    const auto readings = readingsOn(
        {bar("one", box(0), 100, fall(400, 100, 0)), bar("two", box(0.1), 50, fall(390, 200, 0.1)),
         bar("three", box(0.2), 25, fall(366, 400, 0.2)), boxSide("cold", box(0.2), 0, true)},
        R"j({"case": {"boundaries": {"cold": {"temperature": "321 K", "surface_resistance": "5e-4 m2.K/W"}}}})j");
    const auto path = heatPath(readings, "one", 400);
    ASSERT_TRUE(path) << path.error().text();
    ASSERT_EQ(path->legs.size(), 6U);
    const std::array<double, 6> drop{10, 0, 20, 4, 40, 5};
    for (std::size_t i = 0; i < drop.size(); ++i) {
        ASSERT_TRUE(path->legs[i].drop) << i;
        EXPECT_NEAR(*path->legs[i].drop, drop[i], 1e-6) << i;
        EXPECT_NEAR(*path->legs[i].resistance, drop[i] / 25, 1e-6) << i;
        EXPECT_NEAR(path->legs[i].share, 1, 1e-9) << i;
    }
    EXPECT_EQ(path->legs[3].kind, LegKind::Across);
    EXPECT_EQ(path->legs[5].kind, LegKind::Outwards);
    EXPECT_EQ(path->largestDrop, 4U) << "40 K within the third part";
}

// A base that gives a quarter of its heat to one post and three quarters to another.
TEST(HeatPath, SideBySideFollowsTheLargerShare) {
    const BoxMesh low{{0.1, 0.1, 0.05}, {4, 4, 5}};
    const BoxMesh left{{0.05, 0.1, 0.05}, {2, 4, 5}, {0, 0, 0.05}};
    const BoxMesh right{{0.05, 0.1, 0.05}, {2, 4, 5}, {0.05, 0, 0.05}};
    const Field upwards = [](const Point& at) { return 350 - 400 * at[2]; };
    const auto readings = readingsOn({bar("left", left, 10, upwards), bar("right", right, 30, upwards),
                                      bar("base", low, 20, upwards), boxSide("top", right, 2, true)},
                                     "{}");
    const auto path = heatPath(readings, "base", 350);
    ASSERT_TRUE(path) << path.error().text();
    ASSERT_EQ(path->neighbours.size(), 2U);
    EXPECT_EQ(path->neighbours[0].to, "right");
    EXPECT_NEAR(path->legs[0].share, 0.75, 1e-9);
    EXPECT_NEAR(*path->legs[0].drop, 20, 1e-6);
    EXPECT_NEAR(*path->legs[0].resistance, 20 / (30 * 400 * 0.005), 1e-6);
    EXPECT_EQ(path->legs.back().to, "top");
    EXPECT_FALSE(heatPath(readings, "elsewhere", 350));
    EXPECT_FALSE(heatPath(Readings{}, "base", 350)) << "no balances";
}

// Bands at a node lie side by side and add up to what passes it; what leaves for good stands at the rim.
TEST(HeatFlowDiagram, FlowsAddUp) {
    const BoxMesh low{{0.1, 0.1, 0.05}, {4, 4, 5}};
    const BoxMesh left{{0.05, 0.1, 0.05}, {2, 4, 5}, {0, 0, 0.05}};
    const BoxMesh right{{0.05, 0.1, 0.05}, {2, 4, 5}, {0.05, 0, 0.05}};
    const Field upwards = [](const Point& at) { return 350 - 400 * at[2]; };
    const auto readings = readingsOn({bar("left", left, 10, upwards), bar("right", right, 30, upwards),
                                      bar("base", low, 20, upwards), boxSide("floor", low, 2, false),
                                      boxSide("left top", left, 2, true), boxSide("right top", right, 2, true)},
                                     "{}");
    CaseEntry entry;
    entry.parts["base"].label = "Base";
    const auto map = heatFlowDiagram(readings, entry);
    ASSERT_TRUE(map) << map.error().text();
    EXPECT_EQ(map->columns, 4); // floor, base, posts, tops
    ASSERT_EQ(map->nodes.size(), 6U);
    const auto node = [&](const std::string& name) {
        return static_cast<std::size_t>(std::ranges::find(map->nodes, name, &HeatNode::name) - map->nodes.begin());
    };
    const auto& base = map->nodes[node("base")];
    EXPECT_EQ(base.label, "Base");
    EXPECT_NEAR(base.through, 80, 1e-6); // 20 x 400 x 0.01
    EXPECT_NEAR(map->nodes[node("right top")].x + map->nodeWidth, 1, 1e-9);
    EXPECT_LT(map->nodes[node("floor")].x, base.x) << "heat comes in through it";
    double in = 0;
    double out = 0;
    for (const auto& band : map->bands) {
        EXPECT_GT(band.heat, 0);
        EXPECT_LT(map->nodes[band.from].x, map->nodes[band.to].x);
        in += band.to == node("base") ? band.width : 0;
        out += band.from == node("base") ? band.width : 0;
        if (band.from == node("base")) {
            EXPECT_GE(band.yFrom, base.y - 1e-9);
            EXPECT_LE(band.yFrom + band.width, base.y + base.height + 1e-9);
        }
    }
    EXPECT_NEAR(in, base.height, 1e-6);
    EXPECT_NEAR(out, base.height, 1e-6);
    EXPECT_FALSE(heatFlowDiagram(Readings{}, entry));
}

// 250 K/m in 50 W/(m.K) through 25 cm2: 31.25 W in at the warm end and out at the cold one, nothing in sum.
TEST(WholeHeat, TakesSourcesBeforePowersAndNeedsTheHeatOfEveryBoundary) {
    const BoxMesh box{{0.1, 0.05, 0.05}, {10, 2, 2}};
    const auto wholeOf = [&](bool sourced, bool conducts, const std::string& note) {
        auto part = boxPart("bar", box);
        addNodeField(part, "T [K]", [](const Point& at) { return 350 - 250 * at[0]; });
        if (sourced)
            addCellField(part, "heat_source", [](const Point&) { return 0.0; });
        if (conducts)
            addCellField(part, "conductivity", [](const Point&) { return 50.0; });
        return readingsOn({part, boxSide("warm", box, 0, false), boxSide("cold", box, 0, true)},
                          R"j({"case": {"parts": {)j" + note + "}}}")
            .balance;
    };
    const auto closed = wholeOf(true, true, "");
    ASSERT_TRUE(closed);
    EXPECT_NEAR(closed->leaving, 0, 1e-6);
    const auto open = wholeOf(false, true, R"("bar": {"power": "3 W"}, "gone": {"power": "50 W"})");
    ASSERT_TRUE(open && open->remainder());
    EXPECT_DOUBLE_EQ(open->produced, 3) << "the power of a part that is not there counts for nothing";
    EXPECT_FALSE(wholeOf(false, true, "")) << "nothing is known of what is produced";
    EXPECT_FALSE(wholeOf(true, false, "")) << "no heat through the boundaries";
}

// A wall with a flux of its own between two parts: what crosses it leaves the one and enters the other, and neither
// leaves the case.
TEST(WholeHeat, AWallBetweenTwoPartsLeadsOutOfNeither) {
    const BoxMesh first{{0.1, 0.05, 0.05}, {10, 2, 2}};
    const BoxMesh second{{0.1, 0.05, 0.05}, {10, 2, 2}, {0.1, 0, 0}};
    auto joint = boxSide("joint", first, 0, true);
    addCellVector(joint, "heat_flux", {12500, 0, 0});
    const auto blocks = std::vector<BlockData>{
        bar("first", first, 50, [](const Point& at) { return 350 - 250 * at[0]; }),
        bar("second", second, 25, [](const Point& at) { return 325 - 500 * (at[0] - 0.1); }),
        boxSide("warm", first, 0, false), boxSide("cold", second, 0, true), joint};
    const auto whole = readingsOn(blocks);
    ASSERT_TRUE(whole.balance);
    EXPECT_NEAR(whole.balance->leaving, 0, 1e-6);
    EXPECT_NEAR(*whole.balances->boundaries[2].heat, 31.25, 1e-6);
    EXPECT_EQ(*whole.balances->boundaries[2].outer, 0);
    const auto heat = wholeHeat(whole);
    ASSERT_TRUE(heat);
    EXPECT_NEAR(heat->in, 31.25, 1e-6) << "not twice, over the joint as well";
    EXPECT_LT(heat->open(), 1e-6);
    EXPECT_EQ(heat->text(), "31.25 W in, 31.25 W out, 0.000 % open");
}
