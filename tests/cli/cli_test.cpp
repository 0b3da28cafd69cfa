// pyrometer-cli run in this process on string streams: exit statuses, messages, JSON.
#include "cli/command.h"
#include "core/feedback/csv_rows.h"
#include "core/units/written.h"
#include "tests/support/hostile.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <sstream>

using namespace pyro;
using namespace pyro::test;
using testing::HasSubstr;

namespace {

struct Ran {
    int status;
    std::string out;
    std::string err;
};

Ran ran(const std::vector<std::string>& words) {
    std::ostringstream out;
    std::ostringstream err;
    const int status = cli::run(words, out, err);
    return {status, out.str(), err.str()};
}

// A case with a part "amp" from 300 to 350 K along x, and surveys about it.
class Cli : public testing::Test {
protected:
    void SetUp() override {
        auto part = boxPart("amp", {{0.1, 0.1, 0.1}, {5, 2, 2}});
        addNodeField(part, "T [K]", [](const Point& at) { return 300 + 500 * at[0]; });
        ASSERT_TRUE(writeCase({part, boxSide("hot side", {{0.1, 0.1, 0.1}, {5, 2, 2}}, 0, true)}, folder / "good.vtm"));
    }
    std::string survey(const std::string& limits, const std::string& cases = R"({"name": "good", "file": "good.vtm"})",
                       const std::string& more = "") {
        const auto file = folder / "s.survey.json";
        writeText(file, R"({"pyrometer": 1, "cases": [)" + cases + R"(], "limits": [)" + limits + "]" + more + "}");
        return file.string();
    }
    Json json(const std::string& surveyFile) {
        const auto result = ran({"evaluate", surveyFile, "--json", (folder / "r.json").string()});
        return Json::parse(readText(folder / "r.json"));
    }
    TempFolder folder;
};

} // namespace

TEST_F(Cli, AWordThatIsNotKnownIsNamed) {
    const auto wrong = ran({"nonsense", "a.survey.json"});
    EXPECT_EQ(wrong.status, 2);
    EXPECT_NE(wrong.err.find("\"nonsense\" is not known here"), std::string::npos) << wrong.err;
}

TEST_F(Cli, ExitStatusFollowsTheVerdict) {
    EXPECT_EQ(ran({"evaluate", survey(R"({"part": "amp", "max": "100 degC", "margin": "10 K"})")}).status, 0);
    EXPECT_EQ(ran({"evaluate", survey(R"({"part": "amp", "max": "80 degC", "margin": "10 K"})")}).status, 0); // tight
    EXPECT_EQ(ran({"evaluate", survey(R"({"part": "amp", "max": "70 degC"})")}).status, 1);
    EXPECT_EQ(ran({"evaluate", survey(R"({"part": "gone", "max": "70 degC"})")}).status, 4);
    EXPECT_EQ(
        ran({"evaluate", survey(R"({"part": "gone", "max": "70 degC"}, {"part": "amp", "max": "70 degC"})")}).status,
        1);
    EXPECT_EQ(ran({"evaluate", survey("")}).status, 0);
    EXPECT_THAT(ran({"evaluate", survey("")}).err, HasSubstr("no limits are defined"));
}

TEST_F(Cli, UsageAndInputMistakesEndWithTwo) {
    EXPECT_EQ(ran({}).status, 2);
    EXPECT_EQ(ran({"evaluate"}).status, 2);
    EXPECT_EQ(ran({"frobnicate"}).status, 2);
    EXPECT_EQ(ran({"evaluate", "/no/such.survey.json"}).status, 2);
    EXPECT_EQ(ran({"evaluate", survey(""), "--case", "other"}).status, 2);
    EXPECT_EQ(ran({"evaluate", survey(""), "--step", "7"}).status, 2);
    EXPECT_EQ(ran({"evaluate", survey(""), "--step", "soon"}).status, 2);
    EXPECT_EQ(ran({"inspect", "/no/such.vtm"}).status, 2);
    const auto unit = ran({"evaluate", survey(R"({"part": "amp", "max": "70 W"})")});
    EXPECT_EQ(unit.status, 2);
    EXPECT_THAT(unit.err, HasSubstr("limits[0].max"));
    EXPECT_EQ(ran({"--help"}).status, 0);
}

