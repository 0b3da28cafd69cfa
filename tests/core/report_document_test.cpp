// Reports by blocks, fields of templates, and the writers that need no drawing.
#include "core/report/pages/fill_template.h"
#include "core/report/pages/markdown_text.h"
#include "core/report/pages/report_template.h"
#include "core/report/pages/report_writers.h"
#include "tests/support/meshes.h"
#include "tests/support/survey_on_disk.h"

#include <fstream>
#include <iterator>
#include <pugixml.hpp>
#include <zip.h>

using namespace pyro;
using namespace pyro::test;

namespace {

std::string textIn(const std::filesystem::path& file) {
    std::ifstream stream(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(stream), std::istreambuf_iterator<char>()};
}

class ReportBlocks : public testing::Test {
protected:
    ReportBlocks() {
        auto chip = boxPart("chip", {{0.1, 0.1, 0.1}, {2, 2, 2}});
        addNodeField(chip, "T [K]", [](const Point& at) { return 350 + 100 * at[0]; });
        EXPECT_TRUE(writeCase(std::vector{chip}, folder / "chip.vtm"));
        survey = mustRead(Json::parse(R"j({"pyrometer": 1, "title": "Module <A&B>",
            "cases": [{"name": "chip", "file": "chip.vtm", "parts": {"chip": {"label": "Chip | one"}}}],
            "gauges": [{"id": "T_max", "where": {"part": "chip"}, "quantity": "temperature", "statistic": "max",
              "unit": "degC"}, {"id": "dot.ted", "where": {"part": "chip"}, "quantity": "volume", "unit": "cm3"}],
            "limits": [{"part": "chip", "max": "80 degC"}],
            "findings": [{"text": "check the pad", "severity": "warning"}],
            "report": {"prepared_by": "A. Kestrel"}})j"));
        NoProgress progress;
        run = *runSurvey(survey, folder / "test.survey.json", {{}, std::nullopt, {}, true}, progress);
    }
    ReportInput input() { return {survey, run, "2026-05-04", "0.1", TemperatureUnit::Celsius, {}, {}}; }
    ReportDocument made(const Json& blocks) {
        std::vector<ReportBlock> list;
        KeyValue<std::vector<ReportBlock>>::read(blocks, {"blocks"}, list);
        return makeReport(input(), list);
    }
    const TempFolder folder;
    Survey survey;
    SurveyRun run;
};

} // namespace

TEST_F(ReportBlocks, EveryBlockOfTheFullTemplateSaysSomethingOrNothing) {
    const auto blocks = readReportTemplate(std::filesystem::path(PYROMETER_SOURCE) / "templates/full.report.json");
    ASSERT_TRUE(blocks) << blocks.error().text();
    EXPECT_GE(blocks->size(), 18U);
    const auto document = makeReport(input(), *blocks);
    EXPECT_TRUE(document.remarks.empty()) << document.remarks.front();
    const auto html = htmlOf(document);
    for (const auto* words : {"Module &lt;A&amp;B&gt;", "A. Kestrel", "Chip | one", "86.9", "check the pad",
                              "Table 1: Verdicts of chip", "over"})
        EXPECT_NE(html.find(words), std::string::npos) << words;
    pugi::xml_document parsed; // every tag is closed
    const auto body = html.substr(html.find("<body>"));
    EXPECT_TRUE(parsed.load_string(body.substr(0, body.rfind("</html>")).c_str())) << "as XML";
}

