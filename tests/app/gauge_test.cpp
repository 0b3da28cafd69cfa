// Gauges in the real window: placed by clicks, renamed, computed, charted, exported, and read again on another case.
#include "app/session/dialogs.h"
#include "app/stages/gauges/gauge_page.h"
#include "app/stages/gauges/gauges_sheet.h"
#include "core/feedback/csv_rows.h"
#include "core/survey/gauge_places.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QClipboard>
#include <QFile>
#include <QMenu>
#include <QStandardItemModel>

using namespace pyro;
using namespace pyro::test;

namespace {

class GaugeWindowTest : public WindowTest {
protected:
    const Survey& survey_() { return window->session().survey(); }
    ChartPanel& chart() { return *find<ChartPanel>("chartPanel"); }
    QTableView* table() { return find<QTableView>("gaugeTable"); }
    void hover(const Point& place) {
        auto& viewport = window->viewport();
        const auto at = viewport.pixelOf(place);
        QMouseEvent move(QEvent::MouseMove, at, viewport.mapToGlobal(at), Qt::NoButton, Qt::NoButton, {});
        QApplication::sendEvent(&viewport, &move);
    }
    void clickAt(const Point& place) {
        hover(place);
        QTest::mouseClick(&window->viewport(), Qt::LeftButton, {}, window->viewport().pixelOf(place).toPoint());
    }
    void lineOverThePlate() {
        window->viewport().lookAlong(2, false); // from above
        window->viewport().fit();
        settle();
        type(Qt::Key_L);
        clickAt({0.01, 0.02, 0.01});
        clickAt({0.09, 0.02, 0.01});
        settle();
    }
    std::vector<std::string> linesOf(const std::string& name) {
        QFile file(QString::fromStdString((folder / name).string()));
        EXPECT_TRUE(file.open(QIODevice::ReadOnly)) << name;
        std::vector<std::string> lines;
        for (const auto& line : file.readAll().split('\n'))
            lines.push_back(line.toStdString());
        return lines;
    }
};

} // namespace

// T is 30 + 200 x on the plate: 32 degC at x = 10 mm, 48 degC at 90 mm.
TEST_F(GaugeWindowTest, TwoClicksMakeALineWithItsProfile) {
    openSurvey();
    lineOverThePlate();
    ASSERT_EQ(survey_().gauges.size(), 1U);
    EXPECT_EQ(window->session().view().stage, "Gauges");
    EXPECT_EQ(survey_().gauges[0].id, "T_line_1");
    ASSERT_EQ(chart().chart().curves.size(), 1U);
    const auto& curve = chart().chart().curves[0];
    EXPECT_NEAR(curve.x.back(), 80, 1); // mm
    EXPECT_NEAR(curve.y.front(), 32, 0.3);
    EXPECT_NEAR(curve.y.back(), 48, 0.3);
    EXPECT_EQ(chart().chart().yTitle, "Temperature, \u00b0C");
    EXPECT_EQ(chart().plot().graphCount(), 1);
    EXPECT_TRUE(chart().plot().isVisible());
    trigger("undo");
    EXPECT_TRUE(survey_().gauges.empty());
}

TEST_F(GaugeWindowTest, AClickBesideEverythingAsksAgainAndEscEnds) {
    openSurvey();
    type(Qt::Key_L);
    EXPECT_TRUE(window->viewport().placer().isActive());
    QTest::mouseClick(&window->viewport(), Qt::LeftButton, {}, {3, window->viewport().height() - 3});
    EXPECT_TRUE(window->viewport().placer().isActive());
    EXPECT_TRUE(survey_().gauges.empty());
    type(Qt::Key_Escape);
    EXPECT_FALSE(window->viewport().placer().isActive());
    clickAt({0.05, 0.02, 0.01});
    EXPECT_TRUE(survey_().gauges.empty());
}

TEST_F(GaugeWindowTest, APointIsTakenUnderTheCursorAndRenamedInTheTable) {
    openSurvey();
    window->viewport().lookAlong(2, false);
    window->viewport().fit();
    settle();
    hover({0.05, 0.02, 0.01});
    type(Qt::Key_P);
    settle();
    ASSERT_EQ(survey_().gauges.size(), 1U);
    EXPECT_EQ(cell(table(), 0, "Value"), "40.0");
    EXPECT_EQ(cell(table(), 0, "Unit"), "\u00b0C");
    enter(table(), 0, "Gauge", "mid plate");
    EXPECT_EQ(survey_().gauges[0].id, "T_point_1") << "a blank is no part of a name";
    EXPECT_NE(window->message(), "");
    enter(table(), 0, "Gauge", "T_mid");
    EXPECT_EQ(survey_().gauges[0].id, "T_mid");
    EXPECT_EQ(window->session().selection().selectedGauge(), "T_mid");
    enter(table(), 0, "Unit", "K");
    settle();
    EXPECT_EQ(cell(table(), 0, "Value"), "313.1");
    trigger("undo");
    trigger("undo");
    EXPECT_EQ(survey_().gauges[0].id, "T_point_1");
}

