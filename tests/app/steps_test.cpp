// Steps in the real window: scrubber dragged, keys, playing, the range over all steps, and what a broken step does.
#include "app/stepbar/step_bar.h"
#include "core/survey/survey_file.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QSlider>

using namespace pyro;
using namespace pyro::test;

namespace {

class StepsTest : public WindowTest {
protected:
    // Six steps of a bar that warms by 10 K a step; t = 0, 30, 60 ... s. At 95 degC its limit of 90 degC is passed.
    void openSteps(int broken = -1) {
        for (int i = 0; i < 6; ++i) {
            auto part = boxPart("bar", {{0.1, 0.02, 0.02}, {10, 2, 2}});
            addNodeField(part, "T [degC]", [i](const Point& at) { return 25 + 10 * i + 200 * at[0]; });
            part.time = 30.0 * i;
            ASSERT_TRUE(writeBlock(part, folder / ("warm_000" + std::to_string(i) + ".vtu")));
        }
        if (broken >= 0) { // its head is sound, its data are not
            const auto file = folder / ("warm_000" + std::to_string(broken) + ".vtu");
            const auto whole = readText(file);
            writeText(file, whole.substr(0, whole.size() - 400));
        }
        writeText(survey, R"({"pyrometer": 1, "cases": [{"name": "warming", "file": "warm_0000.vtu"}],
            "limits": [{"part": "warm", "max": "90 degC"}], "view": {"stage": "Field"}})");
        openSurvey();
    }
    StepBar* bar() { return find<StepBar>("stepBar"); }
    QSlider* scrubber() { return find<QSlider>("stepScrubber"); }
    QString label() { return find<QLabel>("stepLabel")->text(); }
    double hottest() { return window->session().activeCase()->readings->parts.at(0).max->kelvin - 273.15; }
    std::string verdict() { return find<QLabel>("verdictSummary")->text().toStdString(); }
};

} // namespace

TEST_F(StepsTest, OpensAtTheLastStepAndSaysWhen) {
    openSteps();
    EXPECT_EQ(label(), "t = 150 s, step 6 of 6");
    EXPECT_TRUE(scrubber()->isVisible());
    EXPECT_EQ(scrubber()->maximum(), 5);
    EXPECT_EQ(scrubber()->value(), 5);
    EXPECT_NEAR(hottest(), 95, 1e-4);
    EXPECT_EQ(verdict(), "1 over");
    EXPECT_FALSE(button("stepOnButton")->isEnabled());
}

TEST_F(StepsTest, AlternatelyBackAndOnByKeysAndButtons) {
    openSteps();
    type(Qt::Key_Comma);
    settle();
    EXPECT_EQ(label(), "t = 120 s, step 5 of 6");
    EXPECT_NEAR(hottest(), 85, 1e-4);
    EXPECT_EQ(verdict(), "1 within");
    click(button("stepBackButton"));
    settle();
    EXPECT_NEAR(hottest(), 75, 1e-4);
    type(Qt::Key_Period);
    settle();
    EXPECT_NEAR(hottest(), 85, 1e-4);
    type(Qt::Key_Home);
    settle();
    EXPECT_EQ(label(), "t = 0 s, step 1 of 6");
    EXPECT_FALSE(button("stepBackButton")->isEnabled());
    type(Qt::Key_Comma); // there is none before the first
    settle();
    EXPECT_EQ(label(), "t = 0 s, step 1 of 6");
    type(Qt::Key_End);
    settle();
    EXPECT_NEAR(hottest(), 95, 1e-4);
    EXPECT_FALSE(window->session().hasUnsavedChanges()) << "looking at another step is no change of the survey";
}

TEST_F(StepsTest, TheScrubberIsDragged) {
    openSteps();
    auto* slider = scrubber();
    const auto at = [&](double share) {
        return QPoint(static_cast<int>(8 + share * (slider->width() - 16)), slider->height() / 2);
    };
    QTest::mousePress(slider, Qt::LeftButton, {}, at(1));
    for (const double share : {0.8, 0.6, 0.4}) {
        QMouseEvent move(QEvent::MouseMove, at(share), slider->mapToGlobal(at(share)), Qt::LeftButton, Qt::LeftButton,
                         {});
        QApplication::sendEvent(slider, &move);
    }
    QTest::mouseRelease(slider, Qt::LeftButton, {}, at(0.4));
    settle();
    EXPECT_EQ(slider->value(), 2);
    EXPECT_EQ(label(), "t = 60 s, step 3 of 6");
    EXPECT_NEAR(hottest(), 65, 1e-4) << "however many steps were passed, the last one asked for is shown";
    const auto picture = window->session().activeCase()->picture;
    EXPECT_NEAR(picture->max, 65 + 273.15, 1e-4);
}

