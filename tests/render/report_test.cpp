// The report's pages: tables go on over pages, names with signs of markup are names, what is not there leaves no gap.
#include "core/report/pages/report_blocks.h"
#include "render/page_figure.h"
#include "render/report_pages.h"
#include "tests/support/temp_folder.h"

#include <QColor>
#include <QPainter>
#include <fmt/format.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

class ReportTest : public testing::Test {
protected:
    ReportTest() {
        survey.title = "Module";
        survey.cases.emplace_back();
        survey.cases[0].name = "baseline";
        survey.cases[0].file = "cases/baseline.vtm";
        run.cases.emplace_back();
        run.cases[0].name = "baseline";
        run.cases[0].steps.emplace_back();
    }
    Readings& readings() { return run.cases[0].steps[0]; }
    ReportDocument made() {
        std::vector<ReportBlock> list;
        KeyValue<std::vector<ReportBlock>>::read(blocks, {"blocks"}, list);
        ReportInput input{survey, run, "2026-01-31", "0.1"};
        input.pictures = pictures;
        return makeReport(input, list);
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
            readings().limits.push_back(reading);
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
        const auto document = made();
        NoProgress progress;
        EXPECT_TRUE(ReportPages(document, store).writePdf(file, progress));
        const auto text = folder / "report.txt";
        EXPECT_EQ(std::system(("pdftotext -layout '" + file.string() + "' '" + text.string() + "'").c_str()), 0);
        return readText(text);
    }
    TempFolder folder;
    Survey survey;
    SurveyRun run{"", {}};
    Json blocks = Json::parse(R"j([{"kind": "title"}, {"kind": "cases"}, {"kind": "verdicts"}])j");
    ReportPictures pictures;
    FigureStore store;
};

} // namespace

TEST_F(ReportTest, OnePageWhereItFits) {
    judge(9);
    const auto document = made();
    const ReportPages pages(document, store);
    EXPECT_EQ(pages.count(), 1);
    const auto page = pages.picture(0, 40);
    EXPECT_NEAR(page.width(), 210 / 25.4 * 40, 1);
    EXPECT_NEAR(page.height(), 297 / 25.4 * 40, 1);
    EXPECT_GT(inked(page), 40);
}

TEST_F(ReportTest, ALongTableGoesOnOverPages) {
    judge(120);
    const auto document = made();
    const ReportPages pages(document, store);
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
    survey.title = "A < B & <b>C</b>";
    readings().limits[0].source = "R&D <draft> \"4\"";
    const auto text = textOfPdf();
    EXPECT_NE(text.find("A < B & <b>C</b>"), std::string::npos) << text;
    EXPECT_NE(text.find("R&D <draft> \"4\""), std::string::npos) << text;
}

TEST_F(ReportTest, SaysThatNothingIsJudged) {
    EXPECT_NE(textOfPdf().find("No limits are defined, so nothing is judged."), std::string::npos);
}

// Share of a page that is red, and how far to the right it reaches, mm.
TEST_F(ReportTest, AFigureKeepsItsShapeWithinThePage) {
    pictures.viewpoints = [](const ViewpointFigure&) {
        return figureOf(QSize(1200, 300), [](QPainter& painter) { painter.fillRect(0, 0, 1200, 300, Qt::red); });
    };
    survey.viewpoints.resize(1);
    blocks = Json::parse(R"j([{"kind": "title"}, {"kind": "viewpoint"}])j");
    for (const double share : {1.0, 0.5}) {
        blocks[1]["size"] = share;
        const auto document = made();
        const auto page = ReportPages(document, store).picture(0, 40);
        int wide = 0;
        int many = 0;
        for (int x = 0; x < page.width(); ++x)
            for (int y = 0; y < page.height(); ++y)
                if (qRed(page.pixel(x, y)) > 200 && qGreen(page.pixel(x, y)) < 60) {
                    wide = std::max(wide, x);
                    ++many;
                }
        EXPECT_NEAR(wide / (40 / 25.4), 18 + 174 * share, 1.5) << "to the right margin, mm";
        const double area = 174 * share * 43.5 * share;
        EXPECT_NEAR(many / (40 / 25.4) / (40 / 25.4), area, area * 0.05) << "a quarter as high as wide";
    }
}

