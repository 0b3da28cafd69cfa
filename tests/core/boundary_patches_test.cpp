// Boundaries that the file does not name: which faces become one, what they are called, and that they read like named
// ones.
#include "core/field/boundary_patches.h"
#include "core/survey/edit.h"
#include "core/survey/survey_file.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>

using namespace pyro;
using namespace pyro::test;

namespace {

std::vector<std::string> namesOf(const OpenedCase& opened) {
    std::vector<std::string> names;
    for (const auto& boundary : opened.solved->boundaries)
        names.push_back(boundary.name);
    return names;
}

double areaOf(const OpenedCase& opened, const std::string& name) {
    const auto at = opened.solved->boundaryNamed(name);
    EXPECT_TRUE(at) << name;
    return at ? opened.index->boundaries[*at].size : 0;
}

class PatchTest : public testing::TestWithParam<Cells> {
protected:
    TempFolder folder;

    OpenedCase open(const std::vector<BlockData>& blocks, CaseSplit split = {}) {
        const auto file = folder / "case.vtm";
        EXPECT_TRUE(writeCase(blocks, file));
        NoProgress progress;
        OpenOptions options;
        options.split = split;
        auto opened = openForEvaluation(file, options, progress);
        EXPECT_TRUE(opened) << opened.error().what;
        return *opened;
    }
};
INSTANTIATE_TEST_SUITE_P(AllCells, PatchTest,
                         testing::Values(Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids));

} // namespace

TEST_P(PatchTest, ABoxHasItsSixEnds) {
    const auto opened = open({boxPart("block", {{1, 2, 3}, {2, 3, 4}}, GetParam())});
    EXPECT_EQ(namesOf(opened), (std::vector<std::string>{"x min", "x max", "y min", "y max", "z min", "z max"}));
    EXPECT_NEAR(areaOf(opened, "x min"), 6, 1e-12);
    EXPECT_NEAR(areaOf(opened, "y max"), 3, 1e-12);
    EXPECT_NEAR(areaOf(opened, "z min"), 2, 1e-12);
    const auto at = *opened.solved->boundaryNamed("z min");
    EXPECT_NEAR(opened.index->boundaries[at].normal[2], -1, 1e-12) << "out of the part";
    EXPECT_EQ(opened.index->boundaries[at].part[0], 0U);
}

// A quarter of a tube: its mantle bends by 18 degrees from face to face and stays whole, unless the angle asked for is
// smaller.
TEST_P(PatchTest, AMantleStaysWholeUnlessAskedOtherwise) {
    BoxMesh box{{1, 1, 0.1}, {2, 5, 2}, {0, 0, 0}};
    box.map = [](const Point& p) {
        const double r = 0.01 + 0.02 * p[0];
        return Point{r * std::cos(p[1] * std::numbers::pi / 2), r * std::sin(p[1] * std::numbers::pi / 2), p[2]};
    };
    const auto tube = boxPart("tube", box, GetParam());
    const auto opened = open({tube});
    EXPECT_EQ(namesOf(opened), (std::vector<std::string>{"x min", "y min", "z min", "z max", "face 1", "face 2"}))
        << "the cut planes lie at an end of the box, the mantles do not";
    const double chord = 2 * std::sin(std::numbers::pi / 20); // of five to the quarter, over the radius
    EXPECT_NEAR(areaOf(opened, "face 1"), 5 * chord * 0.03 * 0.1, GetParam() == Cells::Hexahedra ? 1e-9 : 1e-4)
        << "the outer mantle is the larger";
    EXPECT_NEAR(areaOf(opened, "face 2"), 5 * chord * 0.01 * 0.1, GetParam() == Cells::Hexahedra ? 1e-9 : 1e-4);
    CaseSplit fine;
    fine.angle = 10 * std::numbers::pi / 180;
    EXPECT_EQ(open({tube}, fine).solved->boundaries.size(), 4U + 10U);
    CaseSplit none;
    none.boundaries = false;
    EXPECT_TRUE(open({tube}, none).solved->boundaries.empty());
}

