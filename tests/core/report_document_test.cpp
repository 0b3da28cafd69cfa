// Reports by blocks, fields of templates, and the writers that need no drawing.
#include "core/feedback/check_sum.h"
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
    ReportInput input() { return {survey, run, "2026-05-04", "0.1", reportUnits(survey), {}, {}}; }
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

TEST_F(ReportBlocks, AnOpenDocumentHasStylesHeadsAndPages) {
    const auto document = made(Json::parse(R"j([{"kind": "title"}, {"kind": "contents"}, {"kind": "verdicts"},
        {"kind": "text", "title": "R&D <draft>", "text": "A [link](https://example.org), **bold**\n\n- one\n- two"},
        {"kind": "signatures"}])j"));
    ASSERT_TRUE(writeReportOdt(document, folder / "r.odt"));
    int error = 0;
    auto* archive = zip_open((folder / "r.odt").c_str(), ZIP_RDONLY, &error);
    ASSERT_NE(archive, nullptr);
    EXPECT_STREQ(zip_get_name(archive, 0, 0), "mimetype") << "first, so that any program knows it by its bytes";
    const auto entry = [&](const char* name) {
        zip_stat_t found{};
        zip_stat(archive, name, 0, &found);
        std::string bytes(found.size, '\0');
        auto* opened = zip_fopen(archive, name, 0);
        zip_fread(opened, bytes.data(), bytes.size());
        zip_fclose(opened);
        return bytes;
    };
    pugi::xml_document content;
    pugi::xml_document styles;
    ASSERT_TRUE(content.load_string(entry("content.xml").c_str()));
    ASSERT_TRUE(styles.load_string(entry("styles.xml").c_str()));
    zip_discard(archive);
    const auto count = [](const pugi::xml_document& xml, const char* path) { return xml.select_nodes(path).size(); };
    EXPECT_EQ(count(content, "//text:h"), 4U);
    EXPECT_EQ(count(content, "//text:index-body/text:p/text:a"), 3U) << "all headings but that of the contents";
    EXPECT_EQ(count(content, "//table:table-header-rows"), 1U);
    EXPECT_EQ(count(content, "//text:list/text:list-item"), 2U);
    EXPECT_EQ(count(content, "//text:span[@text:style-name='Verdict_20_over']"), 2U) << "title and row";
    EXPECT_EQ(count(styles, "//style:footer//text:page-count"), 1U);
    for (const auto& used : content.select_nodes("//text:p/@text:style-name")) {
        const auto path = std::string("//style:style[@style:name='") + used.attribute().value() + "']";
        EXPECT_EQ(count(styles, path.c_str()) + count(content, path.c_str()), 1U) << path;
    }
    for (const auto& link : content.select_nodes("//text:index-body//text:a/@xlink:href")) {
        const auto path = std::string("//text:bookmark[@text:name='") + (link.attribute().value() + 1) + "']";
        EXPECT_EQ(count(content, path.c_str()), 1U) << path;
    }
}

TEST_F(ReportBlocks, ALongTableIsCutAndSaysSo) {
    for (int i = 0; i < 10'000; ++i) {
        Finding finding;
        finding.text = "finding " + std::to_string(i);
        survey.findings.push_back(finding);
    }
    const auto document = made(Json::parse(R"j([{"kind": "findings"}])j"));
    EXPECT_EQ(document.parts.at(1).table.rows.size(), 2000U);
    EXPECT_NE(plainText(document.parts.at(2).runs).find("2000 of 10001 rows"), std::string::npos);
}

TEST_F(ReportBlocks, ALogoThatIsNoPictureIsToldAndTheRestGoesOn) {
    survey.report.number = "TR-042";
    survey.report.logo = "logo.png";
    auto document = made(Json::parse(R"j([{"kind": "title"}, {"kind": "verdicts"}])j"));
    ASSERT_EQ(document.remarks.size(), 1U);
    EXPECT_NE(document.remarks[0].find("\"logo.png\" is not there"), std::string::npos);
    writeText(folder / "logo.png", "GIF89a is none of them");
    document = made(Json::parse(R"j([{"kind": "title"}, {"kind": "verdicts"}])j"));
    EXPECT_NE(document.remarks.at(0).find("no PNG, JPEG or SVG"), std::string::npos);
    EXPECT_NE(plainText(document.parts.at(1).runs).find("TR-042"), std::string::npos);
    EXPECT_FALSE(document.parts[0].picture.isThere());
    writeText(folder / "logo.png", "<svg xmlns='http://www.w3.org/2000/svg'/>"); // whatever its name says
    document = made(Json::parse(R"j([{"kind": "title"}])j"));
    EXPECT_TRUE(document.remarks.empty());
    EXPECT_EQ(document.parts[0].picture.asFile().first, "svg");
}

TEST_F(ReportBlocks, AViewpointThatIsGoneIsTold) {
    const auto document = made(Json::parse(R"j([{"kind": "viewpoint", "rows": ["North", "South"]}])j"));
    EXPECT_EQ(document.remarks.size(), 2U);
    EXPECT_NE(htmlOf(document).find("&quot;North&quot; is not in the survey"), std::string::npos);
}

TEST_F(ReportBlocks, ACaseThatWasNotReadIsToldAndNothingPasses) {
    survey.limits.clear();
    run.cases[0].steps[0].limits.clear();
    survey.cases.push_back(survey.cases[0]);
    survey.cases[1].name = "later";
    const auto document = made(Json::parse(R"j([{"kind": "title"}, {"kind": "cases"}])j"));
    EXPECT_EQ(document.parts[0].mark, Verdict::Unknown);
    EXPECT_NE(htmlOf(document).find("later has not been read"), std::string::npos);
}

// FIPS 180-4; value of "abc" after NIST's examples of SHA-256.
TEST(CheckSum, IsThatOfTheStandard) {
    const TempFolder folder;
    writeText(folder / "a", "a");
    writeText(folder / "bc", "bc");
    const std::vector files{folder / "a", folder / "bc"};
    EXPECT_EQ(*sha256Of(files), "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    const std::vector gone{folder / "gone"};
    EXPECT_FALSE(sha256Of(gone));
}

TEST(ReaderUnits, WriteValuesWhereTheyConvert) {
    auto units = readerUnits(TemperatureUnit::Celsius, {"degF", "W/cm2", "mm"});
    EXPECT_EQ(units.temperature, TemperatureUnit::Fahrenheit);
    EXPECT_EQ(formatTemperature({373.15}, units), "212.0 \u00b0F");
    EXPECT_EQ(formatSi(25000, "W/m2", units), "2.5 W/cm\u00b2");
    EXPECT_EQ(formatSi(0.0125, "m", units), "12.5 mm");
    EXPECT_EQ(formatSi(3, "W", units), "3 W") << "in SI where nothing is asked for";
    EXPECT_EQ(formatDifference({10}, units), "18.0 \u00b0F (difference)");
    units.decimals = 3;
    units.comma = true;
    EXPECT_EQ(formatSi(25000, "W/m2", units), "2,500 W/cm\u00b2");
    EXPECT_EQ(ColumnUnit("W", units).title("Out"), "Out, W");
    EXPECT_EQ(ColumnUnit("W", units).text(2.5), "2,500");
    EXPECT_EQ(formatSi(1e-9, "m", readerUnits(TemperatureUnit::Celsius, {"km"})), "1e-12 km") << "never a bare zero";
}
