// The session without its views: undo, long work, cases that come and go. And the finder's matching.
#include "app/finder/finder.h"
#include "app/session/session.h"
#include "core/survey/edit.h"
#include "core/survey/survey_file.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <QLineEdit>
#include <QListWidget>
#include <QTest>
#include <gtest/gtest.h>
#include <thread>

using namespace pyro;
using namespace pyro::test;

namespace {

class SessionTest : public testing::Test {
protected:
    void SetUp() override {
        QObject::connect(&session, &Session::problem, [this](const Error& error) { problems.push_back(error); });
        QObject::connect(&session, &Session::changed, [this](Changes what) { heard |= what; });
        for (const auto& [name, hottest] : {std::pair{"warm", 60.0}, {"hot", 90.0}}) {
            auto part = boxPart("block", {{0.1, 0.1, 0.1}, {3, 3, 3}});
            addNodeField(part, "T [degC]", [top = hottest](const Point& at) { return top - 100 * at[2]; });
            ASSERT_TRUE(writeBlock(part, folder / (std::string(name) + ".vtu")));
        }
        writeText(folder / "s.survey.json",
                  R"({"pyrometer": 1, "title": "S", "cases": [{"name": "warm", "file": "warm.vtu"}],
            "limits": [{"part": "warm", "max": "70 degC"}], "view": {"stage": "Field"}})");
    }
    void settle() {
        ASSERT_TRUE(QTest::qWaitFor([&] { return session.jobs().running() == 0; }, 20000));
    }
    void openSurvey() {
        ASSERT_TRUE(session.openSurvey(path("s.survey.json")));
        settle();
    }
    QString path(const std::string& name) const { return QString::fromStdString((folder / name).string()); }

    TempFolder folder;
    Session session;
    std::vector<Error> problems;
    Changes heard;
};

Survey titled(Survey survey, const std::string& title) {
    survey.title = title;
    return survey;
}

} // namespace

TEST_F(SessionTest, EditsAreUndoneAndRedoneOneByOne) {
    openSurvey();
    session.edit("Title", titled(session.survey(), "one"));
    session.edit("Title", titled(session.survey(), "two"));
    EXPECT_EQ(session.undoStack().count(), 2);
    session.undoStack().undo();
    EXPECT_EQ(session.survey().title, "one");
    session.undoStack().undo();
    EXPECT_EQ(session.survey().title, "S");
    EXPECT_FALSE(session.hasUnsavedChanges());
    session.undoStack().redo();
    EXPECT_EQ(session.survey().title, "one");
    EXPECT_TRUE(session.hasUnsavedChanges());
    session.edit("Title", session.survey());
    EXPECT_EQ(session.undoStack().count(), 2) << "an edit that changes nothing is none, and redo stays";
}

TEST_F(SessionTest, OneGestureIsOneStep) {
    openSurvey();
    auto view = session.view();
    for (const double high : {380.0, 370.0, 360.0}) {
        view.range = {300.0, high};
        session.editView("Range", view, {GestureKind::ColourRange, 7});
    }
    EXPECT_EQ(session.undoStack().count(), 1);
    view.range = {300.0, 350.0};
    session.editView("Range", view, {GestureKind::ColourRange, 8}); // the next gesture
    EXPECT_EQ(session.undoStack().count(), 2);
    session.undoStack().undo();
    EXPECT_EQ((*session.view().range)[1], 360.0);
    view.range.reset();
    session.editView("Range", view, {GestureKind::ColourRange, 9});
    view.range = {300.0, 360.0};
    session.editView("Range", view, {GestureKind::ColourRange, 9}); // back where it began
    EXPECT_EQ(session.undoStack().count(), 1) << "a gesture that ends where it began leaves no step";
}

TEST_F(SessionTest, DistinctGesturesAreStepsOfTheirOwn) {
    openSurvey();
    auto view = session.view();
    const Gesture gestures[]{{GestureKind::SectionDrag, 1}, {GestureKind::SectionDrag, 2},
                             {GestureKind::Opacity, 2},     {GestureKind::None},
                             {GestureKind::None},           {GestureKind::SectionDrag, 2}};
    double high = 400;
    for (const auto& gesture : gestures) {
        view.range = {300.0, high--};
        session.editView("Change", view, gesture);
    }
    EXPECT_EQ(session.undoStack().count(), 6) << "neither another kind nor another one of the kind is joined";
    view.range = {300.0, 200.0 + 300.0};
    session.editView("Change", view, gestures[5]);
    EXPECT_EQ(session.undoStack().count(), 6) << "the one under way goes on";
}

