// The stage Trust in the real window: a gap between two parts is found, told and gone to; hotspots are pinned and
// listed.
#include "app/charts/chart_view.h"
#include "app/session/dialogs.h"
#include "app/stages/trust/heat_flow_dialog.h"
#include "app/stages/trust/trust_sheet.h"
#include "core/survey/findings.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QComboBox>
#include <QSlider>

using namespace pyro;
using namespace pyro::test;

namespace {

class TrustWindowTest : public WindowTest {
protected:
    // Two bars with 0.4 mm between them, each warm at its far end.
    void openGap() {
        auto left = boxPart("left", {{0.1, 0.05, 0.05}, {10, 4, 4}});
        auto right = boxPart("right", {{0.1, 0.05, 0.05}, {10, 4, 4}, {0.1004, 0, 0}});
        for (auto* part : {&left, &right})
            addNodeField(*part, "T [K]", [](const Point& at) { return 300 + 500 * std::abs(at[0] - 0.1); });
        ASSERT_TRUE(writeCase({left, right}, folder / "gap.vtm"));
        window->open(QString::fromStdString((folder / "gap.vtm").string()));
        settle();
    }
    void askForHotspots() {
        type(Qt::Key_4);
        window->session().addGauge("all");
        auto* statistic = find<QComboBox>("gaugeStatistic");
        statistic->setCurrentIndex(statistic->findData("hotspots"));
        emit statistic->activated(statistic->currentIndex());
        settle();
    }
};

} // namespace

TEST_F(TrustWindowTest, TheGapStandsFirstAndIsGoneTo) {
    openGap();
    type(Qt::Key_2);
    settle();
    EXPECT_EQ(window->session().view().stage, "Trust");
    auto* table = find<QTableView>("checksTable");
    ASSERT_TRUE(table->isVisible());
    int row = 0;
    while (row < table->model()->rowCount() && cell(table, row, "Check") != "Parts that lie close together touch")
        ++row;
    ASSERT_LT(row, table->model()->rowCount());
    EXPECT_EQ(cell(table, row, ""), "failed");
    EXPECT_TRUE(cell(table, row, "Found").contains("between left and right"))
        << cell(table, row, "Found").toStdString();
    EXPECT_TRUE(find<QLabel>("trustCounts")->text().contains("failed"));
    table->selectRow(row);
    ASSERT_TRUE(window->session().selection().markedPlace());
    EXPECT_NEAR((*window->session().selection().markedPlace())[0], 0.1, 0.002);
    EXPECT_TRUE(find<QLabel>("trustTitle")->text().contains("close together"));
    click(button("showCheck"));
    settle();
    EXPECT_TRUE(window->session().view().isolated);
}

TEST_F(TrustWindowTest, HotspotsAreListedAndMarked) {
    openGap();
    askForHotspots();
    auto* spots = find<QTableView>("spotTable");
    ASSERT_TRUE(spots->isVisible());
    ASSERT_EQ(spots->model()->rowCount(), 2) << "one at either end";
    EXPECT_EQ(cell(spots, 0, "Part"), "right"); // 0.4 mm further out
    EXPECT_EQ(cell(spots, 1, "Part"), "left");
    spots->selectRow(1);
    ASSERT_TRUE(window->session().selection().markedPlace());
    EXPECT_NEAR((*window->session().selection().markedPlace())[0], 0, 1e-9);
}