TEST_F(Cli, JsonIsAsDocumented) {
    const auto text = survey(
        R"({"part": "amp", "max": "340 K", "margin": "5 K", "source": "x"}, {"boundary": "hot side", "max": "100 degC"},
                                {"gauge": "T_mean", "max": "360 K"}, {"part": "none", "max": "360 K"})",
        R"({"name": "good", "file": "good.vtm"})",
        R"(, "gauges": [{"id": "T_mean", "where": {"part": "amp"}, "quantity": "temperature"},
                                             {"id": "T_c", "where": {"part": "amp"}, "quantity": "temperature",
                                               "statistic": "max", "unit": "degC"},
                                             {"id": "A", "where": {"boundary": "hot side"}, "quantity": "area",
                                               "statistic": "integral", "unit": "cm2"},
                                             {"id": "odd", "where": {"part": "amp"}, "quantity": "temperature",
                                               "statistic": "p101"},
                                             {"id": "sum", "formula": "T_mean + 1"},
                                             {"id": "spine", "where": {"line": {"from": [0, 0.05, 0.05], "to": [0.2,
                                               0.05, 0.05], "points": 5}}, "quantity": "temperature"}])");
    const auto result = json(text);
    EXPECT_EQ(result["verdict"], "over");
    const auto& step = result["cases"][0]["steps"][0];
    EXPECT_EQ(step["index"], 0);
    const auto& limit = step["limits"][0];
    EXPECT_EQ(limit["part"], "amp");
    EXPECT_EQ(limit["target"]["part"], "amp");
    EXPECT_NEAR(limit["value"].get<double>(), 350, 1e-9);
    EXPECT_NEAR(limit["limit"].get<double>(), 340, 1e-9);
    EXPECT_NEAR(limit["margin"].get<double>(), -10, 1e-9);
    EXPECT_EQ(limit["unit"], "K");
    EXPECT_EQ(limit["verdict"], "over");
    EXPECT_EQ(limit["on"], "node");
    EXPECT_NEAR(limit["at"][0].get<double>(), 0.1, 1e-12);
    EXPECT_EQ(step["limits"][1]["target"]["boundary"], "hot side");
    EXPECT_FALSE(step["limits"][1].contains("part"));
    EXPECT_EQ(step["limits"][3]["verdict"], "unknown");
    EXPECT_TRUE(step["limits"][3]["value"].is_null());
    EXPECT_FALSE(step["limits"][3]["why"].get<std::string>().empty());
    EXPECT_NEAR(step["gauges"][0]["value"].get<double>(), 325, 1e-9);
    EXPECT_NEAR(step["gauges"][1]["value"].get<double>(), 76.85, 1e-9);
    EXPECT_NEAR(step["gauges"][2]["value"].get<double>(), 100, 1e-9);
    for (const int unread : {3, 4}) {
        EXPECT_TRUE(step["gauges"][unread]["value"].is_null());
        EXPECT_FALSE(step["gauges"][unread]["why"].get<std::string>().empty());
    }
    ASSERT_EQ(step["profiles"].size(), 1U);
    EXPECT_EQ(step["profiles"][0]["id"], "spine");
    EXPECT_NEAR(step["profiles"][0]["value"][1].get<double>(), 325, 1e-4);
    EXPECT_TRUE(step["profiles"][0]["value"][4].is_null()) << "a gap outside of the mesh";
    EXPECT_NEAR(step["profiles"][0]["share"].get<double>(), 0.5, 1e-6);
    const auto& balance = step["balances"]["parts"][0];
    EXPECT_EQ(balance["part"], "amp");
    EXPECT_TRUE(balance["remainder"].is_null()) << "without a conductivity there is no balance";
    EXPECT_NE(balance["why"].get<std::string>().find("conductivity"), std::string::npos);
    EXPECT_EQ(result["cases"][0]["limits"].size(), 4U);
    EXPECT_TRUE(result["cases"][0]["remarks"].is_array());
}

TEST_F(Cli, ABrokenCaseDoesNotKeepTheOthersFromBeingEvaluated) {
    writeText(folder / "cut.vtu", soundGrid().substr(0, 500));
    const auto file = survey(R"({"part": "amp", "max": "340 K"})",
                             R"({"name": "bad", "file": "cut.vtu"}, {"name": "good", "file": "good.vtm"})");
    const auto result = ran({"evaluate", file, "--json", "-"});
    EXPECT_EQ(result.status, 2);
    EXPECT_THAT(result.err, HasSubstr("case bad"));
    const auto read = json(file);
    EXPECT_EQ(read["cases"][0]["error"]["code"], "file-truncated");
    EXPECT_EQ(read["cases"][1]["limits"][0]["verdict"], "over");
}