TEST_F(SessionTest, PointingIsNoChangeOfContents) {
    openSurvey();
    int told = 0;
    int pointed = 0;
    session.listen(&session, contents, [&](Session*) { ++told; });
    session.listen(&session, Changes(Change::Marked) | Change::Pointed, [&](Session*) { ++pointed; });
    session.selection().markPlace(Point{0.01, 0.02, 0.03});
    session.selection().markPlace(Point{0.01, 0.02, 0.03}); // the same
    session.selection().pointAtBoundary("lid");
    session.moveCamera({{1, 0, 0}, {0, 0, 0}, {0, 0, 1}, 0.2});
    EXPECT_EQ(told, 0);
    EXPECT_EQ(pointed, 2);
    session.selection().selectPart("warm");
    EXPECT_EQ(told, 1);
}

TEST_F(SessionTest, EndsUnderLoad) {
    for (int i = 0; i < 5; ++i) {
        auto busy = std::make_unique<Session>();
        ASSERT_TRUE(busy->openSurvey(path("s.survey.json")));
        busy->openCase(path("hot.vtu"));
        busy->setStage("Trust"); // histories, balances
        QTest::qWait(7 * i);     // at several points of the work
        busy.reset();
        QCoreApplication::processEvents(); // an answer that comes late finds nobody
    }
    openSurvey();
    EXPECT_TRUE(session.activeCase()->readings);
}

TEST_F(SessionTest, LookingAroundIsSavedButNoEdit) {
    openSurvey();
    session.setStage("Limits");
    session.setCamera({{1, 0, 0}, {0, 0, 0}, {0, 0, 1}, 0.2});
    EXPECT_FALSE(session.hasUnsavedChanges());
    session.edit("Title", titled(session.survey(), "new"));
    session.setStage("Report");
    session.undoStack().undo();
    EXPECT_EQ(session.view().stage, "Report") << "undoing is no reason to jump to another stage";
    EXPECT_EQ(session.view().camera->scale, 0.2);
    ASSERT_TRUE(session.saveAs(path("s.survey.json")));
    EXPECT_EQ(viewOf(*loadSurvey(folder / "s.survey.json")).camera->scale, 0.2);
}

TEST_F(SessionTest, ReadingsAndPictureFollowTheEdits) {
    openSurvey();
    ASSERT_TRUE(session.activeCase() && session.activeCase()->readings && session.activeCase()->picture);
    EXPECT_FALSE(session.activeCase()->preview) << "the first picture is let go once the case is measured";
    EXPECT_EQ(session.activeCase()->readings->verdict(), Verdict::Within);
    EXPECT_TRUE(heard.testFlag(Change::Picture) && heard.testFlag(Change::Readings) && heard.testFlag(Change::Cases));
    const auto picture = session.activeCase()->picture;
    session.editOrComplain("Limit", withLimitField(session.survey(), 0, LimitField::Max, "50 degC"));
    settle();
    EXPECT_EQ(session.activeCase()->readings->verdict(), Verdict::Over);
    EXPECT_EQ(session.activeCase()->picture, picture) << "the picture does not depend on a limit";
    session.editOrComplain("Limit", withLimitField(session.survey(), 0, LimitField::Max, "50 W"));
    ASSERT_EQ(problems.size(), 1U);
    EXPECT_EQ(problems[0].code, ErrorCode::WrongUnit);
}

