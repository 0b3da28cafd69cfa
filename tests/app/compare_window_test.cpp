// The stage Compare: pictures under one camera, what changed as a table, the baseline chosen, the wipe dragged.
#include "app/session/dialogs.h"
#include "app/stages/compare/compare_view.h"
#include "app/stages/compare/sweep_plot.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QLineEdit>
#include <QListWidget>
#include <QTableWidget>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>

using namespace pyro;
using namespace pyro::test;

namespace {

class CompareWindow : public WindowTest {
protected:
    // The same parts on other meshes, the core 20 K cooler.
    void SetUp() override {
        WindowTest::SetUp();
        auto a = boxPart("cold plate", {{0.1, 0.1, 0.01}, {7, 7, 3}}, Cells::Tetrahedra);
        auto b = boxPart("hot core", {{0.02, 0.02, 0.02}, {3, 3, 3}, {0.04, 0.04, 0.01}}, Cells::Wedges);
        addNodeField(a, "T [degC]", [](const Point& at) { return 30 + 200 * at[0]; });
        addNodeField(b, "T [degC]", [](const Point& at) { return 70 + 1000 * (at[2] - 0.01); });
        ASSERT_TRUE(writeCase({a, b}, folder / "cool.vtm"));
        auto json = Json::parse(std::ifstream(survey));
        json["cases"].push_back({{"name", "cooler"}, {"file", "cool.vtm"}, {"parameters", {{"flow", "2 L/min"}}}});
        writeText(survey, json.dump());
        openSurvey();
        type(Qt::Key_6);
        settle();
    }
    CompareView& view() { return *find<CompareView>("compareView"); }
    bool waitFor(std::function<bool()> holds) { return QTest::qWaitFor(std::move(holds), 20000); }
    QTableView* table() { return find<QTableView>("compareTable"); }
    int rowOf(const QString& name) {
        for (int row = 0; row < table()->model()->rowCount(); ++row)
            if (cell(table(), row, "What") == name)
                return row;
        ADD_FAILURE() << "no row " << name.toStdString();
        return 0;
    }
};

} // namespace

TEST_F(CompareWindow, BothCasesAreSeenUnderOneCameraAndRange) {
    ASSERT_EQ(window->session().view().stage, "Compare");
    ASSERT_TRUE(waitFor([&] { return view().panes().size() == 2 && view().panes()[1]->look().picture != nullptr; }));
    auto* first = view().panes()[0];
    auto* second = view().panes()[1];
    EXPECT_EQ(first->look().title, "first");
    EXPECT_EQ(second->look().title, "cooler");
    EXPECT_EQ(first->look().range, second->look().range);
    EXPECT_EQ(second->look().figure, "90.0 \u00b0C");

    const auto before = window->session().view().camera;
    const QPoint middle = second->rect().center();
    QTest::mousePress(second, Qt::LeftButton, {}, middle);
    QTest::mouseMove(second, middle + QPoint(60, 20));
    QTest::mouseRelease(second, Qt::LeftButton, {}, middle + QPoint(60, 20));
    EXPECT_NE(window->session().view().camera, before);
    for (std::size_t axis = 0; axis < 3; ++axis)
        EXPECT_NEAR(first->camera().position[axis], second->camera().position[axis], 1e-9) << "they turn together";
}

TEST_F(CompareWindow, TheKeysOfTheViewMoveAllPictures) {
    ASSERT_TRUE(waitFor([&] { return view().panes().size() == 2 && view().panes()[1]->look().picture != nullptr; }));
    const auto before = view().panes()[1]->camera();
    type(Qt::Key_X);
    EXPECT_NE(view().panes()[1]->camera(), before);
    EXPECT_NEAR(view().panes()[0]->camera().position[1], view().panes()[0]->camera().focus[1], 1e-9) << "along x";
    EXPECT_NEAR(view().panes()[1]->camera().scale, view().panes()[0]->camera().scale, 1e-9);
}