TEST_F(Cli, HostileFilesEndWithTwoOrTheirVerdict) {
    for (const auto& hostile : makeHostileFiles(folder.path())) {
        SCOPED_TRACE(hostile.name);
        const auto result = ran({"inspect", hostile.file.string()});
        EXPECT_EQ(result.status, hostile.errors.empty() ? 0 : 2);
        EXPECT_FALSE(result.err.empty());
        if (!hostile.errors.empty()) {
            EXPECT_EQ(std::ranges::count(result.err, '\n'), 1) << result.err;
        }
    }
}

TEST_F(Cli, StepsAreListedAndEvaluated) {
    for (int i = 0; i < 3; ++i) {
        auto part = boxPart("amp", {{0.1, 0.1, 0.1}, {5, 2, 2}});
        addNodeField(part, "T [K]", [i](const Point& at) { return 300 + 20 * i + 100 * at[0]; });
        part.time = 60.0 * i;
        ASSERT_TRUE(writeCase({part}, folder / ("run_00" + std::to_string(i) + ".vtm")));
    }
    const auto inspected = ran({"inspect", (folder / "run_001.vtm").string(), "--json", (folder / "i.json").string()});
    EXPECT_EQ(inspected.status, 0);
    EXPECT_THAT(inspected.out, HasSubstr("step 2: t = 120 s"));
    EXPECT_EQ(Json::parse(readText(folder / "i.json"))["steps"].size(), 3U);
    const auto file = survey(R"({"part": "amp", "max": "335 K"})", R"({"name": "run", "file": "run_000.vtm"})");
    EXPECT_EQ(ran({"evaluate", file}).status, 1) << "the last step reaches 350 K";
    EXPECT_EQ(ran({"evaluate", file, "--step", "0"}).status, 0);
    const auto all = ran({"evaluate", file, "--step", "all", "--json", (folder / "r.json").string(), "--csv",
                          (folder / "csv").string()});
    EXPECT_EQ(all.status, 1);
    EXPECT_THAT(all.out, HasSubstr("run, step 1, t = 60 s"));
    const auto json = Json::parse(readText(folder / "r.json"))["cases"][0];
    ASSERT_EQ(json["steps"].size(), 3U);
    EXPECT_EQ(json["steps"][2]["time"], 120.0);
    EXPECT_NEAR(json["limits"][0]["value"].get<double>(), 350, 1e-3) << "the worst over the steps";
    const auto csv = readText(folder / "csv/limits.csv");
    EXPECT_EQ(std::ranges::count(csv, '\n'), 5) << "a heading, a line for each step, and the worst of them";
    EXPECT_EQ(ran({"evaluate", file, "--step", "3"}).status, 2);
    EXPECT_THAT(ran({"evaluate", file, "--step", "3"}).err, HasSubstr("the last one is 2"));
}

// A rise of 50 K above 300 K: at 40 degC the part reaches 363.15 K, and with 80 % of the power 353.15 K.
TEST_F(Cli, AnotherAmbientAndPowerAreEstimated) {
    const auto file = survey(R"({"part": "amp", "max": "360 K"})",
                             R"j({"name": "good", "file": "good.vtm", "ambient": "300 K"})j");
    EXPECT_EQ(ran({"evaluate", file}).status, 0);
    const auto hot = ran({"evaluate", file, "--ambient", "40 degC", "--json", (folder / "r.json").string(), "--csv",
                          (folder / "csv").string()});
    EXPECT_EQ(hot.status, 1) << hot.err;
    const auto estimate = Json::parse(readText(folder / "r.json"))["cases"][0]["estimate"];
    EXPECT_NEAR(estimate["ambient"].get<double>(), 313.15, 1e-9);
    EXPECT_NEAR(estimate["limits"][0]["value"].get<double>(), 363.15, 1e-6);
    EXPECT_NEAR(estimate["ambient_at_limit"]["value"].get<double>(), 310, 1e-6);
    EXPECT_EQ(estimate["ambient_at_limit"]["target"]["part"], "amp");
    EXPECT_NEAR(estimate["power_at_limit"]["value"].get<double>(), (360 - 313.15) / 50, 1e-6);
    EXPECT_EQ(parseCsv(readText(folder / "csv/estimate.csv"))->size(), 2U);
    EXPECT_EQ(ran({"evaluate", file, "--ambient", "40 degC", "--power", "80 %"}).status, 0);
    EXPECT_THAT(ran({"evaluate", file, "--ambient", "40"}).err, HasSubstr("would be -233 degC"));
    EXPECT_THAT(ran({"evaluate", file, "--power", "80"}).err, HasSubstr("80 %"));
}

