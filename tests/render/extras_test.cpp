// Arrows, isotherm surfaces, particles and films, on fields whose answer is known.
#include "core/evaluate/evaluate.h"
#include "render/arrow_picture.h"
#include "render/boundary_drawing.h"
#include "render/frame_writer.h"
#include "render/level_picture.h"
#include "render/path_drawing.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <fstream>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// A block 0.2 x 0.1 x 0.1 m with T = 300 + 1000 x and a velocity (x, 0, 0.1) at its nodes; beside it a still one.
class ExtrasTest : public testing::Test {
protected:
    void SetUp() override {
        const BoxMesh box{{0.2, 0.1, 0.1}, {10, 5, 5}};
        auto stream = boxPart("stream", box);
        addNodeField(stream, "temperature", [](const Point& at) { return 300 + 1000 * at[0]; });
        ArrayData velocity{"velocity", Location::Node, 3, {}};
        for (std::size_t i = 0; i < stream.points.size(); i += 3)
            velocity.values.insert(velocity.values.end(), {stream.points[i], 0, 0.1});
        stream.arrays.push_back(std::move(velocity));
        auto still = boxPart("still", {{0.2, 0.1, 0.1}, {4, 2, 2}, {0, 0.1, 0}});
        addNodeField(still, "temperature", [](const Point&) { return 310; });
        addCellField(still, "load", [](const Point& at) { return at[0]; });
        ASSERT_TRUE(writeCase({stream, still, boxSide("lid", box, 2, true)}, folder / "case.vtm"));
        opened = mustOpen(folder / "case.vtm");
        quantities = *recognise(*opened.solved, {});
        picture = std::make_unique<FieldPicture>(
            *makePicture(opened, *quantities.named("temperature"), nullptr, progress));
        orders = *makeOrders(opened, progress);
    }
    std::shared_ptr<const SectionPicture> section(const Plane& plane) {
        SectionView view;
        view.plane = plane;
        return std::make_shared<const SectionPicture>(makeSection(opened, orders, *picture, view, all));
    }
    ArrowPicture arrows(const ArrowView& view, std::vector<std::shared_ptr<const SectionPicture>> sections) {
        auto made = makeArrows(*picture, orders, *quantities.named("velocity"), view, sections, progress);
        EXPECT_TRUE(made);
        return std::move(*made);
    }
    PathPicture paths(const PathView& view, std::shared_ptr<const SectionPicture> cut = nullptr) {
        auto made = makePaths(*picture, orders, *quantities.named("velocity"), view, {std::nullopt, std::move(cut)},
                              progress);
        EXPECT_TRUE(made);
        return std::move(*made);
    }

    TempFolder folder;
    NoProgress progress;
    OpenedCase opened;
    QuantityList quantities;
    std::unique_ptr<FieldPicture> picture;
    CellOrders orders;
    std::vector<std::size_t> all{0, 1};
};

} // namespace

TEST_F(ExtrasTest, ArrowsStandOnAGridOfTheSpacingAndOnlyWhereTheFieldIs) {
    ArrowView view;
    view.spacing = 0.01;
    const auto made = arrows(view, {section({{0.1, 0.05, 0.05}, {0, 0, 1}})});
    EXPECT_TRUE(made.why.empty());
    EXPECT_EQ(made.count(), 21U * 11U); // 0.2 m by 0.1 m, both rims included
    for (std::size_t i = 0; i < made.count(); ++i) {
        const double x = made.points[3 * i];
        EXPECT_NEAR(std::remainder(x - 0.1, 0.01), 0, 1e-6);
        EXPECT_LE(made.points[3 * i + 1], 0.1 + 1e-6) << "the block that stands still carries none";
        EXPECT_NEAR(made.vectors[3 * i] * 0.1, made.vectors[3 * i + 2] * x, 1e-6) << "along the velocity";
        EXPECT_NEAR(made.values[i], 300 + 1000 * x, 1e-2);
    }
    EXPECT_NEAR(made.longest, std::hypot(0.2, 0.1), 1e-6);
    EXPECT_LT(made.unit, made.longest);
    // Scaled: lengths are to each other as the velocities.
    const auto length = [&](std::size_t i) {
        return std::hypot(made.vectors[3 * i], made.vectors[3 * i + 1], made.vectors[3 * i + 2]);
    };
    for (std::size_t i = 1; i < made.count(); ++i)
        EXPECT_NEAR(length(i) / length(0), std::hypot(made.points[3 * i], 0.1) / std::hypot(made.points[0], 0.1), 1e-4);
}

TEST_F(ExtrasTest, ArrowsOfOneLengthAndOnABoundary) {
    ArrowView view;
    view.spacing = 0.02;
    view.scaled = false;
    view.sections = false;
    view.boundaries = {"lid", "not there"};
    const auto made = arrows(view, {});
    EXPECT_NEAR(static_cast<double>(made.count()), 0.2 * 0.1 / 0.0004, 1);
    for (std::size_t i = 0; i < made.count(); ++i) {
        EXPECT_NEAR(std::hypot(made.vectors[3 * i], made.vectors[3 * i + 1], made.vectors[3 * i + 2]), 0.018, 1e-6);
        EXPECT_NEAR(made.points[3 * i + 2], 0.1, 1e-4);
    }
    EXPECT_EQ(made.unit, 0);
}