TEST_F(StepsTest, StepsOfOneMeshAreDrawnOnOneSurface) {
    openSteps();
    const auto surfaces = window->session().activeCase()->picture->surfaces;
    type(Qt::Key_C);
    settle();
    const double mean = *window->session().sections().at(0).picture->mean;
    type(Qt::Key_Comma);
    settle();
    EXPECT_EQ(window->session().activeCase()->picture->surfaces, surfaces);
    ASSERT_TRUE(window->session().sections().at(0).picture);
    EXPECT_NEAR(*window->session().sections()[0].picture->mean, mean - 10, 1e-3)
        << "the section is read again on the step";
}

TEST_F(StepsTest, APinnedReadingStaysWithItsPlace) {
    openSteps();
    auto& viewport = window->viewport();
    type(Qt::Key_Z);
    type(Qt::Key_N); // nothing under the cursor yet
    EXPECT_TRUE(window->message().contains("nothing under the cursor"));
    const auto at = viewport.pixelOf({0.045, 0.01, 0.02}).toPoint();
    QTest::mouseMove(&viewport, at - QPoint(3, 0));
    QTest::mouseMove(&viewport, at);
    ASSERT_TRUE(QTest::qWaitFor([&] { return viewport.placeAtCursor().has_value(); }, 5000));
    type(Qt::Key_N);
    settle();
    ASSERT_EQ(window->session().labels().size(), 1U);
    const auto label = window->session().labels()[0];
    ASSERT_TRUE(label.value);
    EXPECT_NEAR(*label.value - 273.15, 75 + 200 * label.at[0], 0.01) << "equal to the stored field at its place";
    EXPECT_NEAR(label.at[0], 0.045, 1e-3);
    type(Qt::Key_Home);
    settle();
    ASSERT_EQ(window->session().labels().size(), 1U);
    EXPECT_EQ(window->session().labels()[0].at, label.at);
    EXPECT_NEAR(*window->session().labels()[0].value, *label.value - 50, 1e-3) << "read again on the first step";
    trigger("save");
    trigger("newSurvey");
    EXPECT_TRUE(window->session().labels().empty());
    openSurvey();
    ASSERT_EQ(window->session().labels().size(), 1U);
    EXPECT_NEAR(*window->session().labels()[0].value, *label.value - 50, 1e-3);
    trigger("unpinLabel");
    EXPECT_TRUE(window->session().view().field.labels.empty());
    trigger("undo");
    EXPECT_EQ(window->session().view().field.labels.size(), 1U);
}

TEST_F(StepsTest, PlaysFromTheStartAndStopsAtTheEnd) {
    openSteps();
    bar()->setSpeed(50);
    bar()->setLooping(false);
    std::set<int> seen;
    QObject::connect(&window->session(), &Session::changed,
                     [&](Changes) { seen.insert(window->session().activeCase()->step); });
    type(Qt::Key_Space);
    EXPECT_TRUE(bar()->isPlaying());
    EXPECT_EQ(button("playButton")->text(), "Pause");
    ASSERT_TRUE(QTest::qWaitFor([&] { return !bar()->isPlaying(); }, 20000));
    settle();
    EXPECT_EQ(seen.size(), 6U) << "no step is left out";
    EXPECT_NEAR(hottest(), 95, 1e-4);
    EXPECT_EQ(button("playButton")->text(), "Play");
}

TEST_F(StepsTest, PlaysAroundUntilItIsPaused) {
    openSteps();
    bar()->setSpeed(50);
    type(Qt::Key_Space);
    int starts = 0;
    int before = -1;
    QObject::connect(&window->session(), &Session::changed, [&](Changes) {
        const int now = window->session().activeCase()->step;
        starts += now == 0 && before != 0 ? 1 : 0;
        before = now;
    });
    ASSERT_TRUE(QTest::qWaitFor([&] { return starts >= 2; }, 30000));
    type(Qt::Key_Space);
    EXPECT_FALSE(bar()->isPlaying());
    settle();
    const int stopped = window->session().activeCase()->step;
    QTest::qWait(120); // nothing is to happen: there is no condition to wait for
    EXPECT_EQ(window->session().activeCase()->step, stopped);
}

TEST_F(StepsTest, TheRangeIsThatOfTheStepOrOfAllSteps) {
    openSteps();
    click(button("commonRange")); // off: each step has its own
    auto range = *shownRange(window->session().seen());
    EXPECT_NEAR(range[0] - 273.15, 75, 1e-4);
    click(button("fitAllSteps"));
    settle();
    range = *shownRange(window->session().seen());
    EXPECT_NEAR(range[0] - 273.15, 25, 1e-4);
    EXPECT_NEAR(range[1] - 273.15, 95, 1e-4);
    type(Qt::Key_Home);
    settle();
    EXPECT_EQ(*shownRange(window->session().seen()), range) << "the range stays while the steps go by";
    trigger("undo");
    settle();
    EXPECT_NEAR((*shownRange(window->session().seen()))[1] - 273.15, 45, 1e-4);
    EXPECT_EQ(window->session().activeCase()->step, 0) << "undoing the range does not jump to another step";
}

