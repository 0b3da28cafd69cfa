// The stage Field in the real window: paths, arrows, isotherm surfaces, sections by places, units, groups of parts,
// pictures and animations.
#include "app/session/dialogs.h"
#include "app/stages/field/field_sheet.h"
#include "core/survey/edit.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QComboBox>
#include <QLineEdit>
#include <cmath>

using namespace pyro;
using namespace pyro::test;

namespace {

// Liquid that flows along x between two solids, faster upwards: u = 0.1 + 10 (z - 0.01).
class FlowTest : public WindowTest {
protected:
    void SetUp() override {
        WindowTest::SetUp();
        const BoxMesh middle{{0.1, 0.05, 0.02}, {20, 10, 4}, {0, 0, 0.01}};
        auto liquid = boxPart("liquid", middle);
        addNodeField(liquid, "temperature", [](const Point& at) { return 300 + 400 * at[0]; });
        ArrayData velocity{"velocity", Location::Node, 3, {}};
        for (std::size_t i = 0; i < liquid.points.size(); i += 3)
            velocity.values.insert(velocity.values.end(), {0.1 + 10 * (liquid.points[i + 2] - 0.01), 0, 0});
        liquid.arrays.push_back(std::move(velocity));
        addCellField(liquid, "temperature", [](const Point& at) { return 300 + 400 * at[0]; });
        std::vector<BlockData> blocks{liquid, boxSide("inlet", middle, 0, false), boxSide("outlet", middle, 0, true)};
        for (const auto& [name, z] : {std::pair("floor", 0.0), std::pair("lid", 0.03)}) {
            blocks.push_back(boxPart(name, {{0.1, 0.05, 0.01}, {20, 10, 2}, {0, 0, z}}));
            addNodeField(blocks.back(), "temperature", [](const Point& at) { return 310 + 400 * at[0]; });
        }
        ASSERT_TRUE(writeCase(blocks, folder / "flow.vtm"));
        writeText(survey,
                  R"({"pyrometer": 1, "cases": [{"name": "flow", "file": "flow.vtm"}], "view": {"stage": "Field"}})");
        openSurvey();
    }

    Session& session() { return window->session(); }
    const FieldLook look() { return session().view().field; }
    // The mouse over a place of the model.
    void moveTo(const Point& place) {
        const auto at = window->viewport().pixelOf(place).toPoint();
        // a window that comes or goes takes the cursor away for a moment
        for (int tries = 0; tries < 40 && (tries == 0 || !window->viewport().placeAtCursor()); ++tries) {
            QTest::mouseMove(&window->viewport(), at - QPoint(2, 0));
            QTest::mouseMove(&window->viewport(), at);
            QTest::qWait(20);
        }
    }
    void typeInto(const QString& field, const QString& text) {
        auto* line = find<QLineEdit>(field);
        line->setFocus();
        line->clear();
        QTest::keyClicks(line, text);
        QTest::keyClick(line, Qt::Key_Return);
        window->viewport().setFocus();
        settle();
    }
    bool told(const QString& words) {
        for (const auto* label : window->findChildren<QLabel*>())
            if (label->isVisible() && label->text().contains(words))
                return true;
        return false;
    }
};

} // namespace

TEST_F(FlowTest, StreamlinesFromTheInletRunToTheOutlet) {
    pick("pathQuantity", "velocity");
    pick("pathFrom", "inlet");
    type(Qt::Key_W);
    settle();
    const auto paths = session().extras().paths();
    ASSERT_TRUE(paths);
    ASSERT_EQ(paths->lines(), 40U) << "one for each face of the inlet at most";
    for (std::size_t line = 0; line < paths->lines(); ++line)
        EXPECT_NEAR(paths->points[3 * (paths->begin[line + 1] - 1)], 0.1, 1e-3);
    EXPECT_TRUE(told("40 lines of velocity from inlet"));
    const auto still = window->viewport().picture();
    auto view = session().view();
    view.field.paths.moving = true;
    session().editView("test", view);
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->viewport().picture() != still; }, 10000));
    EXPECT_EQ(session().extras().paths(), paths) << "how they are drawn does not trace them anew";
}

