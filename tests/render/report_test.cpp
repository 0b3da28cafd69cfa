// The report's pages: tables go on over pages, names with signs of markup are names, what is not there leaves no gap.
#include "render/report_page.h"
#include "tests/support/temp_folder.h"

#include <QColor>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

class ReportTest : public testing::Test {
protected:
    ReportTest() {
        entry.name = "baseline";
        entry.file = "cases/baseline.vtm";
        content.title = "Module";
        content.date = "2026-01-31";
        content.survey = &survey;
        content.entry = &entry;
        content.readings = &readings;
    }
    void judge(int limits) {
        for (int i = 0; i < limits; ++i) {
            Limit limit;
            limit.target = {TargetKind::Part, "part " + std::to_string(i)};
            survey.limits.push_back(limit);
            LimitReading reading;
            reading.form = limit.form;
            reading.target = limit.target;
            reading.isTemperature = true;
            reading.unit = "K";
            reading.value = 350.0 + i;
            reading.limit = 380;
            reading.margin = 30.0 - i;
            reading.required = 5;
            reading.verdict = i < 26 ? Verdict::Within : Verdict::Over;
            reading.source = "data sheet " + std::to_string(i);
            readings.limits.push_back(reading);
        }
    }
    // Rows of pixels that are not white, from the top, at 40 dpi.
    static int inked(const QImage& page) {
        int rows = 0;
        for (int y = 0; y < page.height(); ++y)
            for (int x = 0; x < page.width(); ++x)
                if (qGray(page.pixel(x, y)) < 200) {
                    ++rows;
                    break;
                }
        return rows;
    }
    std::string textOfPdf() {
        const auto file = folder / "report.pdf";
        EXPECT_TRUE(ReportPages(content).writePdf(file));
        const auto text = folder / "report.txt";
        EXPECT_EQ(std::system(("pdftotext -layout '" + file.string() + "' '" + text.string() + "'").c_str()), 0);
        return readText(text);
    }
    TempFolder folder;
    Survey survey;
    CaseEntry entry;
    Readings readings;
    ReportContent content;
};

} // namespace

TEST_F(ReportTest, OnePageWhereItFits) {
    judge(9);
    const ReportPages pages(content);
    EXPECT_EQ(pages.count(), 1);
    const auto page = pages.picture(0, 40);
    EXPECT_NEAR(page.width(), 210 / 25.4 * 40, 1);
    EXPECT_NEAR(page.height(), 297 / 25.4 * 40, 1);
    EXPECT_GT(inked(page), 40);
}

TEST_F(ReportTest, ALongTableGoesOnOverPages) {
    judge(120);
    const ReportPages pages(content);
    EXPECT_GE(pages.count(), 3);
    const auto text = textOfPdf();
    for (int i = 0; i < 120; ++i)
        EXPECT_NE(text.find("data sheet " + std::to_string(i)), std::string::npos) << i;
    std::size_t heads = 0;
    for (auto at = text.find("Allowed"); at != std::string::npos; at = text.find("Allowed", at + 1))
        ++heads;
    EXPECT_EQ(heads, static_cast<std::size_t>(pages.count())) << "the head of the table is repeated";
    EXPECT_NE(text.find("page 2 of " + std::to_string(pages.count())), std::string::npos);
}

TEST_F(ReportTest, NamesWithSignsOfMarkupAreNames) {
    judge(1);
    content.title = "A < B & <b>C</b>";
    readings.limits[0].source = "R&D <draft> \"4\"";
    const auto text = textOfPdf();
    EXPECT_NE(text.find("A < B & <b>C</b>"), std::string::npos) << text;
    EXPECT_NE(text.find("R&D <draft> \"4\""), std::string::npos) << text;
}

TEST_F(ReportTest, SaysThatNothingIsJudged) {
    EXPECT_NE(textOfPdf().find("No limits are defined, so nothing is judged."), std::string::npos);
}

TEST_F(ReportTest, ThePictureKeepsItsShapeWithinThePage) {
    content.picture = QImage(1200, 300, QImage::Format_RGB32);
    content.picture.fill(Qt::red);
    const auto page = ReportPages(content).picture(0, 40);
    int wide = 0;
    int high = 0;
    for (int x = 0; x < page.width(); ++x)
        for (int y = 0; y < page.height(); ++y)
            if (qRed(page.pixel(x, y)) > 200 && qGreen(page.pixel(x, y)) < 60) {
                wide = std::max(wide, x);
                ++high;
            }
    EXPECT_NEAR(wide / (40 / 25.4), 192, 1.5) << "to the right margin, mm";
    EXPECT_NEAR(high / (40 / 25.4) / (40 / 25.4), 174 * 43.5, 174 * 43.5 * 0.03) << "a quarter as high as wide";
}

TEST_F(ReportTest, TellsWhatCasesTellTogether) {
    survey.cases = {entry, entry};
    survey.cases[1].name = "more flow";
    SurveyRun run;
    for (const double kelvin : {350.0, 335.5}) {
        CaseRun one;
        one.name = survey.cases[run.cases.size()].name;
        Readings step;
        step.step = 0;
        step.parts.push_back({"die", 1, 8, 1, {}, {}, Temperature{kelvin}, {}, {}, {}});
        one.steps.push_back(step);
        run.cases.push_back(one);
    }
    tellTogether(survey, run);
    MeasuredReading measured;
    measured.id = "thermocouples";
    measured.why = "tc.csv: there is no column \"value\"";
    run.cases[0].measured.push_back(measured);
    content.run = &run;
    const auto text = textOfPdf();
    EXPECT_NE(text.find("more flow against baseline"), std::string::npos) << text;
    EXPECT_NE(text.find("-14.5 K"), std::string::npos) << text;
    EXPECT_NE(text.find("there is no column"), std::string::npos) << "what is not known says so on the page";
}
