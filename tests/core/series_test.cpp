// Steps: numbered siblings with times, tables of times and files, what is left out and told, and evaluation on each.
#include "core/case/series.h"
#include "core/case/series_watch.h"
#include "core/evaluate/survey_run.h"
#include "core/report/readings_json.h"
#include "core/survey/survey_file.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>
#include <sys/stat.h>

using namespace pyro;
using namespace pyro::test;

namespace {

class SeriesTest : public testing::Test {
protected:
    // A cube at a uniform temperature, with a time or without.
    void write(const std::string& name, std::optional<double> time, double kelvin, int cells = 2) {
        auto part = boxPart("block", {{0.1, 0.1, 0.1}, {cells, 2, 2}});
        addNodeField(part, "T [K]", [kelvin](const Point& at) { return kelvin + at[0]; });
        part.time = time;
        const auto file = folder / name;
        ASSERT_TRUE(file.extension() == ".vtm" ? writeCase({part}, file) : writeBlock(part, file));
    }
    Series series(const std::string& name, std::optional<bool> wanted = std::nullopt) {
        auto found = seriesOf(folder / name, wanted, {}, progress);
        EXPECT_TRUE(found) << found.error().text();
        return found ? *found : Series{};
    }
    static std::vector<double> times(const Series& series) {
        std::vector<double> all;
        for (const auto& one : series.steps)
            all.push_back(one.step.time.value_or(-1));
        return all;
    }
    static std::vector<std::string> names(const Series& series) {
        std::vector<std::string> all;
        for (const auto& one : series.steps)
            all.push_back(one.file.filename().string());
        return all;
    }
    using Times = std::vector<double>;
    using Names = std::vector<std::string>;

    TempFolder folder;
    NoProgress progress;
};

} // namespace

TEST_F(SeriesTest, NumberedFilesWithTimesAreOneSeriesWhicheverIsNamed) {
    write("warm_0000.vtu", 0.0, 300);
    write("warm_0001.vtu", 60.0, 320);
    write("warm_0002.vtu", 30.0, 310); // the time decides, not the number
    write("warm_001.vtu", 5.0, 300);   // another width
    write("cold_0003.vtu", 5.0, 300);  // another name
    for (const auto* name : {"warm_0000.vtu", "warm_0002.vtu"}) {
        const auto found = series(name);
        EXPECT_EQ(times(found), (Times{0, 30, 60}));
        EXPECT_EQ(names(found), (Names{"warm_0000.vtu", "warm_0002.vtu", "warm_0001.vtu"}));
        for (int i = 0; i < 3; ++i)
            EXPECT_EQ(found.steps[static_cast<std::size_t>(i)].step.index, i);
        EXPECT_TRUE(found.remarks.empty());
    }
}

TEST_F(SeriesTest, WithoutTimesNumbersAreOnlyNames) {
    write("part_001.vtu", std::nullopt, 300);
    write("part_002.vtu", std::nullopt, 310);
    EXPECT_EQ(names(series("part_002.vtu")), Names{"part_002.vtu"});
    EXPECT_EQ(names(series("part_002.vtu", true)), (Names{"part_001.vtu", "part_002.vtu"}))
        << "unless the survey says so";
}

TEST_F(SeriesTest, ASeriesCanBeRefused) {
    write("warm_000.vtu", 0.0, 300);
    write("warm_001.vtu", 1.0, 301);
    EXPECT_EQ(names(series("warm_001.vtu", false)), Names{"warm_001.vtu"});
    EXPECT_EQ(series("warm_001.vtu").steps.size(), 2U);
}

TEST_F(SeriesTest, NamesThatAreNoSeries) {
    for (const auto* name : {"warm12.vtu", "warm_12.vtu", "123.vtu", "warm_012b.vtu"}) {
        write(name, 1.0, 300);
        EXPECT_EQ(names(series(name)), Names{name});
    }
    write("lone_0001.vtu", 1.0, 300);
    EXPECT_EQ(series("lone_0001.vtu").steps.size(), 1U) << "one file is no series";
}

