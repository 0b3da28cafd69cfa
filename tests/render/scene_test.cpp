// The scene of the field, drawn off screen: picking, camera, visibility, what an opened section hides.
#include "render/field_scene.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>
#include <vtkNew.h>
#include <vtkRenderWindow.h>

using namespace pyro;
using namespace pyro::test;

namespace {

constexpr int width = 400;
constexpr int height = 300;

// A large cold plate with a hot block on top, seen without any window.
class SceneTest : public testing::Test {
protected:
    void SetUp() override {
        auto plate = boxPart("plate", {{0.1, 0.1, 0.01}, {5, 5, 1}});
        auto block = boxPart("block", {{0.02, 0.02, 0.02}, {2, 2, 2}, {0.04, 0.04, 0.01}});
        addNodeField(plate, "temperature", [](const Point& at) { return 300 + 100 * at[0]; });
        addNodeField(block, "temperature", [](const Point& at) { return 350 + 1000 * (at[2] - 0.01); });
        addCellField(plate, "number", [](const Point& at) { return at[0]; });
        ASSERT_TRUE(writeCase({plate, block}, folder / "pair.vtm"));
        show("temperature");
        window->SetOffScreenRendering(1);
        window->SetSize(width, height);
        window->AddRenderer(scene.renderer());
    }
    void show(const char* quantity) {
        const auto opened = mustOpen(folder / "pair.vtm");
        quantities = *recognise(*opened.solved, {});
        NoProgress progress;
        auto made = makePicture(opened, *quantities.named(quantity), nullptr, progress);
        ASSERT_TRUE(made);
        picture = std::make_shared<const FieldPicture>(std::move(*made));
        scene.show(picture);
    }
    void fromAbove() {
        scene.fit();
        scene.lookAlong(2, false);
    }
    std::optional<Pick> pickAt(const Point& place) {
        const auto pixel = scene.toPixel(place);
        return scene.pick(pixel[0], pixel[1]);
    }

    TempFolder folder;
    QuantityList quantities;
    vtkNew<vtkRenderWindow> window;
    FieldScene scene;
    std::shared_ptr<const FieldPicture> picture;
};

} // namespace

TEST_F(SceneTest, ThePartUnderAPixelIsReadThere) {
    fromAbove();
    const auto block = pickAt({0.05, 0.05, 0.03});
    ASSERT_TRUE(block);
    EXPECT_EQ(block->part, 1U);
    EXPECT_NEAR(block->at[2], 0.03, 1e-6);
    EXPECT_NEAR(*block->value, 370, 1e-3);
    const auto plate = pickAt({0.02, 0.07, 0.01});
    ASSERT_TRUE(plate);
    EXPECT_EQ(plate->part, 0U);
    EXPECT_NEAR(*plate->value, 302, 1e-3) << "between nodes, linearly";
    EXPECT_EQ(plate->on, Location::Node);
    ASSERT_TRUE(plate->surface);
    EXPECT_FALSE(scene.pick(2, 2)) << "a corner of the picture shows nothing";
}

TEST_F(SceneTest, AHiddenPartIsNotPicked) {
    fromAbove();
    scene.setPart(1, false, 1);
    const auto through = pickAt({0.05, 0.05, 0.01});
    ASSERT_TRUE(through);
    EXPECT_EQ(through->part, 0U);
    scene.setPart(1, true, 0); // wholly translucent is hidden too
    EXPECT_EQ(pickAt({0.05, 0.05, 0.01})->part, 0U);
    scene.setPart(1, true, 0.3);
    EXPECT_EQ(pickAt({0.05, 0.05, 0.03})->part, 1U) << "what can be seen can be picked";
}

TEST_F(SceneTest, CellValuesAreThoseOfTheCell) {
    show("number");
    fromAbove();
    const auto plate = pickAt({0.013, 0.07, 0.01});
    ASSERT_TRUE(plate);
    EXPECT_EQ(plate->on, Location::Cell);
    EXPECT_NEAR(*plate->value, 0.01, 1e-6) << "the middle of the first cell, not the place itself";
    const auto block = pickAt({0.05, 0.05, 0.03});
    ASSERT_TRUE(block);
    EXPECT_FALSE(block->value) << "the block has no such array: no value, not zero";
}