TEST_F(CompareWindow, TheMouseTellsTheValueInEveryPicture) {
    ASSERT_TRUE(waitFor([&] { return view().panes().size() == 2 && view().panes()[1]->look().picture != nullptr; }));
    auto* first = view().panes()[0];
    const auto core = first->pixelOf({0.05, 0.05, 0.03}); // its top, 110 and 90 degC
    QTest::mouseMove(first, core.toPoint());
    EXPECT_TRUE(waitFor([&] { return !first->reading().isEmpty(); }));
    EXPECT_EQ(first->reading(), "110.0 \u00b0C");
    EXPECT_EQ(view().panes()[1]->reading(), "90.0 \u00b0C");
}

TEST_F(CompareWindow, TheTableTellsWhatChanged) {
    const auto row = rowOf("Core, max");
    EXPECT_EQ(cell(table(), row, "first"), "110.0 \u00b0C");
    EXPECT_EQ(cell(table(), row, "cooler"), "90.0 \u00b0C");
    EXPECT_EQ(cell(table(), row, "Difference"), "-20.0 K");
    EXPECT_EQ(table()->model()->index(row, table()->model()->columnCount() - 1).data().toString(), "within, was over");
    pick("baselineBox", "cooler");
    EXPECT_EQ(window->session().survey().compare->baseline, "cooler");
    EXPECT_EQ(cell(table(), rowOf("hot core, max"), "Difference"), "+20.0 K") << "named as the baseline names it";
    EXPECT_EQ(rowOf("hot core, max"), 0) << "it got worse";
    trigger("undo");
    EXPECT_FALSE(window->session().survey().compare);
}

TEST_F(CompareWindow, TheDifferenceHasItsOwnScale) {
    click(button("showDifference"));
    ASSERT_TRUE(waitFor([&] {
        return view().panes().size() == 2 && view().panes()[1]->look().isDifference &&
               view().panes()[1]->look().picture != nullptr;
    }));
    const auto& look = view().panes()[1]->look();
    EXPECT_EQ(look.title, "cooler \u2212 first");
    EXPECT_NEAR(look.range[0], -20, 1e-4);
    EXPECT_NEAR(look.range[1], 20, 1e-4) << "zero in the middle";
    EXPECT_TRUE(look.figure.startsWith("-20.0 K")) << look.figure.toStdString();
    const auto core = view().panes()[1]->pixelOf({0.05, 0.05, 0.03});
    QTest::mouseMove(view().panes()[1], core.toPoint());
    EXPECT_TRUE(waitFor([&] { return view().panes()[1]->reading() == "-20.0 K"; }))
        << view().panes()[1]->reading().toStdString();
}

TEST_F(CompareWindow, AWipeIsDraggedAndStays) {
    click(button("showWipe"));
    ASSERT_TRUE(waitFor([&] { return view().panes().size() == 2; }));
    auto* handle = find<QWidget>("wipeHandle");
    ASSERT_TRUE(handle->isVisible());
    EXPECT_NEAR(handle->x() + 3, view().width() / 2, 2);
    const QPoint middle = handle->rect().center();
    QTest::mousePress(handle, Qt::LeftButton, {}, middle);
    QTest::mouseMove(handle, middle - QPoint(100, 0));
    QTest::mouseRelease(handle, Qt::LeftButton, {}, middle - QPoint(100, 0));
    EXPECT_TRUE(waitFor([&] { return window->session().view().compare.wipe < 0.45; }));
    EXPECT_NEAR(handle->x() + 3, window->session().view().compare.wipe * view().width(), 2);
}

TEST_F(CompareWindow, AVariantIsLeftOutOfThePictures) {
    ASSERT_TRUE(waitFor([&] { return view().panes().size() == 2; }));
    QCheckBox* tick = nullptr;
    for (auto* one : window->findChildren<QCheckBox*>())
        if (one->accessibleName() == "variant cooler")
            tick = one;
    ASSERT_NE(tick, nullptr);
    QTest::mouseClick(tick, Qt::LeftButton, {}, QPoint(6, tick->height() / 2));
    EXPECT_TRUE(waitFor([&] { return view().panes().size() == 1; }));
    EXPECT_EQ(cell(table(), rowOf("Core, max"), "cooler"), "90.0 \u00b0C") << "the table goes on comparing it";
    trigger("undo");
    EXPECT_TRUE(waitFor([&] { return view().panes().size() == 2; }));
}

