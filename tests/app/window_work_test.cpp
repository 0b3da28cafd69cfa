// The window at work: stages by key, help, several cases, report fields, files dropped, actions in the finder.
#include "app/finder/finder.h"
#include "app/session/dialogs.h"
#include "app/session/settings.h"
#include "app/stages/field/field_sheet.h"
#include "core/survey/survey_file.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QComboBox>
#include <QDialog>
#include <QDropEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QMimeData>

using namespace pyro;
using namespace pyro::test;

namespace {

class WorkTest : public WindowTest {
protected:
    // A second case of the same parts, 25 K cooler, and a survey of both.
    void openTwoCases() {
        const BoxMesh plate{{0.1, 0.1, 0.01}, {10, 10, 2}};
        const BoxMesh core{{0.02, 0.02, 0.02}, {4, 4, 4}, {0.04, 0.04, 0.01}};
        auto a = boxPart("cold plate", plate);
        auto b = boxPart("hot core", core);
        addNodeField(a, "T [degC]", [](const Point& at) { return 5 + 200 * at[0]; });
        addNodeField(b, "T [degC]", [](const Point& at) { return 65 + 1000 * (at[2] - 0.01); });
        ASSERT_TRUE(writeCase({a, b}, folder / "cooler.vtm"));
        writeText(
            survey,
            R"({"pyrometer": 1, "title": "Two", "cases": [{"name": "first", "file": "pair.vtm"}, {"name": "second",
              "file": "cooler.vtm"}],
            "limits": [{"part": "hot core", "max": "100 degC", "margin": "5 K"}], "view": {"stage": "Field"}})");
        openSurvey();
    }
};

} // namespace

TEST_F(WorkTest, StagesHaveTheKeysOfTheWholeRail) {
    openSurvey();
    const std::pair<Qt::Key, std::string> keys[]{
        {Qt::Key_1, "Cases"}, {Qt::Key_3, "Field"}, {Qt::Key_5, "Limits"}, {Qt::Key_7, "Report"}};
    for (const auto& [key, stage] : keys) {
        type(key);
        EXPECT_EQ(window->session().view().stage, stage);
        EXPECT_TRUE(find<RailButton>(QString::fromStdString("stage" + stage))->isChecked());
        type(Qt::Key_F1);
        auto* help = window->findChild<QDialog*>("helpDialog");
        ASSERT_NE(help, nullptr);
        EXPECT_TRUE(help->windowTitle().contains(QString::fromStdString(stage)));
        help->close();
        ASSERT_TRUE(QTest::qWaitFor([&] { return window->findChild<QDialog*>("helpDialog") == nullptr; }, 3000));
    }
    EXPECT_FALSE(window->session().hasUnsavedChanges()) << "walking through the stages is no change";
}

TEST_F(WorkTest, CasesAreSwitchedAndJudgedEach) {
    openTwoCases();
    const auto shown = [&] { return window->session().verdicts().at(0).verdict; };
    EXPECT_EQ(shown(), Verdict::Over);
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "1 over, 1 within in 2 cases")
        << "of the survey, whichever case is on display";
    auto* box = find<QComboBox>("caseBox");
    ASSERT_EQ(box->count(), 2);
    box->setCurrentIndex(1);
    emit box->activated(1);
    settle();
    EXPECT_EQ(shown(), Verdict::Within);
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "1 over, 1 within in 2 cases");
    EXPECT_EQ(find<QListWidget>("partList")->item(1)->data(Qt::UserRole + 1).toString(), "85.0");
    trigger("undo");
    settle();
    EXPECT_EQ(shown(), Verdict::Over);
}

// A viewpoint kept on one case works on the other; a section is read again there without picking anything.
TEST_F(WorkTest, ViewpointsAndSectionsOutliveTheCase) {
    openTwoCases();
    type(Qt::Key_C);
    settle();
    const double mean = *window->session().sections().at(0).picture->mean;
    type(Qt::Key_V);
    auto view = window->session().view();
    view.caseName = "second";
    view.field.sections.clear();
    window->session().editView("test", view);
    settle();
    auto* list = find<ViewpointList>("viewpointList");
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(0)).center());
    settle();
    EXPECT_EQ(window->session().view().caseName, "second");
    ASSERT_TRUE(window->session().sections().at(0).picture);
    EXPECT_NEAR(*window->session().sections()[0].picture->mean, mean - 25, 1e-4);
}

