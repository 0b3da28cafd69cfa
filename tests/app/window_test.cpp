#include "app/session/dialogs.h"
#include "app/stages/field/field_sheet.h"
#include "core/survey/survey_file.h"
#include "tests/app/window_fixture.h"
#include "tests/support/hostile.h"

#include <QDialog>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QSlider>
#include <QTableWidget>

using namespace pyro;
using namespace pyro::test;

TEST_F(WindowTest, FirstLookSaysWhereItIsHotAndWhatIsOver) {
    openSurvey();
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "1 over, 1 within");
    EXPECT_TRUE(window->windowTitle().startsWith("Pair"));
    const auto* parts = find<QListWidget>("partList");
    ASSERT_EQ(parts->count(), 2);
    EXPECT_EQ(parts->item(1)->text(), "Core");
    EXPECT_EQ(find<RailButton>("stageLimits")->badge(), 1);
    // The picture is no flat colour: field, background and callout are there.
    const auto picture = window->viewport().picture();
    std::set<QRgb> colours;
    for (int x = 0; x < picture.width(); x += 7)
        for (int y = 0; y < picture.height(); y += 7)
            colours.insert(picture.pixel(x, y));
    EXPECT_GT(colours.size(), 12U);
}

TEST_F(WindowTest, HoverReadsTheFieldUnderTheCursor) {
    openSurvey();
    auto& viewport = window->viewport();
    type(Qt::Key_Z); // from above
    const auto at = viewport.pixelOf({0.05, 0.05, 0.03}).toPoint();
    QTest::mouseMove(&viewport, at - QPoint(3, 0));
    QTest::mouseMove(&viewport, at);
    const auto* reading = find<QLabel>("cursorReading");
    ASSERT_TRUE(QTest::qWaitFor([&] { return reading->text().contains("Core"); }, 5000))
        << reading->text().toStdString();
    EXPECT_TRUE(reading->text().contains("110.0 \u00b0C")) << reading->text().toStdString();
    EXPECT_TRUE(reading->text().contains("z 30.0"));
}

TEST_F(WindowTest, PartsAreHiddenIsolatedAndShownAgain) {
    openSurvey();
    auto* list = find<PartList>("partList");
    const auto box = list->visualItemRect(list->item(1));
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, QPoint(18, box.center().y())); // the eye of the core
    EXPECT_FALSE(window->session().view().shows("hot core"));
    auto* chip = find<QPushButton>("chip");
    EXPECT_TRUE(chip->isVisible());
    EXPECT_TRUE(chip->text().contains("1 part hidden: Core"));
    EXPECT_TRUE(chip->text().contains("hottest place")) << "a hidden hot part must be told";
    click(chip);
    EXPECT_FALSE(chip->isVisible());
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, box.center());
    EXPECT_EQ(window->session().selection().selectedPart(), "hot core");
    click(find<QPushButton>("isolateButton"));
    EXPECT_EQ(visibleParts(window->session().seen()).size(), 1U);
    type(Qt::Key_A);
    EXPECT_EQ(visibleParts(window->session().seen()).size(), 2U);
    find<QSlider>("opacitySlider")->setValue(30);
    find<QSlider>("opacitySlider")->setValue(20);
    EXPECT_DOUBLE_EQ(window->session().view().opacity.at("hot core"), 0.2);
    window->session().selection().selectPart("cold plate");
    find<QSlider>("opacitySlider")->setValue(50);
    trigger("undo"); // another part is another step
    EXPECT_FALSE(window->session().view().opacity.contains("cold plate"));
    EXPECT_DOUBLE_EQ(window->session().view().opacity.at("hot core"), 0.2);
    trigger("undo"); // a drag of the slider is one step
    EXPECT_FALSE(window->session().view().opacity.contains("hot core"));
}

