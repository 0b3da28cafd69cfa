// Shells with a thickness: the solids they stand for, against closed formulas for the layer between two parallel
// surfaces.
#include "core/report/readings_json.h"
#include "core/survey/edit.h"
#include "core/survey/survey_file.h"
#include "tests/support/flat_block.h"
#include "tests/support/gauges.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <numeric>
#include <vtkCellData.h>
#include <vtkIntArray.h>
#include <vtkPointData.h>

using namespace pyro;
using namespace pyro::test;

namespace {

constexpr double thin = 0.002;

OpenedCase openThick(const std::filesystem::path& file, std::map<std::string, double> thickness) {
    OpenOptions options;
    options.split.thickness = std::move(thickness);
    NoProgress progress;
    auto opened = openForEvaluation(file, options, progress);
    EXPECT_TRUE(opened) << (opened ? "" : opened.error().what);
    return opened ? *opened : OpenedCase{};
}

// Two flanges of 60 mm, 40 mm wide, folded by an angle, seen along the fold: a strip in s, developed length 120 mm.
FlatMap folded(double angle) {
    return [angle](double r, double s) {
        const double along = 0.12 * r - 0.06;
        return Point{along < 0 ? along : along * std::cos(angle), 0.04 * s, along < 0 ? 0 : along * std::sin(angle)};
    };
}
double developed(const Point& at) { return 300 + 500 * (at[0] < 0 ? at[0] : std::hypot(at[0], at[2])); }

double wholeVolume(const OpenedCase& opened) {
    return std::accumulate(opened.index->parts.begin(), opened.index->parts.end(), 0.0,
                           [](double sum, const auto& part) { return sum + part.size; });
}

const std::vector<std::pair<Flat, int>> kinds{
    {Flat::Triangles, 1},       {Flat::Quads, 1},       {Flat::Pixels, 1},          {Flat::Polygons, 1},
    {Flat::CurvedTriangles, 2}, {Flat::CurvedQuads, 2}, {Flat::CurvedTriangles, 3}, {Flat::CurvedQuads, 4}};

class ThickShells : public testing::TestWithParam<std::pair<Flat, int>> {
protected:
    TempFolder folder;
};

} // namespace

INSTANTIATE_TEST_SUITE_P(AllKinds, ThickShells, testing::ValuesIn(kinds));

// What the mitre takes from the inner side of a fold it adds to the outer one: the volume is that of the developed
// strip, and so is the heat along it.
TEST_P(ThickShells, AFoldedStrip) {
    const auto [kind, order] = GetParam();
    for (const double angle : {0.3, M_PI / 2, 2.0}) {
        const auto file = FlatBlock(kind, order, {6, 3}, folded(angle), developed)
                              .write(folder / ("strip" + std::to_string(angle) + ".vtu"));
        const auto opened = openThick(file, {{file.stem(), thin}});
        ASSERT_EQ(opened.solved->parts.size(), 1U);
        EXPECT_FALSE(opened.solved->plane);
        ASSERT_TRUE(opened.solved->parts[0].thickness);
        EXPECT_EQ(*opened.solved->parts[0].thickness, thin);
        EXPECT_EQ(opened.solved->parts[0].dimension, 3);
        EXPECT_EQ(opened.solved->parts[0].fileCells,
                  static_cast<std::uint64_t>(kind == Flat::Triangles || kind == Flat::CurvedTriangles ? 36 : 18));
        EXPECT_TRUE(has(opened.solved->remarks, "shell-thick"));
        EXPECT_NEAR(wholeVolume(opened), 0.12 * 0.04 * thin, 1e-9 * 0.12 * 0.04 * thin) << angle;
        EXPECT_NEAR(heatThrough(opened, "x min"), 200 * 500 * 0.04 * thin, 2e-6) << angle;
        const auto area = readGauge(opened, {{"id", "a"}, {"where", {{"part", file.stem()}}}, {"quantity", "area"}});
        EXPECT_NEAR(area.value.value_or(0), 0.12 * 0.04, 1e-9);
        EXPECT_EQ(area.unit, "m2");
    }
}

