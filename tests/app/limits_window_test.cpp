// Limits of every form in the real window, another ambient, and the verdict of the worst step.
#include "app/session/dialogs.h"
#include "app/stages/limits/limits_page.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QMenu>

using namespace pyro;
using namespace pyro::test;

namespace {

class LimitsWindowTest : public WindowTest {
protected:
    QTableView* table() { return find<QTableView>("limitsTable"); }
    // -1 where there is none.
    int rowOf(const QString& name) {
        for (int row = 0; row < table()->model()->rowCount(); ++row)
            if (cell(table(), row, "Limit on") == name)
                return row;
        return -1;
    }
    void chooseRow(int row) {
        QTest::mouseClick(table()->viewport(), Qt::LeftButton, {},
                          table()->visualRect(table()->model()->index(row, 2)).center());
    }
};

} // namespace

TEST_F(LimitsWindowTest, ALimitBecomesARiseAShareAndATime) {
    openSurvey();
    type(Qt::Key_5);
    chooseRow(0); // the core, 110 degC
    pick("limitForm", "rise above ambient");
    EXPECT_EQ(cell(table(), 0, "Judged quantity"), "rise above ambient");
    fill("limitMax", "80 K");
    fill("limitAbove", "20 degC");
    const auto& limits = window->session().survey().limits;
    EXPECT_EQ(limits[1].form, &riseForm);
    auto row = rowOf("Core");
    ASSERT_GE(row, 0);
    EXPECT_EQ(cell(table(), row, "Value"), "90.0 K");
    EXPECT_EQ(cell(table(), row, "Margin"), "-10.0 K");
    EXPECT_EQ(cell(table(), row, "Judged quantity"), "rise above 20 degC");
    EXPECT_EQ(cell(table(), row, "Power"), "3 W");
    pick("limitForm", "share above a level");
    fill("limitLevel", "100 degC");
    fill("limitMax", "60 %");
    EXPECT_EQ(limits[1].level->text, "100 degC");
    row = rowOf("Core");
    ASSERT_GE(row, 0);
    EXPECT_EQ(cell(table(), row, "Value"), "50 %") << "linear from 90 to 110 degC";
    fill("limitMax", "60 degC"); // no share
    EXPECT_FALSE(window->message().isEmpty());
    EXPECT_EQ(limits[1].max->text, "60 %");
}

// The case on display is within its limits, another one is not: the survey is over, and whoever tells it names the
// case.
TEST_F(LimitsWindowTest, AllCasesAreJudged) {
    const BoxMesh plate{{0.1, 0.1, 0.01}, {10, 10, 2}};
    for (const auto& [name, base] : {std::pair{"cool", 20.0}, {"warm", 50.0}}) {
        auto part = boxPart("cold plate", plate);
        addNodeField(part, "T [degC]", [base = base](const Point& at) { return base + 200 * at[0]; });
        ASSERT_TRUE(writeCase({part}, folder / (std::string(name) + ".vtm")));
    }
    writeText(survey,
              R"({"pyrometer": 1, "title": "Two", "cases": [{"name": "cool", "file": "cool.vtm"}, {"name": "warm",
          "file": "warm.vtm"}],
        "limits": [{"part": "cold plate", "max": "60 degC", "margin": "5 K"}], "view": {"stage": "Limits",
          "case": "cool"}})");
    openSurvey();
    ASSERT_EQ(window->session().activeEntry()->name, "cool");
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "1 over, 1 within in 2 cases");
    EXPECT_EQ(find<QLabel>("limitWorst")->text(), "cold plate in warm exceeds 60.0 \u00b0C by 10.0 K");
    EXPECT_EQ(cell(table(), 0, "Verdict"), "within") << "the table is that of the case on display";
    click(button("allCases"));
    EXPECT_TRUE(cell(table(), 0, "cool").startsWith("40.0 \u00b0C")) << cell(table(), 0, "cool").toStdString();
    EXPECT_EQ(cell(table(), 0, "warm"), "70.0 \u00b0C  (-10.0 K)");
    click(button("allCases"));
    EXPECT_EQ(cell(table(), 0, "Verdict"), "within");
    dialogs::answerNextFile(QString::fromStdString((folder / "v.csv").string()));
    trigger("exportLimits");
    const auto csv = readText(folder / "v.csv");
    EXPECT_NE(csv.find("warm,"), std::string::npos) << csv;
    EXPECT_NE(csv.find("cool,"), std::string::npos) << csv;
}