TEST_F(SeriesTest, EqualTimesKeepTheLaterFileAndSaySo) {
    write("warm_000.vtu", 0.0, 300);
    write("warm_001.vtu", 10.0, 310);
    write("warm_002.vtu", 10.0, 311);
    const auto found = series("warm_000.vtu");
    EXPECT_EQ(names(found), (Names{"warm_000.vtu", "warm_002.vtu"}));
    ASSERT_EQ(found.remarks.size(), 1U);
    EXPECT_EQ(found.remarks[0].code, "repeated-time");
    EXPECT_NE(found.remarks[0].text.find("warm_001.vtu"), std::string::npos);
}

TEST_F(SeriesTest, AFileWithoutTimeIsLeftOutAndTold) {
    write("warm_000.vtu", 0.0, 300);
    write("warm_001.vtu", std::nullopt, 310);
    write("warm_002.vtu", 2.0, 320);
    writeText(folder / "warm_003.vtu", "not a grid");
    const auto found = series("warm_000.vtu");
    EXPECT_EQ(names(found), (Names{"warm_000.vtu", "warm_002.vtu"}));
    ASSERT_EQ(found.remarks.size(), 2U);
    for (const auto& remark : found.remarks)
        EXPECT_EQ(remark.code, "no-time");
}

TEST_F(SeriesTest, BlocksCarryTheirTimeToo) {
    write("warm_000.vtm", 0.0, 300);
    write("warm_001.vtm", 60.0, 320);
    EXPECT_EQ(times(series("warm_001.vtm")), (Times{0, 60}));
}

TEST_F(SeriesTest, ATableOfTimesAndFiles) {
    write("a.vtu", std::nullopt, 300);
    write("b.vtu", std::nullopt, 320);
    writeText(folder / "run.csv", "\xEF\xBB\xBF"
                                  "File ; Time\nb.vtu;90.5\na.vtu;0\n");
    const auto found = series("run.csv");
    EXPECT_EQ(times(found), (Times{0, 90.5}));
    EXPECT_EQ(names(found), (Names{"a.vtu", "b.vtu"}));
    EXPECT_EQ(found.steps[0].partName, "run") << "the only part has one name on all steps";
}

TEST_F(SeriesTest, ACollectionOfTimesAndFiles) {
    write("a.vtu", std::nullopt, 300);
    write("b.vtu", std::nullopt, 320);
    const auto list = [](const std::string& entries) {
        return "<?xml version=\"1.0\"?><VTKFile type=\"Collection\" version=\"0.1\"><Collection>" + entries +
               "</Collection></VTKFile>";
    };
    writeText(folder / "run.pvd",
              list(R"(<DataSet timestep="90.5" part="0" file="b.vtu"/><DataSet timestep="0" part="0" file="a.vtu"/>)"));
    const auto found = series("run.pvd");
    EXPECT_EQ(times(found), (Times{0, 90.5}));
    EXPECT_EQ(names(found), (Names{"a.vtu", "b.vtu"}));
    EXPECT_EQ(found.steps[0].partName, "run");
    const std::pair<std::string, ErrorCode> broken[]{
        {list(""), ErrorCode::NoCells},
        {list(R"(<DataSet timestep="0" file="../a.vtu"/>)"), ErrorCode::NotSupported},
        {list(R"(<DataSet timestep="0" file="/etc/passwd"/>)"), ErrorCode::NotSupported},
        {list(R"(<DataSet timestep="nan" file="a.vtu"/>)"), ErrorCode::Syntax},
        {list(R"(<DataSet timestep="1"/>)"), ErrorCode::Syntax},
        {list(R"(<DataSet timestep="1" part="0" file="a.vtu"/><DataSet timestep="1" part="1" file="b.vtu"/>)"),
         ErrorCode::NotSupported},
        {"<VTKFile", ErrorCode::FileUnreadable},
        {"", ErrorCode::FileUnreadable}};
    for (const auto& [text, code] : broken) {
        SCOPED_TRACE(text);
        writeText(folder / "run.pvd", text);
        const auto refused = seriesOf(folder / "run.pvd", std::nullopt, {}, progress);
        ASSERT_FALSE(refused);
        EXPECT_EQ(refused.error().code, code) << refused.error().text();
    }
}

