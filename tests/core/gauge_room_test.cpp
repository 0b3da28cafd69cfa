// The room of gauges by itself: places as they are written, found on a mesh, and values read there. Against the
// measures of plain bodies and integrals of polynomials, which linear cells reproduce exactly.
#include "core/gauge/site.h"
#include "core/gauge/support.h"
#include "core/gauge/surface_places.h"
#include "core/gauge/values.h"
#include "core/gauge/wall_trace.h"
#include "core/gauge/where_shape.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>

using namespace pyro;
using namespace pyro::test;

namespace {

Result<WhereShape> shapeIn(const char* json) { return shapeOf({Json::parse(json)}); }

template <class Shape>
Shape mustBe(const char* json) {
    const auto read = shapeIn(json);
    EXPECT_TRUE(read) << json << ": " << read.error().text();
    const auto* shape = read ? std::get_if<Shape>(&read->shape) : nullptr;
    EXPECT_NE(shape, nullptr) << json;
    return shape != nullptr ? *shape : Shape{};
}

// Two boxes of 0.2 m x 0.1 m x 0.1 m that touch at x = 0.2 m; T = 300 + 100 x + 50 y, a
// velocity of (y, 2, 3), and boundaries at both ends.
class Sites : public testing::Test {
protected:
    void SetUp() override {
        const BoxMesh left{{0.2, 0.1, 0.1}, {4, 3, 2}};
        const BoxMesh right{{0.2, 0.1, 0.1}, {4, 3, 2}, {0.2, 0, 0}};
        std::vector<BlockData> blocks{boxPart("left", left), boxPart("right", right)};
        for (auto& one : blocks) {
            addNodeField(one, "temperature", [](const Point& at) { return 300 + 100 * at[0] + 50 * at[1]; });
            addNodeVector(one, "velocity", [](const Point& at) { return Point{at[1], 2, 3}; });
        }
        blocks.push_back(boxSide("low end", left, 0, false));
        blocks.push_back(boxSide("high end", right, 0, true));
        blocks.push_back(boxSide("front", right, 1, false));
        ASSERT_TRUE(writeCase(blocks, folder / "pair.vtm"));
        opened = mustOpen(folder / "pair.vtm");
        quantities = *recognise(*opened->solved, {});
    }
    Result<Site> found(const char* where) {
        const auto shape = shapeIn(where);
        EXPECT_TRUE(shape) << where;
        return siteOf(*shape, {*opened->solved, *opened->index, quantities, readSurface});
    }
    Site must(const char* where) {
        auto site = found(where);
        EXPECT_TRUE(site) << where << ": " << (site ? "" : site.error().text());
        return site ? std::move(*site) : Site{};
    }
    // Of one node value per place, by the shares.
    double valueAt(const Places& places, std::size_t i, const char* array = "temperature") {
        double sum = 0;
        const auto* stored = opened->solved->parts[places.part[i]].find(array, Location::Node);
        for (auto k = places.begin[i]; k < places.begin[i + 1]; ++k)
            sum += places.share[k] * stored->values[places.node[k]];
        return sum;
    }
    double integral(const Places& places, const std::function<double(double)>& of) {
        double sum = 0;
        for (std::size_t i = 0; i < places.size(); ++i)
            sum += places.weight[i] * of(valueAt(places, i));
        return sum;
    }
    TempFolder folder;
    std::optional<OpenedCase> opened;
    QuantityList quantities;
    SurfaceReader readSurface = nullptr;
};

} // namespace