TEST_F(ReportTest, TheContentsTellPagesAndLeadThere) {
    judge(150);
    blocks = Json::parse(R"j([{"kind": "title"}, {"kind": "contents"}, {"kind": "verdicts"}, {"kind": "text",
        "title": "Last words", "text": "the end"}])j");
    const auto text = textOfPdf();
    const auto document = made();
    const ReportPages pages(document, store);
    EXPECT_GT(pages.count(), 2);
    const auto line = text.substr(text.find("Last words"), 200);
    EXPECT_EQ(std::stoi(line.substr(std::string("Last words").size())), pages.count()) << line;
    const auto raw = readText(folder / "report.pdf");
    const auto outline = folder / "outline.txt";
    EXPECT_EQ(
        std::system(("pdfinfo -dests '" + (folder / "report.pdf").string() + "' > '" + outline.string() + "'").c_str()),
        0);
    EXPECT_NE(raw.find("/Outlines"), std::string::npos);
    EXPECT_NE(raw.find("/Subtype /Link"), std::string::npos);
}

TEST_F(ReportTest, WhatStandsOnAPageIsKnown) {
    judge(150);
    const auto document = made();
    const ReportPages pages(document, store);
    const auto blockAt = [&](int page, double y) {
        return document.parts[pages.partAt(page, {60, y}).value_or(0)].block;
    };
    EXPECT_EQ(blockAt(0, 20), 0U) << "the title";
    EXPECT_EQ(blockAt(0, 250), 2U) << "in the midst of the table";
    EXPECT_EQ(blockAt(1, 100), 2U);
    const auto stretches = pages.stretchesOf(2);
    ASSERT_GE(stretches.size(), 2U);
    int last = 0;
    for (const auto& one : stretches) {
        EXPECT_LT(one.top, one.bottom);
        EXPECT_LE(one.bottom, 297);
        last = one.page;
    }
    EXPECT_EQ(last, pages.count() - 1);
}

TEST_F(ReportTest, UnitsDecimalsAndCommaAreTheReaders) {
    judge(1);
    survey.report.units = {"degF"};
    survey.report.decimal = "comma";
    ReportInput input{survey, run, "2026-01-31", "0.1", reportUnits(survey)};
    ReportBlock block;
    block.kind = "verdicts";
    block.decimals = 2;
    const auto document = makeReport(input, {block});
    const auto& row = document.parts.at(1).table.rows.at(0);
    EXPECT_EQ(row[2], "170,33 \u00b0F") << "350 K are 170.33 degF";
    EXPECT_EQ(row[4].substr(0, 5), "54,00") << "30 K are a difference of 54 degF: " << row[4];
}

TEST_F(ReportTest, TellsWhatCasesTellTogether) {
    survey.cases.push_back(survey.cases[0]);
    survey.cases[1].name = "more flow";
    run.cases.clear();
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
    blocks = Json::parse(R"j([{"kind": "compare"}, {"kind": "measured"}])j");
    const auto text = textOfPdf();
    EXPECT_NE(text.find("more flow against baseline"), std::string::npos) << text;
    EXPECT_NE(text.find("-14.5 K"), std::string::npos) << text;
    EXPECT_NE(text.find("there is no column"), std::string::npos) << "what is not known says so on the page";
}

TEST_F(ReportTest, AHeadingStaysWithWhatItIsOf) {
    pictures.viewpoints = [](const ViewpointFigure&) {
        return figureOf(QSize(1000, 1200), [](QPainter& painter) { painter.fillRect(0, 0, 1000, 1200, Qt::red); });
    };
    survey.viewpoints.resize(1);
    // Figures of nearly a page: what stands before each has room enough on the page before.
    blocks = Json::parse(R"j([{"kind": "title"}, {"kind": "text", "title": "Before", "text": "words"},
        {"kind": "text", "title": "Of the figure", "text": ""}, {"kind": "viewpoint"},
        {"kind": "text", "title": "Of the second", "text": ""}, {"kind": "viewpoint"}])j");
    textOfPdf();
    for (int page = 1; page <= 3; ++page) {
        const auto text = folder / "page.txt";
        EXPECT_EQ(std::system(fmt::format("pdftotext -f {0} -l {0} '{1}' '{2}'", page, (folder / "report.pdf").string(),
                                          text.string())
                                  .c_str()),
                  0);
        const auto words = readText(text);
        EXPECT_EQ(words.find("Of the figure") != std::string::npos, page == 2) << page << words;
        EXPECT_EQ(words.find("Of the second") != std::string::npos, page == 3) << page << words;
    }
}
