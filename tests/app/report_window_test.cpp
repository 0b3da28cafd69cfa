// The stage Report: blocks beside real pages, figures drawn beside the window, set up, templates, export, copying.
#include "app/session/dialogs.h"
#include "app/stages/report/copy_part.h"
#include "app/stages/report/report_view.h"
#include "charts/chart_writer.h"
#include "core/report/pages/report_template.h"
#include "core/survey/survey_file.h"
#include "tests/app/window_fixture.h"

#include <QAction>
#include <QClipboard>
#include <QComboBox>
#include <QMenu>
#include <QMimeData>
#include <QScrollBar>

using namespace pyro;
using namespace pyro::test;

namespace {

class ReportTest : public WindowTest {
protected:
    void openReport() {
        openSurvey();
        auto kept = window->session().survey();
        Viewpoint viewpoint;
        viewpoint.name = "Both parts";
        viewpoint.view = kept.view;
        kept.viewpoints.push_back(viewpoint);
        kept.gauges = *readGauges();
        window->session().edit("Viewpoint", kept);
        settle();
        trigger("stageReport");
        wait();
    }
    static Result<std::vector<Gauge>> readGauges() {
        const auto survey = surveyFromJson(Json::parse(R"j({"pyrometer": 1, "gauges": [{"id": "T_core", "where":
            {"part": "hot core"}, "quantity": "temperature", "statistic": "max", "unit": "degC"}]})j"),
                                           "test");
        return survey->gauges;
    }
    void wait() {
        settle();
        EXPECT_TRUE(QTest::qWaitFor([&] { return draft().isComplete(); }, 20000));
        QTest::qWait(80);
        EXPECT_TRUE(QTest::qWaitFor([&] { return draft().isComplete(); }, 20000));
    }
    ReportSheet& sheet() { return *window->findChild<ReportSheet*>(); }
    ReportDraft& draft() { return sheet().draft(); }
    PageView& pages() { return *window->findChild<PageView*>(); }
    BlockList& list() { return *window->findChild<BlockList*>(); }
    QString text() {
        QString all;
        for (const auto& part : draft().document()->parts) {
            all += QString::fromStdString(plainText(part.runs)) + "\n";
            for (const auto& row : part.table.rows)
                for (const auto& cell : row)
                    all += QString::fromStdString(cell) + " ";
        }
        return all;
    }
    void chooseBlock(int row) {
        list().setFocus();
        QTest::mouseClick(list().viewport(), Qt::LeftButton, {},
                          list().visualItemRect(list().item(row)).center() + QPoint(20, 0));
        wait();
    }
    void add(const QString& kind) {
        auto* action = sheet().findChild<QAction*>("addBlock " + kind);
        ASSERT_NE(action, nullptr) << kind.toStdString();
        action->trigger();
        wait();
    }
    const ReportPart* figure() {
        for (const auto& part : draft().document()->parts)
            if (part.kind == ReportPart::Kind::Picture)
                return &part;
        return nullptr;
    }
};

} // namespace

TEST_F(ReportTest, PagesShowTheVerdictsAndAFigureDrawnForThem) {
    openReport();
    EXPECT_TRUE(text().contains("Core")) << text().toStdString();
    EXPECT_TRUE(text().contains("over"));
    ASSERT_NE(figure(), nullptr);
    EXPECT_TRUE(figure()->picture.isThere()) << figure()->picture.why;
    EXPECT_EQ(find<QLabel>("reportPage")->text(), QString("Page 1 of %1").arg(draft().pages()->count()));
    const auto svg = figure()->picture.drawing->svg();
    EXPECT_NE(svg.find(">Core<"), std::string::npos) << "the part is named by its label";
    EXPECT_NE(svg.find("\u00b0C"), std::string::npos) << "the scale has its unit";
}

TEST_F(ReportTest, ATextBlockTellsTheValueOfAGauge) {
    openReport();
    const auto before = draft().blocks().size();
    chooseBlock(0);
    add("text");
    ASSERT_EQ(draft().blocks().size(), before + 1);
    EXPECT_EQ(draft().chosen(), 1U);
    auto* edit = find<QPlainTextEdit>("blockText");
    ASSERT_TRUE(edit->isVisible());
    EXPECT_TRUE(edit->hasFocus()) << "one types at once";
    QTest::keyClicks(edit, "The core reaches {{T_core}}, {{nothing}}.");
    wait();
    EXPECT_TRUE(text().contains("The core reaches 110.0")) << text().toStdString();
    EXPECT_TRUE(find<QLabel>("reportRemarks")->text().contains("nothing"));
    trigger("undo");
    wait();
    EXPECT_FALSE(text().contains("The core reaches")) << "what was typed is one step";
    EXPECT_EQ(draft().blocks().size(), before + 1);
}