TEST_F(WindowTest, HideAndIsolateByKeyUnderTheCursor) {
    openSurvey();
    auto& viewport = window->viewport();
    type(Qt::Key_Z);
    const auto at = viewport.pixelOf({0.05, 0.05, 0.03}).toPoint();
    QTest::mouseMove(&viewport, at - QPoint(2, 2));
    QTest::mouseMove(&viewport, at);
    ASSERT_TRUE(QTest::qWaitFor([&] { return viewport.partAtCursor() == std::optional<std::size_t>(1); }, 5000));
    type(Qt::Key_S);
    EXPECT_EQ(window->session().view().isolated, "hot core");
    type(Qt::Key_A);
    type(Qt::Key_H);
    EXPECT_TRUE(window->session().view().hidden.contains("hot core"));
}

TEST_F(WindowTest, MouseTurnsMovesAndZooms) {
    openSurvey();
    auto& viewport = window->viewport();
    const auto before = *window->session().view().camera;
    const QPoint centre = viewport.rect().center();
    const auto drag = [&](Qt::MouseButton button) {
        QTest::mousePress(&viewport, button, {}, centre);
        QMouseEvent move(QEvent::MouseMove, centre + QPoint(60, 30), viewport.mapToGlobal(centre + QPoint(60, 30)),
                         button, button, {});
        QApplication::sendEvent(&viewport, &move);
        QTest::mouseRelease(&viewport, button, {}, centre + QPoint(60, 30));
    };
    drag(Qt::LeftButton);
    const auto turned = *window->session().view().camera;
    EXPECT_NE(turned.position, before.position);
    EXPECT_EQ(turned.focus, before.focus);
    drag(Qt::RightButton);
    EXPECT_NE(window->session().view().camera->focus, before.focus);
    QWheelEvent wheel(centre, viewport.mapToGlobal(centre), {}, {0, 240}, Qt::NoButton, {}, Qt::NoScrollPhase, false);
    QApplication::sendEvent(&viewport, &wheel);
    EXPECT_LT(window->session().view().camera->scale, before.scale);
    type(Qt::Key_F);
    type(Qt::Key_X);
    const auto along = *window->session().view().camera;
    EXPECT_GT(along.position[0], along.focus[0]);
    EXPECT_NEAR(along.position[2], along.focus[2], 1e-9);
    type(Qt::Key_X, Qt::ShiftModifier);
    EXPECT_LT(window->session().view().camera->position[0], along.focus[0]);
    EXPECT_FALSE(window->session().hasUnsavedChanges()) << "looking around is no change of the survey";
}

TEST_F(WindowTest, HeatStripRangeIsDraggedFittedAndUndone) {
    openSurvey();
    auto* strip = find<HeatStrip>("heatStrip");
    EXPECT_EQ(strip->shareAbove(), 0);
    const int y = static_cast<int>(strip->bar().center().y());
    const QPoint handle(static_cast<int>(strip->xOf(273.15 + 110)), y);
    const QPoint target(static_cast<int>(strip->xOf(273.15 + 45)), y);
    QTest::mousePress(strip, Qt::LeftButton, {}, handle);
    for (const auto& at : {handle - QPoint(20, 0), target}) {
        QMouseEvent move(QEvent::MouseMove, at, strip->mapToGlobal(at), Qt::LeftButton, Qt::LeftButton, {});
        QApplication::sendEvent(strip, &move);
    }
    QTest::mouseRelease(strip, Qt::LeftButton, {}, target);
    const auto range = window->session().view().range;
    ASSERT_TRUE(range);
    EXPECT_NEAR((*range)[1], 273.15 + 45, 0.5);
    EXPECT_NEAR((*range)[0], 273.15 + 30, 0.5);
    // 30 to 50 degC over the plate, all of the core above: exact share of the extent above 45 degC.
    const double plate = 0.1 * 0.1 * 0.01;
    const double core = 0.02 * 0.02 * 0.02;
    EXPECT_NEAR(strip->shareAbove(), (0.25 * plate + core) / (plate + core), 0.02);
    trigger("undo"); // one drag, one step
    EXPECT_FALSE(window->session().view().range);
    EXPECT_EQ(strip->shareAbove(), 0);
    click(button("fitHottestTenth"));
    EXPECT_GT((*window->session().view().range)[0], 273.15 + 40);
    click(button("fitVisible"));
    EXPECT_FALSE(window->session().view().range);
    window->session().selection().selectPart("hot core");
    click(button("fitPart"));
    EXPECT_NEAR((*window->session().view().range)[0], 273.15 + 90, 1e-6);
}