// The layer between two spheres of radius R -+ t/2: 4 pi R^2 t (1 + t^2 / (12 R^2)), an eighth of it. Converges with
// the order of the cells.
TEST_P(ThickShells, AnEighthOfASphere) {
    const auto [kind, order] = GetParam();
    const double radius = 0.05;
    const auto sphere = [&](double r, double s) { // an eighth, cut off at 60 degrees of latitude, away from the pole
        const double latitude = s * M_PI / 3;
        return Point{radius * std::cos(latitude) * std::cos(r * M_PI / 2),
                     radius * std::cos(latitude) * std::sin(r * M_PI / 2), radius * std::sin(latitude)};
    };
    const double exact = M_PI / 2 * std::sin(M_PI / 3) * radius * radius * thin *
                         (1 + thin * thin / (12 * radius * radius));
    std::vector<double> off;
    for (const int n : {4, 8}) {
        const auto file = FlatBlock(kind, order, {n, n}, sphere, [](const Point&) {
                              return 300.0;
                          }).write(folder / ("s" + std::to_string(n) + ".vtu"));
        const auto opened = openThick(file, {{file.stem(), thin}});
        off.push_back(std::abs(wholeVolume(opened) - exact) / exact);
        EXPECT_FALSE(has(opened.index->remarks, "flawed-cells"));
    }
    EXPECT_LT(off[1], order == 1 ? 1e-2 : order == 2 ? 2e-4 : 2e-5);
    // cubic cells are as near as that on four of them
    EXPECT_LT(off[1], std::max(off[0] / (order == 1 ? 3 : 6), 1e-6));
}

namespace {

// Squares of 20 mm side as one grid; each is given by a corner and two sides. Corners at one place are one node.
vtkSmartPointer<vtkUnstructuredGrid> squares(const std::vector<std::array<Point, 3>>& of) {
    vtkNew<vtkPoints> points;
    points->SetDataTypeToDouble();
    auto grid = vtkSmartPointer<vtkUnstructuredGrid>::New();
    std::map<std::array<long, 3>, vtkIdType> known;
    for (const auto& [corner, u, v] : of) {
        std::vector<vtkIdType> ids;
        for (const auto& [a, b] : {std::pair{0, 0}, {1, 0}, {1, 1}, {0, 1}}) {
            Point at{};
            std::array<long, 3> key{};
            for (std::size_t axis = 0; axis < 3; ++axis) {
                at[axis] = 0.02 * (corner[axis] + a * u[axis] + b * v[axis]);
                key[axis] = std::lround(1e6 * at[axis]);
            }
            const auto [found, isNew] = known.try_emplace(key, points->GetNumberOfPoints());
            if (isNew)
                points->InsertNextPoint(at.data());
            ids.push_back(found->second);
        }
        grid->InsertNextCell(VTK_QUAD, 4, ids.data());
    }
    grid->SetPoints(points);
    vtkNew<vtkDoubleArray> values;
    values->SetName("T [K]");
    for (vtkIdType node = 0; node < points->GetNumberOfPoints(); ++node)
        values->InsertNextValue(300 + 1000 * points->GetPoint(node)[0]);
    grid->GetPointData()->AddArray(values);
    return grid;
}

std::filesystem::path written(vtkUnstructuredGrid& grid, const std::filesystem::path& file) {
    vtkNew<vtkXMLUnstructuredGridWriter> writer;
    writer->SetInputData(&grid);
    writer->SetFileName(file.c_str());
    EXPECT_EQ(writer->Write(), 1);
    return file;
}

const Point ex{1, 0, 0};
const Point ey{0, 1, 0};
const Point ez{0, 0, 1};

} // namespace

// A closed box: the layer between the boxes of sides a + t and a - t; its faces look in any direction, and its corners
// are mitred three ways.
TEST(ThickShell, AClosedBox) {
    TempFolder folder;
    const auto box = squares({{Point{0, 0, 0}, ex, ey},
                              {Point{0, 0, 1}, ex, ey},
                              {Point{0, 0, 0}, ez, ex},
                              {Point{0, 1, 0}, ex, ez},
                              {Point{0, 0, 0}, ey, ez},
                              {Point{1, 0, 0}, ez, ey}});
    const auto opened = openThick(written(*box, folder / "box.vtu"), {{"box", thin}});
    EXPECT_NEAR(wholeVolume(opened), std::pow(0.022, 3) - std::pow(0.018, 3), 1e-15);
    EXPECT_FALSE(has(opened.solved->remarks, "shells-apart"));
}