TEST_F(LimitsWindowTest, ACaseWhoseFileIsGoneIsUnknownWithItsReason) {
    writeText(survey,
              R"({"pyrometer": 1, "cases": [{"name": "moved", "file": "no such file.vtm"}], "limits": [{"part": "a",
          "max": "60 degC"}], "view": {"stage": "Limits"}})");
    openSurvey();
    EXPECT_TRUE(find<QLabel>("limitCounts")->text().contains("unknown"))
        << find<QLabel>("limitCounts")->text().toStdString();
    EXPECT_TRUE(find<QLabel>("limitWorst")->text().startsWith("moved cannot be read: "))
        << find<QLabel>("limitWorst")->text().toStdString();
}

// A case that was moved while it is shown, or before, is unknown; said where it is now, it is judged again.
TEST_F(LimitsWindowTest, AMovedFileIsFound) {
    openSurvey();
    type(Qt::Key_5);
    const auto path = window->session().pathOf(window->session().survey().cases[0]);
    const auto elsewhere = folder / "elsewhere.vtm";
    window->session().watch().setInterval(50);
    std::filesystem::rename(path, elsewhere);
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->session().activeCase()->error.has_value(); }, 10000));
    EXPECT_TRUE(find<QLabel>("stepLabel")->text().endsWith("is no longer there; as last read"))
        << find<QLabel>("stepLabel")->text().toStdString();
    EXPECT_EQ(cell(table(), 0, "Verdict"), "unknown");
    EXPECT_TRUE(cell(table(), 0, "Source").contains("does not exist any more"))
        << cell(table(), 0, "Source").toStdString();
    EXPECT_EQ(verdictOfCases(window->session().verdictsOfCases()), Verdict::Unknown);
    dialogs::answerNextFile(QString::fromStdString(elsewhere.string()));
    click(button("findFile"));
    settle();
    EXPECT_EQ(window->session().survey().cases[0].file, "elsewhere.vtm");
    EXPECT_EQ(cell(table(), 0, "Verdict"), "over");
    EXPECT_FALSE(button("findFile")->isVisible());
}

TEST_F(LimitsWindowTest, ABareNumberHasTheUnitOnDisplay) {
    openSurvey();
    type(Qt::Key_5);
    chooseRow(0); // the core, 110 degC
    auto* edit = find<QLineEdit>("limitMax");
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, "34");
    auto* hint = edit->findChild<QLabel*>("unitHint");
    ASSERT_NE(hint, nullptr);
    EXPECT_TRUE(hint->isVisible());
    EXPECT_EQ(hint->text(), "degC");
    QTest::keyClick(edit, Qt::Key_Return);
    settle();
    EXPECT_EQ(edit->text(), "34 degC") << "the field shows what was understood";
    EXPECT_FALSE(hint->isVisible());
    EXPECT_EQ(window->session().survey().limits[1].max->text, "34 degC");
    EXPECT_EQ(cell(table(), 0, "Margin"), "-76.0 K");
    enter(table(), 0, "Allowed", "120"); // and in the table
    settle();
    EXPECT_EQ(window->session().survey().limits[1].max->text, "120 degC");
    const int core = cell(table(), 0, "Limit on") == "Core" ? 0 : 1;
    enter(table(), core, "Required margin", "8");
    settle();
    EXPECT_EQ(window->session().survey().limits[1].margin->text, "8 K") << "a margin is a difference";
    fill("caseAmbient", "20");
    EXPECT_EQ(window->session().survey().cases[0].ambient->text, "20 degC");
    fill("otherAmbient", "30");
    settle();
    EXPECT_EQ(window->session().survey().estimate->ambient->text, "30 degC");
    EXPECT_TRUE(find<QLabel>("ambientAnswer")->text().contains("Estimated at 30.0 \u00b0C"))
        << find<QLabel>("ambientAnswer")->text().toStdString();
    EXPECT_TRUE(window->message().isEmpty()) << window->message().toStdString();
}

TEST_F(LimitsWindowTest, TheFilterLeavesWhatHoldsTheWords) {
    openSurvey();
    type(Qt::Key_5);
    auto* filter = find<QLineEdit>("limitFilter");
    filter->setText("over");
    ASSERT_EQ(table()->model()->rowCount(), 1);
    EXPECT_EQ(cell(table(), 0, "Limit on"), "Core");
    filter->setText("plate");
    ASSERT_EQ(table()->model()->rowCount(), 1);
    EXPECT_EQ(cell(table(), 0, "Verdict"), "within");
    filter->clear();
    EXPECT_EQ(table()->model()->rowCount(), 2);
}

