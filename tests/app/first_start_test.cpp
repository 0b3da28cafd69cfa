// The first start: demos, the units of the desktop, the self-check; surveys of other versions.
#include "app/session/dialogs.h"
#include "app/session/settings.h"
#include "app/stages/start_page.h"
#include "core/program/program.h"
#include "core/survey/survey_file.h"
#include "tests/app/window_fixture.h"

#include <QClipboard>
#include <QPlainTextEdit>
#include <QToolButton>

using namespace pyro;
using namespace pyro::test;

namespace {

class FirstStartTest : public WindowTest {
protected:
    // Writes the survey of the fixture as another program would have.
    void writtenBy(const std::string& key, const Json& value, const std::string& further = {}) {
        auto json = Json::parse(readText(survey));
        json[key] = value;
        if (!further.empty())
            json[further] = 1;
        writeText(survey, json.dump());
    }
};

} // namespace

TEST_F(FirstStartTest, ADemoIsSolvedAndOpensByItsTile) {
    auto* page = find<StartPage>("startPage");
    QToolButton* foot = nullptr;
    const auto tiles = page->findChildren<QToolButton*>("demoTile");
    EXPECT_GE(tiles.size(), 6);
    for (auto* tile : tiles)
        if (tile->text() == "Mast foot")
            foot = tile;
    ASSERT_NE(foot, nullptr);
    EXPECT_TRUE(foot->toolTip().contains("chi"));
    click(foot);
    EXPECT_EQ(window->session().jobs().running(), 1) << "the window lives on";
    settle();
    EXPECT_TRUE(window->session().file().endsWith("/mast-foot.survey.json")) << window->message().toStdString();
    EXPECT_FALSE(page->isVisible());
    EXPECT_TRUE(window->session().activeCase()->readings);
}

TEST_F(FirstStartTest, SolvingADemoCanBeCancelled) {
    trigger("demo-warm-up");
    ASSERT_EQ(window->session().jobs().running(), 1);
    click(button("cancelJobs"));
    settle();
    EXPECT_TRUE(window->session().file().isEmpty());
    EXPECT_EQ(window->message(), "") << "what the user stopped is no problem";
}

TEST_F(FirstStartTest, NewSurveysBeginWithTheUnitChosenLast) {
    EXPECT_EQ(window->session().view().unit, TemperatureUnit::Celsius) << "of the language C";
    trigger("unitdegF");
    dialogs::answerNextQuestion(dialogs::Answer::Discard);
    trigger("newSurvey");
    EXPECT_EQ(window->session().view().unit, TemperatureUnit::Fahrenheit);
    EXPECT_FALSE(window->session().hasUnsavedChanges());
    settings::setTemperatureUnit(TemperatureUnit::Celsius);
}

TEST_F(FirstStartTest, TheWindowFitsItsScreen) {
    EXPECT_EQ(MainWindow::firstSize({1600, 1000}), QSize(1280, 800));
    EXPECT_EQ(MainWindow::firstSize({1024, 768}), QSize(1024, 728));
    const auto least = window->minimumSizeHint();
    EXPECT_LE(least.width(), 1024) << "so that it can be as small";
    EXPECT_LE(least.height(), 728);
}