TEST_F(SceneTest, LookingAlongAnAxisKeepsThePlaceInTheMiddle) {
    scene.fit();
    for (const int axis : {0, 1, 2})
        for (const bool other : {false, true}) {
            scene.lookAlong(axis, other);
            const auto camera = scene.camera();
            const auto along = static_cast<std::size_t>(axis);
            EXPECT_GT((other ? -1 : 1) * (camera.position[along] - camera.focus[along]), 0);
            for (std::size_t i = 0; i < 3; ++i)
                if (i != along) {
                    EXPECT_NEAR(camera.position[i], camera.focus[i], 1e-9);
                }
            const auto pixel = scene.toPixel(camera.focus);
            EXPECT_NEAR(pixel[0], width / 2.0, 1);
            EXPECT_NEAR(pixel[1], height / 2.0, 1);
        }
}

TEST_F(SceneTest, ZoomKeepsThePlaceUnderTheCursor) {
    fromAbove();
    const Point place{0.02, 0.07, 0.01};
    const auto before = scene.toPixel(place);
    const double scale = scene.camera().scale;
    scene.zoom(1.5, before[0], before[1]);
    const auto after = scene.toPixel(place);
    EXPECT_NEAR(after[0], before[0], 0.5);
    EXPECT_NEAR(after[1], before[1], 0.5);
    EXPECT_NEAR(scene.camera().scale, scale / 1.5, 1e-9);
}

TEST_F(SceneTest, PanMovesByPixels) {
    fromAbove();
    const Point place{0.05, 0.05, 0.03};
    const auto before = scene.toPixel(place);
    scene.pan(40, -25);
    const auto after = scene.toPixel(place);
    EXPECT_NEAR(after[0] - before[0], 40, 0.5);
    EXPECT_NEAR(after[1] - before[1], -25, 0.5);
}

TEST_F(SceneTest, OrbitKeepsFocusDistanceAndUpright) {
    scene.fit();
    const auto before = scene.camera();
    scene.orbit(30, 20);
    scene.orbit(0, 400); // no turning over the pole
    const auto after = scene.camera();
    const auto distance = [](const CameraState& camera) {
        return std::hypot(camera.position[0] - camera.focus[0], camera.position[1] - camera.focus[1],
                          camera.position[2] - camera.focus[2]);
    };
    EXPECT_NEAR(distance(after), distance(before), 1e-9);
    for (std::size_t axis = 0; axis < 3; ++axis)
        EXPECT_NEAR(after.focus[axis], before.focus[axis], 1e-9);
    EXPECT_GT(after.position[2], after.focus[2]);
}

TEST_F(SceneTest, ACameraComesBackAsItWas) {
    scene.fit();
    scene.orbit(17, 9);
    scene.zoom(2, 100, 80);
    const auto kept = scene.camera();
    scene.fit();
    scene.lookAlong(0, true);
    scene.setCamera(kept);
    const auto back = scene.camera();
    for (std::size_t axis = 0; axis < 3; ++axis) {
        EXPECT_NEAR(back.position[axis], kept.position[axis], 1e-12);
        EXPECT_NEAR(back.focus[axis], kept.focus[axis], 1e-12);
        EXPECT_NEAR(back.up[axis], kept.up[axis], 1e-12);
    }
    EXPECT_DOUBLE_EQ(back.scale, kept.scale);
}

TEST_F(SceneTest, AnOpenedSectionIsPickedInsteadOfWhatItCutsAway) {
    NoProgress progress;
    const auto orders = *makeOrders(picture->opened, progress);
    SectionView view;
    view.name = "A";
    view.plane = {{0.05, 0.05, 0.02}, {0, 0, 1}};
    view.opened = true;
    const std::vector<std::size_t> parts{0, 1};
    const auto section = std::make_shared<const SectionPicture>(
        makeSection(picture->opened, orders, *picture, view, parts));
    scene.setSections({{view, section}});
    fromAbove();
    const auto hit = pickAt({0.051, 0.049, 0.02});
    ASSERT_TRUE(hit);
    EXPECT_EQ(hit->section, std::optional<std::size_t>(0));
    EXPECT_NEAR(hit->at[2], 0.02, 1e-6);
    EXPECT_NEAR(*hit->value, 360, 1e-2);
    view.exempt = {"block"};
    const auto spared = std::make_shared<const SectionPicture>(
        makeSection(picture->opened, orders, *picture, view, parts));
    scene.setSections({{view, spared}});
    const auto top = pickAt({0.051, 0.049, 0.03});
    ASSERT_TRUE(top);
    EXPECT_FALSE(top->section) << "an exempt part is not cut";
    EXPECT_NEAR(top->at[2], 0.03, 1e-6);
}