TEST_F(ExtrasTest, ArrowsSayWhyThereAreNone) {
    ArrowView view;
    EXPECT_NE(arrows(view, {}).why.find("no section is shown"), std::string::npos);
    view.spacing = 1e-6;
    EXPECT_NE(arrows(view, {section({{0.1, 0.05, 0.05}, {0, 0, 1}})}).why.find("more than"), std::string::npos);
    view.spacing = 0.01;
    EXPECT_NE(arrows(view, {section({{0.1, 0.15, 0.05}, {0, 1, 0}})}).why.find("none of these places"),
              std::string::npos);
}

TEST_F(ExtrasTest, AnIsothermSurfaceIsAPlaneWithTheVolumeAboveIt) {
    const std::vector<double> values{450, 800};
    const auto made = makeLevels(*picture, orders, values, all, progress);
    ASSERT_TRUE(made);
    ASSERT_EQ(made->levels.size(), 2U);
    const auto& plane = made->levels[0];
    ASSERT_FALSE(plane.triangles.empty());
    double area = 0;
    for (std::size_t i = 0; i < plane.triangles.size(); i += 3) {
        const auto at = [&](std::size_t corner, std::size_t axis) {
            return plane.points[3 * static_cast<std::size_t>(plane.triangles[i + corner]) + axis];
        };
        for (std::size_t corner = 0; corner < 3; ++corner)
            EXPECT_NEAR(at(corner, 0), 0.15, 1e-5);
        area += 0.5 *
                std::abs((at(1, 1) - at(0, 1)) * (at(2, 2) - at(0, 2)) - (at(1, 2) - at(0, 2)) * (at(2, 1) - at(0, 1)));
    }
    EXPECT_NEAR(area, 0.01, 1e-6);
    ASSERT_EQ(plane.parts.size(), 1U) << "the other block is nowhere that hot";
    EXPECT_EQ(plane.parts[0].part, 0U);
    EXPECT_NEAR(plane.parts[0].above.share(), 0.25, 1e-9);
    EXPECT_TRUE(made->levels[1].triangles.empty());
    EXPECT_TRUE(made->levels[1].parts.empty());
}

TEST_F(ExtrasTest, ALevelOfCellValuesHasVolumesButNoSurface) {
    const auto load = makePicture(opened, *quantities.named("load"), nullptr, progress);
    const std::vector<double> values{0.1};
    const auto made = makeLevels(*load, orders, values, all, progress);
    ASSERT_TRUE(made);
    EXPECT_FALSE(made->why.empty());
    EXPECT_TRUE(made->levels[0].triangles.empty());
    ASSERT_EQ(made->levels[0].parts.size(), 1U);
    EXPECT_NEAR(made->levels[0].parts[0].above.share(), 0.5, 1e-12);
}

TEST_F(ExtrasTest, PathsStartFromSectionLineDiskAndPlace) {
    PathView view;
    view.lines = 20;
    view.backwards = false;
    view.start = PathStart::Section;
    view.from = "Section A";
    EXPECT_NE(paths(view).why.find("Section A"), std::string::npos);
    const auto cut = section({{0.1, 0.05, 0.02}, {0, 0, 1}});
    const auto fromSection = paths(view, cut);
    ASSERT_EQ(fromSection.lines(), 20U) << "none is wasted on the block that stands still";
    for (std::size_t line = 0; line < fromSection.lines(); ++line)
        EXPECT_NEAR(fromSection.points[3 * fromSection.begin[line] + 2], 0.02, 1e-6);

    view.start = PathStart::Line;
    view.at = {0.01, 0.05, 0.01};
    view.to = {0.01, 0.25, 0.01}; // the last part of it lies outside of the stream
    const auto fromLine = paths(view);
    EXPECT_EQ(fromLine.lines() + fromLine.lost, 20U);
    EXPECT_GT(fromLine.lost, 10U);

    view.start = PathStart::Disk;
    view.radius = 0.01;
    view.at = {0.1, 0.05, 0.05};
    const auto fromDisk = paths(view);
    ASSERT_EQ(fromDisk.lines(), 20U);
    for (std::size_t line = 0; line < fromDisk.lines(); ++line) { // across the flow (1, 0, 1) found in its middle
        const auto* at = &fromDisk.points[3 * fromDisk.begin[line]];
        EXPECT_NEAR(at[0] - 0.1 + at[2] - 0.05, 0, 1e-6);
    }
    view.at = {5, 5, 5};
    EXPECT_NE(paths(view).why.find("outside"), std::string::npos);

    view.start = PathStart::Place;
    view.at = {0.1, 0.05, 0.05};
    EXPECT_EQ(paths(view).lines(), 20U);
}

