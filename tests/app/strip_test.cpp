// The heat strip, by mouse: its ends, its whole range, what it fits to, and what it says of the rest.
#include "app/heatstrip/heat_strip.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QComboBox>

using namespace pyro;
using namespace pyro::test;

namespace {

class StripTest : public WindowTest {
protected:
    HeatStrip* strip() { return find<HeatStrip>("heatStrip"); }
    QPoint at(double celsius) {
        return {static_cast<int>(std::lround(strip()->xOf(273.15 + celsius))),
                static_cast<int>(strip()->bar().center().y())};
    }
    void drag(QPoint from, QPoint to) {
        QTest::mousePress(strip(), Qt::LeftButton, {}, from);
        for (const auto& here : {from + (to - from) / 3, to}) {
            QMouseEvent move(QEvent::MouseMove, here, strip()->mapToGlobal(here), Qt::LeftButton, Qt::LeftButton, {});
            QApplication::sendEvent(strip(), &move);
        }
        QTest::mouseRelease(strip(), Qt::LeftButton, {}, to);
    }
    std::array<double, 2> range() { // degC
        const auto kelvin = *shownRange(window->session().seen());
        return {kelvin[0] - 273.15, kelvin[1] - 273.15};
    }
};

constexpr double plateVolume = 0.1 * 0.1 * 0.01;
constexpr double coreVolume = 0.02 * 0.02 * 0.02;

} // namespace

TEST_F(StripTest, TheLowEndIsDraggedAndTheSharesAreExact) {
    openSurvey();
    drag(at(30), at(41)); // between two columns of nodes
    EXPECT_NEAR(range()[0], 41, 0.3);
    EXPECT_NEAR(range()[1], 110, 1e-6);
    EXPECT_NEAR(strip()->shareBelow(), 0.55 * plateVolume / (plateVolume + coreVolume), 0.02);
    EXPECT_EQ(strip()->shareAbove(), 0);
}

TEST_F(StripTest, TheWholeRangeIsMovedWithoutChangingItsWidth) {
    openSurvey();
    drag(at(30), at(50));
    drag(at(110), at(90));
    const auto before = range();
    drag(at(70), at(80));
    EXPECT_NEAR(range()[0] - before[0], 10, 0.5);
    EXPECT_NEAR(range()[1] - range()[0], before[1] - before[0], 1e-9);
    drag(at(80), at(80) + QPoint(4000, 0)); // it stops at the end of the axis
    EXPECT_NEAR(range()[1], 110, 1e-6);
    EXPECT_NEAR(range()[1] - range()[0], before[1] - before[0], 1e-9);
}

TEST_F(StripTest, TheEndsNeverCross) {
    openSurvey();
    drag(at(30), at(30) + QPoint(4000, 0));
    EXPECT_LT(range()[0], range()[1]);
    EXPECT_NEAR(range()[1], 110, 1e-6);
    EXPECT_GT(range()[0], 105);
    trigger("undo");
    drag(at(110), at(110) - QPoint(4000, 0));
    EXPECT_LT(range()[0], range()[1]);
    EXPECT_NEAR(range()[0], 30, 1e-6);
}

TEST_F(StripTest, APressBesideTheBarChangesNothing) {
    openSurvey();
    drag(at(30) - QPoint(0, 60), at(60) - QPoint(0, 60));
    EXPECT_FALSE(window->session().view().range);
    EXPECT_FALSE(window->session().hasUnsavedChanges());
    QTest::mouseMove(strip(), at(70)); // only moving over it neither
    EXPECT_FALSE(window->session().view().range);
}

TEST_F(StripTest, TheCursorTellsWhatCanBeDragged) {
    openSurvey();
    const auto over = [&](QPoint place) {
        QMouseEvent move(QEvent::MouseMove, place, strip()->mapToGlobal(place), Qt::NoButton, Qt::NoButton, {});
        QApplication::sendEvent(strip(), &move);
        return strip()->cursor().shape();
    };
    EXPECT_EQ(over(at(30)), Qt::SizeHorCursor);
    EXPECT_EQ(over(at(110)), Qt::SizeHorCursor);
    EXPECT_EQ(over(at(70)), Qt::OpenHandCursor);
    EXPECT_EQ(over(at(70) - QPoint(0, 70)), Qt::ArrowCursor);
}

TEST_F(StripTest, ValuesAndPixelsAreTheSameAxis) {
    openSurvey();
    for (const double celsius : {30.0, 47.5, 80.0, 110.0})
        EXPECT_NEAR(strip()->valueAt(strip()->xOf(273.15 + celsius)), 273.15 + celsius, 1e-9);
    window->resize(1500, 900);
    EXPECT_TRUE(QTest::qWaitFor([&] { return std::abs(strip()->valueAt(strip()->bar().right()) - 383.15) < 1e-6; }))
        << "the axis follows the window's width";
}

