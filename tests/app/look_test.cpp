// The ways of looking in the real window: viewpoints, colours, pictures, readings under the cursor.
#include "app/session/dialogs.h"
#include "app/stages/field/deformed_card.h"
#include "app/stages/field/field_sheet.h"
#include "core/survey/viewpoints.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"
#include "tests/support/survey_on_disk.h"

#include <QListWidget>
#include <cmath>
#include <fstream>

using namespace pyro;
using namespace pyro::test;

using LookTest = WindowTest;

TEST_F(LookTest, AViewpointRestoresEverythingSeen) {
    openSurvey();
    type(Qt::Key_C);
    settle();
    type(Qt::Key_I);
    type(Qt::Key_X);
    auto view = window->session().view();
    view.hidden = {"cold plate"};
    view.range = {{350.0, 380.0}};
    view.field.strip.bands = 10;
    window->session().editView("test", view);
    type(Qt::Key_V);
    const auto kept = window->session().view();
    auto* list = find<ViewpointList>("viewpointList");
    ASSERT_EQ(list->count(), 1);
    EXPECT_TRUE(list->isVisible());
    EXPECT_FALSE(list->item(0)->icon().isNull());
    // Everything is changed, also the case shown; one click brings it back.
    window->session().editView("test", ViewState{});
    window->showStage("Field");
    type(Qt::Key_Y);
    EXPECT_NE(window->session().view(), kept);
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(0)).center());
    auto expected = kept;
    expected.caseName = "";
    EXPECT_EQ(window->session().view(), expected);
    trigger("undo");
    EXPECT_TRUE(window->session().view().field.sections.empty());
}

TEST_F(LookTest, ColoursChangeOnStripAndField) {
    openSurvey();
    auto* strip = find<HeatStrip>("heatStrip");
    const auto inView = [&] { return window->viewport().picture(); };
    const auto onStrip = [&] { return strip->grab().toImage(); };
    auto view = inView();
    auto bar = onStrip();
    for (const auto* id : {"paletteash", "palettetide", "bands6", "reversePalette"}) {
        SCOPED_TRACE(id);
        trigger(id);
        EXPECT_TRUE(QTest::qWaitFor([&] { return inView() != view && onStrip() != bar; }));
        view = inView();
        bar = onStrip();
    }
    EXPECT_EQ(window->session().view().field.strip.bands, 6);
    EXPECT_TRUE(window->session().view().field.strip.reversed);
    // The tint marks what lies outside the range, and only then.
    trigger("tintOutside");
    QTest::qWait(30);
    EXPECT_EQ(inView(), view) << "nothing lies outside yet";
    auto narrowed = window->session().view();
    narrowed.range = {{320.0, 330.0}};
    window->session().editView("test", narrowed);
    EXPECT_TRUE(QTest::qWaitFor([&] { return inView() != view; }));
    const auto tinted = inView();
    trigger("tintOutside");
    EXPECT_TRUE(QTest::qWaitFor([&] { return inView() != tinted; }));
    EXPECT_EQ(window->messagesShown(), 0);
    trigger("logarithmicScale"); // of a temperature: said, and not done
    EXPECT_EQ(window->messagesShown(), 1);
    EXPECT_FALSE(isLogarithmic(window->session().seen()));
}

TEST_F(LookTest, ALockedRangeStaysWhateverIsHidden) {
    openSurvey();
    trigger("lockRange");
    const auto locked = window->session().view().range;
    ASSERT_TRUE(locked);
    auto view = window->session().view();
    view.hidden = {"hot core"};
    window->session().editView("test", view);
    EXPECT_EQ(shownRange(window->session().seen()), locked);
}

TEST_F(LookTest, PicturesCarryTheirScale) {
    openSurvey();
    const auto file = folder / "view.png";
    dialogs::answerNextFile(QString::fromStdString(file.string()));
    trigger("savePicture");
    const QImage saved(QString::fromStdString(file.string()));
    EXPECT_EQ(saved.width(), window->viewport().picture().width());
    EXPECT_GT(saved.height(), window->viewport().picture().height());
    dialogs::answerNextFile("/nonexistent-folder/view.png");
    trigger("savePicture");
    EXPECT_TRUE(window->message().contains("cannot be written"));
}

TEST_F(LookTest, AllQuantitiesAreReadUnderTheCursor) {
    openSurvey();
    auto& viewport = window->viewport();
    type(Qt::Key_Z);
    const auto at = viewport.pixelOf({0.05, 0.05, 0.03}).toPoint();
    QTest::mouseMove(&viewport, at - QPoint(3, 0));
    QTest::mouseMove(&viewport, at);
    ASSERT_TRUE(QTest::qWaitFor([&] { return viewport.allReadings().contains("Core"); }, 5000));
    EXPECT_TRUE(viewport.allReadings().contains("temperature  110.0 \u00b0C")) << viewport.allReadings().toStdString();
}