// Faces that touch another part, or that the file gives to a boundary, are in none; the rest of a side has a name of
// its own.
TEST_P(PatchTest, OnlyWhatIsLeftIsDivided) {
    BoxMesh low{{1, 1, 1}, {2, 2, 2}};
    BoxMesh high = low;
    high.origin = {0, 0, 1};
    const auto opened = open({boxPart("low", low, GetParam()), boxPart("high", high, GetParam()),
                              boxSide("foot", low, 0, false, GetParam())});
    EXPECT_EQ(namesOf(opened),
              (std::vector<std::string>{"foot", "low x max", "low y min", "low y max", "low z min", "high x min",
                                        "high x max", "high y min", "high y max", "high z max"}));
    double all = 0;
    for (const auto& boundary : opened.index->boundaries)
        all += boundary.size;
    EXPECT_NEAR(all, 10, 1e-12) << "every outer face once";
    EXPECT_FALSE(opened.solved->boundaries[0].patchOf);
}

// A lone grid: heat and film coefficient through a face that nobody named, as conduction through a wall has them.
TEST_P(PatchTest, HeatLeavesALoneGridThroughItsFaces) {
    auto part = boxPart("wall", {{0.1, 1, 2}, {4, 2, 2}}, GetParam());
    addNodeField(part, "T [degC]", [](const Point& p) { return 60 - 400 * p[0]; });
    ASSERT_TRUE(writeBlock(part, folder / "wall.vtu"));
    const auto readings = readOn(mustOpen(folder / "wall.vtu"), Json::parse(R"({
        "case": {"parts": {"wall": {"material": "brick"}}}, "materials": {"brick": {"conductivity": 0.5}},
        "gauges": [{"id": "warm", "where": {"boundary": "x min"}, "quantity": "heat_flux", "statistic": "integral"},
                   {"id": "cold", "where": {"boundary": "x max"}, "quantity": "heat_flux", "statistic": "integral"},
                   {"id": "side", "where": {"boundary": "y min"}, "quantity": "heat_flux", "statistic": "integral"},
                   {"id": "h", "where": {"boundary": "x max"}, "quantity": "film_coefficient", "reference": "10 degC"},
                   {"id": "T", "where": {"boundary": "x max"}, "quantity": "temperature", "unit": "degC"}]})"));
    const std::array<double, 5> expected{-400, 400, 0, 20, 20};
    for (std::size_t i = 0; i < expected.size(); ++i) {
        ASSERT_TRUE(readings.gauges[i].value) << readings.gauges[i].id << ": " << readings.gauges[i].why;
        EXPECT_NEAR(*readings.gauges[i].value, expected[i], 1e-4) << readings.gauges[i].id;
    }
}

// A staircase has hundreds of plane faces: the largest are named, the rest is one boundary, and nothing is lost.
TEST(PatchesTest, AStaircaseKeepsAllItsFaces) {
    BoxMesh box{{1, 1, 1}, {80, 1, 1}};
    // a zigzag of 63 degrees and more
    box.map = [](const Point& p) { return Point{p[0], p[1], p[2] * (1 + 0.5 * std::fmod(80 * p[0] + 0.01, 2.0))}; };
    const auto part = boxPart("stairs", box);
    TempFolder folder;
    ASSERT_TRUE(writeCase({part}, folder / "case.vtm"));
    const auto opened = mustOpen(folder / "case.vtm");
    EXPECT_TRUE(opened.solved->boundaryNamed("z min"));
    EXPECT_TRUE(opened.solved->boundaryNamed("face 80"));
    std::size_t faces = 0;
    for (const auto& boundary : opened.solved->boundaries)
        faces += boundary.mesh.cells();
    EXPECT_EQ(faces, opened.index->parts[0].shell.faces());
}