TEST_F(Cli, InspectListsWhatIsInACase) {
    const auto result = ran({"inspect", (folder / "good.vtm").string(), "--json", (folder / "i.json").string()});
    EXPECT_EQ(result.status, 0);
    EXPECT_THAT(result.out, HasSubstr("hot side"));
    const auto read = Json::parse(readText(folder / "i.json"));
    EXPECT_EQ(read["parts"][0]["name"], "amp");
    EXPECT_EQ(read["parts"][0]["cells"], 20);
    EXPECT_NEAR(read["parts"][0]["size"].get<double>(), 1e-3, 1e-15);
    EXPECT_NEAR(read["boundaries"][0]["size"].get<double>(), 1e-2, 1e-14);
    EXPECT_EQ(read["boundaries"][0]["part"], "amp");
    EXPECT_EQ(read["quantities"][0]["name"], "temperature");
    EXPECT_EQ(read["quantities"][0]["array"], "T [K]");
    EXPECT_NEAR(read["quantities"][0]["max"].get<double>(), 350, 1e-9);
}

TEST_F(Cli, CsvAndJUnitSayTheSame) {
    const auto file = survey(
        R"({"part": "amp", "max": "340 K", "source": "sheet, rev. C"}, {"part": "none", "max": "360 K"})");
    EXPECT_EQ(
        ran({"evaluate", file, "--csv", (folder / "csv").string(), "--junit", (folder / "j.xml").string()}).status, 1);
    const auto rows = parseCsv(readText(folder / "csv/limits.csv"));
    ASSERT_TRUE(rows);
    ASSERT_EQ(rows->size(), 3U);
    EXPECT_EQ((*rows)[1][3], "amp");
    EXPECT_NEAR(std::stod((*rows)[1][5]), 350 - 273.15, 1e-9);
    EXPECT_EQ((*rows)[1][11], "over");
    EXPECT_EQ((*rows)[1][16], "sheet, rev. C");
    EXPECT_EQ((*rows)[2][11], "unknown");
    const auto xml = readText(folder / "j.xml");
    EXPECT_THAT(xml, HasSubstr("tests=\"2\" failures=\"1\" errors=\"1\""));
    EXPECT_THAT(xml, HasSubstr("amp: 76.9 \u00b0C exceeds the maximum of 66.9 \u00b0C by 10.0 K"));
    writeText(folder / "blocked", "a file, not a folder");
    EXPECT_EQ(ran({"evaluate", file, "--csv", (folder / "blocked").string()}).status, 2);
}

// One evaluation, three faces: the number on the screen, in the CSV and in the JSON, with the terms it is the sum of.
TEST_F(Cli, TransmittancesAndHotspotsAreTheSameEverywhere) {
    const auto file = survey(
        R"j({"gauge": "U", "max": "0.3 W/(m2.K)"})j", R"j({"name": "good", "file": "good.vtm"})j",
        R"j(, "gauges": [{"id": "U", "quantity": "transmittance", "layers": [{"name": "wool", "thickness": "100 mm",
          "conductivity": 0.04}], "resistances": [0.13, 0.04]},
        {"id": "hot", "where": "all", "quantity": "temperature", "statistic": "hotspots"}])j");
    const auto result = ran(
        {"evaluate", file, "--json", (folder / "r.json").string(), "--csv", (folder / "csv").string()});
    EXPECT_EQ(result.status, 1) << result.err;
    const double u = 1 / (0.13 + 0.1 / 0.04 + 0.04);
    EXPECT_THAT(result.out, HasSubstr("U                    0.3745 W/(m\u00b2\u00b7K)"));
    EXPECT_THAT(result.out, HasSubstr("2.5 m\u00b2\u00b7K/W  100 mm, 0.04 W/(m"));
    EXPECT_THAT(result.out, HasSubstr("over     U"));
    EXPECT_THAT(result.out, HasSubstr("checks passed"));
    const auto step = Json::parse(readText(folder / "r.json"))["cases"][0]["steps"][0];
    EXPECT_NEAR(step["gauges"][0]["value"].get<double>(), u, 1e-12);
    ASSERT_EQ(step["gauges"][0]["terms"].size(), 3U);
    EXPECT_NEAR(step["gauges"][0]["terms"][1]["value"].get<double>(), 2.5, 1e-12);
    EXPECT_NEAR(step["hotspots"][0]["spots"][0]["value"].get<double>(), 350, 1e-9);
    EXPECT_FALSE(step["checks"].empty());
    const auto terms = parseCsv(readText(folder / "csv/terms.csv"));
    ASSERT_TRUE(terms);
    ASSERT_EQ(terms->size(), 4U);
    EXPECT_EQ((*terms)[2][3], "wool");
    EXPECT_EQ((*terms)[2][4], "2.5");
    const auto spots = parseCsv(readText(folder / "csv/hotspots.csv"));
    ASSERT_TRUE(spots);
    ASSERT_EQ(spots->size(), 2U);
    EXPECT_EQ((*spots)[1][4], "350");
}