TEST(WhereShape, EveryFormIsRead) {
    EXPECT_TRUE(shapeIn(R"("all")")->everything);
    EXPECT_EQ(shapeIn(R"({"part": "a"})")->parts, (std::vector<std::string>{"a"}));
    EXPECT_EQ(shapeIn(R"({"boundary": ["a", "b"]})")->boundaries, (std::vector<std::string>{"a", "b"}));
    EXPECT_EQ(shapeIn(R"([{"part": "a"}, {"part": ["b", "c"]}])")->parts, (std::vector<std::string>{"a", "b", "c"}));
    EXPECT_EQ(mustBe<PointShape>(R"({"point": ["1 cm", 0.02, "30 mm"]})").at, (Point{0.01, 0.02, 0.03}));
    const auto line = mustBe<LineShape>(R"({"line": {"from": [0, 0, 0], "to": [0, 0, 1], "points": 11}})");
    EXPECT_EQ(line.points, 11U);
    EXPECT_EQ(line.through.size(), 2U);
    EXPECT_EQ(mustBe<LineShape>(R"({"polyline": {"through": [[0, 0, 0], [1, 0, 0], [1, 1, 0]]}})").through.size(), 3U);
    const auto plane = mustBe<PlaneShape>(R"({"plane": {"origin": [0, 0, 0], "normal": [0, 3, 4]}})").plane;
    EXPECT_NEAR(plane.normal[1], 0.6, 1e-15) << "of length 1";
    EXPECT_NEAR(plane.normal[2], 0.8, 1e-15);
    EXPECT_EQ(mustBe<InterfaceShape>(R"({"interface": ["a", "b"]})").parts[1], "b");
    EXPECT_NEAR(mustBe<IsothermShape>(R"({"isotherm": {"value": "85 degC"}})").kelvin, 358.15, 1e-12);
    const auto surface = mustBe<SurfaceShape>(R"({"surface": {"file": "lid.stl", "unit": "mm", "solid": "top"}})");
    EXPECT_NEAR(surface.metresPerUnit, 1e-3, 1e-18);
    EXPECT_EQ(surface.solid, "top");
    const auto trace = shapeIn(R"({"trace": {"origin": [0, 0, 0], "normal": [1, 0, 0]}, "boundary": "lid"})");
    ASSERT_TRUE(trace);
    EXPECT_TRUE(std::holds_alternative<TraceShape>(trace->shape));
}

TEST(WhereShape, WhatIsWrongIsToldWithItsKey) {
    const std::pair<const char*, const char*> wrong[]{
        {"null", "neither"},
        {"3", "an object, a list"},
        {R"({"place": 1})", "not known"},
        {R"({"part": 3})", "part"},
        {R"({"part": []})", "names nothing"},
        {R"({"part": "a", "boundary": "b"})", "not both"},
        {R"([{"point": [0, 0, 0]}])", "parts or boundaries"},
        {R"({"point": [0, 0]})", "point"},
        {R"({"point": [0, 0, "1 K"]})", "K"},
        {R"({"point": [0, 0, true]})", "length"},
        {R"({"line": {"from": [0, 0, 0]}})", "to"},
        {R"({"line": {"from": [0, 0, 0], "to": [0, 0, 0]}})", "starts where it ends"},
        {R"({"line": {"from": [0, 0, 0], "to": [1, 0, 0], "points": 1}})", "points"},
        {R"({"line": {"from": [0, 0, 0], "to": [1, 0, 0], "points": 2.5}})", "points"},
        {R"({"polyline": {"through": [[0, 0, 0]]}})", "two places"},
        {R"({"plane": {"origin": [0, 0, 0], "normal": [0, 0, 0]}})", "normal"},
        {R"({"trace": {"origin": [0, 0, 0], "normal": [1, 0, 0]}})", "boundary"},
        {R"({"interface": ["a", "a"]})", "different"},
        {R"({"interface": ["a"]})", "two"},
        {R"({"isotherm": {"value": "5 m"}})", "m"},
        {R"({"isotherm": {}})", "value"},
        {R"({"surface": {"file": "a.stl"}})", "unit"},
        {R"({"surface": {"file": "a.stl", "unit": "K"}})", "K"},
    };
    for (const auto& [json, word] : wrong) {
        const auto read = shapeIn(json);
        ASSERT_FALSE(read) << json;
        EXPECT_NE((read.error().what + read.error().where).find(word), std::string::npos)
            << json << ": " << read.error().text();
    }
}