TEST(PatchesTest, TheSurveyTellsHowACaseIsDivided) {
    const auto survey = surveyFromJson(
        Json::parse(
            R"({"pyrometer": 1, "cases": [{"name": "a", "file": "a.vtu", "split": {"angle": "45 deg",
              "boundaries": true, "parts": null}}]})"),
        "s.survey.json");
    ASSERT_TRUE(survey) << survey.error().what;
    EXPECT_NEAR(survey->cases[0].split.angle, std::numbers::pi / 4, 1e-12);
    EXPECT_EQ(survey->cases[0].split.parts, "") << "null: none";
    EXPECT_NE(surveyToJson(*survey).dump().find("45 deg"), std::string::npos) << "as it was written";
    for (const auto* wrong :
         {R"({"angle": "45 K"})", R"({"angle": "400 deg"})", R"({"boundaries": 1})", R"("sharp")"}) {
        const auto refused = surveyFromJson(
            Json::parse(std::string(R"({"pyrometer": 1, "cases": [{"name": "a", "file": "a.vtu", "split": )") + wrong +
                        "}]}"),
            "s.survey.json");
        ASSERT_FALSE(refused) << wrong;
        EXPECT_NE(refused.error().where.find("split"), std::string::npos) << refused.error().where;
    }
}

// Divided at smaller angles and by a plane, joined under a name; what is not there is told and nothing else changes.
TEST_P(PatchTest, CutsAndJoins) {
    BoxMesh box{{1, 1, 0.1}, {2, 6, 2}, {0, 0, 0}};
    box.map = [](const Point& p) { // bends by 12 degrees from face to face, and by 24 in the middle
        const double angle = p[1] <= 0.5 ? p[1] * 0.8 : 0.4 + 0.4 + (p[1] - 0.5) * 0.8;
        const double r = 0.02 + 0.02 * p[0];
        return Point{r * std::cos(angle), r * std::sin(angle), p[2]};
    };
    const auto tube = boxPart("tube", box, GetParam());
    const auto whole = open({tube});
    const double area = areaOf(whole, "face 1");
    CaseSplit split;
    split.cuts.push_back({"face 1", 0, {0, 0, 0.05}, {0, 0, 1}});
    split.cuts.push_back({"no such", 0.1, {}, {}});
    split.joins.push_back({"ends", {"z min", "z max", "gone"}});
    const auto divided = open({tube}, split);
    EXPECT_NEAR(areaOf(divided, "face 1 a"), area / 2, 1e-9 * area);
    EXPECT_NEAR(areaOf(divided, "face 1 a") + areaOf(divided, "face 1 b"), area, 1e-9 * area);
    EXPECT_FALSE(divided.solved->boundaryNamed("face 1"));
    EXPECT_NEAR(areaOf(divided, "ends"), areaOf(whole, "z min") + areaOf(whole, "z max"), 1e-12);
    EXPECT_FALSE(divided.solved->boundaryNamed("z min"));
    EXPECT_EQ(std::ranges::count(divided.solved->remarks, "split-unknown", &Remark::code), 2)
        << "one that is to be cut, one that is to be joined";
    EXPECT_EQ(namesOf(open({tube}, split)), namesOf(divided)) << "from beside the store";
    split = {};
    split.cuts.push_back({"face 1", 5 * std::numbers::pi / 180, {}, {}});
    const auto strips = open({tube}, split);
    EXPECT_TRUE(strips.solved->boundaryNamed("face 1 f")) << "six faces along the bend";
    EXPECT_FALSE(strips.solved->boundaryNamed("face 1 g"));
}