TEST_F(WindowTest, LimitsAreEditedJudgedAndFlownTo) {
    openSurvey();
    click(find<RailButton>("stageLimits"));
    auto* table = find<QTableView>("limitsTable");
    ASSERT_TRUE(table->isVisible());
    EXPECT_EQ(cell(table, 0, "Limit on"), "Core"); // over stands first
    EXPECT_EQ(cell(table, 0, "Verdict"), "over");
    EXPECT_EQ(cell(table, 0, "Value"), "110.0 \u00b0C");
    EXPECT_EQ(cell(table, 0, "Margin"), "-10.0 K");
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, table->visualRect(table->model()->index(0, 2)).center());
    EXPECT_EQ(window->session().view().isolated, "hot core");
    EXPECT_NEAR(window->session().view().camera->focus[2], 0.03, 1e-9); // its hottest stored place
    enter(table, 0, "Allowed", "120 degC");
    settle();
    ASSERT_TRUE(QTest::qWaitFor([&] { return cell(table, 0, "Verdict") == "within"; }, 5000));
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "2 within");
    enter(table, 0, "Required margin", "15 K");
    settle();
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "1 tight, 1 within");
    enter(table, 0, "Required margin", "15 degC"); // a temperature where a difference belongs
    EXPECT_TRUE(window->message().contains("temperature difference")) << window->message().toStdString();
    EXPECT_EQ(cell(table, 0, "Required margin"), "15 K");
    for (int i = 0; i < 4; ++i)
        trigger("undo"); // required, isolation of the plate, allowed, isolation of the core
    settle();
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "1 over, 1 within");
    EXPECT_FALSE(window->session().view().isolated);
    trigger("redo");
    EXPECT_TRUE(window->session().view().isolated);
}

TEST_F(WindowTest, LimitsAreAddedRemovedImportedAndExported) {
    openSurvey();
    trigger("stageLimits");
    click(button("addLimit"));
    settle();
    EXPECT_EQ(window->session().survey().limits.size(), 3U);
    auto* table = find<QTableView>("limitsTable");
    EXPECT_EQ(cell(table, 1, "Verdict"), "unknown"); // it allows nothing yet: unknown, never within
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, table->visualRect(table->model()->index(1, 0)).center());
    click(button("removeLimit"));
    settle();
    EXPECT_EQ(window->session().survey().limits.size(), 2U);

    writeText(folder / "l.csv", "part,max,margin,source\nhot core,130 degC,10 K,new sheet\nabsent part,50 degC,,\n");
    dialogs::answerNextFile(QString::fromStdString((folder / "l.csv").string()));
    click(button("importLimits"));
    auto* preview = find<QTableWidget>("importTable");
    ASSERT_EQ(preview->rowCount(), 2);
    EXPECT_EQ(preview->item(0, 2)->text(), "part hot core");
    EXPECT_TRUE(preview->item(1, 5)->text().contains("nothing named \"absent part\""))
        << preview->item(1, 5)->text().toStdString();
    click(button("takeLimits"));
    settle();
    EXPECT_EQ(window->session().survey().limits.size(), 2U);
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "2 within");
    dialogs::answerNextFile(QString::fromStdString((folder / "out.csv").string()));
    click(button("exportVerdicts"));
    EXPECT_NE(readText(folder / "out.csv").find("new sheet"), std::string::npos);
    dialogs::answerNextFile(QString::fromStdString((folder / "gone.csv").string()));
    click(button("importLimits"));
    EXPECT_TRUE(window->message().contains("gone.csv"));
    EXPECT_EQ(window->session().survey().limits.size(), 2U);
}