TEST_F(FlowTest, PathsStartUnderTheCursorAndRunAsTyped) {
    pick("pathQuantity", "velocity");
    type(Qt::Key_W, Qt::ShiftModifier); // the cursor is elsewhere: said, and nothing happens
    EXPECT_FALSE(look().paths.shown);
    EXPECT_EQ(window->messagesShown(), 1);
    moveTo({0.05, 0, 0.02}); // on the liquid's front
    type(Qt::Key_W, Qt::ShiftModifier);
    settle();
    EXPECT_EQ(look().paths.start, PathStart::Place);
    EXPECT_NEAR(look().paths.at[0], 0.05, 0.004);
    ASSERT_TRUE(session().extras().paths());
    EXPECT_GT(session().extras().paths()->lines(), 5U);
    EXPECT_GT(session().extras().paths()->lost, 5U) << "half of the sphere lies outside";
    EXPECT_TRUE(told("start points lie outside the field"));
    pick("pathDirection", "downstream");
    EXPECT_FALSE(look().paths.backwards);
    typeInto("pathLongest", "10");
    EXPECT_NEAR(look().paths.longest, 0.01, 1e-12);
    typeInto("pathAt", "50 25 20");
    EXPECT_NEAR(look().paths.at[1], 0.025, 1e-12);
    typeInto("pathAt", "50 here");
    EXPECT_NEAR(look().paths.at[1], 0.025, 1e-12) << "what was there stays";
    EXPECT_EQ(window->messagesShown(), 2);
    typeInto("pathRadius", "-1");
    EXPECT_EQ(window->messagesShown(), 3);
}

TEST_F(FlowTest, ArrowsStandOnSectionsAndBoundaries) {
    type(Qt::Key_G);
    settle();
    EXPECT_TRUE(told("no section is shown"));
    type(Qt::Key_C);
    auto across = window->session().view(); // the hottest place lies in a corner
    across.field.sections[0].plane = {{0.05, 0.025, 0.01}, {0, -1, 0}};
    window->session().editView("Turn section", across);
    settle();
    ASSERT_TRUE(session().extras().arrows());
    const auto onSection = session().extras().arrows()->count();
    EXPECT_GT(onSection, 50U);
    EXPECT_NEAR(session().extras().arrows()->longest, 0.3, 0.01);
    auto* list = find<QListWidget>("arrowBoundaries");
    list->findItems("outlet", Qt::MatchExactly).front()->setCheckState(Qt::Checked);
    settle();
    EXPECT_EQ(look().arrows.boundaries, std::set<std::string>{"outlet"});
    EXPECT_GT(session().extras().arrows()->count(), onSection);
    typeInto("arrowSpacing", "0.01");
    EXPECT_TRUE(told("more than 20 000 arrows"));
    typeInto("arrowSpacing", "wide");
    EXPECT_EQ(window->messagesShown(), 1);
    EXPECT_NEAR(look().arrows.spacing, 1e-5, 1e-12);
    typeInto("arrowSpacing", "");
    EXPECT_EQ(look().arrows.spacing, 0);
}

// In the liquid it is 300 K at x = 0 and 340 K at the other end, in the solids 10 K more.
TEST_F(FlowTest, AnIsothermSurfaceTellsTheVolumeAboveIt) {
    typeInto("isothermSurfaces", "56.85"); // 330 K
    const auto levels = session().extras().levels();
    ASSERT_TRUE(levels);
    ASSERT_EQ(levels->levels.size(), 1U);
    EXPECT_NEAR(levels->levels[0].value, 330, 1e-9);
    EXPECT_GT(levels->levels[0].triangles.size(), 100U);
    EXPECT_TRUE(told("floor 50.0 % (25 cm\u00B3)"));
    EXPECT_TRUE(told("liquid 25.0 % (25 cm\u00B3)"));
    typeInto("isothermSurfaces", "200");
    EXPECT_TRUE(told("nothing"));
    typeInto("isothermSurfaces", "hot");
    EXPECT_EQ(window->messagesShown(), 1);
    EXPECT_EQ(look().isotherms.of("temperature").surfaces.size(), 1U);
    trigger("undo");
    settle();
    EXPECT_NEAR(look().isotherms.of("temperature").surfaces.at(0), 330, 1e-9);
}