TEST_F(FirstStartTest, WhereUnsavedWorkCannotBeKeptThatIsTold) {
    const auto before = qgetenv("XDG_CONFIG_HOME");
    qputenv("XDG_CONFIG_HOME", (survey / "below").c_str()); // a file is no folder
    {
        MainWindow other;
        other.show();
        auto next = other.session().survey();
        next.title = "half an hour of work";
        other.session().edit("Title", next);
        EXPECT_TRUE(QTest::qWaitFor([&] { return !other.message().isEmpty(); }, 10'000));
        EXPECT_TRUE(other.message().contains("unsaved work cannot be kept")) << other.message().toStdString();
    }
    qputenv("XDG_CONFIG_HOME", before);
}

TEST_F(FirstStartTest, TheSelfCheckIsShownToBeCopied) {
    trigger("selfCheck");
    auto* text = find<QPlainTextEdit>("selfCheckText");
    EXPECT_TRUE(text->toPlainText().startsWith("Pyrometer " + QString::fromStdString(programVersion())));
    settle();
    EXPECT_TRUE(text->toPlainText().contains("passed  solved case")) << text->toPlainText().toStdString();
    click(button("copySelfCheck"));
    EXPECT_EQ(QApplication::clipboard()->text(), text->toPlainText());
}

TEST_F(FirstStartTest, AnOlderSurveyIsKeptAsItWasBeforeItIsSaved) {
    const auto before = readText(survey);
    openSurvey();
    window->session().edit("Title", [&] {
        auto next = window->session().survey();
        next.title = "changed";
        return next;
    }());
    ASSERT_TRUE(window->save());
    const auto copy = folder / ("pair (before " + programVersion() + ").survey.json");
    EXPECT_EQ(readText(copy), before);
    EXPECT_EQ(loadSurvey(survey)->savedBy, programVersion());
    EXPECT_EQ(loadSurvey(survey)->title, "changed");
    std::filesystem::remove(copy);
    window->session().undoStack().undo();
    EXPECT_TRUE(window->session().hasUnsavedChanges());
    window->session().undoStack().redo();
    EXPECT_FALSE(window->session().hasUnsavedChanges()) << "who saved it is no change of the user";
    window->session().undoStack().undo();
    ASSERT_TRUE(window->save());
    EXPECT_FALSE(std::filesystem::exists(copy)) << "it is our own by now";
}

TEST_F(FirstStartTest, WithoutRoomForTheCopyNothingIsWrittenOver) {
    const auto before = readText(survey);
    openSurvey();
    std::filesystem::create_directory(folder / ("pair (before " + programVersion() + ").survey.json"));
    for (int number = 2; number < 12; ++number)
        std::filesystem::create_directory(
            folder / ("pair (before " + programVersion() + ", " + std::to_string(number) + ").survey.json"));
    trigger("unitK");
    EXPECT_TRUE(window->save()) << "another name is found";
    EXPECT_EQ(readText(folder / ("pair (before " + programVersion() + ", 12).survey.json")), before);
}

TEST_F(FirstStartTest, ANewerSurveyIsReadOnlyAndTellsWhatIsNotKnown) {
    writtenBy("saved_by", "7.3", "weather");
    const auto before = readText(survey);
    window->open(QString::fromStdString(survey.string()));
    settle();
    EXPECT_TRUE(window->message().contains("written by Pyrometer 7.3; it is open read-only; not known here: weather"))
        << window->message().toStdString();
    EXPECT_TRUE(window->windowTitle().contains("(read-only)"));
    EXPECT_TRUE(window->session().activeCase()->readings) << "it can be looked at";
    trigger("unitK");
    EXPECT_FALSE(window->save());
    EXPECT_TRUE(window->message().contains("it is not written over")) << window->message().toStdString();
    EXPECT_EQ(readText(survey), before);
    dialogs::answerNextFile(QString::fromStdString((folder / "mine.survey.json").string()));
    EXPECT_TRUE(window->saveAs());
    const auto mine = Json::parse(readText(folder / "mine.survey.json"));
    EXPECT_EQ(mine["weather"], 1) << "nothing of it is lost";
    EXPECT_EQ(mine["saved_by"], programVersion());
    EXPECT_FALSE(window->windowTitle().contains("(read-only)"));
    trigger("unitdegF");
    EXPECT_TRUE(window->save()) << "the new one is ours";
}

TEST_F(FirstStartTest, ANewerFormatIsReadOnlyToo) {
    writtenBy("pyrometer", 2);
    window->open(QString::fromStdString(survey.string()));
    settle();
    EXPECT_TRUE(window->message().contains("a newer Pyrometer (format 2)")) << window->message().toStdString();
    trigger("unitK");
    EXPECT_FALSE(window->save());
}