TEST_F(SceneTest, IsothermsLieOnWhatIsVisible) {
    scene.setRange(300, 370, {}, false);
    scene.setIsotherms(LevelRule{273.15, 5, 5, {}});
    const auto all = scene.isotherms().size();
    EXPECT_GT(all, 0U);
    scene.setPart(1, false, 1);
    scene.setIsotherms(LevelRule{273.15, 5, 5, {}});
    EXPECT_LT(scene.isotherms().size(), all);
    for (const auto& line : scene.isotherms())
        EXPECT_LE(line.value, 310.001) << "the plate ends at 310 K";
    scene.setIsotherms(std::nullopt);
    EXPECT_TRUE(scene.isotherms().empty());
}

TEST_F(SceneTest, ClearingForgetsEverything) {
    fromAbove();
    scene.clear();
    EXPECT_FALSE(scene.pick(width / 2.0, height / 2.0));
    EXPECT_TRUE(scene.isotherms().empty());
    scene.showTriangle();
    scene.clear();
    show("temperature");
    fromAbove();
    EXPECT_TRUE(pickAt({0.05, 0.05, 0.03}));
}

// The block is pushed 30 mm to the right by a field that says 0.3 mm, 100 times; the plate has none of it.
TEST_F(SceneTest, ADeformedShapeIsDrawnWhereItIsMovedTo) {
    auto block = boxPart("block", {{0.02, 0.02, 0.02}, {2, 2, 2}, {0.04, 0.04, 0.01}});
    addNodeVector(block, "displacement [mm]", [](const Point&) { return Point{0.3, 0, 0}; });
    ASSERT_TRUE(writeCase({block}, folder / "moved.vtm"));
    const auto moved = mustOpen(folder / "moved.vtm");
    auto list = *recognise(*moved.solved, {});
    const auto* displacement = list.named("displacement");
    ASSERT_NE(displacement, nullptr);
    // the file has one part only, but the picture has two: parts are matched by name
    auto deformed = makeDeformed(*picture, moved, *displacement, 100);
    ASSERT_TRUE(deformed.why.empty()) << deformed.why;
    EXPECT_NEAR(deformed.largest, 3e-4, 1e-9);
    EXPECT_EQ(deformed.unmoved, std::vector<std::string>{"plate"});
    fromAbove();
    const Point before{0.045, 0.05, 0.03};
    const Point after{0.075, 0.05, 0.03};
    ASSERT_EQ(pickAt(before)->part, 1U);
    ASSERT_EQ(pickAt(after)->part, 0U);
    scene.setDeformed(std::make_shared<const DeformedPicture>(deformed), true);
    EXPECT_EQ(pickAt(before)->part, 0U) << "nothing of the block is left there";
    const auto picked = pickAt(after);
    ASSERT_EQ(picked->part, 1U);
    EXPECT_NEAR(picked->at[0], 0.045, 1e-6) << "told at its undeformed place";
    EXPECT_NEAR(*picked->value, 370, 1e-3);
    scene.setDeformed(std::make_shared<const DeformedPicture>(deformed), true, 0.5);
    EXPECT_EQ(pickAt({0.06, 0.05, 0.03})->part, 1U) << "half way";
    scene.setDeformed(nullptr, false);
    EXPECT_EQ(pickAt(before)->part, 1U);

    const auto fitting = makeDeformed(*picture, moved, *displacement, {});
    EXPECT_NEAR(fitting.factor * fitting.largest, 0.05 * std::hypot(0.1, 0.1, 0.03), 1e-6);
    EXPECT_FALSE(makeDeformed(*picture, mustOpen(folder / "pair.vtm"), quantities.quantities[0], 1).why.empty())
        << "a temperature displaces nothing";
}