// The fixture stores no flux: the paths follow the falling temperature, and the card says so. Velocities it has none.
TEST_F(LookTest, HeatPathsSayWhatTheyFollow) {
    openSurvey();
    type(Qt::Key_W);
    settle();
    const auto told = [&](const QString& words) {
        for (const auto* label : find<PathCard>("card")->findChildren<QLabel*>())
            if (label->text().contains(words))
                return true;
        return false;
    };
    ASSERT_TRUE(window->session().extras().paths());
    EXPECT_TRUE(window->session().extras().paths()->fromGradient);
    EXPECT_GT(window->session().extras().paths()->lines(), 0U);
    EXPECT_TRUE(told("no flux is stored"));
    auto view = window->session().view();
    view.field.paths.quantity = "velocity";
    window->session().editView("test", view);
    settle();
    EXPECT_EQ(window->session().extras().paths()->lines(), 0U);
    EXPECT_TRUE(told("no vectors of velocity"));
}

// A block with a flux of 5 W/m2 along x: the paths from the hottest place run straight to both ends.
TEST_F(LookTest, HeatPathsFollowTheFlux) {
    const BoxMesh bar{{0.1, 0.02, 0.02}, {20, 4, 4}};
    auto part = boxPart("bar", bar);
    addNodeField(part, "T [degC]", [](const Point& at) { return 80 - 400 * std::abs(at[0] - 0.05); });
    part.arrays.push_back({"heat_flux", Location::Node, 3, {}});
    for (std::size_t i = 0; i < part.points.size() / 3; ++i)
        for (const double component : {5.0, 0.0, 0.0})
            part.arrays.back().values.push_back(component);
    ASSERT_TRUE(writeCase({part, boxSide("cold end", bar, 0, true)}, folder / "bar.vtm"));
    writeText(survey, R"({"pyrometer": 1, "cases": [{"name": "bar", "file": "bar.vtm"}], "view": {"stage": "Field"}})");
    openSurvey();
    type(Qt::Key_W);
    settle();
    const auto paths = window->session().extras().paths();
    ASSERT_TRUE(paths);
    ASSERT_GT(paths->lines(), 5U);
    for (std::size_t line = 0; line < paths->lines(); ++line) {
        const auto first = 3 * paths->begin[line];
        const auto last = 3 * (paths->begin[line + 1] - 1);
        EXPECT_NEAR(paths->points[first], 0, 0.003);
        EXPECT_NEAR(paths->points[last], 0.1, 0.003);
        EXPECT_NEAR(paths->points[first + 1], paths->points[last + 1], 1e-6);
    }
    auto view = window->session().view();
    view.field.paths.start = PathStart::Boundary;
    view.field.paths.from = "cold end";
    window->session().editView("test", view);
    settle();
    ASSERT_TRUE(window->session().extras().paths());
    EXPECT_EQ(window->session().extras().paths()->lines(), 16U); // a line from each face
}

// A second case on the same mesh has the displacement: the shape of it, the temperature of the first.
TEST_F(LookTest, TheDeformedShapeOfAnotherCaseAndAViewpointThatCarriesItsCase) {
    auto a = boxPart("cold plate", {{0.1, 0.1, 0.01}, {10, 10, 2}});
    auto b = boxPart("hot core", {{0.02, 0.02, 0.02}, {4, 4, 4}, {0.04, 0.04, 0.01}});
    for (auto* part : {&a, &b})
        addNodeVector(*part, "displacement [mm]", [](const Point& at) { return Point{0, 0, 10 * at[0]}; });
    ASSERT_TRUE(writeCase({a, b}, folder / "bent.vtm"));
    auto json = Json::parse(std::ifstream(survey));
    json["cases"].push_back({{"name", "bent"}, {"file", "bent.vtm"}});
    writeText(survey, json.dump());
    openSurvey();
    auto* card = window->findChild<DeformedCard*>();
    ASSERT_NE(card, nullptr);
    ASSERT_TRUE(QTest::qWaitFor([&] { return card->isVisible(); }, 20000)) << "some case has a vector of lengths";
    const auto before = window->viewport().picture();
    auto* shown = card->findChild<QAbstractButton*>("deformedSwitch");
    ASSERT_NE(shown, nullptr);
    click(shown);
    settle();
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->session().extras().deformed() != nullptr; }, 20000));
    EXPECT_EQ(window->session().view().field.deformed.caseName, "bent");
    EXPECT_NEAR(window->session().extras().deformed()->largest, 1e-3, 1e-9);
    settle();
    EXPECT_NE(window->viewport().picture(), before);
    EXPECT_EQ(window->session().view().quantity, "temperature") << "of the case on display";

    type(Qt::Key_V);
    auto next = window->session().survey();
    ASSERT_EQ(next.viewpoints.size(), 1U);
    next = withViewpointOfCase(next, next.viewpoints[0].name, true);
    next.view.caseName = "bent";
    next.view.field.deformed.shown = false;
    window->session().edit("test", next);
    settle();
    auto* list = find<ViewpointList>("viewpointList");
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(0)).center());
    settle();
    EXPECT_EQ(window->session().activeEntry()->name, "first") << "its case comes with it";
    EXPECT_TRUE(window->session().view().field.deformed.shown);
}

TEST_F(LookTest, TheOuterShellIsAGhostThatHidesNothing) {
    openSurvey();
    auto view = window->session().view();
    view.hidden.insert("cold plate");
    window->session().editView("test", view);
    settle();
    const auto before = window->viewport().picture();
    trigger("outerShell");
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->session().extras().shell() != nullptr; }, 20000));
    settle();
    EXPECT_NE(window->viewport().picture(), before);
    EXPECT_TRUE(window->session().view().field.shell);
    trigger("outerShell");
    settle();
    EXPECT_EQ(window->viewport().picture(), before);
}