TEST_F(StepsTest, TheStepIsSavedAndComesBack) {
    openSteps();
    type(Qt::Key_Home);
    type(Qt::Key_Period);
    settle();
    trigger("save");
    EXPECT_EQ(viewOf(*loadSurvey(survey)).step, 1);
    trigger("newSurvey");
    EXPECT_FALSE(scrubber()->isVisible());
    openSurvey();
    EXPECT_EQ(label(), "t = 30 s, step 2 of 6");
    EXPECT_NEAR(hottest(), 55, 1e-4);
}

// Steps of other meshes: nothing of one may be read with the numbers of another.
TEST_F(StepsTest, RemeshedStepsAreReadEachOnItsOwn) {
    for (int i = 0; i < 4; ++i) {
        std::vector<BlockData> blocks{
            boxPart("bar", {{0.1, 0.02, 0.02}, {4 + 5 * i, 2, 2}}, i % 2 == 0 ? Cells::Hexahedra : Cells::Tetrahedra)};
        if (i == 1) // and one with another part before it
            blocks.insert(blocks.begin(), boxPart("extra", {{0.02, 0.02, 0.02}, {1, 1, 1}, {0.2, 0, 0}}));
        for (auto& block : blocks) {
            addNodeField(block, "T [degC]", [i](const Point& at) { return 20 + 10 * i + 100 * at[0]; });
            block.time = 10.0 * i;
        }
        ASSERT_TRUE(writeCase(blocks, folder / ("mesh_000" + std::to_string(i) + ".vtm")));
    }
    writeText(survey,
              R"({"pyrometer": 1, "cases": [{"name": "mesh", "file": "mesh_0000.vtm"}], "limits": [{"part": "bar",
          "max": "90 degC"}],
        "view": {"stage": "Field", "labels": [{"at": [0.05, 0.01, 0.01]}], "isotherms": {"shown": true},
          "paths": {"shown": true}}})");
    openSurvey();
    type(Qt::Key_C);
    settle();
    for (const int step : {2, 1, 0, 3, 1}) {
        SCOPED_TRACE(step);
        window->session().setStep(step);
        window->session().selection().selectPart("bar"); // while it is on its way
        settle();
        const auto* state = window->session().activeCase();
        EXPECT_EQ(state->opened->solved->parts.size(), step == 1 ? 2U : 1U);
        ASSERT_TRUE(state->picture && state->readings);
        ASSERT_EQ(window->session().labels().size(), 1U);
        EXPECT_NEAR(*window->session().labels()[0].value - 273.15, 20 + 10 * step + 5, 1e-3);
        ASSERT_TRUE(window->session().sections().at(0).picture);
        EXPECT_NEAR(window->session().sections()[0].picture->area, step == 1 ? 2.4e-3 : 2e-3, 1e-7);
        ASSERT_TRUE(window->session().extras().paths());
        if (step != 1) { // there it is hottest in the corner of the other part, a single cell
            EXPECT_GT(window->session().extras().paths()->lines(), 0U);
        }
    }
    for (const int step : {0, 3, 1, 2, 0}) // quickly, without waiting
        window->session().setStep(step);
    settle();
    EXPECT_NEAR(*window->session().labels().at(0).value - 273.15, 25, 1e-3);
}

TEST_F(StepsTest, ABrokenStepIsToldAndTheLastOneStays) {
    openSteps(3);
    type(Qt::Key_Comma); // step 5 of those that are left
    settle();
    const auto before = label();
    const int shown = window->messagesShown();
    window->session().setStep(3);
    settle();
    EXPECT_EQ(window->messagesShown(), shown + 1);
    EXPECT_TRUE(window->message().contains("warm_0003")) << window->message().toStdString();
    EXPECT_EQ(label(), before) << "what was on display stays";
    EXPECT_EQ(scrubber()->value(), 4);
    window->session().setStep(2);
    settle();
    EXPECT_NEAR(hottest(), 65, 1e-4);
}

TEST_F(StepsTest, OneStepHasNoScrubber) {
    openSurvey(); // the pair of the fixture: one file
    EXPECT_FALSE(scrubber()->isVisible());
    EXPECT_FALSE(button("playButton")->isVisible());
    EXPECT_EQ(label(), "steady");
    const auto left = window->session().view();
    for (const auto key : {Qt::Key_Comma, Qt::Key_Period, Qt::Key_Space, Qt::Key_Home, Qt::Key_End})
        type(key);
    settle();
    EXPECT_EQ(window->session().view(), left);
    EXPECT_FALSE(bar()->isPlaying());
    for (auto* one : window->findChildren<QPushButton*>())
        if (one->objectName() == "fitAllSteps") {
            EXPECT_FALSE(one->isVisible());
        }
}
