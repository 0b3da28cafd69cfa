// Transmittances in the real window: a corner of two walls, its environments, psi with its terms, and the layers'
// calculator.
#include "app/stages/gauges/layers_dialog.h"
#include "core/survey/gauge_edit.h"
#include "rig/result.h"
#include "tests/app/window_fixture.h"

#include <QMenu>

using namespace pyro;
using namespace pyro::test;

namespace {

class EnvelopeWindowTest : public WindowTest {
protected:
    void openCorner() {
        const auto model = rig::modelFromText(
            R"json({"rig": 1, "grid": {"x": {"spacing": 0.1, "fine": 0.02}, "y": {"spacing": 0.1, "fine": 0.02},
              "z": {"spacing": 1}},
            "materials": {"brick": {"conductivity": 1}},
            "boxes": [{"part": "west wall", "material": "brick", "from": [0, 0, 0], "to": [0.3, 1.5, 0.5]},
              {"part": "south wall", "material": "brick", "from": [0.3, 0, 0], "to": [1.5, 0.3, 0.5]}],
            "environments": [{"boundary": "outside", "temperature": "-10 degC", "surface_resistance": 0.04,
              "faces": [{"side": "-x"}, {"side": "-y"}]},
                             {"boundary": "room", "temperature": "20 degC", "surface_resistance": 0.13,
                               "faces": [{"side": "+x", "to": [0.31, 9, 9]}, {"side": "+y", "to": [9, 0.31,
                               9]}]}]})json",
            "corner");
        NoProgress progress;
        const auto grid = rig::makeGrid(*model);
        const auto solution = rig::solve(*model, *grid, progress);
        ASSERT_TRUE(solution);
        ASSERT_TRUE(writeCase(rig::toBlocks(*model, *grid, *solution), folder / "corner.vtm"));
        window->open(QString::fromStdString((folder / "corner.vtm").string()));
        settle();
    }
    void offer(const QString& text) {
        for (auto* action : find<QMenu>("envelopeMenu")->actions())
            if (action->text() == text) {
                action->trigger();
                return settle();
            }
        ADD_FAILURE() << text.toStdString();
    }
    QTableView* gauges() { return find<QTableView>("gaugeTable"); }
    const Survey& survey_() { return window->session().survey(); }
};

} // namespace

TEST_F(EnvelopeWindowTest, PsiIsReadWithItsTermsAndFollowsItsDimensions) {
    openCorner();
    type(Qt::Key_4);
    offer("Psi of a linear thermal bridge");
    EXPECT_EQ(cell(gauges(), 0, "Gauge"), "psi");
    EXPECT_EQ(cell(gauges(), 0, "Unit"), "W/(m\u00b7K)");
    EXPECT_EQ(cell(gauges(), 0, "Place"), "between warm and cold");
    const double external = cell(gauges(), 0, "Value").toDouble();
    EXPECT_LT(external, 0) << "external dimensions count the corner twice";
    auto* terms = find<QTableView>("termsTable");
    ASSERT_TRUE(terms->isVisible()) << "in the place of the chart";
    ASSERT_EQ(terms->model()->rowCount(), 3);
    EXPECT_EQ(cell(terms, 0, "Term"), "L2D");
    EXPECT_TRUE(cell(terms, 1, "Origin").endsWith("(external)")) << cell(terms, 1, "Origin").toStdString();
    bool told = false;
    for (const auto* label : window->findChildren<QLabel*>())
        told = told || label->text().contains(u"element 1: south wall 300 mm 1 W/(m\u00b7K)") ||
               label->text().contains(u"element 2: south wall 300 mm 1 W/(m\u00b7K)");
    EXPECT_TRUE(told) << "the layers that were found stand in the editor";
    EXPECT_NEAR(cell(terms, 0, "Value").section(' ', 0, 0).toDouble() +
                    cell(terms, 1, "Value").section(' ', 0, 0).toDouble() +
                    cell(terms, 2, "Value").section(' ', 0, 0).toDouble(),
                external, 2e-3);
    auto* dimensions = find<QComboBox>("gaugeDimensions");
    ASSERT_TRUE(dimensions->isVisible());
    dimensions->setCurrentIndex(dimensions->findData("internal"));
    emit dimensions->activated(dimensions->currentIndex());
    settle();
    const double internal = cell(gauges(), 0, "Value").toDouble();
    EXPECT_NEAR(internal - external, 2 * 0.3 / (0.3 + 0.17), 1e-3); // a wall thickness more of either wall
    auto* sides = find<QComboBox>("gaugeSides");
    ASSERT_GE(sides->findText("room to outside"), 0);
    sides->setCurrentIndex(sides->findText("room to outside"));
    emit sides->activated(sides->currentIndex());
    settle();
    EXPECT_EQ(cell(gauges(), 0, "Place"), "room to outside");
    EXPECT_NEAR(cell(gauges(), 0, "Value").toDouble(), internal, 1e-12);
}

