// Unsaved work outlives the run: kept within a second, offered again, taken away once it is saved or given up.
#include "app/session/dialogs.h"
#include "app/session/journal.h"
#include "core/survey/survey_file.h"
#include "tests/app/window_fixture.h"

#include <QCheckBox>
#include <QDir>
#include <QLineEdit>
#include <QProcess>
#include <QStandardPaths>
#include <csignal>

using namespace pyro;
using namespace pyro::test;

namespace {

class JournalTest : public WindowTest {
protected:
    void SetUp() override {
        WindowTest::SetUp();
        while (const auto left = Journal::leftBehind())
            Journal::discard(*left);
    }
    void retitle(const std::string& title) {
        auto next = window->session().survey();
        next.title = title;
        window->session().edit("Title", std::move(next));
    }
    // Waits for this number of files of unsaved work, of this window and of others.
    static bool areKept(int files) {
        const QDir folder(QStandardPaths::writableLocation(QStandardPaths::AppConfigLocation) + "/unsaved");
        return QTest::qWaitFor([&] { return folder.entryList({"*.json"}, QDir::Files).size() == files; }, 10000);
    }
};

} // namespace

// Run by the test below in a process of its own, which it ends as a crash would.
TEST_F(JournalTest, DISABLED_EndsWithoutAWord) {
    window->open(qEnvironmentVariable("PYROMETER_TEST_SURVEY"));
    settle();
    retitle("half an hour of work");
    EXPECT_TRUE(areKept(1));
    ::raise(SIGKILL);
}

TEST_F(JournalTest, WorkOutlivesAKill) {
    QProcess other;
    auto environment = QProcessEnvironment::systemEnvironment();
    environment.insert("PYROMETER_TEST_SURVEY", QString::fromStdString(survey.string()));
    other.setProcessEnvironment(environment);
    other.start(QCoreApplication::applicationFilePath(),
                {"--gtest_also_run_disabled_tests", "--gtest_filter=JournalTest.DISABLED_EndsWithoutAWord"});
    ASSERT_TRUE(other.waitForFinished(60000));
    ASSERT_EQ(other.exitStatus(), QProcess::CrashExit) << other.readAll().toStdString();
    window->offerUnsaved();
    auto* told = find<QLabel>("unsavedText");
    ASSERT_TRUE(told->isVisible());
    EXPECT_TRUE(told->text().contains("was not saved")) << told->text().toStdString();
    click(button("restoreUnsaved"));
    settle();
    EXPECT_EQ(window->session().survey().title, "half an hour of work");
    EXPECT_EQ(window->session().file().toStdString(), survey.string());
    EXPECT_TRUE(window->session().hasUnsavedChanges());
    EXPECT_NE(loadSurvey(survey)->title, "half an hour of work");
    EXPECT_FALSE(told->isVisible());
    ASSERT_TRUE(window->save());
    EXPECT_EQ(loadSurvey(survey)->title, "half an hour of work");
    EXPECT_TRUE(areKept(0));
}

TEST_F(JournalTest, ALivingWindowKeepsItsOwn) {
    openSurvey();
    retitle("in hand");
    EXPECT_TRUE(areKept(1));
    EXPECT_FALSE(Journal::leftBehind()) << "it is not left behind while the window lives";
    window->session().undoStack().undo();
    EXPECT_FALSE(window->session().hasUnsavedChanges());
    EXPECT_TRUE(areKept(0));
    retitle("given up");
    EXPECT_TRUE(areKept(1));
    dialogs::answerNextQuestion(dialogs::Answer::Discard);
    EXPECT_TRUE(window->close());
    window.reset();
    EXPECT_FALSE(Journal::leftBehind()) << "what was discarded is not offered again";
}

TEST_F(JournalTest, WhatIsNotWantedIsDeleted) {
    openSurvey();
    retitle("lost and found");
    EXPECT_TRUE(areKept(1));
    window.reset(); // ends without being asked
    ASSERT_TRUE(Journal::leftBehind());
    window = std::make_unique<MainWindow>();
    window->show();
    window->offerUnsaved();
    click(button("discardUnsaved"));
    EXPECT_FALSE(find<QLabel>("unsavedText")->isVisible());
    EXPECT_FALSE(Journal::leftBehind());
}

// Neither looking at parts, steps and stages nor saving and exporting is a change.
TEST_F(JournalTest, LookingAndExportingChangeNothing) {
    openSurvey();
    for (const auto key : {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4, Qt::Key_5})
        type(key);
    auto view = window->session().view();
    view.isolated = "hot core";
    window->session().editView("Isolate part", view);
    dialogs::answerNextFile(QString::fromStdString((folder / "out.csv").string()));
    trigger("exportLimits");
    settle();
    EXPECT_FALSE(window->session().hasUnsavedChanges());
    EXPECT_TRUE(window->close()) << "nothing is asked";
}