TEST_F(ReportTest, BlocksAreMovedLeftOutAndDeleted) {
    openReport();
    const auto first = draft().blocks();
    chooseBlock(1);
    QTest::keyClick(&list(), Qt::Key_Up, Qt::AltModifier);
    wait();
    EXPECT_EQ(draft().blocks()[0].kind, first[1].kind);
    EXPECT_EQ(draft().blocks()[1].kind, first[0].kind);
    EXPECT_EQ(draft().chosen(), 0U);
    list().item(0)->setCheckState(Qt::Unchecked);
    wait();
    EXPECT_TRUE(draft().blocks()[0].off);
    EXPECT_EQ(draft().document()->parts[0].kind, ReportPart::Kind::Title) << "what is left out is not on the page";
    QTest::keyClick(&list(), Qt::Key_Delete);
    wait();
    EXPECT_EQ(draft().blocks().size(), first.size() - 1);
    for (int i = 0; i < 3; ++i)
        trigger("undo");
    EXPECT_EQ(draft().blocks(), first);
}

TEST_F(ReportTest, ADragMovesABlock) {
    openReport();
    const auto first = draft().blocks();
    list().model()->moveRow({}, 0, {}, 3); // what the list does at the end of a drag
    wait();
    EXPECT_EQ(draft().blocks()[2].kind, first[0].kind);
    EXPECT_EQ(draft().blocks()[0].kind, first[1].kind);
}

TEST_F(ReportTest, AClickOnThePageChoosesWhatStandsThere) {
    openReport();
    std::size_t verdicts = 0;
    for (std::size_t at = 0; at < draft().blocks().size(); ++at)
        if (draft().blocks()[at].kind == "verdicts")
            verdicts = at;
    const auto stretch = draft().pages()->stretchesOf(verdicts).front();
    pages().showBlock(verdicts);
    const auto box = pages().pageBox(stretch.page);
    QTest::mouseClick(pages().viewport(), Qt::LeftButton, {},
                      box.topLeft() + QPoint(static_cast<int>(60 * pages().zoom()),
                                             static_cast<int>((stretch.top + 12) * pages().zoom())));
    EXPECT_EQ(draft().chosen(), verdicts);
    EXPECT_EQ(list().currentRow(), static_cast<int>(verdicts));
    pick("blockDecimals", "3");
    wait();
    EXPECT_TRUE(text().contains("110.000 \u00b0C")) << text().toStdString();
}

TEST_F(ReportTest, TheFigureIsSetUp) {
    openReport();
    for (std::size_t at = 0; at < draft().blocks().size(); ++at)
        if (draft().blocks()[at].kind == "viewpoint")
            chooseBlock(static_cast<int>(at));
    pick("blockScale", "beside");
    pick("blockLegend", "parts");
    pick("blockSize", "50 % of the width");
    wait();
    ASSERT_TRUE(figure()->picture.isThere()) << figure()->picture.why;
    EXPECT_EQ(figure()->size, 0.5);
    EXPECT_NE(figure()->picture.drawing->svg().find("1  "), std::string::npos) << "numbers and their names";
    pick("blockScale", "beneath"); // the first choice is what is left out
    EXPECT_TRUE(draft().blocks()[draft().chosen()].scale.empty());
}

TEST_F(ReportTest, IsExportedAndTheRestGoesOn) {
    openReport();
    for (const auto* ending : {".pdf", ".odt", ".html", ".md", ".xlsx"}) {
        const auto file = folder / (std::string("out") + ending);
        dialogs::answerNextFile(QString::fromStdString(file.string()));
        trigger("exportReport");
        wait();
        EXPECT_GT(std::filesystem::file_size(file), 500U) << ending;
    }
    const auto html = readText(folder / "out.html");
    EXPECT_NE(html.find("over"), std::string::npos);
    EXPECT_EQ(html.find("being drawn"), std::string::npos) << "figures are waited for";
    EXPECT_EQ(html.find("being computed"), std::string::npos);
    const int before = window->messagesShown();
    dialogs::answerNextFile(QString::fromStdString((folder / "no" / "out.pdf").string()));
    trigger("exportReport");
    wait();
    EXPECT_EQ(window->messagesShown(), before + 1);
}

TEST_F(ReportTest, TheListIsATemplateForOtherSurveys) {
    openReport();
    const auto file = QString::fromStdString((folder / "ours.report.json").string());
    dialogs::answerNextFile(file);
    const auto act = [&](const QString& words) {
        for (auto* action : button("reportTemplates")->menu()->actions())
            if (action->text() == words)
                return action->trigger();
        FAIL() << words.toStdString();
    };
    act("Save as\u2026");
    const auto kept = readReportTemplate(file.toStdString());
    ASSERT_TRUE(kept) << kept.error().text();
    EXPECT_EQ(*kept, draft().blocks());
    act("One page");
    wait();
    EXPECT_EQ(draft().blocks().size(), 5U);
    dialogs::answerNextFile(file);
    act("Open\u2026");
    EXPECT_EQ(draft().blocks(), *kept);
    writeText(folder / "broken.report.json", R"({"pyrometer_report": 1, "blocks": [{"kind": 7}]})");
    dialogs::answerNextFile(QString::fromStdString((folder / "broken.report.json").string()));
    act("Open\u2026");
    EXPECT_TRUE(window->message().contains("broken.report.json")) << window->message().toStdString();
    EXPECT_EQ(draft().blocks(), *kept) << "nothing is lost";
}

