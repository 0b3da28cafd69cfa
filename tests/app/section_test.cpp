// Sections and isotherms in the real window: placed, dragged, tilted, typed, undone.
#include "app/stages/field/field_sheet.h"
#include "tests/app/window_fixture.h"

#include <QMenu>
#include <QSlider>

using namespace pyro;
using namespace pyro::test;

namespace {

class SectionTest : public WindowTest {
protected:
    void openWithSection() {
        openSurvey();
        type(Qt::Key_C);
        settle();
        ASSERT_EQ(window->session().sections().size(), 1U);
        ASSERT_TRUE(window->session().sections()[0].picture);
    }
    const SectionView& section() {
        m_view = window->session().view();
        return m_view.field.sections.at(0);
    }
    const SectionPicture& cut() { return *window->session().sections().at(0).picture; }
    void dragInViewport(const QPointF& from, const QPointF& by) {
        auto& viewport = window->viewport();
        QTest::mousePress(&viewport, Qt::LeftButton, {}, from.toPoint());
        for (const double share : {0.3, 0.7, 1.0}) {
            const QPointF at = from + share * by;
            QMouseEvent move(QEvent::MouseMove, at, viewport.mapToGlobal(at), Qt::LeftButton, Qt::LeftButton, {});
            QApplication::sendEvent(&viewport, &move);
        }
        QTest::mouseRelease(&viewport, Qt::LeftButton, {}, (from + by).toPoint());
    }
    ViewState m_view;
};

} // namespace

// The core of the fixture is hottest at its upper side, z = 30 mm; the plate is 100 x 100 x 10 mm.
TEST_F(SectionTest, IsPlacedThroughTheHottestPlaceAndRead) {
    openWithSection();
    EXPECT_TRUE(section().opened);
    EXPECT_NEAR(section().plane.origin[2], 0.03, 1e-9);
    const double y = section().plane.origin[1]; // 40 to 60 mm: through the core
    EXPECT_NEAR(cut().area, 0.1 * 0.01 + 0.02 * 0.02, 1e-9) << "at y = " << y;
    // Means of linear fields: the plate 30 + 200 x at its middle, the core 90 + 1000 (z - 0.01) at its middle.
    EXPECT_NEAR(*cut().mean, 273.15 + (0.001 * 40 + 0.0004 * 100) / 0.0014, 1e-6);
    auto* table = find<QTableView>("readingsTable");
    EXPECT_EQ(cell(table, 0, "Type"), "section");
    EXPECT_EQ(cell(table, 0, "Highest \u00b0C"), "110.0");
    trigger("undo");
    EXPECT_TRUE(window->session().view().field.sections.empty());
    EXPECT_EQ(cell(table, 0, "Type"), "part");
}

TEST_F(SectionTest, IsDraggedAndTiltedInTheViewport) {
    openWithSection();
    const auto before = section().plane;
    const auto knob = window->viewport().handle().knob();
    const auto tip = window->viewport().handle().tip();
    ASSERT_TRUE(knob && tip);
    const auto picture = window->session().sections()[0].picture;
    dragInViewport(*knob, 0.4 * (*tip - *knob));
    const auto moved = section().plane;
    EXPECT_EQ(moved.normal, before.normal);
    EXPECT_LT(moved.origin[1], before.origin[1]); // the normal points along -y
    EXPECT_NEAR(moved.origin[0], before.origin[0], 1e-12);
    EXPECT_NE(window->session().sections()[0].picture, picture) << "the picture follows the drag";
    trigger("undo"); // one drag, one step
    EXPECT_EQ(section().plane.origin, before.origin);
    dragInViewport(*window->viewport().handle().tip(), {0, -40});
    EXPECT_NE(section().plane.normal, before.normal);
    EXPECT_NEAR(distanceTo(section().plane, window->session().view().field.sections[0].plane.origin), 0, 1e-12);
    EXPECT_GT(cut().area, 0.0014) << "a tilted section of the plate is larger";
}

TEST_F(SectionTest, HandlesShowOnlyWhileEditing) {
    openWithSection();
    EXPECT_TRUE(window->viewport().handle().knob());
    click(find<SectionCard>("card"), QPoint(20, 12));
    EXPECT_FALSE(window->viewport().handle().knob());
    click(find<SectionCard>("card"), QPoint(20, 12));
    EXPECT_TRUE(window->viewport().handle().knob());
    type(Qt::Key_5); // the stage Limits
    EXPECT_FALSE(window->viewport().handle().knob());
}