TEST_F(WindowTest, CasesAreCorrected) {
    openSurvey();
    type(Qt::Key_1);
    EXPECT_EQ(window->session().view().stage, "Cases");
    auto* parts = find<QTableView>("partsTable");
    ASSERT_TRUE(parts->isVisible());
    enter(parts, 0, "Label", "Base plate");
    enter(parts, 0, "Power", "250 mW");
    EXPECT_TRUE(window->message().isEmpty()) << window->message().toStdString();
    const auto note = window->session().survey().cases[0].parts.at("cold plate");
    EXPECT_EQ(note.label, "Base plate");
    ASSERT_TRUE(note.power);
    EXPECT_DOUBLE_EQ(note.power->si, 0.25);
    enter(parts, 0, "Power", "3 W/m2"); // power per area taken for power
    EXPECT_TRUE(window->message().contains("W/m2"));
    EXPECT_DOUBLE_EQ(window->session().survey().cases[0].parts.at("cold plate").power->si, 0.25);

    click(button("quantitiesTableTab"));
    auto* quantities = find<QTableView>("quantitiesTable");
    EXPECT_EQ(cell(quantities, 0, "Stored in"), "degC");
    enter(quantities, 0, "Stored in", "K");
    settle();
    EXPECT_EQ(cell(quantities, 0, "Highest"), "-163.1 \u00b0C"); // 110 K, as told; and the doubt is remarked
    EXPECT_GT(find<RailButton>("stageCases")->badge(), 0);
    trigger("undo");
    settle();
    EXPECT_EQ(cell(quantities, 0, "Highest"), "110.0 \u00b0C");
}

// Found when readings of the edit before arrived while the next cell was being edited: the typed text was lost.
TEST_F(WindowTest, TypedTextSurvivesNewReadings) {
    openSurvey();
    trigger("stageCases");
    auto* parts = find<QTableView>("partsTable");
    const auto index = parts->model()->index(0, columnOf(parts, "Power"));
    QTest::mouseClick(parts->viewport(), Qt::LeftButton, {}, parts->visualRect(index).center());
    QTest::mouseDClick(parts->viewport(), Qt::LeftButton, {}, parts->visualRect(index).center());
    auto* editor = parts->viewport()->findChild<QLineEdit*>();
    ASSERT_NE(editor, nullptr);
    QTest::keyClicks(editor, "7");
    auto next = window->session().survey();
    next.title = "Changed meanwhile";
    window->session().edit("Title", next);
    settle();
    QTest::keyClicks(editor, " W");
    EXPECT_EQ(editor->text(), "7 W");
}

TEST_F(WindowTest, UnitsFollowEverywhere) {
    openSurvey();
    trigger("unitdegF");
    settle();
    EXPECT_EQ(find<QListWidget>("partList")->item(1)->data(Qt::UserRole + 1).toString(), "230.0");
    EXPECT_EQ(cell(find<QTableView>("limitsTable"), 0, "Value"), "230.0 \u00b0F");
    trigger("unitK");
    EXPECT_EQ(cell(find<QTableView>("readingsTable"), 1, "Highest K"), "383.1");
}

TEST_F(WindowTest, SavesAndReopensExactlyAsLeft) {
    openSurvey();
    trigger("stageLimits");
    trigger("unitK");
    auto view = window->session().view();
    view.hidden = {"cold plate"};
    view.range = {300.0, 380.0};
    window->session().editView("test", view);
    type(Qt::Key_Y);
    EXPECT_TRUE(window->windowTitle().contains("changed"));
    trigger("save");
    EXPECT_FALSE(window->windowTitle().contains("changed"));
    const auto left = window->session().view();
    settle();
    const auto before = window->viewport().picture();
    trigger("newSurvey");
    EXPECT_TRUE(window->session().survey().cases.empty());
    openSurvey();
    EXPECT_EQ(window->session().view(), left);
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->viewport().picture() == before; }, 10000));
}

TEST_F(WindowTest, UnsavedChangesAreGuarded) {
    openSurvey();
    auto changed = window->session().survey();
    changed.title = "Changed";
    window->session().edit("Title", changed);
    dialogs::answerNextQuestion(dialogs::Answer::Cancel);
    EXPECT_FALSE(window->close());
    dialogs::answerNextQuestion(dialogs::Answer::Cancel);
    trigger("newSurvey");
    EXPECT_EQ(window->session().survey().title, "Changed");
    dialogs::answerNextQuestion(dialogs::Answer::Save);
    EXPECT_TRUE(window->close());
    EXPECT_EQ(loadSurvey(survey)->title, "Changed");
}