TEST_F(GaugeWindowTest, MenusOfferPartsBoundariesAndFormulas) {
    openSurvey();
    type(Qt::Key_4);
    auto* menu = find<QMenu>("moreGaugesMenu");
    emit menu->aboutToShow();
    const auto choose = [&](const QString& submenu, const QString& entry) {
        for (auto* one : menu->actions())
            if (one->text() == submenu)
                for (auto* inner : one->menu()->actions())
                    if (inner->text() == entry)
                        return inner->trigger();
        ADD_FAILURE() << entry.toStdString();
    };
    choose("Part", "Core");
    choose("Boundary", "base");
    settle();
    ASSERT_EQ(survey_().gauges.size(), 2U);
    EXPECT_EQ(survey_().gauges[0].id, "T_hot_core");
    EXPECT_EQ(cell(table(), 0, "Value"), "100.0");
    find<QAction>("formulaGauge")->trigger();
    auto* formula = find<QLineEdit>("gaugeFormula");
    ASSERT_TRUE(formula->isVisible());
    formula->setFocus();
    formula->selectAll();
    QTest::keyClicks(formula, "T_hot_core - T_base");
    QTest::keyClick(formula, Qt::Key_Return);
    settle();
    EXPECT_EQ(survey_().gauges[2].formula, "T_hot_core - T_base");
    EXPECT_EQ(cell(table(), 2, "Value"), "60");
    EXPECT_EQ(cell(table(), 2, "Unit"), "K");
    formula->setFocus();
    formula->selectAll();
    QTest::keyClicks(formula, "T_hot_core + T_base");
    QTest::keyClick(formula, Qt::Key_Return);
    settle();
    EXPECT_EQ(cell(table(), 2, "Value"), "not available");
    EXPECT_TRUE(cell(table(), 2, "Note").contains("two temperatures")) << cell(table(), 2, "Note").toStdString();
    EXPECT_EQ(cell(table(), 0, "Value"), "100.0") << "the others go on";
}

TEST_F(GaugeWindowTest, TheEditorAsksForWhatAFilmCoefficientNeeds) {
    openSurvey();
    type(Qt::Key_4);
    window->session().addGauge({{"boundary", "base"}});
    auto* quantity = find<QComboBox>("gaugeQuantity");
    quantity->setCurrentIndex(quantity->findData("film_coefficient"));
    emit quantity->activated(quantity->currentIndex());
    settle();
    EXPECT_TRUE(cell(table(), 0, "Note").contains("reference"));
    auto* reference = find<QComboBox>("gaugeReference");
    ASSERT_TRUE(reference->isVisible());
    fill(reference->lineEdit(), "20 degC");
    settle();
    EXPECT_EQ(survey_().gauges[0].rest["reference"], "20 degC");
    EXPECT_TRUE(cell(table(), 0, "Note").contains("conductivity")) << "now only the material is missing";
}

// Another case with another mesh, hotter by 10 K: the same line, no new picking, both in one chart.
TEST_F(GaugeWindowTest, IsReadAgainOnAnotherCaseInOneChart) {
    auto other = boxPart("cold plate", {{0.1, 0.1, 0.01}, {7, 5, 3}}, Cells::Tetrahedra);
    addNodeField(other, "T [degC]", [](const Point& at) { return 40 + 200 * at[0]; });
    ASSERT_TRUE(writeCase({other}, folder / "second.vtm"));
    openSurvey();
    lineOverThePlate();
    window->open(QString::fromStdString((folder / "second.vtm").string()));
    settle();
    ASSERT_EQ(survey_().cases.size(), 2U);
    const auto& curves = chart().chart().curves;
    ASSERT_EQ(curves.size(), 2U);
    EXPECT_EQ(curves[0].title, "first");
    EXPECT_EQ(curves[1].title, "second");
    EXPECT_NEAR(curves[1].y.back() - curves[0].y.back(), 10, 1e-6);
    EXPECT_TRUE(chart().plot().legend->visible());
    EXPECT_EQ(cell(table(), 0, "second"), "42.0 \u2026 58.0");
    for (auto* action : chart().findChildren<QAction*>())
        if (action->objectName() == "chartDifference")
            action->trigger();
    ASSERT_EQ(chart().chart().curves.size(), 1U);
    EXPECT_NEAR(chart().chart().curves[0].y[50], 10, 1e-6);
    EXPECT_TRUE(QString::fromStdString(chart().chart().yTitle).endsWith(", K"));
}