// dx/dt = x, dz/dt = 0.1: from x = 0.05 to 0.1 takes ln 2 seconds, on every line of the disk.
TEST_F(ExtrasTest, PathsEndAtTheirLengthAndKnowTheirTime) {
    PathView view;
    view.start = PathStart::Line;
    view.at = view.to = {0.05, 0.05, 0.02};
    view.lines = 1;
    view.longest = 0.03;
    view.backwards = false;
    const auto made = paths(view);
    ASSERT_EQ(made.lines(), 1U);
    const auto last = made.begin[1] - 1;
    double length = 0;
    for (auto i = made.begin[0]; i < last; ++i)
        length += std::hypot(made.points[3 * i + 3] - made.points[3 * i],
                             made.points[3 * i + 5] - made.points[3 * i + 2]);
    EXPECT_NEAR(length, 0.03, 1e-4);
    EXPECT_EQ(made.time[0], 0);
    EXPECT_NEAR(made.time[last], 1, 1e-6) << "one span is the time of the median line";
    EXPECT_NEAR(made.span, std::log(made.points[3 * last] / 0.05), 2e-3);
}

TEST_F(ExtrasTest, ParticlesRunAlongTheLines) {
    PathPicture two;
    two.begin = {0, 3, 5};
    two.points = {0, 0, 0, 1, 0, 0, 3, 0, 0, 0, 1, 0, 1, 1, 0};
    two.values = {1, 1, 1, 1, 1};
    two.time = {0, 0.5F, 1, 0, 1};
    two.span = 1;
    const auto at = particlesAt(two, 0.25, 10); // so far apart that each line has at most one
    ASSERT_EQ(at.size(), 3U) << "the second line starts later";
    EXPECT_NEAR(at[0], 0.5, 1e-6);
    EXPECT_NEAR(particlesAt(two, 0.75, 10)[0], 2, 1e-6) << "twice as fast on the second piece";
    EXPECT_EQ(particlesAt(two, 0.1, 0.25).size(), particlesAt(two, 0.35, 0.25).size());
    EXPECT_TRUE(particlesAt(PathPicture{}, 0.1, 0.25).empty());
}

// The lid is 10 by 5 faces: 30 edges run around it, all at its rim.
TEST_F(ExtrasTest, ABoundaryHasARim) {
    const auto& mesh = opened.solved->boundaries[0].mesh;
    const auto rim = rimOf(mesh);
    EXPECT_EQ(rim.size() / 2, 30U);
    for (const auto node : rim) {
        const auto at = mesh.node(node);
        const bool onRim = at[0] < 1e-9 || at[0] > 0.2 - 1e-9 || at[1] < 1e-9 || at[1] > 0.1 - 1e-9;
        EXPECT_TRUE(onRim) << at[0] << ' ' << at[1];
    }
}

TEST_F(ExtrasTest, ComponentsHaveRangesOfTheirOwn) {
    const auto size = makePicture(opened, *quantities.named("velocity"), nullptr, progress);
    const auto along = makePicture(opened, *quantities.named("velocity"), &*size, progress, Component::Z);
    EXPECT_NEAR(size->max, std::hypot(0.2, 0.1), 1e-6);
    EXPECT_NEAR(along->min, 0.1, 1e-9);
    EXPECT_NEAR(along->max, 0.1, 1e-9);
    EXPECT_TRUE(std::isnan(rangeOf(*along, std::array{std::size_t{1}})[0])) << "the still block has no velocity";
    EXPECT_NE(along->values, size->values);
    EXPECT_EQ(along->surfaces, size->surfaces);
}

TEST_F(ExtrasTest, AnAnimationIsPicturesOrAFilm) {
    QImage frame(101, 60, QImage::Format_RGB32);
    const auto write = [&](const char* name) {
        auto writer = FrameWriter::open(folder / name, 10);
        ASSERT_TRUE(writer);
        for (int i = 0; i < 5; ++i) {
            frame.fill(QColor(40 * i, 90, 30));
            ASSERT_TRUE((*writer)->add(frame));
        }
        ASSERT_TRUE((*writer)->finish());
        EXPECT_EQ((*writer)->frames(), 5);
    };
    write("rise.png");
    const QImage third(QString::fromStdString((folder / "rise_0002.png").string()));
    EXPECT_EQ(third.size(), frame.size());
    EXPECT_EQ(third.pixelColor(50, 30), QColor(80, 90, 30));
    write("rise.ogv");
    std::ifstream film(folder / "rise.ogv", std::ios::binary);
    std::string head(64, '\0');
    film.read(head.data(), 64);
    EXPECT_EQ(head.substr(0, 4), "OggS"); // RFC 3533
    EXPECT_NE(head.find("theora"), std::string::npos);
    EXPECT_FALSE(FrameWriter::open(folder / "rise.mp5", 10));
    auto nowhere = FrameWriter::open(folder / "no folder" / "rise.ogv", 10);
    ASSERT_TRUE(nowhere);
    EXPECT_FALSE((*nowhere)->add(frame));
    auto noPictures = FrameWriter::open(folder / "no folder" / "rise.png", 10);
    EXPECT_FALSE((*noPictures)->add(frame));
}
