// Surveys of other versions of the program: who wrote them, what is not known, what is kept.
#include "core/program/program.h"
#include "core/survey/survey_file.h"
#include "core/survey/survey_origin.h"
#include "tests/support/small_disk.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

OpenedSurvey opened(const std::string& json) {
    const TempFolder folder;
    writeText(folder / "s.survey.json", json);
    auto read = openSurvey(folder / "s.survey.json");
    EXPECT_TRUE(read) << read.error().text();
    return read ? *read : OpenedSurvey{};
}

std::string joined(const std::vector<std::string>& words) { return fmt::format("{}", fmt::join(words, ", ")); }

} // namespace

TEST(SurveyOrigin, VersionsAreComparedByNumbers) {
    const auto origin = [](const std::string& program) { return SurveyOrigin{surveyVersion, program, {}}; };
    EXPECT_TRUE(origin("").isOlder()) << "written by hand, or before it was told";
    EXPECT_TRUE(origin("0.1").isOlder());
    EXPECT_TRUE(origin("0.1.9").isOlder());
    EXPECT_FALSE(origin(programVersion()).isOlder());
    EXPECT_FALSE(origin(programVersion()).isNewer());
    EXPECT_TRUE(origin("0.10").isNewer()) << "ten comes after two";
    EXPECT_TRUE(origin("1.0").isNewer());
    EXPECT_FALSE(origin("0.10").isOlder());
    EXPECT_EQ(origin("0.10").writtenBy(), "Pyrometer 0.10");
    EXPECT_EQ((SurveyOrigin{7, "", {}}).writtenBy(), "a newer Pyrometer (format 7)");
}

TEST(SurveyOrigin, WhatANewerProgramAddedIsTold) {
    const auto newer = opened(R"j({"pyrometer": 1, "saved_by": "9.1", "title": "T", "weather": {"wind": 3},
        "cases": [{"name": "a", "file": "a.vtm", "colour": "red",
                   "quantities": {"temperature": {"array": "T", "kelvin": true}}}],
        "gauges": [{"id": "T", "where": {"part": "p"}, "quantity": "temperature", "mood": 1}],
        "limits": [{"part": "p", "max": "90 degC"}, {"part": "q", "max": "90 degC", "grace": "3 K"}],
        "grids": {"cases": ["a", "b"], "size": ["1 mm", "2 mm"], "law": 2}})j");
    EXPECT_TRUE(newer.origin.isNewer());
    EXPECT_EQ(newer.survey.title, "T");
    EXPECT_EQ(joined(newer.origin.unknown),
              "weather, cases[0].colour, cases[0].quantities.temperature.kelvin, gauges[0].mood, limits[1].grace, "
              "grids.law");
}

TEST(SurveyOrigin, OnTheCommandLineANewerProgramIsARemark) {
    const TempFolder folder;
    const auto file = folder / "s.survey.json";
    writeText(file, R"({"pyrometer": 1, "saved_by": "9.1", "weather": 1})");
    const auto remarks = newerRemarks(*loadSurvey(file), file);
    ASSERT_EQ(remarks.size(), 1U);
    EXPECT_EQ(remarks[0].text, "written by Pyrometer 9.1, this is " + programVersion() + "; not known here: weather");
    writeText(file, R"({"pyrometer": 1, "weather": 1})");
    EXPECT_TRUE(newerRemarks(*loadSurvey(file), file).empty());
    const SurveyOrigin many{1, "9.1", {"a", "b", "c", "d", "e", "f", "g", "h"}};
    EXPECT_EQ(many.unknownText(), "; not known here: a, b, c, d, e, f and 2 more");
}

TEST(SurveyOrigin, ANewerFormatIsReadAsFarAsItIsKnownAndRefusedWhereItIsNot) {
    const auto newer = opened(R"({"pyrometer": 3, "title": "T", "mood": 1})");
    EXPECT_EQ(newer.origin.format, 3);
    EXPECT_TRUE(newer.origin.isNewer());
    EXPECT_EQ(joined(newer.origin.unknown), "mood");
    EXPECT_EQ(newer.survey.title, "T");
    const TempFolder folder;
    writeText(folder / "s.survey.json", R"({"pyrometer": 3, "saved_by": "4.0", "limits": {"now": "an object"}})");
    const auto refused = openSurvey(folder / "s.survey.json");
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().what.find("written by Pyrometer 4.0, and this one"), std::string::npos);
    EXPECT_FALSE(loadSurvey(folder / "s.survey.json")) << "verdicts are not told of what is half understood";
}

TEST(SurveyOrigin, EveryKeyOfTheDemosIsKnown) {
    int looked = 0;
    for (const auto& entry : std::filesystem::directory_iterator(PYROMETER_SOURCE "/demos/larkspur"))
        if (entry.path().string().ends_with(".survey.json")) {
            const auto json = Json::parse(readText(entry.path()));
            EXPECT_EQ(joined(unknownKeys(json, surveySchema())), "") << entry.path();
            ++looked;
        }
    EXPECT_GE(looked, 6);
}

TEST(SurveyOrigin, WhoSavedItIsReadAndWritten) {
    const TempFolder folder;
    Survey survey;
    survey.savedBy = "0.2";
    ASSERT_TRUE(saveSurvey(survey, folder / "s.survey.json"));
    EXPECT_EQ(loadSurvey(folder / "s.survey.json")->savedBy, "0.2");
    survey.savedBy.clear();
    ASSERT_TRUE(saveSurvey(survey, folder / "s.survey.json"));
    EXPECT_EQ(readText(folder / "s.survey.json").find("saved_by"), std::string::npos);
}

TEST(SurveyOrigin, TheCopyOfAnOlderSurveyIsKeptOnceAndNothingIsWrittenOver) {
    const TempFolder folder;
    const auto survey = folder / "pump.survey.json";
    writeText(survey, "{ \"pyrometer\": 1 }  as it was");
    const auto first = keepOlderSurvey(survey);
    ASSERT_TRUE(first);
    EXPECT_EQ(first->filename().string(), "pump (before " + programVersion() + ").survey.json");
    EXPECT_EQ(readText(*first), "{ \"pyrometer\": 1 }  as it was");
    EXPECT_EQ(*keepOlderSurvey(survey), *first) << "the same is kept already";
    writeText(survey, "another");
    const auto second = keepOlderSurvey(survey);
    ASSERT_TRUE(second);
    EXPECT_NE(*second, *first);
    EXPECT_EQ(readText(*first), "{ \"pyrometer\": 1 }  as it was");
    EXPECT_EQ(readText(*second), "another");
}

TEST(SurveyOrigin, AFullDiskKeepsNoHalfCopy) {
    const TempFolder folder;
    writeText(folder / "s.survey.json", std::string(100'000, 'x'));
    Result<std::filesystem::path> kept = std::filesystem::path();
    {
        const SmallDisk full(10'000);
        kept = keepOlderSurvey(folder / "s.survey.json");
    }
    ASSERT_FALSE(kept);
    EXPECT_EQ(kept.error().code, ErrorCode::WriteFailed);
    EXPECT_FALSE(std::filesystem::exists(folder / ("s (before " + programVersion() + ").survey.json")));
}
