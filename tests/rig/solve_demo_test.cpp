// Demos are solved once, anew where their input changed, and what the user made of a survey is kept.
#include "rig/solve_demo.h"
#include "tests/support/small_disk.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

class DemoTest : public testing::Test {
protected:
    void SetUp() override {
        std::filesystem::create_directories(folder / "shipped");
        writeText(folder / "shipped/bar.rig.json", R"json({"rig": 1, "title": "Bar",
            "grid": {"x": {"spacing": 0.5}, "y": {"spacing": 0.5}, "z": {"spacing": 0.1}},
            "materials": {"iron": {"conductivity": "50 W/(m.K)"}},
            "boxes": [{"part": "bar", "material": "iron", "from": [0, 0, 0], "to": [0.5, 0.5, 1]}],
            "environments": [{"boundary": "warm", "temperature": "40 degC", "faces": [{"side": "-z"}]},
                             {"boundary": "cold", "temperature": "0 degC", "faces": [{"side": "+z"}]}]})json");
        writeText(folder / "shipped/bar.survey.json", R"({"pyrometer": 1, "title": "as shipped"})");
        writeText(folder / "shipped/table.csv", "a,b\n");
        demo = {"bar", "Bar", "a bar", "bar.survey.json", {"table.csv"}, {}, folder / "shipped"};
        demo.cases = {{"bar.rig.json", "cases/plain.vtm", "", 1, {}},
                      {"bar.rig.json", "cases/copper.vtm", "", 2,
                       nlohmann::json::parse(R"json([{"op": "replace", "path": "/materials/iron/conductivity",
                                                      "value": "390 W/(m.K)"}])json")}};
    }
    Result<std::filesystem::path> solved() { return rig::solveDemo(demo, folder / "made", progress); }
    auto timeOf(const char* file) { return std::filesystem::last_write_time(folder / "made" / file); }

    TempFolder folder;
    Demo demo;
    NoProgress progress;
};

class NeverWanted final : public Progress {
public:
    void report(double, std::string_view) override {}
    bool cancelled() const override { return true; }
};

} // namespace

TEST_F(DemoTest, IsSolvedOnceWithItsChangesAndTables) {
    EXPECT_FALSE(isSolved(demo, folder / "made"));
    const auto survey = solved();
    ASSERT_TRUE(survey) << survey.error().text();
    EXPECT_EQ(*survey, folder / "made/bar.survey.json");
    EXPECT_TRUE(isSolved(demo, folder / "made"));
    EXPECT_EQ(readText(folder / "made/table.csv"), "a,b\n");
    const auto changed = nlohmann::json::parse(readText(folder / "made/cases/copper.rig.json"));
    EXPECT_EQ(changed["materials"]["iron"]["conductivity"], "390 W/(m.K)");
    EXPECT_EQ(changed["grid"]["z"]["spacing"], 0.2);
    const auto before = timeOf("cases/plain.vtm");
    ASSERT_TRUE(solved());
    EXPECT_EQ(timeOf("cases/plain.vtm"), before) << "it is there already";
    auto text = readText(folder / "shipped/bar.rig.json");
    writeText(folder / "shipped/bar.rig.json", text.replace(text.find("40 degC"), 7, "50 degC"));
    ASSERT_TRUE(solved());
    EXPECT_NE(timeOf("cases/plain.vtm"), before) << "its input is another one";
}

TEST_F(DemoTest, WhatTheUserMadeOfTheSurveyIsKept) {
    ASSERT_TRUE(solved());
    writeText(folder / "made/bar.survey.json", "mine");
    ASSERT_TRUE(solved());
    EXPECT_EQ(readText(folder / "made/bar.survey.json"), "mine") << "the same was shipped before";
    writeText(folder / "shipped/bar.survey.json", "shipped later");
    ASSERT_TRUE(solved());
    EXPECT_EQ(readText(folder / "made/bar.survey.json"), "shipped later");
    EXPECT_EQ(readText(folder / "made/bar (yours).survey.json"), "mine");
    writeText(folder / "shipped/bar.survey.json", "shipped at last");
    ASSERT_TRUE(solved());
    EXPECT_FALSE(std::filesystem::exists(folder / "made/bar (yours 2).survey.json")) << "nothing was changed in it";
}

TEST_F(DemoTest, WhatWasCancelledOrFailedIsSolvedAnew) {
    NeverWanted stopped;
    const auto none = rig::solveDemo(demo, folder / "made", stopped);
    ASSERT_FALSE(none);
    EXPECT_TRUE(none.error().cancelled());
    {
        const SmallDisk full(2'000);
        const auto failed = solved();
        ASSERT_FALSE(failed);
        EXPECT_EQ(failed.error().code, ErrorCode::WriteFailed) << failed.error().text();
    }
    EXPECT_FALSE(isSolved(demo, folder / "made") && std::filesystem::exists(folder / "made/cases/copper.rig.json"));
    ASSERT_TRUE(solved());
    EXPECT_TRUE(isSolved(demo, folder / "made"));
}

TEST_F(DemoTest, WhatCannotBeMadeOrReadIsTold) {
    writeText(folder / "made", "a file in its place");
    const auto blocked = solved();
    ASSERT_FALSE(blocked);
    EXPECT_EQ(blocked.error().code, ErrorCode::WriteFailed);
    std::filesystem::remove(folder / "made");
    demo.cases[1].change = nlohmann::json::parse(R"([{"op": "remove", "path": "/nothing"}])");
    const auto wrong = solved();
    ASSERT_FALSE(wrong);
    EXPECT_EQ(wrong.error().code, ErrorCode::Syntax);
    EXPECT_NE(wrong.error().where.find("bar.rig.json"), std::string::npos);
}