TEST_F(GaugeWindowTest, ChartAndViewportMarkTheSamePlace) {
    openSurvey();
    lineOverThePlate();
    auto& plot = chart().plot();
    const QPointF pixel(plot.xAxis->coordToPixel(40), plot.yAxis->coordToPixel(40));
    QMouseEvent move(QEvent::MouseMove, pixel, plot.mapToGlobal(pixel), Qt::NoButton, Qt::NoButton, {});
    QApplication::sendEvent(&plot, &move);
    ASSERT_TRUE(window->session().selection().markedPlace());
    EXPECT_NEAR((*window->session().selection().markedPlace())[0], 0.05, 0.002);
    EXPECT_TRUE(chart().reading().contains("40")) << chart().reading().toStdString();
    hover({0.07, 0.02, 0.01});
    ASSERT_TRUE(window->session().selection().markedPlace());
    EXPECT_NEAR((*window->session().selection().markedPlace())[0], 0.07, 0.002);
    EXPECT_TRUE(chart().reading().contains("<b>43.9") || chart().reading().contains("<b>44"))
        << chart().reading().toStdString();
    hover({0.05, 0.09, 0.01});
    EXPECT_FALSE(window->session().selection().markedPlace());
}

// What is shown anew would undo what is changed by hand here.
TEST_F(GaugeWindowTest, HoveringShowsNoFormAndNoDistributionAnew) {
    openSurvey();
    lineOverThePlate();
    auto* fit = button("fitPart");
    auto* reading = find<QLabel>("gaugeReading");
    window->session().selection().selectPart("hot core");
    const auto changeByHand = [&] {
        fit->setEnabled(false);
        reading->setText("by hand");
    };
    changeByHand();
    for (const double x : {0.02, 0.05, 0.08})
        hover({x, 0.02, 0.01});
    auto& plot = chart().plot();
    for (int x = plot.axisRect()->left() + 5; x < plot.axisRect()->right(); x += 20)
        QTest::mouseMove(&plot, {x, plot.axisRect()->center().y()});
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->session().selection().markedPlace().has_value(); }));
    EXPECT_FALSE(fit->isEnabled());
    EXPECT_EQ(reading->text(), "by hand");
    // A change of the survey shows both anew.
    window->session().addGauge({{"part", "hot core"}});
    settle();
    EXPECT_TRUE(fit->isEnabled());
    EXPECT_NE(reading->text(), "by hand");
}

TEST_F(GaugeWindowTest, TablesAndChartsAreExported) {
    openSurvey();
    lineOverThePlate();
    window->session().addGauge({{"part", "hot core"}});
    settle();
    dialogs::answerNextFile(QString::fromStdString((folder / "g.csv").string()));
    click(button("exportGauges"));
    const auto lines = linesOf("g.csv");
    ASSERT_GE(lines.size(), 2U);
    EXPECT_NE(lines[1].find("T_hot_core,100"), std::string::npos) << lines[1];
    window->session().selection().selectGauge("T_line_1");
    for (const auto* name : {"c.png", "c.svg", "c.pdf", "c.csv", "c.xlsx", "g.xlsx", "g.json"}) {
        dialogs::answerNextFile(QString::fromStdString((folder / name).string()));
        trigger(name[0] == 'g' ? "exportGauges" : "exportChart");
        EXPECT_GT(std::filesystem::file_size(folder / name), 300U) << name;
    }
    EXPECT_EQ(linesOf("c.csv")[1].rfind("T_line_1,0,3", 0), 0U) << linesOf("c.csv")[1];
    EXPECT_EQ(window->message(), "");
    dialogs::answerNextFile("/no/such/folder/c.png");
    trigger("exportChart");
    EXPECT_NE(window->message(), "");
    click(button("copyGauges"));
    EXPECT_TRUE(QApplication::clipboard()->text().contains("T_hot_core\t100.0"))
        << QApplication::clipboard()->text().toStdString();
}