TEST_F(CompareWindow, MeasuredDataAndASweepHaveTheirTables) {
    writeText(folder / "tc.csv", "name,x [mm],y [mm],z [mm],value [degC]\ntop,50,50,30,112\nnowhere,500,500,500,20\n");
    std::filesystem::copy(folder / "pair.vtm", folder / "pair3.vtm");
    std::filesystem::copy(folder / "cool.vtm", folder / "cool3.vtm");
    writeText(folder / "sweep.csv",
              "file,flow [L/min],plate [mm]\npair.vtm,1,2\ncool.vtm,2,2\npair3.vtm,1,3\ncool3.vtm,2,3\n");
    auto json = Json::parse(std::ifstream(survey));
    json["measured"] = {{{"id", "tc"}, {"file", "tc.csv"}, {"case", "first"}}};
    json["sweep"] = {{"table", "sweep.csv"}, {"like", "first"}};
    json["cases"][1].erase("parameters");
    json["view"]["stage"] = "Compare";
    writeText(folder / "more.survey.json", json.dump());
    survey = folder / "more.survey.json";
    openSurvey();
    click(button("measuredTableTab"));
    auto* measured = find<QTableView>("measuredTable");
    ASSERT_TRUE(waitFor([&] { return measured->model()->rowCount() == 2; }));
    EXPECT_EQ(cell(measured, 0, "Deviation"), "-2.0 K");
    EXPECT_EQ(cell(measured, 1, "Deviation"), "unknown") << "it lies outside, which is said";
    EXPECT_EQ(window->session().view().compare.show, CompareShow::Measured);
    EXPECT_TRUE(find<QWidget>("measuredPlot")->isVisible());
    ASSERT_TRUE(waitFor([&] { return !view().panes().empty() && view().panes()[0]->look().picture != nullptr; }));
    ASSERT_EQ(view().panes()[0]->look().labels.size(), 1U) << "of the place that has a deviation";
    EXPECT_TRUE(view().panes()[0]->look().labels[0].text.contains("-2.0 K"));
    click(button("sweepTableTab"));
    auto* sweep = find<QTableView>("sweepTable");
    ASSERT_TRUE(waitFor([&] { return sweep->model()->rowCount() == 4; }));
    EXPECT_EQ(cell(sweep, 1, "Verdict"), "within");
    EXPECT_EQ(cell(sweep, 0, "Verdict"), "over");
    auto* map = find<SweepPlot>("sweepPlot");
    settle();
    EXPECT_TRUE(map->isVisible());
    EXPECT_FALSE(view().isVisible()) << "the sweep's picture stands in place of the cases";
    ASSERT_TRUE(map->map());
    EXPECT_EQ(map->map()->x, "flow");
    EXPECT_NEAR(map->map()->at(1, 2), -10, 1e-6);
    EXPECT_NEAR(map->map()->at(1.5, 2.5), (-10 + 10) / 2.0, 1e-6) << "between the cases";
    ASSERT_FALSE(map->map()->lineAt(0).empty());
    EXPECT_NEAR(map->map()->lineAt(0)[0][0][0], 1.5, 1e-6) << "where the limit is met";
    // a click on the point of a case chooses its row
    QTest::mouseClick(map, Qt::LeftButton, {},
                      QPointF(map->xAxis->coordToPixel(1), map->yAxis->coordToPixel(3)).toPoint());
    EXPECT_EQ(sweep->currentIndex().row(), 2);
    click(button("compareTableTab"));
    EXPECT_TRUE(view().isVisible());
}