TEST_F(ReportBlocks, TextHoldsValuesAndMarkdown) {
    const auto document = made(Json::parse(R"j([{"kind": "text", "title": "Summary", "text":
        "The **chip** reaches {{T_max}} ({{T_max.unit}}), {{limit.chip.margin}} left; {{no_such}}; {{dot.ted}}.)j"
                                           R"j(\n\n- one\n- two"},
        {"kind": "nothing"}])j"));
    const auto markdown = markdownOf(document, "p").text;
    EXPECT_NE(markdown.find("## Summary"), std::string::npos);
    EXPECT_NE(markdown.find("The **chip** reaches 86.9"), std::string::npos) << markdown;
    EXPECT_NE(markdown.find("(degC), -6.9"), std::string::npos) << markdown;
    EXPECT_NE(markdown.find("1000 cm"), std::string::npos) << markdown;
    EXPECT_NE(markdown.find("- one\n- two"), std::string::npos) << markdown;
    ASSERT_EQ(document.remarks.size(), 2U);
    EXPECT_NE(document.remarks[0].find("\"no_such\""), std::string::npos);
    EXPECT_NE(document.remarks[1].find("\"nothing\""), std::string::npos);
}

TEST_F(ReportBlocks, ColumnsRowsAndCommasAreChosen) {
    survey.report.decimal = "comma";
    const auto document = made(Json::parse(R"j([{"kind": "gauges", "rows": ["T_max"]},
        {"kind": "verdicts", "columns": ["Margin", "Verdict"]}, {"kind": "findings", "off": true}])j"));
    std::vector<const ReportPart*> tables;
    for (const auto& part : document.parts)
        if (part.kind == ReportPart::Kind::Table)
            tables.push_back(&part);
    ASSERT_EQ(tables.size(), 2U);
    ASSERT_EQ(tables[0]->table.rows.size(), 1U);
    EXPECT_NE(tables[0]->table.rows[0][1].find("86,9"), std::string::npos) << tables[0]->table.rows[0][1];
    ASSERT_EQ(tables[1]->table.columns.size(), 2U);
    EXPECT_EQ(tables[1]->table.columns[0].title, "Margin");
}

TEST_F(ReportBlocks, AnHtmlOfTheUsersOwnIsFilled) {
    writeText(folder / "own.html", "<h1 class='k'>{{title}}</h1>{{#verdicts}}<p>{{target}}: {{margin}}</p>{{/verdicts}}"
                                   "<i>{{unknown_one}}</i>");
    std::vector<std::string> unknown;
    ASSERT_TRUE(fillTemplate(folder / "own.html", folder / "out.html", input(), unknown));
    const auto html = textIn(folder / "out.html");
    EXPECT_NE(html.find("<h1 class='k'>Module &lt;A&amp;B&gt;</h1>"), std::string::npos) << html;
    EXPECT_NE(html.find("<p>Chip | one: -6.9"), std::string::npos) << html;
    EXPECT_NE(html.find("<i>{{unknown_one}}</i>"), std::string::npos) << html;
    EXPECT_EQ(unknown, std::vector<std::string>{"unknown_one"});
    writeText(folder / "own.html", "{{#verdicts}} never closed");
    EXPECT_NE(fillTemplate(folder / "own.html", folder / "no.html", input(), unknown).error().what.find("template"),
              std::string::npos);
    EXPECT_FALSE(std::filesystem::exists(folder / "no.html"));
    EXPECT_FALSE(fillTemplate(folder / "own.html", folder / "no.odt", input(), unknown)) << "another form";
    EXPECT_FALSE(fillTemplate(folder / "gone.html", folder / "no.html", input(), unknown));
}

