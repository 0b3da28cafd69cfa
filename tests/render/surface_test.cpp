// What is packed for drawing: surfaces, their edges, reduced surfaces, sections, pictures with scale.
#include "core/field/cell_lattice.h"
#include "render/palette.h"
#include "render/picture_sheet.h"
#include "render/section_picture.h"
#include "render/surface_builder.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <QGuiApplication>
#include <cmath>
#include <gtest/gtest.h>
#include <set>

using namespace pyro;
using namespace pyro::test;

namespace {

class PictureTest : public testing::Test {
protected:
    FieldPicture picture(const BoxMesh& box, const char* quantity = "temperature") {
        auto part = boxPart("box", box);
        addNodeField(part, "T [degC]", [](const Point& at) { return 20 + 50 * at[0]; });
        addCellField(part, "number", [](const Point& at) { return at[2]; });
        EXPECT_TRUE(writeBlock(part, folder / "box.vtu"));
        const auto opened = mustOpen(folder / "box.vtu");
        const auto list = recognise(*opened.solved, {});
        NoProgress progress;
        auto made = makePicture(opened, *list->named(quantity), nullptr, progress);
        EXPECT_TRUE(made);
        return std::move(*made);
    }
    TempFolder folder;
};

double area(const PartSurface& surface, const std::vector<std::int32_t>& triangles) {
    double sum = 0;
    for (std::size_t t = 0; t + 2 < triangles.size(); t += 3) {
        std::array<Point, 3> p{};
        for (std::size_t i = 0; i < 3; ++i)
            for (std::size_t axis = 0; axis < 3; ++axis)
                p[i][axis] = surface.points[3 * static_cast<std::size_t>(triangles[t + i]) + axis];
        Point n{};
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const auto u = (axis + 1) % 3;
            const auto v = (axis + 2) % 3;
            n[axis] = (p[1][u] - p[0][u]) * (p[2][v] - p[0][v]) - (p[1][v] - p[0][v]) * (p[2][u] - p[0][u]);
        }
        sum += 0.5 * std::hypot(n[0], n[1], n[2]);
    }
    return sum;
}

} // namespace

TEST_F(PictureTest, SurfaceOfABox) {
    const auto made = picture({{1, 2, 3}, {3, 4, 5}});
    const auto& surface = made.surfaces->at(0);
    EXPECT_NEAR(area(surface, surface.triangles), 2 * (2 + 3 + 6), 1e-5);
    EXPECT_EQ(surface.triangles.size() / 3, 2U * 2 * (12 + 15 + 20));
    EXPECT_EQ(surface.partCell.size(), surface.triangles.size() / 3);
    EXPECT_EQ(surface.edges.size() / 2, 4U * (3 + 4 + 5)) << "the twelve edges of the box, none within its faces";
    ASSERT_EQ(made.values->at(0).size(), surface.partNode.size());
    for (std::size_t node = 0; node < surface.partNode.size(); ++node)
        EXPECT_NEAR(made.values->at(0)[node], 293.15 + 50 * surface.points[3 * node], 1e-3);
    EXPECT_TRUE(surface.coarse.empty()) << "small surfaces are drawn whole";
    EXPECT_NEAR(made.distributions[0].total(), 6, 1e-6);
}

TEST_F(PictureTest, TheFirstLookIsKeptWhenTheCaseIsMeasured) {
    const auto made = picture({{1, 2, 3}, {3, 4, 5}});
    NoProgress progress;
    const auto look = firstLook({.file = folder / "box.vtu"}, progress);
    ASSERT_TRUE(look);
    ASSERT_TRUE(look->picture);
    EXPECT_TRUE(look->picture->distributions.at(0).empty()) << "shares of the volume are not known yet";
    EXPECT_DOUBLE_EQ(look->picture->min, made.min);
    EXPECT_EQ(look->picture->values->at(0), made.values->at(0));

    const auto whole = measured(look->opened, progress);
    ASSERT_TRUE(whole);
    const auto list = recognise(*whole->solved, {});
    const auto next = makePicture(*whole, *list->named("temperature"), look->picture.get(), progress);
    ASSERT_TRUE(next);
    EXPECT_EQ(next->surfaces, look->picture->surfaces) << "nothing is drawn twice";
    EXPECT_EQ(next->values, look->picture->values);
    EXPECT_NEAR(next->distributions.at(0).total(), 6, 1e-6);

    const auto other = makePicture(*whole, *list->named("number"), &*next, progress);
    ASSERT_TRUE(other);
    EXPECT_EQ(other->surfaces, next->surfaces) << "another quantity lies on the same surface";
    EXPECT_NE(other->values, next->values);
    EXPECT_EQ(other->values->at(0).size(), other->surfaces->at(0).triangles.size() / 3);
}