TEST_F(FlowTest, ThreePlacesMakeASectionAndAPlaceMovesIt) {
    for (const auto& place : {Point{0.02, 0, 0.02}, Point{0.08, 0, 0.02}, Point{0.05, 0.025, 0.04}}) {
        moveTo(place);
        type(Qt::Key_T, Qt::ShiftModifier);
    }
    settle();
    ASSERT_EQ(look().sections.size(), 1U);
    const auto plane = look().sections[0].plane;
    EXPECT_NEAR(distanceTo(plane, {0.05, 0, 0.02}), 0, 1e-3);
    EXPECT_NEAR(distanceTo(plane, {0.05, 0.025, 0.04}), 0, 1e-3);
    EXPECT_GT(distanceTo(plane, session().view().camera->position), 0) << "cut open towards the eye";
    auto view = session().view();
    view.field.sections[0].plane.normal = {1, 0, 0};
    view.field.sections[0].opened = false;
    session().editView("test", view);
    session().selection().selectSection(0);
    settle();
    moveTo({0.03, 0, 0.02});
    type(Qt::Key_C, Qt::ShiftModifier);
    EXPECT_NEAR(look().sections[0].plane.origin[0], 0.03, 2e-3);
}

TEST_F(FlowTest, ASectionSweepsUntilItIsStopped) {
    type(Qt::Key_Space, Qt::ControlModifier);
    EXPECT_EQ(window->messagesShown(), 1) << "no section is chosen";
    type(Qt::Key_C);
    settle();
    const auto before = look().sections[0].plane.origin;
    std::set<double> seen;
    type(Qt::Key_Space, Qt::ControlModifier);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            const auto plane = look().sections[0].plane;
            seen.insert(distanceTo({{}, plane.normal}, plane.origin));
            return seen.size() > 8;
        },
        10000));
    type(Qt::Key_Space, Qt::ControlModifier);
    const auto stopped = look().sections[0].plane.origin;
    QTest::qWait(200); // nothing is to happen: there is no condition to wait for
    EXPECT_EQ(look().sections[0].plane.origin, stopped);
    for (const double y : seen) {
        EXPECT_GE(y, 0);
        EXPECT_LE(y, 0.05);
    }
    trigger("undo");
    EXPECT_EQ(look().sections[0].plane.origin, before) << "one step";
}

TEST_F(FlowTest, VectorsHaveComponentsUnitsAndDecimals) {
    pick("quantityBox", "Velocity");
    EXPECT_NEAR((*shownRange(session().seen()))[1], 0.3, 1e-6);
    pick("quantityBox", "Velocity along y");
    EXPECT_EQ(session().view().component, "y");
    EXPECT_NEAR((*shownRange(session().seen()))[0], 0, 1e-12);
    pick("quantityBox", "Velocity along x");
    EXPECT_NEAR((*shownRange(session().seen()))[0], 0.1, 1e-6);
    pick("unitBox", "ft/min");
    EXPECT_EQ(session().unit().text(0.3048), "60 ft/min");
    auto view = session().view();
    view.decimals["velocity"] = 2;
    session().editView("test", view);
    EXPECT_EQ(session().unit().text(0.3048), "60.00 ft/min");
    moveTo({0.05, 0, 0.02});
    EXPECT_TRUE(window->viewport().allReadings().contains("ft/min")) << window->viewport().allReadings().toStdString();
    pick("quantityBox", "Temperature");
    pick("unitBox", "K");
    EXPECT_EQ(session().view().unit, TemperatureUnit::Kelvin);
    EXPECT_EQ(find<QComboBox>("quantityBox")->currentText(), "Temperature");
    EXPECT_EQ(session().view().units.at("velocity"), "ft/min") << "stays for the next time";
}

TEST_F(FlowTest, NodesOrCellsAreTakenAsChosen) {
    EXPECT_EQ(session().activeCase()->quantities.named("temperature")->on, Location::Node);
    window->showStage("Cases");
    auto* table = find<QTableView>("quantitiesTable");
    int row = 0;
    while (cell(table, row, "Array") != "temperature")
        ++row;
    EXPECT_EQ(cell(table, row, "Stored on"), "nodes (and cells)");
    const auto next = withQuantityLocation(session().survey(), "flow",
                                           *session().activeCase()->quantities.named("temperature"), Location::Cell);
    session().editOrComplain("test", next);
    settle();
    EXPECT_EQ(session().activeCase()->picture->quantity.on, Location::Cell);
    EXPECT_NEAR((*shownRange(session().seen()))[0], 301, 0.01) << "the middle of the first cell of the liquid";
}