TEST_F(ReportTest, ADocumentOfOnesOwnIsFilled) {
    openReport();
    writeText(folder / "own.html", "<p>{{T_core}} {{verdict}} {{unheard_of}}</p>");
    dialogs::answerNextFile(QString::fromStdString((folder / "own.html").string()));
    dialogs::answerNextFile(QString::fromStdString((folder / "filled.html").string()));
    for (auto* action : button("reportTemplates")->menu()->actions())
        if (action->text().startsWith("Fill"))
            action->trigger();
    wait();
    const auto filled = readText(folder / "filled.html");
    EXPECT_NE(filled.find("110.0"), std::string::npos) << filled;
    EXPECT_TRUE(window->message().contains("unheard_of")) << window->message().toStdString();
}

TEST_F(ReportTest, UnitsAndLogoAreAskedForOnce) {
    openReport();
    click(button("reportMore"));
    fill("reportUnits", "degF");
    wait();
    EXPECT_TRUE(text().contains("\u00b0F")) << text().toStdString();
    fill("reportUnits", "parsnips");
    EXPECT_TRUE(window->message().contains("parsnips"));
    EXPECT_EQ(window->session().survey().report.units, std::vector<std::string>{"degF"});
    writeText(folder / "logo.png", "no picture at all");
    dialogs::answerNextFile(QString::fromStdString((folder / "logo.png").string()));
    click(button("reportLogo"));
    wait();
    EXPECT_EQ(window->session().survey().report.logo, "logo.png") << "by its name beside the survey";
    EXPECT_TRUE(find<QLabel>("reportRemarks")->text().contains("logo.png"));
    EXPECT_TRUE(text().contains("Core")) << "the rest goes on";
}

TEST_F(ReportTest, TablesAndFiguresAreCopied) {
    openReport();
    const ReportPart* table = nullptr;
    for (const auto& part : draft().document()->parts)
        if (part.kind == ReportPart::Kind::Table && table == nullptr)
            table = &part;
    ASSERT_NE(table, nullptr);
    QMenu menu;
    addCopyActions(menu, *table);
    addCopyActions(menu, *figure());
    ASSERT_EQ(menu.actions().size(), 2);
    menu.actions()[0]->trigger();
    const auto* copied = QApplication::clipboard()->mimeData();
    EXPECT_TRUE(copied->text().contains("Verdict\tName")) << copied->text().toStdString();
    EXPECT_TRUE(copied->html().contains("<td>Core</td>")) << copied->html().toStdString();
    menu.actions()[1]->trigger();
    copied = QApplication::clipboard()->mimeData();
    EXPECT_TRUE(copied->hasImage());
    EXPECT_TRUE(copied->hasFormat("image/svg+xml"));
}

TEST_F(ReportTest, PagesAreEnlarged) {
    openReport();
    const double fit = pages().zoom();
    click(button("reportLarger"));
    EXPECT_NEAR(pages().zoom(), 1.2 * fit, 1e-9);
    click(button("reportFit"));
    EXPECT_NEAR(pages().zoom(), fit, 1e-9);
    pages().verticalScrollBar()->setValue(pages().verticalScrollBar()->maximum());
    EXPECT_EQ(find<QLabel>("reportPage")->text(), QString("Page %1 of %1").arg(draft().pages()->count()));
}

// The window lays its plot out before there are marks, a file does not.
TEST(ChartFigure, HasItsMarksAndLetters) {
    ChartData chart;
    chart.xTitle = "Distance, mm";
    chart.curves.push_back({"baseline", "g", {0, 5, 10}, {20, 40, 30}, {}, {}});
    chart.marks = {{0, "Die"}, {4, "Plate"}};
    const auto svg = chartFigure(chart, {}).drawing->svg();
    EXPECT_NE(svg.find(">Plate</text>"), std::string::npos);
    EXPECT_NE(svg.find(">Distance, mm</text>"), std::string::npos);
    std::size_t lines = 0;
    for (auto at = svg.find("#c9c2b6"); at != std::string::npos; at = svg.find("#c9c2b6", at + 1))
        ++lines;
    EXPECT_GE(lines, 1U) << "where another part begins";
    EXPECT_NE(svg.find("stroke-dasharray"), std::string::npos);
}