TEST_F(EnvelopeWindowTest, EnvironmentsAreShownAndCorrected) {
    openCorner();
    type(Qt::Key_1);
    click(button("boundariesTableTab"));
    auto* table = find<QTableView>("boundariesTable");
    const int outside = cell(table, 0, "Boundary") == "outside" ? 0 : 1;
    EXPECT_EQ(cell(table, outside, "Ambient temperature"), QString::fromUtf8("-10.0 \u00b0C"));
    EXPECT_EQ(cell(table, outside, "Surface resistance, m\u00b2\u00b7K/W"), "0.04");
    EXPECT_EQ(cell(table, outside, "Source"), "case");
    enter(table, outside, "Ambient temperature", "-12 degC");
    settle();
    EXPECT_EQ(cell(table, outside, "Ambient temperature"), QString::fromUtf8("-12.0 \u00b0C"));
    EXPECT_EQ(cell(table, outside, "Source"), "survey");
    enter(table, outside, "Ambient temperature", "cold");
    EXPECT_NE(window->message(), "");
    EXPECT_EQ(survey_().cases[0].boundaries.at("outside").temperature->text, "-12 degC");
    trigger("undo");
    settle();
    EXPECT_EQ(cell(table, outside, "Source"), "case");
}

TEST_F(EnvelopeWindowTest, LayersAreComputedAsTheyAreTyped) {
    openCorner();
    type(Qt::Key_4);
    offer("U of layers");
    EXPECT_EQ(cell(gauges(), 0, "Gauge"), "U");
    click(find<QPushButton>("gaugeLayers"));
    QApplication::processEvents();
    auto* table = find<QTableWidget>("layersTable");
    ASSERT_EQ(table->rowCount(), 1);
    table->item(0, 0)->setText("brick of the house");
    table->item(0, 1)->setText("300 mm");
    table->item(0, 2)->setText("1 W/(m.K)");
    // 1 / 0.47
    EXPECT_TRUE(find<QLabel>("layersResult")->text().contains("U = 2.1277"))
        << find<QLabel>("layersResult")->text().toStdString();
    settle();
    EXPECT_EQ(cell(gauges(), 0, "Value"), "2.1277");
    click(find<QPushButton>("layerAdd"));
    EXPECT_EQ(table->item(1, 2)->text(), "0.035") << "the library's mineral wool";
    settle();
    EXPECT_EQ(cell(gauges(), 0, "Value"), "0.30056"); // 1 / (0.47 + 0.1 / 0.035)
    EXPECT_TRUE(find<QLabel>("layersMoisture")->text().contains("it stays dry"));
    table->item(1, 1)->setText("50"); // over 100 mm
    EXPECT_EQ(table->item(1, 1)->text(), "50 mm");
    settle();
    EXPECT_EQ(cell(gauges(), 0, "Value"), "0.52671") << "1 / (0.47 + 0.05 / 0.035)";
    table->item(1, 1)->setText("0.1 m");
    table->item(1, 1)->setText("0.1"); // over metres
    EXPECT_EQ(table->item(1, 1)->text(), "0.1 m");
    settle();
    EXPECT_EQ(cell(gauges(), 0, "Value"), "0.30056");
    table->item(1, 1)->setText("0 mm");
    EXPECT_TRUE(find<QLabel>("layersResult")->text().contains("layer 2 (mineral wool) has the thickness 0 m"))
        << find<QLabel>("layersResult")->text().toStdString();
    settle();
    EXPECT_EQ(cell(gauges(), 0, "Value"), "not available");
    trigger("undo");
    settle();
    EXPECT_EQ(cell(gauges(), 0, "Value"), "0.30056");
}