TEST_F(PictureTest, AFirstLookTakesWhatThereIs) {
    (void)picture({{1, 1, 1}, {2, 2, 2}});
    NoProgress progress;
    const auto look = firstLook({.file = folder / "box.vtu", .quantity = "heat_flux"}, progress);
    ASSERT_TRUE(look && look->picture);
    EXPECT_EQ(look->picture->quantity.name, "temperature") << "the wanted quantity is not there: the first one";
    const auto bare = boxPart("bare", {{1, 1, 1}, {2, 2, 2}});
    ASSERT_TRUE(writeBlock(bare, folder / "bare.vtu"));
    const auto nothing = firstLook({.file = folder / "bare.vtu"}, progress);
    ASSERT_TRUE(nothing);
    EXPECT_FALSE(nothing->picture);
    EXPECT_FALSE(firstLook({.file = folder / "none.vtu"}, progress));
}

TEST_F(PictureTest, CellValuesStayWithTheirCell) {
    const auto made = picture({{1, 1, 1}, {2, 2, 2}}, "number");
    const auto& surface = made.surfaces->at(0);
    ASSERT_EQ(made.values->at(0).size(), surface.triangles.size() / 3);
    std::set<float> seen(made.values->at(0).begin(), made.values->at(0).end());
    EXPECT_EQ(seen.size(), 2U); // the two layers
}

TEST_F(PictureTest, LargeSurfacesAreReduced) {
    PartSurface surface; // a square of 300 x 300 x 2 triangles
    constexpr int n = 300;
    for (int j = 0; j <= n; ++j)
        for (int i = 0; i <= n; ++i)
            for (const float at : {static_cast<float>(i) / n, static_cast<float>(j) / n, 0.0F})
                surface.points.push_back(at);
    for (int j = 0; j < n; ++j)
        for (int i = 0; i < n; ++i) {
            const int a = i + j * (n + 1);
            surface.triangles.insert(surface.triangles.end(), {a, a + 1, a + n + 2, a, a + n + 2, a + n + 1});
        }
    reduce(surface);
    ASSERT_FALSE(surface.coarse.empty());
    EXPECT_LT(surface.coarse.size() / 3, mostTrianglesWhileMoving);
    EXPECT_EQ(surface.coarseSource.size(), surface.coarse.size() / 3);
    EXPECT_NEAR(area(surface, surface.coarse), 1, 0.05);
    for (const auto node : surface.coarse)
        EXPECT_LT(static_cast<std::size_t>(node), surface.points.size() / 3);
}

TEST_F(PictureTest, SectionsHoldValuesAreaAndMean) {
    const auto made = picture({{1, 2, 3}, {3, 4, 5}});
    NoProgress progress;
    const auto orders = makeOrders(made.opened, progress);
    ASSERT_TRUE(orders);
    const std::vector<std::size_t> parts{0};
    SectionView view;
    view.name = "A";
    view.plane = {{0.25, 0, 0}, {2, 0, 0}};
    const auto cut = makeSection(made.opened, *orders, made, view, parts);
    EXPECT_NEAR(cut.area, 6, 1e-9);
    EXPECT_NEAR(*cut.mean, 293.15 + 12.5, 1e-4);
    EXPECT_NEAR(*cut.min, *cut.max, 1e-3);
    EXPECT_EQ(cut.values.size(), cut.points.size() / 3);
    EXPECT_EQ(cut.part.size(), cut.triangles.size() / 3);
    view.exempt = {"box"};
    EXPECT_TRUE(makeSection(made.opened, *orders, made, view, parts).empty());
    view.exempt.clear();
    view.plane.origin[0] = 7;
    const auto missed = makeSection(made.opened, *orders, made, view, parts);
    EXPECT_TRUE(missed.empty());
    EXPECT_FALSE(missed.mean);
    view.plane.normal = {};
    EXPECT_TRUE(makeSection(made.opened, *orders, made, view, parts).empty());
}