// Two parts of one thickness meet: what leaves one enters the other.
TEST(ThickShell, PartsMeet) {
    TempFolder folder;
    const auto strip = squares({{Point{0, 0, 0}, ex, ey}, {Point{1, 0, 0}, ex, ey}, {Point{2, 0, 0}, ez, ey}});
    vtkNew<vtkIntArray> part;
    part->SetName("part");
    for (const int value : {1, 2, 2})
        part->InsertNextValue(value);
    strip->GetCellData()->AddArray(part);
    const auto opened = openThick(written(*strip, folder / "strip.vtu"), {{"part 1", thin}, {"part 2", thin}});
    ASSERT_EQ(opened.solved->parts.size(), 2U);
    EXPECT_TRUE(
        has(openThick(folder / "strip.vtu", {{"part 1", thin}, {"part 2", 2 * thin}}).solved->remarks, "shells-step"));
    EXPECT_FALSE(has(opened.solved->remarks, "shells-step"));
    EXPECT_NEAR(opened.index->parts[0].size, 0.02 * 0.02 * thin, 1e-15);
    const auto gauge = readGauge(
        opened,
        {{"id", "q"},
         {"where", {{"interface", {"part 1", "part 2"}}}},
         {"quantity", "heat_flux"},
         {"statistic", "integral"}},
        {{"materials", {{"m", {{"conductivity", "200 W/(m.K)"}}}}},
         {"case", {{"parts", {{"part 1", {{"material", "m"}}}, {"part 2", {{"material", "m"}}}}}}}});
    ASSERT_TRUE(gauge.value) << gauge.why;
    EXPECT_NEAR(std::abs(*gauge.value), 200 * 1000 * 0.02 * thin, 1e-9);
}

// Where three faces meet no side of one is the side of the others.
TEST(ThickShell, WhereThreeMeetTheyAreApart) {
    TempFolder folder;
    const auto tee = squares({{Point{0, 0, 0}, ex, ey}, {Point{1, 0, 0}, ex, ey}, {Point{1, 0, 0}, ez, ey}});
    const auto opened = openThick(written(*tee, folder / "tee.vtu"), {{"tee", thin}});
    EXPECT_TRUE(has(opened.solved->remarks, "shells-apart"));
    EXPECT_NEAR(wholeVolume(opened), 3 * 0.02 * 0.02 * thin, 1e-15);
    EXPECT_EQ(opened.solved->parts[0].mesh.nodes(), 2U * (3 * 4));
    // A strip closed with half a turn has one side only.
    const int count = 24;
    std::vector<std::array<Point, 2>> rungs;
    for (int i = 0; i < count; ++i) {
        const double turn = 2 * M_PI * i / count;
        const auto at = [&](double side) {
            return Point{(0.05 + side * std::cos(turn / 2)) * std::cos(turn),
                         (0.05 + side * std::cos(turn / 2)) * std::sin(turn), side * std::sin(turn / 2)};
        };
        rungs.push_back({at(-0.01), at(0.01)});
    }
    vtkNew<vtkUnstructuredGrid> band;
    vtkNew<vtkPoints> points;
    points->SetDataTypeToDouble();
    for (const auto& rung : rungs)
        for (const auto& at : rung)
            points->InsertNextPoint(at.data());
    for (int i = 0; i < count; ++i) {
        const vtkIdType next = (i + 1) % count;
        const bool swap = i + 1 == count;
        const std::array<vtkIdType, 4> ids{2 * i, 2 * i + 1, 2 * next + (swap ? 0 : 1), 2 * next + (swap ? 1 : 0)};
        band->InsertNextCell(VTK_QUAD, 4, ids.data());
    }
    band->SetPoints(points);
    const auto turned = openThick(written(*band, folder / "band.vtu"), {{"band", thin}});
    EXPECT_TRUE(has(turned.solved->remarks, "shells-apart"));
    EXPECT_EQ(turned.solved->parts[0].mesh.nodes(), 2U * (2 * count + 2)) << "torn along one rung";
}

// Lines on the edges of a shell are boundaries through which heat flows, faces on it come to lie on the side they look
// to.
TEST(ThickShell, BoundariesOfLinesAndFaces) {
    TempFolder folder;
    const auto strip = squares({{Point{0, 0, 0}, ex, ey}, {Point{1, 0, 0}, ex, ey}, {Point{2, 0, 0}, ez, ey}});
    const auto nodeNear = [&](double x, double y, double z) { return strip->FindPoint(x, y, z); };
    const std::array<vtkIdType, 2> cold{nodeNear(0, 0, 0), nodeNear(0, 0.02, 0)};
    strip->InsertNextCell(VTK_LINE, 2, cold.data());
    vtkNew<vtkIntArray> mark;
    mark->SetName("material");
    for (const int value : {1, 1, 1, 7})
        mark->InsertNextValue(value);
    strip->GetCellData()->AddArray(mark);
    const auto opened = openThick(written(*strip, folder / "strip.vtu"), {{"material 1", thin}});
    ASSERT_TRUE(opened.solved->boundaryNamed("material 7"));
    EXPECT_NEAR(opened.index->boundaries[*opened.solved->boundaryNamed("material 7")].size, 0.02 * thin, 1e-15);
    EXPECT_NEAR(heatThrough(opened, "material 7"), 200 * 1000 * 0.02 * thin, 1e-9);

    const BoxMesh plate{{0.06, 0.04, 0.01}, {3, 2, 1}};
    auto sheet = boxSide("sheet", plate, 2, false);
    auto heated = boxSide("heated", plate, 2, false);
    sheet.boundary = false;
    addNodeField(sheet, "T [K]", [](const Point& at) { return 300 + 1000 * at[0]; });
    ASSERT_TRUE(writeCase({sheet, heated}, folder / "sheet.vtm"));
    const auto covered = openThick(folder / "sheet.vtm", {{"sheet", thin}});
    const auto side = covered.solved->boundaryNamed("heated");
    ASSERT_TRUE(side);
    EXPECT_NEAR(covered.index->boundaries[*side].size, 0.06 * 0.04, 1e-12);
    ASSERT_FALSE(covered.index->boundaries[*side].part.empty());
    EXPECT_EQ(covered.index->boundaries[*side].part[0], 0U) << "it has the shell behind it";
}