TEST(WhereShape, WhatIsPickedIsReadAsItWasWritten) {
    const auto line = shapeOf({lineWhere({0, 0.01, 0}, {0.5, 0.01, 0.2}, 50)});
    ASSERT_TRUE(line);
    EXPECT_EQ(std::get<LineShape>(line->shape).through[1], (Point{0.5, 0.01, 0.2}));
    EXPECT_EQ(std::get<LineShape>(line->shape).points, 50U);
    const auto plane = shapeOf({planeWhere({{0.1, 0, 0}, {0, 0, 2}}, {"chip"})});
    ASSERT_TRUE(plane);
    EXPECT_EQ(plane->parts, (std::vector<std::string>{"chip"}));
    EXPECT_EQ(std::get<PlaneShape>(plane->shape).plane.normal[2], 1);
    EXPECT_EQ(std::get<PointShape>(shapeOf({pointWhere({1, 2, 3})})->shape).at, (Point{1, 2, 3}));
}

TEST_F(Sites, MeasuresAreThoseOfTheBodies) {
    EXPECT_NEAR(must(R"("all")").extent, 0.004, 1e-12);
    EXPECT_NEAR(must(R"({"part": "left"})").extent, 0.002, 1e-12);
    EXPECT_NEAR(must(R"({"boundary": ["low end", "front"]})").extent, 0.01 + 0.02, 1e-12);
    EXPECT_NEAR(must(R"({"interface": ["left", "right"]})").extent, 0.01, 1e-9);
    EXPECT_NEAR(must(R"({"plane": {"origin": [0, 0.05, 0], "normal": [0, 1, 0]}})").extent, 0.04, 1e-9);
    EXPECT_NEAR(must(R"({"plane": {"origin": [0, 0.05, 0], "normal": [0, 1, 0]}, "part": "left"})").extent, 0.02, 1e-9);
    // Tilted by 45 degrees about y: 0.1 m wide, 0.1 m times the square root of 2 long.
    EXPECT_NEAR(must(R"({"plane": {"origin": [0.1, 0, 0.05], "normal": [1, 0, 1]}, "part": "left"})").extent,
                0.01 * std::numbers::sqrt2, 1e-9);
    // T = 315 K where 100 x + 50 y = 15: a slanted plane through the left box.
    EXPECT_NEAR(must(R"({"isotherm": {"value": "315 K"}, "part": "left"})").extent, 0.1 * std::hypot(0.1, 0.05), 1e-7);
    const auto line = must(R"({"line": {"from": [-0.1, 0.05, 0.05], "to": [0.5, 0.05, 0.05], "points": 61}})");
    EXPECT_EQ(line.kind, SiteKind::Line);
    EXPECT_NEAR(line.s.back(), 0.6, 1e-12);
    EXPECT_NEAR(line.outside, 1.0 / 3, 0.02) << "0.2 of 0.6 m lie before and behind the mesh";
    EXPECT_EQ(must(R"({"point": [0.3, 0.05, 0.05]})").kind, SiteKind::Spot);
}

TEST_F(Sites, WhatMissesTheMeshIsTold) {
    const std::pair<const char*, ErrorCode> wrong[]{
        {R"({"part": "middle"})", ErrorCode::NameUnknown},
        {R"({"boundary": "lid"})", ErrorCode::NameUnknown},
        {R"({"interface": ["left", "middle"]})", ErrorCode::NameUnknown},
        {R"({"point": [9, 9, 9]})", ErrorCode::NotSupported},
        {R"({"line": {"from": [9, 9, 9], "to": [9, 9, 8]}})", ErrorCode::NotSupported},
        {R"({"plane": {"origin": [0, 3, 0], "normal": [0, 1, 0]}})", ErrorCode::NotSupported},
        {R"({"isotherm": {"value": "900 K"}})", ErrorCode::NotSupported},
        {R"({"trace": {"origin": [0, 0, 9], "normal": [0, 0, 1]}, "boundary": "front"})", ErrorCode::NotSupported},
        {R"({"surface": {"file": "a.stl", "unit": "m"}})", ErrorCode::NotSupported}, // nothing reads it here
    };
    for (const auto& [where, code] : wrong) {
        const auto site = found(where);
        ASSERT_FALSE(site) << where;
        EXPECT_EQ(site.error().code, code) << where << ": " << site.error().text();
        EXPECT_FALSE(site.error().what.empty());
    }
}