TEST_F(TrustWindowTest, AFindingIsRaisedFromACheckEditedAndExported) {
    openGap();
    type(Qt::Key_2);
    settle();
    auto* table = find<QTableView>("checksTable");
    int row = 0;
    while (row < table->model()->rowCount() && cell(table, row, "Check") != "Parts that lie close together touch")
        ++row;
    table->selectRow(row);
    click(button("raiseFromCheck"));
    auto* findings = find<QTableView>("findingsTable");
    ASSERT_TRUE(findings->isVisible());
    ASSERT_EQ(findings->model()->rowCount(), 1);
    EXPECT_EQ(cell(findings, 0, "Severity"), "serious") << "as broken as the check";
    EXPECT_EQ(cell(findings, 0, "From"), "gaps");
    enter(findings, 0, "Finding", "0.4 mm gap: ask for the mesh");
    const auto kept = window->session().survey().findings.at(0);
    EXPECT_EQ(kept.text, "0.4 mm gap: ask for the mesh");
    ASSERT_TRUE(kept.at);
    ASSERT_TRUE(kept.view);
    window->session().selection().markPlace(std::nullopt);
    QTest::mouseClick(findings->viewport(), Qt::LeftButton, {},
                      findings->visualRect(findings->model()->index(0, 3)).center());
    ASSERT_TRUE(window->session().selection().markedPlace()) << "a click goes back to its place";
    EXPECT_NEAR((*window->session().selection().markedPlace())[0], 0.1, 0.002);
    dialogs::answerNextFile(QString::fromStdString((folder / "f.csv").string()));
    trigger("exportFindings");
    EXPECT_NE(readText(folder / "f.csv").find("ask for the mesh"), std::string::npos);
    click(button("removeFinding"));
    EXPECT_EQ(findings->model()->rowCount(), 0);
}

TEST_F(TrustWindowTest, CellsOfACheckAreOutlined) {
    auto part = boxPart("block", {{0.1, 0.05, 0.05}, {4, 2, 2}});
    addNodeField(part, "T [K]", [](const Point& at) { return 300 + 1000 * at[0]; });
    ASSERT_TRUE(writeCase({part}, folder / "coarse.vtm"));
    window->open(QString::fromStdString((folder / "coarse.vtm").string()));
    settle();
    type(Qt::Key_2);
    settle();
    auto* table = find<QTableView>("checksTable");
    for (int row = 0; row < table->model()->rowCount(); ++row)
        if (cell(table, row, "Check").startsWith("No cell spans")) {
            table->selectRow(row);
            EXPECT_EQ(window->session().selection().markedEdges().size(), 16U * 12);
            return;
        }
    ADD_FAILURE() << "no such check";
}

// The heat path of a bar that gives its heat to another one, and the heat flow diagram of both.
TEST_F(TrustWindowTest, HotspotsExplainWhereTheHeatGoes) {
    const BoxMesh first{{0.1, 0.05, 0.05}, {10, 4, 4}};
    const BoxMesh second{{0.1, 0.05, 0.05}, {10, 4, 4}, {0.1, 0, 0}};
    auto left = boxPart("left", first);
    auto right = boxPart("right", second);
    for (auto* part : {&left, &right}) {
        addNodeField(*part, "T [K]", [](const Point& at) { return 350 - 250 * at[0]; });
        addCellField(*part, "conductivity", [](const Point&) { return 50.0; });
        addCellField(*part, "heat_source", [](const Point&) { return 0.0; });
    }
    ASSERT_TRUE(writeCase({left, right, boxSide("warm", first, 0, false), boxSide("cold", second, 0, true)},
                          folder / "bars.vtm"));
    window->open(QString::fromStdString((folder / "bars.vtm").string()));
    settle();
    askForHotspots();
    click(button("pathTableTab"));
    auto* path = find<QTableView>("pathTable");
    ASSERT_TRUE(path->isVisible());
    ASSERT_EQ(path->model()->rowCount(), 5) << "one neighbour, then within, across, within, out";
    EXPECT_EQ(cell(path, 0, "Share"), "100 %");
    EXPECT_EQ(cell(path, 1, "Drop, K"), "25");
    EXPECT_EQ(cell(path, 1, "K/W"), "0.8"); // 25 K for 31.25 W
    EXPECT_EQ(cell(path, 3, "Drop, K"), "25");
    click(button("fluxLines"));
    settle();
    EXPECT_TRUE(window->session().view().field.paths.shown);
    EXPECT_EQ(window->session().view().field.paths.quantity, "heat_flux");

    trigger("heatFlowDiagram");
    auto* map = find<HeatFlowDialog>("heatFlowDiagram");
    ASSERT_TRUE(map->map());
    EXPECT_EQ(map->map()->nodes.size(), 4U);
    dialogs::answerNextFile(QString::fromStdString((folder / "map.svg").string()));
    click(button("saveHeatFlowDiagram"));
    EXPECT_NE(readText(folder / "map.svg").find("31.2"), std::string::npos);
    map->close();
}