namespace {

// A sweep of four cases over flow and plate thickness.
class SweepWindow : public CompareWindow {
protected:
    void SetUp() override {
        CompareWindow::SetUp();
        std::filesystem::copy_file(folder / "pair.vtm", folder / "pair3.vtm");
        std::filesystem::copy_file(folder / "cool.vtm", folder / "cool3.vtm");
        writeText(folder / "sweep.csv",
                  "file,flow [L/min],plate [mm]\npair.vtm,1,2\ncool.vtm,2,2\npair3.vtm,1,3\ncool3.vtm,2,3\n");
    }
    // The form, filled in as by hand.
    void nameSweep() {
        auto next = window->session().survey();
        next.cases[1].parameters.clear(); // else it is a case of the sweep
        window->session().edit("Parameters", next);
        trigger("setUpSweep");
        auto* form = find<QDialog>("sweepForm");
        dialogs::answerNextFile(QString::fromStdString((folder / "sweep.csv").string()));
        click(form->findChild<QPushButton*>("chooseSweepTable"));
        EXPECT_NE(form->findChild<QLabel*>("sweepFacts")->text().indexOf("4 cases over flow in L/min, plate in mm"), -1)
            << form->findChild<QLabel*>("sweepFacts")->text().toStdString();
        click(form->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok));
        click(button("sweepTableTab"));
        ASSERT_TRUE(waitFor([&] { return sweepTable()->model()->rowCount() == 4; }));
    }
    QTableView* sweepTable() { return find<QTableView>("sweepTable"); }
    SweepPlot* plot() { return find<SweepPlot>("sweepPlot"); }
    void choose(const char* box, const QString& text) {
        auto* combo = find<QComboBox>(box);
        const int at = combo->findText(text);
        ASSERT_GE(at, 0) << text.toStdString();
        combo->setCurrentIndex(at);
        emit combo->activated(at);
        settle();
    }
};

} // namespace

TEST_F(SweepWindow, IsNamedDrawnSlicedAndFiltered) {
    nameSweep();
    EXPECT_EQ(window->session().survey().sweep->table, "sweep.csv") << "relative to the survey";
    choose("sweepPicture", "Curves");
    EXPECT_EQ(window->session().view().sweep.picture, SweepPicture::Curves);
    EXPECT_GE(plot()->graphCount(), 2) << "a curve for each plate";
    choose("sweepPicture", "All values");
    ASSERT_GE(plot()->lineAxes().size(), 3U);
    EXPECT_EQ(plot()->lineAxes()[0], "flow");
    // a drag over the upper half of the first axis keeps the cases with 2 L/min
    const auto pixel = [&](double x, double y) {
        return QPointF(plot()->xAxis->coordToPixel(x), plot()->yAxis->coordToPixel(y)).toPoint();
    };
    QTest::mousePress(plot(), Qt::LeftButton, {}, pixel(0, 1));
    QTest::mouseRelease(plot(), Qt::LeftButton, {}, pixel(0, 0.5));
    settle();
    EXPECT_EQ(sweepTable()->model()->rowCount(), 2);
    EXPECT_EQ(button("clearRanges")->text(), "2 of 4 cases: show all");
    click(button("clearRanges"));
    EXPECT_EQ(sweepTable()->model()->rowCount(), 4);
    window->session().undoStack().undo();
    EXPECT_EQ(sweepTable()->model()->rowCount(), 2) << "what is left is part of the view";
}

TEST_F(SweepWindow, ADoubleClickOpensTheCase) {
    nameSweep();
    const auto cases = window->session().survey().cases.size();
    const auto row = sweepTable()->model()->index(2, 0);
    sweepTable()->scrollTo(row);
    QTest::mouseClick(sweepTable()->viewport(), Qt::LeftButton, {}, sweepTable()->visualRect(row).center());
    QTest::mouseDClick(sweepTable()->viewport(), Qt::LeftButton, {}, sweepTable()->visualRect(row).center());
    settle();
    ASSERT_EQ(window->session().survey().cases.size(), cases + 1);
    EXPECT_EQ(window->session().survey().cases.back().name, "pair3");
    EXPECT_EQ(window->session().view().caseName, "pair3");
    EXPECT_EQ(window->session().survey().cases.back().parameters.at("plate"), "3 mm");
}