TEST_F(SeriesTest, ATableWithAMistakeNamesItsRow) {
    const std::pair<const char*, const char*> tables[]{{"", "empty"},
                                                       {"when,file\n1,a.vtu\n", "columns"},
                                                       {"time,file\n", "no file"},
                                                       {"time,file\nsoon,a.vtu\n", "row 2"},
                                                       {"time,file\n1,a.vtu\n2\n", "row 3"},
                                                       {"time,file\nnan,a.vtu\n", "row 2"},
                                                       {"time,file\n1,\"a.vtu\n", "quotation"}};
    for (const auto& [text, word] : tables) {
        SCOPED_TRACE(text);
        writeText(folder / "run.csv", text);
        const auto found = seriesOf(folder / "run.csv", std::nullopt, {}, progress);
        ASSERT_FALSE(found);
        EXPECT_EQ(found.error().code, ErrorCode::Syntax);
        EXPECT_NE(found.error().what.find(word), std::string::npos) << found.error().what;
    }
    EXPECT_EQ(seriesOf(folder / "none.csv", std::nullopt, {}, progress).error().code, ErrorCode::FileMissing);
}

TEST_F(SeriesTest, AReaderThatDiesLeavesTheFileAlone) {
    write("warm_000.vtu", 0.0, 300);
    write("warm_001.vtu", 1.0, 301);
    OpenOptions options;
    options.reader = folder / "fake-reader";
    writeText(options.reader, "#!/bin/sh\necho time 0 5\nkill -SEGV $$\n");
    ::chmod(options.reader.c_str(), 0755);
    const auto found = seriesOf(folder / "warm_001.vtu", std::nullopt, options, progress);
    ASSERT_TRUE(found);
    EXPECT_EQ(names(*found), Names{"warm_000.vtu"}) << "what was told before counts";
    options.reader = folder / "no-such-reader";
    EXPECT_EQ(seriesOf(folder / "warm_001.vtu", std::nullopt, options, progress).error().code,
              ErrorCode::ReaderMissing);
}

TEST_F(SeriesTest, StepsOfOneMeshShareItsIndex) {
    write("warm_000.vtu", 0.0, 300);
    write("warm_001.vtu", 1.0, 310);
    write("warm_002.vtu", 2.0, 320, 4); // remeshed
    const auto found = series("warm_000.vtu");
    const auto first = openStep(found.steps[0], nullptr, {}, progress);
    ASSERT_TRUE(first);
    EXPECT_EQ(first->solved->parts[0].name, "warm");
    const auto second = openStep(found.steps[1], &*first, {}, progress);
    ASSERT_TRUE(second);
    EXPECT_EQ(second->index, first->index);
    EXPECT_NE(second->solved, first->solved);
    const auto third = openStep(found.steps[2], &*second, {}, progress);
    ASSERT_TRUE(third);
    EXPECT_NE(third->index, first->index);
    EXPECT_NEAR(third->index->parts[0].size, 1e-3, 1e-9);
    EXPECT_TRUE(sameMesh(*first->solved, *second->solved));
    EXPECT_FALSE(sameMesh(*second->solved, *third->solved));
}

TEST_F(SeriesTest, ASurveyIsEvaluatedOnEveryStep) {
    write("warm_000.vtu", 0.0, 300);
    write("warm_001.vtu", 60.0, 360);
    write("warm_002.vtu", 120.0, 330);
    writeText(folder / "s.survey.json", R"({"pyrometer": 1, "cases": [{"name": "run", "file": "warm_001.vtu"}],
        "gauges": [{"id": "T", "where": {"part": "warm"}, "quantity": "temperature", "statistic": "max"}],
        "limits": [{"part": "warm", "max": "340 K"}]})");
    const auto survey = loadSurvey(folder / "s.survey.json");
    const auto run = [&](std::optional<int> step) {
        return *runSurvey(*survey, folder / "s.survey.json", {"", step, {}}, progress);
    };
    const auto last = run(std::nullopt);
    ASSERT_EQ(last.cases[0].steps.size(), 1U);
    EXPECT_EQ(last.cases[0].steps[0].step, 2);
    EXPECT_EQ(last.cases[0].steps[0].time, 120.0);
    EXPECT_EQ(last.exitStatus(), 0) << "the last step is within";
    const auto all = run(-1);
    ASSERT_EQ(all.cases[0].steps.size(), 3U);
    EXPECT_EQ(all.exitStatus(), 1) << "one step is over";
    EXPECT_NEAR(*all.cases[0].worstLimits()[0].value, 360.1, 1e-4);
    EXPECT_NEAR(*run(0).cases[0].steps[0].gauges[0].value, 300.1, 1e-4);
    const auto json = runToJson(all);
    EXPECT_EQ(json["cases"][0]["steps"][1]["time"], 60.0);
    EXPECT_EQ(json["cases"][0]["steps"][1]["index"], 1);
    EXPECT_EQ(runSurvey(*survey, folder / "s.survey.json", {"", 3, {}}, progress).error().code, ErrorCode::Usage);
}