// A second case, 10 K hotter, measured, over two meshes and as a sweep: printed, as JSON and as tables.
TEST_F(Cli, SeveralCasesAreToldTogether) {
    auto part = boxPart("amp", {{0.1, 0.1, 0.1}, {3, 2, 2}}, Cells::Tetrahedra);
    addNodeField(part, "T [K]", [](const Point& at) { return 310 + 500 * at[0]; });
    ASSERT_TRUE(writeCase({part}, folder / "hot.vtm"));
    writeText(folder / "tc.csv", "name,x [mm],y [mm],z [mm],value [K],uncertainty [K]\nTC1,50,50,50,324,2\n");
    writeText(folder / "sweep.csv", "file,power [W]\ngood.vtm,1\nhot.vtm,2\nlost.vtm,3\n");
    const auto file = survey(R"({"part": "amp", "max": "355 K"})",
                             R"({"name": "one", "file": "good.vtm"}, {"name": "two", "file": "hot.vtm"})",
                             R"(, "gauges": [{"id": "T", "where": {"part": "amp"}, "quantity": "temperature"},
                                 {"id": "rise", "where": {"part": "amp"}, "quantity": "temperature",
                                  "minus": {"case": "two"}}],
                                 "measured": [{"id": "tc", "file": "tc.csv"}], "sweep": {"table": "sweep.csv"},
                                 "grids": {"cases": ["one", "two"], "size": ["1 mm", "2 mm"]})");
    const auto told = ran({"evaluate", file, "--json", (folder / "r.json").string(), "--csv", (folder / "t").string()});
    EXPECT_EQ(told.status, 1) << "over in the second case; the sweep does not count";
    EXPECT_THAT(told.out, HasSubstr("compared with one"));
    EXPECT_THAT(told.out, HasSubstr("over, was tight")) << "by the mesh alone";
    EXPECT_THAT(told.out, HasSubstr("measured, tc, against one: 1 of 1 values: bias 1.0 K"));
    EXPECT_THAT(told.out, HasSubstr("grid convergence over one, two"));
    EXPECT_THAT(told.out, HasSubstr("3 cases, 1 within all limits, 1 not evaluated"));
    const auto json = Json::parse(readText(folder / "r.json"));
    EXPECT_NEAR(json["compare"]["parts"][0]["cases"][1]["difference"].get<double>(), 10, 1e-9);
    EXPECT_NEAR(json["measured"][0]["points"][0]["normalised"].get<double>(), 0.5, 1e-9);
    EXPECT_EQ(json["sweep"]["best"], Json::array({"good"}));
    EXPECT_NEAR(json["sweep"]["crossings"][0]["value"].get<double>(), 1.5, 1e-9) << "350 K at 1 W, 360 K at 2 W";
    EXPECT_EQ(json["grids"][0]["safety_factor"], 3);
    EXPECT_NEAR(json["cases"][0]["steps"][0]["gauges"][1]["value"].get<double>(), -10, 1e-9);
    for (const auto* table : {"compare", "sweep", "grids", "measured"}) {
        const auto rows = parseCsv(readText(folder / "t" / (std::string(table) + ".csv")));
        ASSERT_TRUE(rows) << table;
        EXPECT_GT(rows->size(), 1U) << table;
        for (const auto& row : *rows)
            EXPECT_EQ(row.size(), rows->front().size()) << table;
    }
    // one case alone is neither compared nor swept
    const auto alone = ran({"evaluate", file, "--case", "one"});
    EXPECT_EQ(alone.out.find("sweep"), std::string::npos);
}