TEST_F(SessionTest, WhatIsSeenBelongsToTheActiveCase) {
    EXPECT_EQ(session.activeCase(), nullptr);
    EXPECT_TRUE(visibleParts(session.seen()).empty());
    EXPECT_FALSE(shownRange(session.seen()));
    EXPECT_FALSE(hottestVisible(session.seen()));
    EXPECT_TRUE(visibleDistribution(session.seen()).empty());
    EXPECT_TRUE(session.openRun().cases.empty());
    openSurvey();
    session.openCase(path("hot.vtu"));
    settle();
    ASSERT_EQ(session.survey().cases.size(), 2U);
    EXPECT_EQ(session.activeEntry()->name, "hot");
    EXPECT_NEAR((*shownRange(session.seen()))[1], 363.15, 1e-4);
    EXPECT_NEAR((*hottestVisible(session.seen()))[2], 0, 1e-9);
    EXPECT_NEAR(visibleDistribution(session.seen()).total(), 1e-3, 1e-8);
    EXPECT_EQ(session.activeEntry()->name, "hot");
    auto view = session.view();
    view.caseName = "warm";
    session.editView("Case", view);
    settle();
    EXPECT_NEAR((*shownRange(session.seen()))[1], 363.15, 1e-4) << "one range for both";
    view.field.strip.common = false;
    session.editView("A range for each", view);
    EXPECT_NEAR((*shownRange(session.seen()))[1], 333.15, 1e-4);
    view.isolated = "no such part";
    session.editView("Alone", view);
    EXPECT_TRUE(visibleParts(session.seen()).empty());
    EXPECT_FALSE(shownRange(session.seen())) << "nothing is visible: nothing to fit to";
}

TEST_F(SessionTest, ABrokenCaseLeavesTheOthersAlone) {
    writeText(folder / "broken.vtu", "not a grid");
    openSurvey();
    const auto before = session.survey();
    session.openCase(path("broken.vtu"));
    settle();
    EXPECT_TRUE(session.survey() == before);
    ASSERT_EQ(problems.size(), 1U);
    EXPECT_FALSE(problems[0].remedy.empty());
    session.edit("Add", withCase(session.survey(), "broken.vtu")); // named in the survey all the same
    settle();
    ASSERT_EQ(session.survey().cases.size(), 2U);
    EXPECT_TRUE(session.stateOf(session.survey().cases[1])->error);
    EXPECT_TRUE(session.stateOf(session.survey().cases[0])->readings);
    EXPECT_EQ(problems.size(), 2U);
}

TEST_F(SessionTest, AnswersForAClosedDocumentAreDropped) {
    openSurvey();
    session.openCase(path("hot.vtu"));
    session.newSurvey(); // while the case is being read
    settle();
    EXPECT_TRUE(session.survey().cases.empty());
    EXPECT_EQ(session.activeCase(), nullptr);
    EXPECT_TRUE(problems.empty());
    EXPECT_EQ(session.undoStack().count(), 0);
}

TEST_F(SessionTest, PathsStayRelativeToTheSurvey) {
    openSurvey();
    std::filesystem::create_directories(folder / "a/b");
    ASSERT_TRUE(session.saveAs(path("a/b/moved.survey.json")));
    EXPECT_EQ(session.survey().cases[0].file, "../../warm.vtu");
    EXPECT_EQ(session.pathOf(session.survey().cases[0]), std::filesystem::weakly_canonical(folder / "warm.vtu"));
    EXPECT_FALSE(session.hasUnsavedChanges());
    const auto failed = session.saveAs("/no/such/folder/x.survey.json");
    ASSERT_FALSE(failed);
    EXPECT_EQ(session.file(), path("a/b/moved.survey.json")) << "a failed save changes nothing";
}

TEST(JobList, ReportsWhatRunsAndHandsResultsToThisThread) {
    JobList jobs;
    QObject context;
    std::atomic<bool> go{false};
    std::optional<int> answer;
    std::thread::id answered;
    jobs.run<int>(
        "Counting", &context,
        [&](Progress& progress) -> Result<int> {
            for (int i = 0; !go; ++i) {
                progress.report(0.25, "sheep");
                std::this_thread::sleep_for(std::chrono::milliseconds(5));
            }
            return 42;
        },
        [&](Result<int> result) {
            answer = *result;
            answered = std::this_thread::get_id();
        });
    EXPECT_EQ(jobs.running(), 1);
    ASSERT_TRUE(QTest::qWaitFor([&] { return jobs.share() > 0; }, 5000));
    EXPECT_EQ(jobs.title(), "Counting: sheep");
    EXPECT_DOUBLE_EQ(jobs.share(), 0.25);
    EXPECT_FALSE(answer);
    go = true;
    ASSERT_TRUE(QTest::qWaitFor([&] { return jobs.running() == 0; }, 5000));
    EXPECT_EQ(answer, 42);
    EXPECT_EQ(answered, std::this_thread::get_id());
    EXPECT_EQ(jobs.title(), "");
}