TEST_F(SeriesTest, ABrokenStepDoesNotKeepTheOthersFromBeingEvaluated) {
    for (int i = 0; i < 3; ++i)
        write("warm_00" + std::to_string(i) + ".vtu", 60.0 * i, 300 + 50 * i);
    const auto whole = readText(folder / "warm_001.vtu");
    writeText(folder / "warm_001.vtu", whole.substr(0, whole.size() - 300));
    Survey survey;
    survey.cases.push_back({"run", "warm_000.vtu", {}, {}, {}, Json::object()});
    Limit limit;
    limit.target.name = "warm";
    limit.max = Bound{"340 K", 340};
    survey.limits.push_back(limit);
    const auto run = *runSurvey(survey, folder / "s.survey.json", {"", -1, {}}, progress);
    ASSERT_TRUE(run.cases[0].error);
    EXPECT_NE(run.cases[0].error->where.find("warm_001"), std::string::npos);
    ASSERT_EQ(run.cases[0].steps.size(), 2U);
    EXPECT_EQ(run.cases[0].steps[1].step, 2);
    EXPECT_EQ(run.cases[0].steps[1].limits[0].verdict, Verdict::Over);
    EXPECT_EQ(run.exitStatus(), 2);
    const auto json = runToJson(run)["cases"][0];
    EXPECT_TRUE(json.contains("error"));
    EXPECT_EQ(json["steps"].size(), 2U) << "what could be read is told beside the error";
}

TEST_F(SeriesTest, TheSurveyKeepsItsWord) {
    const auto text = R"({"pyrometer": 1, "cases": [{"name": "run", "file": "a_001.vtu", "series": false}]})";
    const auto survey = surveyFromJson(Json::parse(text), "s");
    ASSERT_TRUE(survey);
    EXPECT_EQ(survey->cases[0].series, std::optional(false));
    ASSERT_TRUE(saveSurvey(*survey, folder / "s.survey.json"));
    EXPECT_EQ(loadSurvey(folder / "s.survey.json")->cases[0].series, std::optional(false));
    EXPECT_FALSE(surveyFromJson(
        Json::parse(R"({"pyrometer": 1, "cases": [{"name": "r", "file": "a", "series": "yes"}]})"), "s"));
}

namespace {

void writeWarm(const std::filesystem::path& file, double time) {
    auto part = boxPart("bar", {{0.1, 0.02, 0.02}, {4, 2, 2}});
    addNodeField(part, "T [K]", [](const Point& at) { return 300 + at[0]; });
    part.time = time;
    ASSERT_TRUE(writeBlock(part, file));
}

} // namespace

TEST(SeriesWatch, HalfWrittenFilesWaitAndWholeOnesComeIn) {
    const TempFolder folder;
    writeWarm(folder / "warm_0000.vtu", 0);
    writeWarm(folder / "warm_0001.vtu", 10);
    const auto before = stampsOf(folder / "warm_0000.vtu");
    ASSERT_EQ(before.size(), 2U);
    EXPECT_EQ(stampsOf(folder / "warm_0000.vtu"), before);
    writeWarm(folder / "warm_0002.vtu", 20);
    const auto size = std::filesystem::file_size(folder / "warm_0002.vtu");
    std::filesystem::resize_file(folder / "warm_0002.vtu", size - 300);
    NoProgress progress;
    const auto half = readySeries(folder / "warm_0000.vtu", {}, before, {}, progress);
    ASSERT_TRUE(half) << half.error().text();
    EXPECT_EQ(half->series.steps.size(), 2U);
    EXPECT_EQ(half->waiting, 1);
    writeWarm(folder / "warm_0002.vtu", 20);
    EXPECT_NE(stampsOf(folder / "warm_0000.vtu"), before);
    const auto whole = readySeries(folder / "warm_0000.vtu", {}, before, {}, progress);
    ASSERT_TRUE(whole);
    EXPECT_EQ(whole->series.steps.size(), 3U);
    EXPECT_EQ(whole->waiting, 0);
    EXPECT_EQ(whole->series.steps[2].step.index, 2);
}
