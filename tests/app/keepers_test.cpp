// What lies over the picture is made anew only where what it depends on changed: sections, paths, arrows, isotherm
// surfaces. No window, no session.
#include "app/session/extra_keeper.h"
#include "app/session/section_keeper.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <QTest>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

class KeepersTest : public testing::Test {
protected:
    void SetUp() override {
        auto part = boxPart("block", {{0.1, 0.1, 0.1}, {6, 6, 6}});
        addNodeField(part, "temperature", [](const Point& at) { return 300 + 400 * at[0]; });
        addNodeVector(part, "velocity", [](const Point&) { return Point{1, 0, 0}; });
        ASSERT_TRUE(writeCase({part}, folder / "c.vtm"));
        opened = mustOpen(folder / "c.vtm");
        quantities = *recognise(*opened->solved, {});
        orders = std::make_shared<const CellOrders>(*makeOrders(*opened, quiet));
        picture = draw();
    }
    std::shared_ptr<const FieldPicture> draw() {
        return std::make_shared<const FieldPicture>(
            *makePicture(*opened, *quantities.named("temperature"), nullptr, quiet));
    }
    ExtraKeeper::OnDisplay shown(const FieldLook& look) const {
        return {look, picture, orders, quantities, Point{0.05, 0.05, 0.05}, {}, {0}, {}};
    }
    void settle() {
        ASSERT_TRUE(QTest::qWaitFor([&] { return jobs.running() == 0; }, 20000));
    }
    static SectionView section(const char* name, double x) {
        SectionView made;
        made.name = name;
        made.plane = {{x, 0, 0}, {1, 0, 0}};
        return made;
    }
    TempFolder folder;
    NoProgress quiet;
    std::optional<OpenedCase> opened;
    QuantityList quantities;
    std::shared_ptr<const CellOrders> orders;
    std::shared_ptr<const FieldPicture> picture;
    int ready = 0;
    QObject context;
    JobList jobs; // last: its threads end first
};

} // namespace

TEST_F(KeepersTest, OnlyTheSectionThatMovedIsCutAnew) {
    SectionKeeper keeper;
    FieldLook look;
    look.sections = {section("A", 0.03), section("B", 0.06)};
    EXPECT_TRUE(keeper.update(look, orders.get(), picture, {0}));
    ASSERT_EQ(keeper.shown().size(), 2U);
    const auto first = keeper.shown()[0].picture;
    const auto second = keeper.shown()[1].picture;
    ASSERT_TRUE(first && second);
    EXPECT_NEAR(first->area, 0.01, 1e-6);
    EXPECT_FALSE(keeper.update(look, orders.get(), picture, {0})) << "nothing changed";
    look.sections[1].plane.origin[0] = 0.08;
    EXPECT_TRUE(keeper.update(look, orders.get(), picture, {0}));
    EXPECT_EQ(keeper.shown()[0].picture, first) << "a drag pays for one";
    EXPECT_NE(keeper.shown()[1].picture, second);
    look.sections[0].fill = false; // concerns the drawing only
    EXPECT_TRUE(keeper.update(look, orders.get(), picture, {0}));
    EXPECT_EQ(keeper.shown()[0].picture, first);
}

TEST_F(KeepersTest, SectionsWaitForWhatTheyNeed) {
    SectionKeeper keeper;
    FieldLook look;
    look.sections = {section("A", 0.03)};
    keeper.update(look, nullptr, picture, {0});
    EXPECT_FALSE(keeper.shown()[0].picture) << "the cells are not in order yet";
    keeper.update(look, orders.get(), picture, {0});
    EXPECT_TRUE(keeper.shown()[0].picture);
    const auto before = keeper.shown()[0].picture;
    keeper.update(look, orders.get(), draw(), {0});
    EXPECT_NE(keeper.shown()[0].picture, before) << "another picture has other values";
    look.sections[0].shown = false;
    keeper.update(look, orders.get(), picture, {0});
    EXPECT_FALSE(keeper.shown()[0].picture);
    look.sections.clear();
    EXPECT_TRUE(keeper.update(look, orders.get(), picture, {0}));
    EXPECT_TRUE(keeper.shown().empty());
}

TEST_F(KeepersTest, PathsAreFollowedOnceForWhatTheyDependOn) {
    ExtraKeeper keeper(jobs, context, [this] { ++ready; });
    FieldLook look;
    keeper.update(shown(look));
    EXPECT_EQ(jobs.running(), 0) << "nothing is wanted";
    look.paths.shown = true;
    look.paths.quantity = "velocity";
    look.paths.start = PathStart::Place;
    look.paths.at = {0.01, 0.05, 0.05};
    look.paths.lines = 12;
    keeper.update(shown(look));
    EXPECT_EQ(jobs.running(), 1);
    EXPECT_FALSE(keeper.paths());
    settle();
    ASSERT_TRUE(keeper.paths());
    EXPECT_GT(keeper.paths()->lines(), 0U);
    EXPECT_EQ(ready, 1);
    const auto made = keeper.paths();
    keeper.update(shown(look));
    look.paths.tubes = true; // concerns the drawing only
    look.paths.moving = true;
    keeper.update(shown(look));
    EXPECT_EQ(jobs.running(), 0);
    EXPECT_EQ(keeper.paths(), made);
    look.paths.shown = false;
    keeper.update(shown(look));
    EXPECT_FALSE(keeper.paths());
}

TEST_F(KeepersTest, OfSeveralRequestsMeanwhileTheLastIsMade) {
    ExtraKeeper keeper(jobs, context, [this] { ++ready; });
    FieldLook look;
    look.paths.shown = true;
    look.paths.quantity = "velocity";
    look.paths.start = PathStart::Place;
    for (const int lines : {5, 7, 9, 11}) { // a slider is dragged
        look.paths.at = {0.01, 0.05, 0.05};
        look.paths.lines = lines;
        keeper.update(shown(look));
        EXPECT_EQ(jobs.running(), 1) << "one at a time";
    }
    settle();
    EXPECT_EQ(ready, 1) << "what was overtaken is not shown";
    EXPECT_TRUE(keeper.paths());
}

TEST_F(KeepersTest, WhatCannotBeFollowedSaysWhy) {
    ExtraKeeper keeper(jobs, context, [this] { ++ready; });
    FieldLook look;
    look.arrows.shown = true;
    look.arrows.quantity = "mass_flux";
    keeper.update(shown(look));
    settle();
    ASSERT_TRUE(keeper.arrows());
    EXPECT_NE(keeper.arrows()->why.find("mass_flux"), std::string::npos) << keeper.arrows()->why;
    keeper.clear();
    EXPECT_FALSE(keeper.arrows());
}

TEST_F(KeepersTest, IsothermSurfacesFollowTheirValues) {
    ExtraKeeper keeper(jobs, context, [this] { ++ready; });
    auto wanted = shown({});
    wanted.surfaces = {320};
    keeper.update(wanted);
    settle();
    ASSERT_TRUE(keeper.levels());
    const auto one = keeper.levels();
    wanted.surfaces = {320, 330};
    keeper.update(wanted);
    EXPECT_EQ(keeper.levels(), one) << "the one before stays until the new one is there";
    settle();
    EXPECT_NE(keeper.levels(), one);
    wanted.picture = draw();
    keeper.update(wanted);
    EXPECT_FALSE(keeper.levels()) << "of another picture it means nothing";
    settle();
    EXPECT_TRUE(keeper.levels());
    EXPECT_EQ(ready, 3);
}