TEST(SplitInSurvey, CutsAndJoinsComeBackAndMistakesAreTold) {
    const auto json = Json::parse(
        R"({"pyrometer": 1, "cases": [{"name": "a", "file": "a.vtu", "split": {"cut": [{"boundary": "face 1",
          "angle": "10 deg"}, {"boundary": "z min", "plane": {"origin": [0, 0, 1], "normal": [0, 1, 0]}}],
        "join": [{"name": "hot side", "boundaries": ["face 2", "face 3"]}]}}]})");
    const auto survey = surveyFromJson(json, "s");
    ASSERT_TRUE(survey) << survey.error().text();
    ASSERT_EQ(survey->cases[0].split.cuts.size(), 2U);
    EXPECT_NEAR(survey->cases[0].split.cuts[0].angle, 10 * std::numbers::pi / 180, 1e-12);
    EXPECT_EQ(survey->cases[0].split.cuts[1].normal, (std::array<double, 3>{0, 1, 0}));
    EXPECT_EQ(survey->cases[0].split.joins[0].boundaries.size(), 2U);
    EXPECT_EQ(surveyToJson(*survey)["cases"][0]["split"], json["cases"][0]["split"]);
    for (const auto* wrong :
         {R"({"cut": [{"boundary": "a"}]})", R"({"cut": [{"angle": "10 deg"}]})",
          R"({"cut": [{"boundary": "a", "angle": "200 deg"}]})",
          R"({"cut": [{"boundary": "a", "plane": {"origin": [0, 0, 0], "normal": [0, 0, 0]}}]})",
          R"({"join": [{"name": "x", "boundaries": ["a"]}]})", R"({"join": [{"boundaries": ["a", "b"]}]})"})
        EXPECT_FALSE(splitFromJson(Json::parse(wrong), "s")) << wrong;
    Survey plain;
    plain.cases.emplace_back().name = "a";
    auto edited = withBoundaryCut(plain, "a", "face 1", "12 deg");
    ASSERT_TRUE(edited) << edited.error().text();
    edited = withBoundariesJoined(*edited, "a", "both", {"face 1 a", "face 2"});
    ASSERT_TRUE(edited);
    EXPECT_EQ(edited->cases[0].split.cuts.size(), 1U);
    EXPECT_EQ(edited->cases[0].split.joins.size(), 1U);
    EXPECT_FALSE(withBoundaryCut(*edited, "a", "face 1", "warm"));
    const auto back = withoutCutsAndJoins(*edited, "a");
    EXPECT_TRUE(back->cases[0].split == CaseSplit{});
    EXPECT_TRUE(back->cases[0].splitWritten.is_null());
}

// Guesses corrected: what divides the grid into parts, how sharp an edge divides its faces; the depth stays beside
// them.
TEST(SplitInSurvey, PartsAndEdgesAreCorrectedAndTakenBack) {
    const auto plain = surveyFromJson(
        Json::parse(R"({"pyrometer": 1, "cases": [{"name": "a", "file": "a.vtu", "depth": "12 mm"}]})"), "test");
    ASSERT_TRUE(plain);
    auto edited = withPartsBy(*plain, "a", "layer");
    ASSERT_TRUE(edited);
    EXPECT_EQ(edited->cases[0].split.parts, "layer");
    EXPECT_EQ(edited->cases[0].wholeSplit().depth, 0.012);
    edited = withEdgeAngle(*edited, "a", "45");
    ASSERT_TRUE(edited);
    EXPECT_NEAR(edited->cases[0].split.angle, std::numbers::pi / 4, 1e-12);
    edited = withPartsBy(*edited, "a", std::nullopt);
    ASSERT_TRUE(edited);
    EXPECT_EQ(edited->cases[0].split.parts, "");
    edited = withEdgeAngle(*edited, "a", "");
    ASSERT_TRUE(edited);
    EXPECT_NEAR(edited->cases[0].split.angle, std::numbers::pi / 6, 1e-12);
    EXPECT_FALSE(withEdgeAngle(*edited, "a", "12 K"));
    EXPECT_FALSE(withDepth(*edited, "a", "-3 mm"));
    const auto without = withDepth(*edited, "a", "");
    ASSERT_TRUE(without);
    EXPECT_FALSE(without->cases[0].split.depth);
    EXPECT_FALSE(withPartsBy(*plain, "b", "layer"));
}