TEST_F(CompareWindow, MeshesAndPlacementsAreNamedByForms) {
    trigger("setUpGrids");
    auto* grids = find<QDialog>("gridsForm");
    auto* list = grids->findChild<QListWidget*>("gridsList");
    ASSERT_EQ(list->count(), 2);
    for (int row = 0; row < 2; ++row)
        list->item(row)->setCheckState(Qt::Checked);
    click(grids->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok));
    ASSERT_EQ(window->session().survey().grids.size(), 1U);
    EXPECT_EQ(window->session().survey().grids[0].cases.size(), 2U);

    trigger("placeCase");
    auto* place = find<QDialog>("placementForm");
    auto* how = place->findChild<QComboBox*>("placedHow");
    how->setCurrentIndex(2);
    emit how->activated(2);
    click(place->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok));
    EXPECT_FALSE(window->session().survey().cases[1].placement) << "empty places are refused";
    EXPECT_TRUE(place->isVisible());
    how->setCurrentIndex(1);
    emit how->activated(1);
    click(place->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok));
    ASSERT_TRUE(window->session().survey().cases[1].placement);
    EXPECT_TRUE(window->session().survey().cases[1].placement->byBoxes);
}

// An infrared picture of the plate from above: pixels clicked in the form, places in the viewport.
TEST_F(CompareWindow, AnInfraredPictureIsLaidOnByClicks) {
    std::string rows;
    for (int row = 0; row < 20; ++row)
        for (int column = 0; column < 20; ++column)
            rows += fmt::format("{:.6f}{}", 30 + 200 * 0.005 * (column + 0.5), column == 19 ? "\n" : ";");
    writeText(folder / "ir.csv", rows);
    trigger("addMeasured");
    auto* form = find<QDialog>("measuredForm");
    dialogs::answerNextFile(QString::fromStdString((folder / "ir.csv").string()));
    click(form->findChild<QPushButton*>("chooseMeasured"));
    EXPECT_EQ(form->findChild<QLineEdit*>("measuredId")->text(), "ir");
    form->findChild<QLineEdit*>("measuredUnit")->setText("degC");
    auto* isPicture = form->findChild<QCheckBox*>("measuredIsPicture");
    QTest::mouseClick(isPicture, Qt::LeftButton, {}, QPoint(8, isPicture->height() / 2));
    ASSERT_TRUE(isPicture->isChecked());
    auto* matches = form->findChild<QTableWidget*>("matchTable");
    const QString numbers[3][5]{
        {"0", "0", "0", "100", "10"}, {"20", "0", "100", "100", "10"}, {"0", "20", "0", "0", "10"}};
    for (int row = 0; row < 3; ++row)
        for (int column = 0; column < 5; ++column)
            matches->setItem(row, column, new QTableWidgetItem(numbers[row][column]));
    auto* preview = form->findChild<QWidget*>("picturePreview");
    matches->setCurrentCell(3, 0);
    QTest::mouseClick(preview, Qt::LeftButton, {}, preview->rect().center());
    ASSERT_NE(matches->item(3, 0), nullptr);
    EXPECT_NEAR(matches->item(3, 0)->text().toDouble(), 10, 0.2) << "the middle of 20 columns";
    matches->takeItem(3, 0);
    matches->takeItem(3, 1);
    click(form->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok));
    ASSERT_EQ(window->session().survey().measured.size(), 1U);
    ASSERT_TRUE(window->session().survey().measured[0].picture);
    EXPECT_EQ(window->session().survey().measured[0].picture->matched.size(), 3U);
    click(button("measuredTableTab"));
    auto* table = find<QTableView>("measuredTable");
    ASSERT_TRUE(waitFor([&] { return table->model()->rowCount() > 4; }));
    EXPECT_TRUE(cell(table, 0, "Name").startsWith("cold plate, mean of")) << cell(table, 0, "Name").toStdString();
    EXPECT_EQ(cell(table, 0, "Deviation"), "0.0 K");
}