TEST_F(WindowTest, OpensACaseIntoANewSurveyAndSavesItRelative) {
    dialogs::answerNextFile(QString::fromStdString((folder / "pair.vtm").string()));
    click(button("startCase"));
    ASSERT_TRUE(QTest::qWaitFor([&] { return !window->session().survey().cases.empty(); }, 20000));
    settle();
    EXPECT_EQ(window->session().survey().cases[0].name, "pair");
    std::filesystem::create_directories(folder / "deep");
    dialogs::answerNextFile(QString::fromStdString((folder / "deep/new.survey.json").string()));
    trigger("save");
    EXPECT_EQ(loadSurvey(folder / "deep/new.survey.json")->cases[0].file, "../pair.vtm");
    trigger("newSurvey");
    find<QMenu>("recentMenu")->aboutToShow();
    EXPECT_EQ(find<QMenu>("recentMenu")->actions().size(), 1);
}

TEST_F(WindowTest, FinderRunsActionsByName) {
    openSurvey();
    type(Qt::Key_K, Qt::ControlModifier);
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->findChild<QDialog*>("finder") != nullptr; }, 3000));
    QTest::keyClicks(find<QLineEdit>("finderText"), "limits");
    auto* list = find<QListWidget>("finderList");
    EXPECT_GT(list->count(), 1);
    find<QLineEdit>("finderText")->clear();
    QTest::keyClicks(find<QLineEdit>("finderText"), "go to lim");
    QTest::keyClick(find<QLineEdit>("finderText"), Qt::Key_Return);
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->session().view().stage == "Limits"; }, 3000));
}

TEST_F(WindowTest, HostileCasesLeaveMessageSurveyAndWindowAlone) {
    openSurvey();
    const auto before = window->session().survey();
    const auto files = makeHostileFiles(folder.path());
    for (const auto& hostile : files) {
        if (hostile.errors.empty())
            continue;
        SCOPED_TRACE(hostile.name);
        const int shown = window->messagesShown();
        window->session().openCase(QString::fromStdString(hostile.file.string()));
        ASSERT_TRUE(QTest::qWaitFor(
            [&] { return window->session().jobs().running() == 0 && window->messagesShown() > shown; }, 20000));
        EXPECT_EQ(window->messagesShown(), shown + 1);
        EXPECT_TRUE(window->isVisible());
        EXPECT_TRUE(window->session().survey() == before);
    }
    click(button("dismissMessage"));
    EXPECT_TRUE(window->message().isEmpty());
    writeText(folder / "broken.survey.json", "{\"pyrometer\": 1,");
    window->open(QString::fromStdString((folder / "broken.survey.json").string()));
    EXPECT_TRUE(window->message().contains("JSON"));
    EXPECT_TRUE(window->session().survey() == before);
}

TEST_F(WindowTest, ASurveyWithABrokenCaseStillOpens) {
    writeText(folder / "bad.vtu", "no grid");
    writeText(survey,
              R"({"pyrometer": 1, "cases": [{"name": "bad", "file": "bad.vtu"}, {"name": "good", "file": "pair.vtm"}],
                          "limits": [{"part": "hot core", "max": "100 degC"}], "view": {"case": "good"}})");
    openSurvey();
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "1 over, 1 unknown in 2 cases")
        << "a case that cannot be read is not judged";
    EXPECT_EQ(window->messagesShown(), 1);
    EXPECT_TRUE(find<QListWidget>("caseList")->item(0)->text().contains("cannot be read"));
    EXPECT_EQ(find<RailButton>("stageCases")->badge(), 1 + 0);
}

TEST_F(WindowTest, WorkIsCancelled) {
    openSurvey();
    window->session().openCase(QString::fromStdString((folder / "pair.vtm").string()));
    window->session().jobs().cancelAll();
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->session().jobs().running() == 0; }, 20000));
    EXPECT_TRUE(window->message().isEmpty()) << "cancelling is no error";
}