TEST_F(SectionTest, IsTypedSlidNudgedAndTurned) {
    openWithSection();
    auto* position = find<QDoubleSpinBox>("sectionPosition");
    position->setValue(25);
    EXPECT_NEAR(section().plane.origin[1], 0.025, 1e-12);
    EXPECT_NEAR(cut().area, 0.001, 1e-9); // beside the core
    find<QSlider>("sectionSlider")->setValue(500);
    EXPECT_NEAR(section().plane.origin[1], 0.05, 1e-4);
    const auto before = section().plane.origin[1];
    type(Qt::Key_Up, Qt::ControlModifier);
    EXPECT_LT(section().plane.origin[1], before);
    click(button("sectionAxisZ"));
    EXPECT_EQ(section().plane.normal, (Point{0, 0, 1}));
    auto* normal = find<QLineEdit>("sectionNormal");
    const auto typed = [&](const QString& text) {
        normal->setFocus();
        normal->selectAll();
        QTest::keyClicks(normal, text);
        QTest::keyClick(normal, Qt::Key_Return);
    };
    typed("3 0 4");
    EXPECT_NEAR(section().plane.normal[0], 0.6, 1e-12);
    EXPECT_EQ(window->messagesShown(), 0);
    typed("0 0 0"); // a plane without normal: said so, nothing changed
    EXPECT_EQ(window->messagesShown(), 1);
    EXPECT_NEAR(section().plane.normal[0], 0.6, 1e-12);
    typed("up");
    EXPECT_EQ(window->messagesShown(), 2);
    click(button("flipSection"));
    EXPECT_NEAR(section().plane.normal[0], -0.6, 1e-12);
}

TEST_F(SectionTest, MissesTheModelAndSaysSo) {
    openWithSection();
    find<QDoubleSpinBox>("sectionPosition")->setValue(150);
    EXPECT_TRUE(cut().empty());
    EXPECT_TRUE(window->message().isEmpty());
    bool told = false;
    for (const auto* label : find<SectionCard>("card")->findChildren<QLabel*>())
        told = told || label->text().contains("misses");
    EXPECT_TRUE(told);
    EXPECT_EQ(cell(find<QTableView>("readingsTable"), 0, "Mean \u00b0C"), "\u2013") << "nothing to tell";
}

TEST_F(SectionTest, ExemptPartsAreNeitherCutNorShown) {
    openWithSection();
    auto view = window->session().view();
    view.field.sections[0].exempt = {"cold plate"};
    window->session().editView("test", view);
    EXPECT_NEAR(cut().area, 0.0004, 1e-9);
    // What is cut away is not read either: from the front the cursor meets the cut, not the side that is gone.
    view.field.sections[0].exempt.clear();
    window->session().editView("test", view);
    type(Qt::Key_Y, Qt::ShiftModifier); // from -y
    auto& viewport = window->viewport();
    const auto at = viewport.pixelOf({0.02, 0, 0.005}).toPoint();
    QTest::mouseMove(&viewport, at - QPoint(3, 0));
    QTest::mouseMove(&viewport, at);
    const auto y = section().plane.origin[1] * 1e3;
    auto* reading = find<QLabel>("cursorReading");
    ASSERT_TRUE(QTest::qWaitFor([&] { return reading->text().contains(QString("y %1").arg(y, 0, 'f', 1)); }, 5000))
        << reading->text().toStdString();
    EXPECT_TRUE(reading->text().contains("34.0 \u00b0C")) << reading->text().toStdString(); // 30 + 200 x
}

TEST_F(SectionTest, IsothermsStandAtRoundValuesOfTheUnit) {
    openWithSection();
    type(Qt::Key_I);
    const auto rule = isothermRule(window->session().seen());
    ASSERT_TRUE(rule);
    EXPECT_NEAR(rule->origin, 273.15, 1e-9);
    EXPECT_NEAR(rule->spacing, 5, 1e-12); // 30 to 110 degC
    const auto& lines = window->viewport().isotherms();
    ASSERT_FALSE(lines.empty());
    for (const auto& line : lines)
        EXPECT_NEAR(std::remainder(line.value - 273.15, 5), 0, 1e-9);
    trigger("unitdegF");
    EXPECT_NEAR(isothermRule(window->session().seen())->spacing, 10 / 1.8, 1e-9);
    type(Qt::Key_I);
    EXPECT_TRUE(window->viewport().isotherms().empty());
}

TEST_F(SectionTest, IsSavedAndComesBack) {
    openWithSection();
    type(Qt::Key_I);
    const auto left = window->session().view().field;
    trigger("save");
    trigger("newSurvey");
    EXPECT_TRUE(window->session().sections().empty());
    openSurvey();
    EXPECT_EQ(window->session().view().field, left);
    ASSERT_TRUE(window->session().sections().at(0).picture);
    EXPECT_FALSE(window->viewport().isotherms().empty());
}