TEST_F(GaugeWindowTest, ClickingAHeaderSortsAndAxisTitlesStay) {
    openSurvey();
    type(Qt::Key_4);
    window->session().addGauge({{"part", "hot core"}});
    window->session().addGauge({{"part", "cold plate"}});
    settle();
    EXPECT_EQ(cell(table(), 0, "Gauge"), "T_hot_core");
    auto* header = table()->horizontalHeader();
    emit header->sectionClicked(columnOf(table(), "Value"));
    EXPECT_EQ(cell(table(), 0, "Gauge"), "T_cold_plate");
    emit header->sectionClicked(columnOf(table(), "Value"));
    EXPECT_EQ(cell(table(), 0, "Gauge"), "T_hot_core");
    dialogs::answerNextText("How warm");
    emit chart().titleRequested("y");
    EXPECT_EQ(chart().chart().yTitle, "How warm");
    trigger("undo");
    EXPECT_NE(chart().chart().yTitle, "How warm");
}

TEST_F(GaugeWindowTest, AReferenceCurveIsSetUpFromTheMenu) {
    openSurvey();
    lineOverThePlate();
    emit find<QMenu>("chartSettings")->aboutToShow();
    find<QMenu>("chartReferences")->actions().last()->trigger();
    QApplication::processEvents();
    auto* kind = find<QComboBox>("referenceKind");
    kind->setCurrentIndex(kind->findData("plate_laminar_local"));
    auto* take = find<QPushButton>("referenceTake");
    EXPECT_FALSE(take->isEnabled()) << "nothing of the fluid is known";
    EXPECT_FALSE(find<QLineEdit>("referenceDifference")->isVisible()) << "only what this correlation reads";
    auto* fluid = find<QComboBox>("referenceFluid");
    fluid->setCurrentIndex(1);
    emit fluid->activated(1);
    QTest::keyClicks(find<QLineEdit>("referenceSpeed"), "7.2 km/h");
    ASSERT_TRUE(take->isEnabled()) << find<QLabel>("referenceState")->text().toStdString();
    // By hand: 0.332 (2 x 0.1 / 15.1e-6)^(1/2) 0.713^(1/3) 0.0257 / 0.1 = 8.773
    EXPECT_TRUE(find<QLabel>("referenceState")->text().startsWith("h = 8.773"))
        << find<QLabel>("referenceState")->text().toStdString();
    QTest::keyClicks(find<QLineEdit>("referenceStart"), "5");
    click(take);
    const auto references = chartOf(survey_()).references;
    ASSERT_EQ(references.size(), 1U);
    EXPECT_NEAR(references[0].start, 0.005, 1e-12) << "a bare length is in mm here too";
    EXPECT_EQ(references[0].correlation, "plate_laminar_local");
    EXPECT_NEAR(references[0].conditions.speed, 2, 1e-12);
    emit find<QMenu>("chartSettings")->aboutToShow();
    find<QMenu>("chartReferences")->actions().first()->trigger();
    QApplication::processEvents();
    click(find<QPushButton>("referenceRemove"));
    EXPECT_TRUE(chartOf(survey_()).references.empty());
    trigger("undo");
    EXPECT_EQ(chartOf(survey_()).references.size(), 1U);
}

TEST_F(GaugeWindowTest, DecimalsAreThoseOfTheGauge) {
    openSurvey();
    type(Qt::Key_4);
    window->session().addGauge({{"part", "hot core"}});
    settle();
    auto* decimals = find<QLineEdit>("gaugeDecimals");
    ASSERT_TRUE(decimals->isVisible());
    const auto set = [&](const char* text) {
        decimals->setFocus();
        decimals->selectAll();
        QTest::keyClicks(decimals, text);
        QTest::keyClick(decimals, Qt::Key_Return);
        settle();
    };
    set("3");
    EXPECT_EQ(cell(table(), 0, "Value"), "100.000");
    set("many");
    EXPECT_NE(window->message(), "");
    EXPECT_EQ(cell(table(), 0, "Value"), "100.000");
}