// Two tents on one bar, of 50 K and of 20 K.
TEST_F(TrustWindowTest, TheSliderAsksForMoreProminence) {
    auto part = boxPart("bar", {{0.3, 0.05, 0.05}, {30, 2, 2}});
    addNodeField(part, "T [K]", [](const Point& at) {
        return 300 + std::max({0.0, 50 - 1000 * std::abs(at[0] - 0.05), 20 - 400 * std::abs(at[0] - 0.25)});
    });
    ASSERT_TRUE(writeCase({part}, folder / "tents.vtm"));
    window->open(QString::fromStdString((folder / "tents.vtm").string()));
    settle();
    askForHotspots();
    auto* table = find<QTableView>("spotTable");
    ASSERT_EQ(table->model()->rowCount(), 2);
    EXPECT_EQ(hotspotLevels(window->session().seen(), window->session().selection().selectedGauge(),
                            window->session().selection().spotFloor())
                  .size(),
              2U)
        << "two rings on the heat strip";
    auto* slider = find<QSlider>("prominenceSlider");
    slider->setValue(slider->maximum() - 5); // 0.7 of the range
    settle();
    EXPECT_EQ(table->model()->rowCount(), 1);
    EXPECT_TRUE(find<QLabel>("prominenceText")->text().startsWith("\u2265 35.4 K: 1"))
        << find<QLabel>("prominenceText")->text().toStdString();
    slider->setValue(0);
    settle();
    EXPECT_EQ(table->model()->rowCount(), 2) << "a thousandth of the range";
}

// Twelve steps that go to their end: mean, highest and lowest of the part have settled, without any history file.
TEST_F(TrustWindowTest, StepsAreTakenAsIterations) {
    for (int i = 0; i < 12; ++i) {
        auto part = boxPart("bar", {{0.1, 0.02, 0.02}, {10, 2, 2}});
        addNodeField(part, "T [K]", [i](const Point& at) { return 350 - 50 * std::exp(-1.5 * i) + 100 * at[0]; });
        part.time = i;
        ASSERT_TRUE(
            writeBlock(part, folder / ("run_00" + std::string(i < 10 ? "0" : "") + std::to_string(i) + ".vtu")));
    }
    window->open(QString::fromStdString((folder / "run_0000.vtu").string()));
    settle();
    type(Qt::Key_2);
    auto* table = find<QTableView>("monitoredTable");
    ASSERT_TRUE(QTest::qWaitFor([&] { return table->model()->rowCount() == 3; }, 20000));
    settle();
    for (int row = 0; row < 3; ++row)
        EXPECT_EQ(cell(table, row, ""), "settled") << cell(table, row, "Monitored").toStdString();
    EXPECT_EQ(cell(table, 0, "Monitored"), "run mean K");
    auto* plot = find<QCustomPlot>("historyChart");
    ASSERT_EQ(plot->graphCount(), 1) << "one curve without being asked";
    EXPECT_EQ(plot->graph(0)->dataCount(), 12);
    table->selectAll();
    EXPECT_EQ(plot->graphCount(), 3);
    const auto& checks = window->session().activeCase()->readings->checks;
    const auto settled = std::ranges::find(checks, "settled", &Check::key);
    ASSERT_NE(settled, checks.end());
    EXPECT_EQ(settled->state, CheckState::Passed) << settled->figure;
}