TEST_F(PictureTest, SectionsThroughCellValuesColourPolygons) {
    const auto made = picture({{1, 1, 1}, {2, 2, 2}}, "number");
    NoProgress progress;
    const auto orders = makeOrders(made.opened, progress);
    SectionView view;
    view.plane = {{0.3, 0, 0}, {1, 0, 0}};
    const std::vector<std::size_t> parts{0};
    const auto cut = makeSection(made.opened, *orders, made, view, parts);
    EXPECT_FALSE(cut.valuesOnNodes);
    EXPECT_EQ(cut.values.size(), cut.triangles.size() / 3);
    EXPECT_NEAR(*cut.mean, 0.5, 1e-6);
    EXPECT_NEAR(*cut.min, 0.25, 1e-6);
    EXPECT_NEAR(*cut.max, 0.75, 1e-6);
}

TEST(ScaledPicture, KeepsTheViewAndAddsTheScale) {
    QImage view(600, 300, QImage::Format_RGB32);
    view.fill(QColor(10, 200, 30));
    const auto scaled = imageOf(PictureSheet{view, ScaleCaption{"caption", "degC", {20, 80}, false, {}}, {}, {}}, {});
    EXPECT_EQ(scaled.width(), 600);
    EXPECT_GT(scaled.height(), 300);
    EXPECT_EQ(scaled.pixelColor(300, 150), QColor(10, 200, 30));
    // The bar runs from the palette's first colour to its last.
    const auto isNear = [](const QColor& a, const Rgb& b) {
        return std::abs(a.redF() - b[0]) < 0.03 && std::abs(a.greenF() - b[1]) < 0.03 &&
               std::abs(a.blueF() - b[2]) < 0.03;
    };
    bool first = false;
    bool last = false;
    for (int x = 0; x < scaled.width(); ++x) {
        first = first || isNear(scaled.pixelColor(x, 316), paletteColour(PaletteName::Ember, 0));
        last = last || isNear(scaled.pixelColor(x, 316), paletteColour(PaletteName::Ember, 1));
    }
    EXPECT_TRUE(first && last);
}

int main(int count, char** words) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QGuiApplication application(count, words);
    testing::InitGoogleTest(&count, words);
    return RUN_ALL_TESTS();
}

// One curved hexahedron of second order, a quarter of a pipe's wall: its surface is divided until it looks round, every
// node goes by nodes of the part with their shape functions, and neighbouring faces meet in the same nodes.
TEST(Surface, CurvedFacesAreDivided) {
    const auto* lattice = CellLattice::of(CellType::CurvedHexahedron, 27);
    std::vector<double> at;
    std::vector<std::uint32_t> ids;
    for (std::size_t node = 0; node < lattice->nodes(); ++node) {
        const auto local = lattice->place(node);
        const double radius = 1 + local[0];
        for (const double one :
             {radius * std::cos(local[1] * M_PI / 2), radius * std::sin(local[1] * M_PI / 2), local[2]})
            at.push_back(one);
        ids.push_back(static_cast<std::uint32_t>(node));
    }
    const std::vector<std::uint8_t> types{static_cast<std::uint8_t>(CellType::CurvedHexahedron)};
    Region part;
    part.name = "wall";
    part.mesh = {RealView(std::span<const double>(at)), ids, {}, types, 27};
    const auto shell = outerFaces(part);
    const auto surface = surfaceOf(part, {shell.nodes, shell.offsets, shell.cell});
    constexpr std::size_t division = 8;
    EXPECT_EQ(surface.triangles.size() / 3, 6U * 4 * 2 * division * division);
    EXPECT_EQ(surface.edges.size() / 2, 12U * 2 * division)
        << "no edge within a face, none that does not meet its neighbour's";
    ASSERT_EQ(surface.nodes(), surface.partNode.size() + surface.blendStart.size() - 1);
    double farthest = 0;
    for (std::size_t node = 0; node < surface.nodes(); ++node) {
        double sum = 0;
        Point blended{};
        surface.forSources(node, [&](std::uint32_t of, double weight) {
            sum += weight;
            for (std::size_t axis = 0; axis < 3; ++axis)
                blended[axis] += weight * at[3 * of + axis];
        });
        EXPECT_NEAR(sum, 1, 1e-6);
        for (std::size_t axis = 0; axis < 3; ++axis)
            EXPECT_NEAR(blended[axis], surface.points[3 * node + axis], 1e-5);
        const double radius = std::hypot(surface.points[3 * node], surface.points[3 * node + 1]);
        if (radius > 1.95)
            farthest = std::max(farthest, std::abs(radius - 2));
    }
    EXPECT_LT(farthest, 0.025) << "what the quadratic face itself is off; chords between its nodes are 0.15 off";
}

