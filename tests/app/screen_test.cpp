// The window keeps its shape: no text widens it, no message moves it, and neither the wheel nor a forgotten focus
// changes a value.
#include "app/charts/chart_view.h"
#include "app/ledger/ledger_splitter.h"
#include "tests/app/window_fixture.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QTableView>
#include <QWheelEvent>

using namespace pyro;
using namespace pyro::test;

namespace {

class ScreenTest : public WindowTest {
protected:
    void turnWheel(QWidget* over) {
        const QPoint at(over->width() / 2, over->height() / 2);
        QWheelEvent event(at, over->mapToGlobal(at), {}, {0, -240}, Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase,
                          false);
        QApplication::sendEvent(over, &event);
    }
};

} // namespace

TEST_F(ScreenTest, PointingAnywhereLeavesTheWidth) {
    auto text = Json::parse(readText(survey));
    for (int i = 0; i < 8; ++i)
        text["gauges"].push_back(
            {{"id", "a_rather_long_name_of_a_line_gauge_" + std::to_string(i)},
             {"where", {{"line", {{"from", {0.001, 0.05, 0.005}}, {"to", {0.099, 0.05, 0.001 * (i + 1)}}}}}},
             {"quantity", "temperature"}});
    text["charts"] = Json::parse(R"([{"curves": []}])");
    for (const auto& gauge : text["gauges"])
        text["charts"][0]["curves"].push_back({{"gauge", gauge["id"]}});
    writeText(survey, text.dump());
    openSurvey();
    for (const auto key : {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4, Qt::Key_5}) {
        type(key);
        settle();
        for (auto* widget : {static_cast<QWidget*>(&window->viewport()),
                             static_cast<QWidget*>(window->findChild<QWidget*>("chart"))}) {
            if (widget == nullptr || !widget->isVisible())
                continue;
            for (int x = 20; x < widget->width(); x += 60)
                for (int y = 20; y < widget->height(); y += 60)
                    QTest::mouseMove(widget, {x, y});
        }
        QTest::qWait(50);
        EXPECT_EQ(window->width(), 1280) << "stage " << key - Qt::Key_0;
    }
}

TEST_F(ScreenTest, AMessageLiesOverThePage) {
    openSurvey();
    const auto before = window->viewport().mapTo(window.get(), QPoint());
    const auto size = window->viewport().size();
    window->session().complain({ErrorCode::Syntax,
                                "something long enough to be read in more than one line of the bar that lies over the "
                                "page, as such messages often are",
                                "here", "Do something else"});
    EXPECT_TRUE(QTest::qWaitFor([&] { return !window->message().isEmpty(); }));
    EXPECT_EQ(window->viewport().mapTo(window.get(), QPoint()), before);
    EXPECT_EQ(window->viewport().size(), size);
}

TEST_F(ScreenTest, TheWheelChangesNothingInPassing) {
    openSurvey();
    type(Qt::Key_3);
    settle();
    for (auto* box : window->findChildren<QComboBox*>()) {
        if (!box->isVisible() || box->count() < 2)
            continue;
        const int before = box->currentIndex();
        turnWheel(box);
        EXPECT_EQ(box->currentIndex(), before) << box->objectName().toStdString();
    }
    EXPECT_FALSE(window->session().hasUnsavedChanges());
}

TEST_F(ScreenTest, EnterGivesTheFocusBack) {
    openSurvey();
    type(Qt::Key_5);
    auto* ambient = find<QLineEdit>("caseAmbient");
    click(ambient);
    QTest::keyClicks(ambient, "20");
    QTest::keyClick(ambient, Qt::Key_Return);
    EXPECT_TRUE(QTest::qWaitFor([&] { return !ambient->hasFocus(); }));
    QTest::keyClick(window->focusWidget() != nullptr ? window->focusWidget() : window.get(), Qt::Key_3);
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->session().view().stage == "Field"; }))
        << "the digit is for the stage";
    EXPECT_EQ(window->session().survey().cases[0].ambient->text, "20 degC");
}

TEST_F(ScreenTest, TheViewportHasHalfOfTheHeightAndTheTablesFold) {
    openSurvey();
    for (const auto key : {Qt::Key_1, Qt::Key_3, Qt::Key_4, Qt::Key_5}) {
        type(key);
        settle();
        EXPECT_GE(window->viewport().height(), 390) << "stage " << key - Qt::Key_0;
        for (auto* table : window->findChildren<QTableView*>())
            for (int column = 0; table->isVisible() && column + 1 < table->model()->columnCount(); ++column)
                EXPECT_GE(table->columnWidth(column), table->horizontalHeader()->sectionSizeHint(column))
                    << table->objectName().toStdString() << " " << column;
    }
    const int open = window->viewport().height();
    trigger("foldLedger");
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->viewport().height() > open + 100; }));
    trigger("foldLedger");
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->viewport().height() == open; }));
}