TEST_F(FlowTest, SolidsAndFluidsAreGroups) {
    window->showStage("Field");
    EXPECT_TRUE(isFluid(session().seen(), 0));
    click(button("solidsButton"));
    EXPECT_EQ(session().view().hidden, (std::set<std::string>{"floor", "lid"}));
    click(button("fluidsButton"));
    EXPECT_TRUE(visibleParts(session().seen()).empty());
    click(button("solidsButton"));
    EXPECT_EQ(session().view().hidden, std::set<std::string>{"liquid"});
    click(button("showAllButton"));
    EXPECT_TRUE(session().view().hidden.empty());
    EXPECT_FALSE(find<QLineEdit>("partSearch")->isVisible()) << "three parts are found without it";
}

TEST_F(FlowTest, BoundariesAreDrawnBesidesTheParts) {
    click(button("solidsButton"));
    click(button("fluidsButton"));
    const auto empty = window->viewport().picture();
    auto* list = find<QListWidget>("boundaryList");
    EXPECT_FALSE(list->isVisible());
    click(button("boundariesButton"));
    ASSERT_TRUE(list->isVisible());
    ASSERT_EQ(list->count(), 14) << "two of the file, twelve of what it leaves";
    list->findItems("outlet", Qt::MatchExactly).front()->setCheckState(Qt::Checked);
    settle();
    EXPECT_EQ(session().view().boundaries, std::set<std::string>{"outlet"});
    EXPECT_EQ(button("boundariesButton")->text(), "Boundaries: 1 shown");
    EXPECT_NE(window->viewport().picture(), empty) << "seen though every part is hidden";
    trigger("undo");
    settle();
    EXPECT_EQ(window->viewport().picture(), empty);
    auto view = session().view();
    view.boundaries = {"of another case"};
    session().editView("test", view);
    EXPECT_TRUE(shownBoundaries(session().seen()).empty());
}

TEST_F(FlowTest, PicturesHaveAnySize) {
    const auto file = folder / "large.png";
    dialogs::answerNextNumber(2 * window->viewport().width());
    dialogs::answerNextFile(QString::fromStdString(file.string()));
    const auto before = window->viewport().picture();
    trigger("saveLargePicture");
    const QImage large(QString::fromStdString(file.string()));
    EXPECT_EQ(large.width(), 2 * window->viewport().width());
    EXPECT_GT(large.height(), 2 * window->viewport().height()) << "with the scale below";
    // The field is drawn anew: the same picture, in the same place.
    const auto field =
        large.copy(0, 0, large.width(), 2 * window->viewport().height()).scaled(window->viewport().size());
    int far = 0;
    for (int y = 4; y < field.height(); y += 7)
        for (int x = 4; x < field.width(); x += 7)
            far += std::abs(qGray(field.pixel(x, y)) - qGray(before.pixel(x, y))) > 40 ? 1 : 0;
    EXPECT_LT(far, field.width() * field.height() / 49 / 20);
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->viewport().picture() == before; }, 10000))
        << "and the window is as it was";
}

TEST_F(FlowTest, AnimationsAreWrittenOfSweepAndParticles) {
    window->resize(700, 520); // small frames are drawn sooner
    trigger("filmSteps");
    trigger("filmSweep");
    trigger("filmParticles");
    EXPECT_EQ(window->messagesShown(), 3) << "nothing there to animate yet";
    type(Qt::Key_C);
    auto view = session().view();
    view.field.paths = {.shown = true,
                        .quantity = "velocity",
                        .start = PathStart::Boundary,
                        .from = "inlet",
                        .lines = 10,
                        .moving = true};
    session().editView("test", view);
    session().selection().selectSection(0);
    settle();
    dialogs::answerNextFile(QString::fromStdString((folder / "sweep.png").string()));
    const auto written = [&] { return !window->isWritingAnimation(); };
    trigger("filmSweep");
    EXPECT_FALSE(written()) << "it is written while the window lives on";
    ASSERT_TRUE(QTest::qWaitFor(written, 120000));
    EXPECT_TRUE(std::filesystem::exists(folder / "sweep_0059.png"));
    EXPECT_NE(QImage(QString::fromStdString((folder / "sweep_0000.png").string())),
              QImage(QString::fromStdString((folder / "sweep_0030.png").string())));
    dialogs::answerNextFile(QString::fromStdString((folder / "flow.ogv").string()));
    trigger("filmParticles");
    ASSERT_TRUE(QTest::qWaitFor(written, 120000));
    EXPECT_GT(std::filesystem::file_size(folder / "flow.ogv"), 10'000U);
    EXPECT_EQ(window->messagesShown(), 3);
}