TEST(JobList, CancelReachesEveryJobAndIsAnswered) {
    JobList jobs;
    QObject context;
    int cancelled = 0;
    for (int i = 0; i < 4; ++i) // more than run at once
        jobs.run<int>(
            "Waiting", &context,
            [](Progress& progress) -> Result<int> {
                while (!progress.cancelled())
                    std::this_thread::sleep_for(std::chrono::milliseconds(2));
                return fail(ErrorCode::Cancelled, "stopped", "");
            },
            [&](Result<int> result) { cancelled += result.error().cancelled() ? 1 : 0; });
    EXPECT_EQ(jobs.running(), 4);
    jobs.cancelAll();
    ASSERT_TRUE(QTest::qWaitFor([&] { return jobs.running() == 0; }, 5000));
    EXPECT_EQ(cancelled, 4);
}

TEST(JobList, AnAnswerForSomeoneGoneIsDropped) {
    JobList jobs;
    bool called = false;
    {
        QObject context;
        jobs.run<int>(
            "Quick", &context, [](Progress&) -> Result<int> { return 1; }, [&](Result<int>) { called = true; });
    }
    ASSERT_TRUE(QTest::qWaitFor([&] { return jobs.running() == 0; }, 5000));
    EXPECT_FALSE(called);
}

TEST(Finder, LettersMayBeSkippedButNotSwapped) {
    EXPECT_TRUE(finderMatches("Go to limits", "gtl"));
    EXPECT_TRUE(finderMatches("Go to limits", "LIM"));
    EXPECT_TRUE(finderMatches("Go to limits", "  go   lim "));
    EXPECT_TRUE(finderMatches("Go to limits", ""));
    EXPECT_FALSE(finderMatches("Go to limits", "ltg"));
    EXPECT_FALSE(finderMatches("Go to limits", "limitss"));
}

TEST(Finder, RunsWhatArrowsAndEnterChoose) {
    QWidget parent;
    parent.show();
    std::string ran;
    std::vector<FinderEntry> entries;
    for (const auto* text : {"Show isotherms", "Go to limits", "Limits to CSV"})
        entries.push_back({text, "key", [&ran, text] { ran = text; }});
    const QPointer<Finder> finder = new Finder(entries, &parent);
    finder->show();
    auto* text = finder->findChild<QLineEdit*>("finderText");
    auto* list = finder->findChild<QListWidget*>("finderList");
    EXPECT_EQ(list->count(), 3);
    QTest::keyClicks(text, "limits");
    ASSERT_EQ(list->count(), 2);
    EXPECT_TRUE(list->item(0)->text().startsWith("Go to limits"));
    QTest::keyClick(text, Qt::Key_Up); // already at the top
    QTest::keyClick(text, Qt::Key_Down);
    QTest::keyClick(text, Qt::Key_Down); // already at the end
    EXPECT_EQ(list->currentRow(), 1);
    QTest::keyClick(text, Qt::Key_Return);
    ASSERT_TRUE(QTest::qWaitFor([&] { return !ran.empty() && finder.isNull(); }, 3000));
    EXPECT_EQ(ran, "Limits to CSV");
}

TEST(Finder, NothingFoundRunsNothing) {
    QWidget parent;
    bool ran = false;
    Finder* finder = new Finder({{"Only this", "", [&] { ran = true; }}}, &parent);
    auto* text = finder->findChild<QLineEdit*>("finderText");
    QTest::keyClicks(text, "zzz");
    QTest::keyClick(text, Qt::Key_Down);
    QTest::keyClick(text, Qt::Key_Return);
    QTest::qWait(20);
    EXPECT_FALSE(ran);
    text->clear();
    QTest::keyClick(text, Qt::Key_Enter);
    ASSERT_TRUE(QTest::qWaitFor([&] { return ran; }, 3000));
}