// A thickness for what is no shell, or is not there, is told; without one a shell has an area only.
TEST(ThickShell, WhatIsNotUsedIsTold) {
    TempFolder folder;
    const auto strip = squares({{Point{0, 0, 0}, ex, ey}, {Point{1, 0, 0}, ez, ey}});
    const auto file = written(*strip, folder / "strip.vtu");
    EXPECT_TRUE(has(openThick(file, {{"strap", thin}}).solved->remarks, "thickness-unused"));
    EXPECT_EQ(mustOpen(file).solved->parts[0].dimension, 2);
    EXPECT_TRUE(has(mustOpen(file).solved->remarks, "part-surface"));
    const auto flat = written(*squares({{Point{0, 0, 0}, ex, ey}, {Point{1, 0, 0}, ex, ey}}), folder / "flat.vtu");
    EXPECT_TRUE(openThick(flat, {{"strap", thin}}).solved->plane) << "a case in two dimensions all the same";
    EXPECT_FALSE(openThick(flat, {{"flat", thin}}).solved->plane) << "a shell";
    EXPECT_EQ(openThick(file, {{"strip", thin}}).solved->parts[0].dimension, 3)
        << "read again, not taken from the store of the other";
    const BoxMesh box;
    auto solid = boxPart("block", box);
    addNodeField(solid, "T [K]", [](const Point&) { return 300; });
    ASSERT_TRUE(writeCase({solid}, folder / "block.vtm"));
    const auto opened = openThick(folder / "block.vtm", {{"block", thin}});
    EXPECT_TRUE(has(opened.solved->remarks, "thickness-unused"));
    EXPECT_NEAR(opened.index->parts[0].size, 1, 1e-12);
}

TEST(ThickShell, NodesThatLieNowhereAreRefused) {
    TempFolder folder;
    const auto strip = squares({{Point{0, 0, 0}, ex, ey}, {Point{1, 0, 0}, ez, ey}});
    strip->GetPoints()->SetPoint(1, std::nan(""), 0, 0);
    OpenOptions options;
    options.split.thickness["strip"] = thin;
    NoProgress progress;
    const auto opened = openCase(written(*strip, folder / "strip.vtu"), options, progress);
    ASSERT_FALSE(opened);
    EXPECT_NE(opened.error().what.find("not finite"), std::string::npos) << opened.error().what;
}

TEST(ThickShell, TheSurveyKeepsIt) {
    const auto survey = surveyFromJson(Json::parse(
                                           R"({"pyrometer": 1, "cases": [{"name": "a", "file": "a.vtu",
              "parts": {"lid": {"thickness": "1.5 mm"}}}]})"),
                                       "x");
    ASSERT_TRUE(survey) << survey.error().what;
    EXPECT_EQ(survey->cases[0].wholeSplit().thickness, (std::map<std::string, double>{{"lid", 0.0015}}));
    const auto other = withPartField(*survey, "a", "lid", PartNoteField::Thickness, "2 mm");
    ASSERT_TRUE(other) << other.error().what;
    EXPECT_EQ(surveyToJson(*other)["cases"][0]["parts"]["lid"]["thickness"], "2 mm");
    EXPECT_FALSE(withPartField(*survey, "a", "lid", PartNoteField::Thickness, "-2 mm"));
    EXPECT_FALSE(withPartField(*survey, "a", "lid", PartNoteField::Thickness, "2 kg"));
    EXPECT_FALSE(surveyFromJson(
        Json::parse(
            R"({"pyrometer": 1, "cases": [{"name": "a", "file": "a.vtu", "parts": {"lid": {"thickness": 0}}}]})"),
        "x"));
    EXPECT_TRUE(
        withPartField(*survey, "a", "lid", PartNoteField::Thickness, "")->cases[0].wholeSplit().thickness.empty());
}