// As a word processor saves it: fields cut into pieces, a row of a table to be repeated; all else stays byte for byte.
TEST_F(ReportBlocks, AnOpenDocumentOfTheUsersOwnIsFilled) {
    const std::string logo("\x89PNG\0\1\2 no real picture", 24);
    const std::string styles = "<styles><text:p>Page head of {{case}}</text:p></styles>";
    const std::string content =
        "<office:text><text:p text:style-name=\"Ours\">T = {{T_<text:span>max</text:span>}}</text:p><table:table>"
        "<table:table-row><table:table-cell><text:p>{{#verdicts}}{{target}}</text:p></table:table-cell>"
        "<table:table-cell><text:p>{{verdict}}{{/verdicts}}</text:p></table:table-cell></table:table-row>"
        "</table:table><text:p>{{#findings}}</text:p><text:p>{{text}}</text:p><text:p>{{/findings}}</text:p>"
        "</office:text>";
    int error = 0;
    auto* made = zip_open((folder / "own.odt").c_str(), ZIP_CREATE, &error);
    ASSERT_NE(made, nullptr);
    const std::pair<const char*, const std::string*> entries[]{
        {"content.xml", &content}, {"styles.xml", &styles}, {"Pictures/logo.png", &logo}};
    for (const auto& [name, bytes] : entries)
        zip_file_add(made, name, zip_source_buffer(made, bytes->data(), bytes->size(), 0), 0);
    ASSERT_EQ(zip_close(made), 0);

    std::vector<std::string> unknown;
    const auto done = fillTemplate(folder / "own.odt", folder / "out.odt", input(), unknown);
    ASSERT_TRUE(done) << done.error().text();
    EXPECT_TRUE(unknown.empty()) << unknown.front();
    auto* filled = zip_open((folder / "out.odt").c_str(), ZIP_RDONLY, &error);
    ASSERT_NE(filled, nullptr);
    const auto entry = [&](const char* name) {
        zip_stat_t found{};
        EXPECT_EQ(zip_stat(filled, name, 0, &found), 0) << name;
        std::string bytes(found.size, '\0');
        auto* file = zip_fopen(filled, name, 0);
        zip_fread(file, bytes.data(), bytes.size());
        zip_fclose(file);
        return bytes;
    };
    EXPECT_EQ(entry("Pictures/logo.png"), logo);
    EXPECT_EQ(entry("styles.xml"), "<styles><text:p>Page head of chip</text:p></styles>");
    const auto text = entry("content.xml");
    EXPECT_NE(text.find("text:style-name=\"Ours\">T = 86.9"), std::string::npos) << text;
    EXPECT_NE(text.find("<table:table-row><table:table-cell><text:p>Chip | one</text:p></table:table-cell>"),
              std::string::npos)
        << text;
    EXPECT_NE(text.find("<text:p>over</text:p>"), std::string::npos) << text;
    EXPECT_NE(text.find("</table:table><text:p>check the pad</text:p></office:text>"), std::string::npos) << text;
    zip_discard(filled);
}

TEST(MarkdownText, BecomesParts) {
    const auto parts = partsOfMarkdown("# Head\n\nplain *slanted* `code` [link](https://example.org)\n\n"
                                       "| a | b |\n|---|---|\n| 1 | 2 |\n");
    ASSERT_EQ(parts.size(), 3U);
    EXPECT_EQ(parts[0].kind, ReportPart::Kind::Heading);
    EXPECT_EQ(plainText(parts[1].runs), "plain slanted code link");
    EXPECT_TRUE(parts[1].runs[1].italic);
    EXPECT_EQ(parts[1].runs.back().link, "https://example.org");
    ASSERT_EQ(parts[2].table.rows.size(), 1U);
    EXPECT_EQ(parts[2].table.rows[0][1], "2");
}

TEST(ReportTemplate, MistakesAreNamedWithTheirPlace) {
    const TempFolder folder;
    writeText(folder / "t.report.json", R"j({"pyrometer_report": 1, "blocks": [{"kind": "title"}, {"title": "x"}]})j");
    EXPECT_NE(readReportTemplate(folder / "t.report.json").error().text().find("blocks[1]"), std::string::npos);
    writeText(folder / "t.report.json", "no json");
    EXPECT_FALSE(readReportTemplate(folder / "t.report.json"));
    EXPECT_FALSE(readReportTemplate(folder / "gone.report.json"));
    std::vector<ReportBlock> blocks(1);
    blocks[0].kind = "text";
    blocks[0].size = 0.5;
    blocks[0].off = true;
    ASSERT_TRUE(writeReportTemplate(blocks, folder / "u.report.json"));
    EXPECT_EQ(*readReportTemplate(folder / "u.report.json"), blocks);
}