// An end of a line is dragged to another place; while the mouse is down the line stays, and its new end is told beside
// the cursor.
TEST_F(GaugeWindowTest, EndsAreDraggedAndTyped) {
    openSurvey();
    lineOverThePlate();
    auto& viewport = window->viewport();
    ASSERT_EQ(viewport.gaugeHandle().handles().size(), 2U);
    const auto from = viewport.gaugeHandle().handles()[1].toPoint();
    const auto to = viewport.pixelOf({0.05, 0.08, 0.01}).toPoint();
    const auto before = survey_();
    QTest::mousePress(&viewport, Qt::LeftButton, {}, from);
    for (int i = 1; i <= 4; ++i) {
        const QPointF at = from + (to - from) * (i / 4.0);
        QMouseEvent move(QEvent::MouseMove, at, viewport.mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(&viewport, &move);
    }
    EXPECT_TRUE(survey_() == before) << "nothing is kept before the mouse is let go";
    QTest::mouseRelease(&viewport, Qt::LeftButton, {}, to);
    settle();
    const auto places = placesOf(survey_().gauges[0]);
    EXPECT_NEAR(places[1].at[0], 0.05, 1e-3);
    EXPECT_NEAR(places[1].at[1], 0.08, 1e-3);
    EXPECT_NEAR(places[0].at[0], 0.01, 1e-3);
    trigger("undo");
    EXPECT_NEAR(placesOf(survey_().gauges[0])[1].at[0], 0.09, 1e-3) << "one step back";
    EXPECT_NE(viewport.notice().text().indexOf("Undone: "), -1) << "the key says what it did";
    fill("gaugePlace1", "50, 60, 10");
    settle();
    EXPECT_NEAR(placesOf(survey_().gauges[0])[1].at[1], 0.06, 1e-9);
    EXPECT_EQ(find<QLineEdit>("gaugePlace1")->text(), "50, 60, 10 mm");
    fill("gaugePlace1", "somewhere");
    EXPECT_NE(window->message(), "");
}

TEST_F(GaugeWindowTest, StationsDuplicatesAndReferencesAreQuick) {
    openSurvey();
    lineOverThePlate();
    dialogs::answerNextText("y = 30, 40 mm");
    click(button("stationsOfGauge"));
    ASSERT_EQ(survey_().gauges.size(), 3U);
    EXPECT_NEAR(placesOf(survey_().gauges[2])[0].at[1], 0.04, 1e-3);
    click(button("duplicateGauge"));
    ASSERT_EQ(survey_().gauges.size(), 4U);
    EXPECT_EQ(window->session().selection().selectedGauge(), "T_line_4");
    auto* quantities = find<QComboBox>("gaugeQuantity");
    const auto* model = qobject_cast<QStandardItemModel*>(quantities->model());
    const int volume = quantities->findData("volume");
    ASSERT_GE(volume, 0);
    EXPECT_FALSE(model->item(volume)->isEnabled());
    EXPECT_NE(quantities->itemText(volume).indexOf("needs a part"), -1) << quantities->itemText(volume).toStdString();
    EXPECT_TRUE(model->item(quantities->findData("length"))->isEnabled());
    pick("gaugeQuantity", "dimensionless temperature");
    EXPECT_EQ(window->session().selection().selectedGauge(), "theta_line_1") << "the name follows";
    fill(find<QComboBox>("gaugeReference")->lineEdit(), "20");
    fill(find<QComboBox>("gaugeWall")->lineEdit(), "70");
    settle();
    EXPECT_EQ(survey_().gauges[3].rest["reference"], "20 degC");
    const auto plain = chart().chart().curves.at(0).y.front();
    pick("gaugeComplement", "1 minus that");
    settle();
    EXPECT_NEAR(chart().chart().curves.at(0).y.front(), 1 - plain, 1e-9);
}

TEST_F(GaugeWindowTest, ASurveyHasSeveralChartsWithAxesOfTheirOwn) {
    openSurvey();
    lineOverThePlate();
    EXPECT_FALSE(find<QComboBox>("chartChoice")->isVisible());
    find<QAction>("newChart")->trigger();
    EXPECT_EQ(survey_().charts.size(), 2U);
    EXPECT_EQ(window->session().view().chart, 1U);
    EXPECT_TRUE(find<QComboBox>("chartChoice")->isVisible());
    auto* settings = find<QMenu>("chartSettings");
    emit settings->aboutToShow();
    for (auto* action : find<QMenu>("chartAxis")->actions())
        if (action->text() == "x")
            action->trigger();
    EXPECT_NEAR(chart().chart().curves.at(0).x.front(), 10, 1) << "x of the line's start, mm";
    dialogs::answerNextText("20 to 90");
    emit chart().limitsRequested("y");
    EXPECT_EQ(chartOf(survey_(), 1).yRange, (std::optional<std::array<double, 2>>{{20, 90}}));
    EXPECT_NEAR(chart().plot().yAxis->range().upper, 90, 1e-9);
    dialogs::answerNextText("90 to 20");
    emit chart().limitsRequested("y");
    EXPECT_NE(window->message(), "");
    pick("chartChoice", "Chart 1");
    EXPECT_NEAR(chart().chart().curves.at(0).x.front(), 0, 1e-6) << "the first chart kept its own axis";
    EXPECT_EQ(chartOf(survey_(), 0).yRange, std::nullopt);
}