// The boundaries of such a wall, given by its file as straight pieces, are drawn on the same nodes as the wall: lit,
// they are not hidden beneath it.
TEST(Surface, BoundariesLieOnCurvedFaces) {
    const TempFolder folder;
    BlockData wall;
    wall.name = "wall";
    const std::array<std::array<double, 3>, 20> places{{{0, 0, 0},  {1, 0, 0},  {1, 1, 0},  {0, 1, 0},  {0, 0, 1},
                                                        {1, 0, 1},  {1, 1, 1},  {0, 1, 1},  {.5, 0, 0}, {1, .5, 0},
                                                        {.5, 1, 0}, {0, .5, 0}, {.5, 0, 1}, {1, .5, 1}, {.5, 1, 1},
                                                        {0, .5, 1}, {0, 0, .5}, {1, 0, .5}, {1, 1, .5}, {0, 1, .5}}};
    for (const auto& [r, s, t] : places) {
        wall.points.insert(wall.points.end(), {(1 + r) * std::cos(s * M_PI / 2), (1 + r) * std::sin(s * M_PI / 2), t});
        wall.connectivity.push_back(static_cast<std::uint32_t>(wall.connectivity.size()));
    }
    wall.offsets.push_back(20);
    wall.types.push_back(25); // VTK_QUADRATIC_HEXAHEDRON
    addNodeField(wall, "T [K]", [](const Point& at) { return 300 + 10 * at[2]; });
    ASSERT_TRUE(writeBlock(wall, folder / "wall.vtu"));
    const auto opened = mustOpen(folder / "wall.vtu");
    const auto list = recognise(*opened.solved, {});
    NoProgress progress;
    const auto picture = makePicture(opened, *list->named("temperature"), nullptr, progress);
    ASSERT_TRUE(picture);
    ASSERT_EQ(opened.solved->boundaries.size(), 6U);
    std::set<std::array<float, 3>> drawn;
    const auto& whole = picture->surfaces->front();
    for (std::size_t node = 0; node < whole.nodes(); ++node)
        drawn.insert({whole.points[3 * node], whole.points[3 * node + 1], whole.points[3 * node + 2]});
    for (std::size_t boundary = 0; boundary < 6; ++boundary) {
        const auto surface = surfaceOfBoundary(*picture, boundary);
        ASSERT_TRUE(surface) << opened.solved->boundaries[boundary].name;
        EXPECT_EQ(surface->division, whole.division);
        EXPECT_NEAR(area(*surface, surface->triangles), opened.index->boundaries[boundary].size,
                    2e-3 * opened.index->boundaries[boundary].size);
        const auto& mesh = opened.solved->boundaries[boundary].mesh;
        for (std::size_t node = 0; node < surface->nodes(); ++node) {
            EXPECT_TRUE(drawn.contains(
                {surface->points[3 * node], surface->points[3 * node + 1], surface->points[3 * node + 2]}));
            double height = 0;
            surface->forSources(node, [&](std::uint32_t of, double weight) { height += weight * mesh.node(of)[2]; });
            EXPECT_NEAR(height, surface->points[3 * node + 2], 1e-5) << "goes by nodes of the boundary";
        }
        EXPECT_EQ(surface->partCell.back(), mesh.cells() - 1);
    }
}