// The core at 110 degC stands 90 K above an ambient of 20: its limit of 100 degC is reached at 10, and at 30 with 7/9
// of the power.
TEST_F(LimitsWindowTest, AnotherAmbientAndWhyNot) {
    openSurvey();
    type(Qt::Key_5);
    fill("caseAmbient", "20 degC");
    fill("otherAmbient", "30");
    settle();
    auto answer = find<QLabel>("ambientAnswer")->text();
    EXPECT_TRUE(answer.contains("Estimated at 30.0 \u00b0C: 2 of 2 limits over") ||
                answer.contains("1 of 2 limits over"))
        << answer.toStdString();
    EXPECT_TRUE(answer.contains("Core meets its limit at an ambient of 10.0 \u00b0C")) << answer.toStdString();
    EXPECT_TRUE(answer.contains("77.7 % of the power is allowed")) << answer.toStdString();
    EXPECT_EQ(cell(table(), 0, "Value at 30.0 \u00b0C"), "120.0 \u00b0C");
    EXPECT_EQ(cell(table(), 0, "Margin there"), "-20.0 K");
    EXPECT_EQ(cell(table(), 0, "Ambient at limit"), "10.0 \u00b0C");
    EXPECT_EQ(cell(table(), 0, "Power at limit"), "77.7 %");
    EXPECT_EQ(find<QLineEdit>("otherAmbient")->text(), "30 degC");
    fill("otherPower", "50");
    settle();
    EXPECT_EQ(cell(table(), 0, "Value at 30.0 \u00b0C and 50.0 % of the power"), "75.0 \u00b0C");
    click(find<QCheckBox>("nonlinear_radiation"), QPoint(6, 6));
    settle();
    answer = find<QLabel>("ambientAnswer")->text();
    EXPECT_TRUE(answer.contains("it radiates")) << answer.toStdString();
    EXPECT_EQ(window->session().survey().cases[0].nonlinear, std::vector<std::string>{"radiation"});
}

TEST_F(LimitsWindowTest, TheLimitIsDrawnAsAnIsotherm) {
    openSurvey();
    type(Qt::Key_5);
    chooseRow(0);
    click(button("limitIsotherm"));
    settle();
    EXPECT_EQ(isolineMarks(window->session().seen()), std::vector<double>{373.15});
    EXPECT_TRUE(window->session().view().field.isotherms.shown);
    click(button("limitIsotherm"));
    EXPECT_FALSE(window->session().view().field.isotherms.shown);
}

TEST_F(LimitsWindowTest, TouchLimitsSayWhereTheyComeFrom) {
    openSurvey();
    type(Qt::Key_5);
    chooseRow(0);
    auto* menu = find<QMenu>("touchMenu");
    emit menu->aboutToShow();
    menu->actions().first()->trigger();
    settle();
    const auto& added = window->session().survey().limits.back();
    EXPECT_EQ(added.target.name, "hot core");
    EXPECT_NEAR(added.max->si, 338.15, 1e-9);
    EXPECT_NE(added.source.find("not yet compared"), std::string::npos);
}

// Six steps, 10 K apart, 30 s apart: the hottest place goes from 45 to 95 degC; 90 degC is passed 135 s in.
TEST_F(LimitsWindowTest, ATransientIsJudgedByItsWorstStep) {
    for (int i = 0; i < 6; ++i) {
        auto part = boxPart("bar", {{0.1, 0.02, 0.02}, {10, 2, 2}});
        addNodeField(part, "T [degC]", [i](const Point& at) { return 25 + 10 * i + 200 * at[0]; });
        part.time = 30.0 * i;
        ASSERT_TRUE(writeBlock(part, folder / ("warm_000" + std::to_string(i) + ".vtu")));
    }
    writeText(survey, R"j({"pyrometer": 1, "cases": [{"name": "warming", "file": "warm_0000.vtu"}],
        "limits": [{"part": "warm", "max": "90 degC"}, {"part": "warm", "duration_above": {"level": "70 degC"},
          "max": "100 s"}], "view": {"stage": "Limits", "step": 0}})j");
    openSurvey();
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->session().verdictsOverSteps(); }, 20000));
    settle();
    EXPECT_EQ(window->session().activeCase()->step, 0) << "the first step is on display";
    EXPECT_EQ(cell(table(), 0, "Verdict"), "over");
    EXPECT_EQ(cell(table(), 0, "Value"), "95.0 \u00b0C");
    EXPECT_TRUE(cell(table(), 0, "Over time").contains("worst at 150 s; first over at 135 s, for 15 s in all"))
        << cell(table(), 0, "Over time").toStdString();
    EXPECT_EQ(cell(table(), 1, "Value"), "75 s");
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "1 over, 1 within");
    enter(table(), 1, "Allowed", "60 s");
    settle();
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "2 over") << "judged anew from what was read";
}