TEST_F(StripTest, OnlyWhatIsVisibleCounts) {
    openSurvey();
    window->session().selection().selectPart("hot core");
    click(button("fitPart"));
    EXPECT_NEAR(range()[0], 90, 1e-6);
    EXPECT_NEAR(range()[1], 110, 1e-6);
    EXPECT_NEAR(strip()->shareBelow(), plateVolume / (plateVolume + coreVolume), 1e-3);
    auto view = window->session().view();
    view.hidden = {"cold plate"};
    window->session().editView("test", view);
    EXPECT_EQ(strip()->shareBelow(), 0) << "the plate is hidden";
    click(button("fitHottestTenth"));
    EXPECT_GT(range()[0], 105) << "the hottest tenth of the core alone: its top layer of nodes holds an eighth";
    EXPECT_NEAR(range()[1], 110, 1e-3);
}

TEST_F(StripTest, ThereIsNothingToFitWithoutAPartOrACase) {
    EXPECT_FALSE(button("fitVisible")->isEnabled());
    EXPECT_FALSE(button("fitHottestTenth")->isEnabled());
    strip()->fitVisible(); // the finder can ask for them all the same
    strip()->fitPart();
    strip()->fitHottestTenth();
    EXPECT_FALSE(window->session().view().range);
    openSurvey();
    EXPECT_TRUE(button("fitVisible")->isEnabled());
    EXPECT_FALSE(button("fitPart")->isEnabled());
    window->session().selection().selectPart("hot core");
    EXPECT_TRUE(button("fitPart")->isEnabled());
}

TEST_F(StripTest, AQuantityAboveZeroCanBeSeenByItsLogarithm) {
    const BoxMesh box{{0.1, 0.1, 0.1}, {8, 2, 2}};
    auto part = boxPart("bar", box);
    addNodeField(part, "temperature", [](const Point& place) { return 300 + place[0]; });
    addNodeField(part, "pressure", [](const Point& place) { return std::pow(10.0, 1 + 30 * place[0]); }); // 10 to 1e4
    ASSERT_TRUE(writeBlock(part, folder / "bar.vtu"));
    writeText(survey, R"({"pyrometer": 1, "cases": [{"name": "bar", "file": "bar.vtu"}],
        "view": {"stage": "Field", "quantity": "pressure"}})");
    openSurvey();
    const auto middle = strip()->bar().center().x();
    EXPECT_NEAR(strip()->valueAt(middle), 0.5 * (10 + 1e4), 1);
    auto view = window->session().view();
    view.field.strip.logarithmic = true;
    window->session().editView("test", view);
    EXPECT_TRUE(isLogarithmic(window->session().seen()));
    EXPECT_NEAR(strip()->valueAt(middle), std::sqrt(10 * 1e4), 1e-6);
    drag({static_cast<int>(std::lround(strip()->xOf(1e4))), static_cast<int>(strip()->bar().center().y())},
         {static_cast<int>(std::lround(strip()->xOf(1e3))), static_cast<int>(strip()->bar().center().y())});
    EXPECT_NEAR((*shownRange(window->session().seen()))[1], 1e3, 20);
    view = window->session().view();
    view.quantity = "temperature"; // a logarithm of degrees means nothing
    view.range.reset();
    window->session().editView("test", view);
    settle();
    EXPECT_FALSE(isLogarithmic(window->session().seen()));
}

TEST_F(StripTest, AConstantFieldIsShownAndHasARange) {
    const BoxMesh box{{0.1, 0.1, 0.1}, {2, 2, 2}};
    auto part = boxPart("block", box);
    addNodeField(part, "temperature", [](const Point&) { return 300.0; });
    ASSERT_TRUE(writeBlock(part, folder / "flat.vtu"));
    writeText(survey,
              R"({"pyrometer": 1, "cases": [{"name": "flat", "file": "flat.vtu"}], "view": {"stage": "Field"}})");
    openSurvey();
    const auto shown = *shownRange(window->session().seen());
    EXPECT_GT(shown[1], shown[0]);
    EXPECT_NEAR(shown[0], 300, 1e-9);
    EXPECT_EQ(strip()->shareBelow(), 0);
    click(button("fitHottestTenth"));
    EXPECT_TRUE(window->message().isEmpty());
    EXPECT_FALSE(strip()->grab().isNull());
}