TEST_F(Sites, LinearFieldsAreReadExactlyEverywhere) {
    for (const auto* where :
         {R"({"plane": {"origin": [0.31, 0.02, 0.07], "normal": [1, 2, 3]}})", R"({"interface": ["left", "right"]})",
          R"({"line": {"from": [0.01, 0.01, 0.01], "to": [0.39, 0.09, 0.07], "points": 33}})",
          R"({"isotherm": {"value": "322 K"}})", R"({"point": [0.123, 0.045, 0.067]})"}) {
        const auto site = must(where);
        ASSERT_GT(site.points.size(), 0U) << where;
        for (std::size_t i = 0; i < site.points.size(); ++i) {
            if (site.points.part[i] == noNumber)
                continue;
            const auto& at = site.points.at[i];
            EXPECT_NEAR(valueAt(site.points, i), 300 + 100 * at[0] + 50 * at[1], 1e-4) << where;
        }
    }
}

TEST_F(Sites, ProductsAreSummedExactlyOnDividedFaces) {
    // The integral of T^2 over the section y = 0.05: T = 302.5 + 100 x, x from 0 to 0.4, 0.1 m high.
    const auto site = must(R"({"plane": {"origin": [0, 0.05, 0], "normal": [0, 1, 0]}})");
    const auto fine = dividedForProducts(site, *opened->solved, *opened->index);
    const auto cube = [](double t) { return t * t * t / 3; };
    const double exact = 0.1 * (cube(342.5) - cube(302.5)) / 100;
    EXPECT_NEAR(integral(fine.facets, [](double t) { return t * t; }) / exact, 1, 1e-7);
    EXPECT_NEAR(integral(fine.facets, [](double) { return 1.0; }), site.extent, 1e-9);
}

TEST_F(Sites, ATraceIsTheLineInWhichAPlaneMeetsAWall) {
    const auto site = must(R"({"trace": {"origin": [0, 0, 0.03], "normal": [0, 0, 1], "points": 21},
        "boundary": "front"})");
    EXPECT_EQ(site.kind, SiteKind::Line);
    EXPECT_NEAR(site.s.back(), 0.2, 1e-6) << "along the front of the right box";
    for (const auto& at : site.points.at) {
        EXPECT_NEAR(at[1], 0, 1e-6);
        EXPECT_NEAR(at[2], 0.03, 1e-6);
    }
    const auto& front = opened->solved->boundaries[*opened->solved->boundaryNamed("front")].mesh;
    const Mesh* walls[]{&front};
    EXPECT_TRUE(wallTrace(walls, {{0, 0, 9}, {0, 0, 1}}).empty()) << "the plane misses the wall";
    EXPECT_EQ(wallTrace(walls, {{0, 0, 0.03}, {0, 0, 1}}).size(), 5U) << "four faces in a row";
}

TEST_F(Sites, SurfacesFromElsewhereAreCutByTheCells) {
    // A square of 0.2 m x 0.2 m at z = 0.05 that reaches out of the boxes by half.
    const Triangle triangles[]{{Point{0.1, 0, 0.05}, Point{0.3, 0, 0.05}, Point{0.3, 0.2, 0.05}},
                               {Point{0.1, 0, 0.05}, Point{0.3, 0.2, 0.05}, Point{0.1, 0.2, 0.05}}};
    const std::uint32_t both[]{0, 1};
    const auto cut = divided(*opened->solved, *opened->index, triangles, both);
    EXPECT_NEAR(cut.area, 0.04, 1e-12);
    EXPECT_NEAR(cut.inside, 0.02, 1e-9);
    // T over x from 0.1 to 0.3, y from 0 to 0.1: 300 + 100 * 0.2 + 50 * 0.05 in the mean.
    EXPECT_NEAR(integral(cut.places.nodes, [](double t) { return t; }) / cut.inside, 322.5, 1e-4);
    const std::uint32_t left[]{0};
    EXPECT_NEAR(divided(*opened->solved, *opened->index, triangles, left).inside, 0.01, 1e-9);
}