TEST_F(WorkTest, ACaseIsTakenOutOfTheSurvey) {
    openTwoCases();
    trigger("stageCases");
    click(button("removeCase"));
    settle();
    ASSERT_EQ(window->session().survey().cases.size(), 1U);
    EXPECT_EQ(window->session().survey().cases[0].name, "second");
    EXPECT_TRUE(std::filesystem::exists(folder / "pair.vtm")) << "the file stays";
    trigger("undo");
    EXPECT_EQ(window->session().survey().cases.size(), 2U);
}

TEST_F(WorkTest, ReportFieldsAreKept) {
    openSurvey();
    trigger("stageReport");
    EXPECT_TRUE(find<QWidget>("reportPages")->isVisible());
    EXPECT_EQ(find<QLabel>("reportPage")->text(), "Page 1 of 1");
    auto survey_ = window->session().survey();
    survey_.report.preparedBy = "A. Reader";
    window->session().edit("Prepared by", survey_);
    trigger("save");
    EXPECT_EQ(loadSurvey(survey)->report.preparedBy, "A. Reader");
}

TEST_F(WorkTest, FilesAreDroppedOnTheWindow) {
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(QString::fromStdString(survey.string()))});
    QDragEnterEvent enter({100, 100}, Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(window.get(), &enter);
    EXPECT_TRUE(enter.isAccepted());
    QDropEvent drop({100, 100}, Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(window.get(), &drop);
    settle();
    EXPECT_EQ(window->session().survey().title, "Pair");
}

TEST_F(WorkTest, EveryActionIsInTheFinderWithItsKey) {
    openSurvey();
    trigger("finder");
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->findChild<QDialog*>("finder") != nullptr; }, 3000));
    auto* list = find<QListWidget>("finderList");
    auto* text = find<QLineEdit>("finderText");
    for (const auto* words : {"section through the hottest", "isotherms", "show or hide streamlines", "viewpoint",
                              "palette ash", "tint", "lock", "copy picture", "core"}) {
        SCOPED_TRACE(words);
        text->setText(words);
        ASSERT_GT(list->count(), 0);
        int shown = 0;
        for (int i = 0; i < list->count(); ++i)
            shown += list->item(i)->isHidden() ? 0 : 1;
        EXPECT_GT(shown, 0);
    }
    text->setText("zzzz no such thing");
    int left = 0;
    for (int i = 0; i < list->count(); ++i)
        left += list->item(i)->isHidden() ? 0 : 1;
    EXPECT_EQ(left, 0);
}

TEST_F(WorkTest, RecentSurveysForgetWhatIsGone) {
    openSurvey();
    EXPECT_EQ(settings::recentSurveys().size(), 1);
    std::filesystem::copy_file(survey, folder / "other.survey.json");
    trigger("newSurvey");
    window->open(QString::fromStdString((folder / "other.survey.json").string()));
    settle();
    EXPECT_EQ(settings::recentSurveys().size(), 2);
    EXPECT_TRUE(settings::recentSurveys().first().contains("other"));
    std::filesystem::remove(folder / "other.survey.json");
    EXPECT_EQ(settings::recentSurveys().size(), 1);
}

TEST_F(WorkTest, AFailingDiskLosesNothing) {
    openSurvey();
    auto changed = window->session().survey();
    changed.title = "Kept";
    window->session().edit("Title", changed);
    dialogs::answerNextFile("/nonexistent-folder/x.survey.json");
    trigger("saveAs");
    EXPECT_TRUE(window->message().contains("/nonexistent-folder"));
    EXPECT_TRUE(window->session().hasUnsavedChanges());
    EXPECT_EQ(window->session().survey().title, "Kept");
    EXPECT_EQ(loadSurvey(survey)->title, "Pair") << "the old file is whole";
    for (const auto* id : {"exportLimits", "exportReport"}) {
        dialogs::answerNextFile("/nonexistent-folder/out");
        const int before = window->messagesShown();
        trigger(id);
        settle();
        EXPECT_EQ(window->messagesShown(), before + 1) << id;
    }
}
