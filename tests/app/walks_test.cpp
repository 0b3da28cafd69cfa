// The walks of docs/walks.md, done in the real window; the number of actions must be that of the steps written there.
#include "app/charts/chart_view.h"
#include "app/session/dialogs.h"
#include "rig/result.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QComboBox>
#include <QLineEdit>
#include <QMenu>
#include <fstream>
#include <numbers>

using namespace pyro;
using namespace pyro::test;

namespace {

class WalkTest : public WindowTest {
protected:
    void openCase(const std::string& file) {
        ++actions;
        dialogs::answerNextFile(QString::fromStdString((folder / file).string()));
        trigger("openCase");
        settle();
    }
    void key(Qt::Key which, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
        ++actions;
        type(which, modifiers);
        settle();
    }
    void press(QPushButton* one) {
        ++actions;
        click(one);
        settle();
    }
    void typeInto(const char* name, const QString& text) {
        ++actions;
        fill(name, text);
    }
    void choose(const char* name, const QString& text) {
        ++actions;
        ASSERT_TRUE(find<QComboBox>(name)->isVisible()) << name;
        pick(name, text);
    }
    // One way through the menu above the gauges' editor.
    void fromMenu(const QStringList& way) {
        ++actions;
        QMenu* menu = nullptr;
        for (auto* one : window->findChildren<QPushButton*>())
            if (one->menu() != nullptr && one->text().startsWith("Part, boundary"))
                menu = one->menu();
        ASSERT_NE(menu, nullptr);
        emit menu->aboutToShow();
        for (const auto& word : way) {
            QAction* next = nullptr;
            for (auto* action : menu->actions())
                if (action->text() == word)
                    next = action;
            ASSERT_NE(next, nullptr) << word.toStdString();
            ASSERT_TRUE(next->isEnabled()) << word.toStdString();
            if (next->menu() != nullptr)
                menu = next->menu();
            else
                next->trigger();
        }
        settle();
    }
    // The numbered steps under a heading of docs/walks.md.
    static int stepsOf(const std::string& heading) {
        std::ifstream stream(std::string(PYROMETER_SOURCE) + "/docs/walks.md");
        int steps = 0;
        bool here = false;
        for (std::string line; std::getline(stream, line);) {
            if (line.starts_with("## "))
                here = line.find(heading) != std::string::npos;
            else if (here && !line.empty() && std::isdigit(static_cast<unsigned char>(line[0])) != 0)
                ++steps;
        }
        return steps;
    }
    QTableView* limits() { return find<QTableView>("limitsTable"); }
    QTableView* gauges() { return find<QTableView>("gaugeTable"); }
    int actions = 0;
};

} // namespace

TEST_F(WalkTest, ProductCooling) {
    auto board = boxPart("board", {{0.1, 0.08, 0.002}, {20, 16, 2}});
    addNodeField(board, "T [degC]", [](const Point& at) {
        return 40 + 55 * std::exp(-((at[0] - 0.03) * (at[0] - 0.03) + (at[1] - 0.05) * (at[1] - 0.05)) / 2e-4);
    });
    ASSERT_TRUE(writeBlock(board, folder / "unknown.vtu"));
    openCase("unknown.vtu");
    key(Qt::Key_5);
    press(button("addLimit"));
    typeInto("limitMax", "80");
    EXPECT_EQ(cell(limits(), 0, "Verdict"), "over");
    EXPECT_EQ(cell(limits(), 0, "Allowed"), "80.0 \u00b0C");
    key(Qt::Key_4);
    fromMenu({"Line through the hottest visible place", "Along x"});
    const auto& chart = find<ChartPanel>("chartPanel")->chart();
    ASSERT_EQ(chart.curves.size(), 1U);
    EXPECT_NEAR(*std::ranges::max_element(chart.curves[0].y), 95, 1);
    ++actions; // Ctrl+P, and the name of the file
    dialogs::answerNextFile(QString::fromStdString((folder / "page.pdf").string()));
    key(Qt::Key_P, Qt::ControlModifier);
    EXPECT_TRUE(std::filesystem::exists(folder / "page.pdf"));
    EXPECT_EQ(actions, stepsOf("Product cooling"));
    EXPECT_LE(actions, 12);
}