TEST_F(Sites, ValuesOnPartsAndBoundaries) {
    const auto& solved = *opened->solved;
    const auto& temperature = *quantities.named("temperature");
    const auto& velocity = *quantities.named("velocity");
    const auto whole = read(solved, *opened->index, {false, {0, 1}}, temperature);
    ASSERT_TRUE(whole);
    EXPECT_NEAR(whole->mean(), 322.5, 1e-4);
    EXPECT_NEAR(whole->min(), 300, 1e-4);
    EXPECT_NEAR(whole->max(), 345, 1e-4);
    EXPECT_NEAR(whole->integral(), 322.5 * 0.004, 1e-6);
    EXPECT_TRUE(allFinite(solved, {false, {0, 1}}, *whole));
    const auto hottest = placeOf(solved, {false, {0, 1}}, whole->on, whole->sums.max());
    EXPECT_NEAR(hottest.at[0], 0.4, 1e-6);
    EXPECT_NEAR(hottest.at[1], 0.1, 1e-6);
    const auto end = read(solved, *opened->index, {true, {*solved.boundaryNamed("high end")}}, velocity);
    ASSERT_TRUE(end) << "fetched from the part behind it";
    EXPECT_NEAR(end->integral(), 0.05 * 0.01, 1e-9) << "its part along the normal: the mean of y";
    const auto low = read(solved, *opened->index, {true, {*solved.boundaryNamed("low end")}}, velocity);
    EXPECT_NEAR(low->integral(), -0.05 * 0.01, 1e-9) << "outwards is against x there";
    const auto up = read(solved, *opened->index, {false, {0}}, velocity, Component::Z);
    EXPECT_NEAR(up->mean(), 3, 1e-6);
    Quantity absent = temperature;
    absent.array = "pressure";
    const auto none = read(solved, *opened->index, {false, {0}}, absent);
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().code, ErrorCode::NameUnknown);
}

TEST(Support, WhatIsNotFiniteKeepsStatisticsFromBeingTold) {
    const TempFolder folder;
    auto part = boxPart("part", {{1, 1, 1}, {2, 2, 2}});
    addNodeField(part, "temperature", [](const Point& at) { return at[0] > 0.9 ? std::nan("") : 300.0; });
    ASSERT_TRUE(writeCase({part}, folder / "c.vtm"));
    const auto opened = mustOpen(folder / "c.vtm");
    const auto quantities = *recognise(*opened.solved, {});
    const auto reading = read(*opened.solved, *opened.index, {false, {0}}, *quantities.named("temperature"));
    ASSERT_TRUE(reading);
    const auto finite = allFinite(*opened.solved, {false, {0}}, *reading);
    ASSERT_FALSE(finite);
    EXPECT_NE(finite.error().what.find('9'), std::string::npos)
        << "of the nine nodes on that side: " << finite.error().what;
}

TEST(Accumulator, IsTheSameWhateverTheOrderOfMerging) {
    Accumulator whole;
    std::array<Accumulator, 3> pieces;
    for (std::uint64_t i = 0; i < 300; ++i) {
        const double value = std::sin(static_cast<double>(i)) * (i % 7 == 0 ? 1e8 : 1);
        whole.add(value, 0.5, 0, i);
        pieces[i / 100].add(value, 0.5, 0, i);
    }
    Accumulator backwards;
    for (auto piece = pieces.rbegin(); piece != pieces.rend(); ++piece)
        backwards.merge(*piece);
    EXPECT_EQ(backwards.count(), whole.count());
    EXPECT_NEAR(backwards.integral(), whole.integral(), 1e-12 * 1e8);
    EXPECT_EQ(backwards.max().number, whole.max().number);
    EXPECT_EQ(backwards.min().value, whole.min().value);
    EXPECT_NEAR(whole.extent(), 150, 1e-12);
    whole.add(std::nan(""), 1, 0, 7);
    EXPECT_EQ(whole.notFinite(), 1U);
    EXPECT_TRUE(std::isnan(Accumulator().mean())) << "of nothing there is no mean";
}