// A bar of 1 W/(m.K), 100 K over 0.1 m, 0.02 m x 0.02 m across: 0.4 W, read on a face that nobody named.
TEST_F(WalkTest, HeatThroughAFace) {
    auto bar = boxPart("lead", {{0.1, 0.02, 0.02}, {10, 4, 4}});
    addNodeField(bar, "T [degC]", [](const Point& at) { return 120 - 1000 * at[0]; });
    ASSERT_TRUE(writeBlock(bar, folder / "unknown.vtu"));
    openCase("unknown.vtu");
    ++actions; // a click on the face at the end of the bar
    const auto end = window->viewport().pixelOf({0.1, 0.01, 0.01}).toPoint();
    QTest::mouseMove(&window->viewport(), end);
    QTest::mouseClick(&window->viewport(), Qt::LeftButton, {}, end);
    settle();
    EXPECT_EQ(window->session().selection().selectedBoundary(), "x max");
    auto* rows = find<QTableView>("boundariesTable");
    EXPECT_TRUE(rows->isVisible()) << "the row of the face is shown";
    EXPECT_EQ(rows->currentIndex().row(), 1);
    typeInto("faceLabel", "cold end");
    EXPECT_EQ(cell(rows, 1, "Label"), "cold end");
    ++actions; // the material of the part, chosen or typed
    auto* material = find<QComboBox>("faceMaterial");
    fill(material->lineEdit(), "soda lime glass");
    press(button("faceHeat"));
    ASSERT_EQ(window->session().survey().gauges.size(), 1U);
    const auto& reading = window->session().activeCase()->readings->gauges.at(0);
    ASSERT_TRUE(reading.value) << reading.why;
    EXPECT_NEAR(*reading.value, 1.0 * 1000 * 0.0004, 1e-9) << "conductivity 1";
    EXPECT_EQ(actions, stepsOf("Heat through a face"));
    EXPECT_LE(actions, 6);
}

// A plate at 60 degC under a stream whose temperature falls away from it: h is the wall's gradient over 40 K.
TEST_F(WalkTest, PipeFlow) {
    const BoxMesh box{{0.2, 0.02, 0.01}, {20, 20, 2}};
    auto stream = boxPart("stream", box);
    addNodeField(stream, "temperature [degC]",
                 [](const Point& at) { return 20 + 40 * std::exp(-at[1] / (0.002 + 0.01 * at[0])); });
    addCellField(stream, "conductivity", [](const Point&) { return 0.026; });
    auto wall = boxSide("wall", box, 1, false);
    ASSERT_TRUE(writeCase({stream, wall}, folder / "duct.vtm"));
    openCase("duct.vtm");
    key(Qt::Key_C);
    key(Qt::Key_4);
    fromMenu({"Line where a section meets a boundary", "Section A on", "wall"});
    choose("gaugeQuantity", "film coefficient");
    ++actions;
    auto* reference = find<QComboBox>("gaugeReference");
    ASSERT_TRUE(reference->isVisible());
    fill(reference->lineEdit(), "20");
    ASSERT_EQ(find<ChartPanel>("chartPanel")->chart().curves.size(), 1U)
        << find<QLabel>("gaugeReading")->text().toStdString();
    ++actions; // chart, Reference curves, Add
    emit find<QMenu>("chartSettings")->aboutToShow();
    find<QMenu>("chartReferences")->actions().last()->trigger();
    QApplication::processEvents();
    ++actions;
    auto* fluid = find<QComboBox>("referenceFluid");
    fluid->setCurrentIndex(1);
    emit fluid->activated(1);
    ++actions;
    QTest::keyClicks(find<QLineEdit>("referenceSpeed"), "2 m/s");
    press(find<QPushButton>("referenceTake"));
    EXPECT_EQ(find<ChartPanel>("chartPanel")->chart().curves.size(), 2U);
    EXPECT_EQ(actions, stepsOf("Pipe flow"));
    EXPECT_LE(actions, 10);
}

TEST_F(WalkTest, ThermalBridge) {
    const auto model = rig::modelFromText(
        R"json({"rig": 1, "grid": {"x": {"spacing": 0.05}, "y": {"spacing": 0.05}, "z": {"spacing": 1}},
        "materials": {"brick": {"conductivity": 0.5}},
        "boxes": [{"part": "wall", "material": "brick", "from": [0, 0, 0], "to": [1.8, 0.3, 1]}, {"part": "wall",
          "material": "brick", "from": [0, 0.3, 0], "to": [0.3, 1.8, 1]}],
        "environments": [{"boundary": "outside", "temperature": "-5 degC", "surface_resistance": 0.04,
          "faces": [{"side": "-x"}, {"side": "-y"}]},
                         {"boundary": "room", "temperature": "20 degC", "surface_resistance": 0.13,
                           "faces": [{"side": "+x", "to": [0.31, 9, 9]}, {"side": "+y", "to": [9, 0.31, 9]}]}]})json",
        "corner");
    ASSERT_TRUE(model) << model.error().text();
    NoProgress progress;
    const auto grid = rig::makeGrid(*model);
    const auto solution = rig::solve(*model, *grid, progress);
    ASSERT_TRUE(solution);
    ASSERT_TRUE(writeCase(rig::toBlocks(*model, *grid, *solution), folder / "corner.vtm"));
    openCase("corner.vtm");
    key(Qt::Key_4);
    fromMenu({"Transmittance", "Psi of a linear thermal bridge"});
    fromMenu({"Transmittance", "Temperature factor fRsi"});
    EXPECT_LT(cell(gauges(), 0, "Value").toDouble(), 0) << "external dimensions";
    EXPECT_GT(cell(gauges(), 1, "Value").toDouble(), 0.5);
    key(Qt::Key_5);
    press(button("addLimit"));
    choose("limitTarget", "gauge psi");
    typeInto("limitMax", "0.1");
    EXPECT_EQ(cell(limits(), 0, "Verdict"), "within");
    EXPECT_EQ(actions, stepsOf("A thermal bridge"));
    EXPECT_LE(actions, 8);
}
