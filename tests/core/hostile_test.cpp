// Every broken file ends as docs/formats.md says, and none ends the program that asked for it.
#include "core/case/store.h"
#include "core/evaluate/survey_run.h"
#include "tests/support/hostile.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <sys/stat.h>

using namespace pyro;
using namespace pyro::test;

TEST(Hostile, EveryFileEndsWithOneClearMessage) {
    const TempFolder folder;
    const auto files = makeHostileFiles(folder.path());
    EXPECT_GE(files.size(), 30U);
    for (const auto& hostile : files) {
        SCOPED_TRACE(hostile.name);
        NoProgress progress;
        const auto opened = openForEvaluation(hostile.file, {}, progress);
        if (!hostile.errors.empty()) {
            ASSERT_FALSE(opened);
            EXPECT_THAT(hostile.errors, testing::Contains(std::string(codeName(opened.error().code))))
                << opened.error().text();
            EXPECT_FALSE(opened.error().what.empty());
            EXPECT_FALSE(opened.error().remedy.empty());
            EXPECT_NE(opened.error().where.find(folder.path().filename().string()), std::string::npos)
                << opened.error().where;
            EXPECT_EQ(opened.error().text().find('\n'), std::string::npos);
            continue;
        }
        ASSERT_TRUE(opened) << opened.error().text();
        Remarks remarks = opened->solved->remarks;
        const auto quantities = recognise(*opened->solved, {});
        for (const auto* more : {&opened->index->remarks, &quantities->remarks})
            remarks.insert(remarks.end(), more->begin(), more->end());
        EXPECT_EQ(std::ranges::count(remarks, hostile.remark, &Remark::code), 1) << hostile.remark;
    }
}

TEST(Hostile, ALimitOnABrokenFieldIsUnknown) {
    const TempFolder folder;
    makeHostileFiles(folder.path());
    for (const auto* name : {"nan.vtu", "infinite.vtu", "nan-binary.vtu", "no-temperature.vtu"}) {
        SCOPED_TRACE(name);
        Survey survey;
        survey.cases.push_back({"case", name, {}, {}, {}, Json::object()});
        Limit limit;
        limit.target.name = std::filesystem::path(name).stem().string();
        limit.max = Bound{"5000 K", 5000};
        survey.limits.push_back(limit);
        NoProgress progress;
        const auto run = runSurvey(survey, folder / "s.survey.json", {}, progress);
        ASSERT_TRUE(run);
        ASSERT_FALSE(run->cases[0].error);
        EXPECT_EQ(run->cases[0].steps[0].limits[0].verdict, Verdict::Unknown);
        EXPECT_FALSE(run->cases[0].steps[0].limits[0].why.empty());
        EXPECT_EQ(run->exitStatus(), 4);
    }
}

namespace {

// A stand-in for the reader that dies or dawdles.
std::filesystem::path fakeReader(const TempFolder& folder, const std::string& body) {
    const auto file = folder / "fake-reader";
    writeText(file, "#!/bin/sh\n" + body + "\n");
    ::chmod(file.c_str(), 0755);
    return file;
}

class CancelAfter final : public Progress {
public:
    explicit CancelAfter(int questions) : m_left(questions) {}
    void report(double, std::string_view) override {}
    bool cancelled() const override { return m_left-- <= 0; }

private:
    mutable int m_left;
};

} // namespace

TEST(ReaderProcess, ACrashOfTheReaderIsAnErrorOfTheFile) {
    const TempFolder folder;
    writeText(folder / "sound.vtu", soundGrid());
    for (const auto* death : {"kill -SEGV $$", "kill -ABRT $$", "exit 0", "exit 7", "echo error {broken"}) {
        NoProgress progress;
        OpenOptions options;
        options.reader = fakeReader(folder, death);
        const auto opened = openCase(folder / "sound.vtu", options, progress);
        ASSERT_FALSE(opened) << death;
        EXPECT_EQ(opened.error().code, ErrorCode::ReaderCrashed) << death;
    }
    NoProgress progress;
    OpenOptions gone;
    gone.reader = folder / "no-such-program";
    EXPECT_EQ(openCase(folder / "sound.vtu", gone, progress).error().code, ErrorCode::ReaderMissing);
    EXPECT_TRUE(openCase(folder / "sound.vtu", {}, progress)); // and the file is as good as ever
}

TEST(ReaderProcess, CancelEndsADawdlingReader) {
    const TempFolder folder;
    writeText(folder / "sound.vtu", soundGrid());
    OpenOptions options;
    options.reader = fakeReader(folder, "exec sleep 600");
    for (const int questions : {0, 1, 3}) {
        CancelAfter progress(questions);
        const auto opened = openCase(folder / "sound.vtu", options, progress);
        ASSERT_FALSE(opened);
        EXPECT_TRUE(opened.error().cancelled());
    }
}

// Cancelling at the first, second, third ... question never leaves half a store behind.
TEST(ReaderProcess, CancelAtEveryStepLeavesNothingHalf) {
    const TempFolder folder;
    writeText(folder / "sound.vtu", soundGrid());
    for (int questions = 0; questions < 200; ++questions) {
        CancelAfter progress(questions);
        const auto opened = openForEvaluation(folder / "sound.vtu", {}, progress);
        if (opened) {
            EXPECT_EQ(opened->index->parts.size(), 1U);
            return;
        }
        EXPECT_TRUE(opened.error().cancelled()) << opened.error().text();
    }
    FAIL() << "never finished";
}

TEST(ReaderProcess, AMemoryLimitIsKept) {
#if defined(__SANITIZE_ADDRESS__)
    GTEST_SKIP() << "the address sanitizer needs more address space than any limit";
#endif
    const TempFolder folder;
    writeText(folder / "sound.vtu", soundGrid());
    auto large = test::boxPart("large", {{1, 1, 1}, {100, 100, 100}});
    test::addNodeField(large, "T [K]", [](const Point& at) { return 300 + at[0]; });
    ASSERT_TRUE(writeBlock(large, folder / "large.vtu"));
    OpenOptions options;
    options.memoryLimit = 220 << 20; // the program and a small file fit, the large one does not
    NoProgress progress;
    const auto small = openCase(folder / "sound.vtu", options, progress);
    EXPECT_TRUE(small) << small.error().text();
    const auto opened = openCase(folder / "large.vtu", options, progress);
    ASSERT_FALSE(opened);
    EXPECT_EQ(opened.error().code, ErrorCode::MemoryLimit) << opened.error().text();
    EXPECT_TRUE(openCase(folder / "large.vtu", {}, progress)) << "it is the limit that it was refused for";
}

TEST(Store, IsReusedUntilTheFileChanges) {
    const TempFolder folder;
    writeText(folder / "sound.vtu", soundGrid());
    NoProgress progress;
    ASSERT_TRUE(openCase(folder / "sound.vtu", {}, progress));
    OpenOptions noReader;
    noReader.reader = folder / "no-such-program";
    ASSERT_TRUE(openCase(folder / "sound.vtu", noReader, progress)); // from the store, no reader needed
    auto text = soundGrid();
    text.replace(text.find("300.5"), 5, "999.5");
    writeText(folder / "sound.vtu", text + "\n");
    const auto changed = openCase(folder / "sound.vtu", {}, progress);
    ASSERT_TRUE(changed);
    EXPECT_DOUBLE_EQ((*changed)->parts[0].arrays[0].max, 999.5);
    // A damaged store is made anew, not believed.
    writeText(storePath({(*changed)->file}), "PYROARR1 but not really");
    EXPECT_TRUE(openCase(folder / "sound.vtu", {}, progress));
}

TEST(Names, AreKeptExactly) {
    const TempFolder folder;
    std::filesystem::create_directories(folder / "inside");
    writeText(folder / "inside/a.vtu", soundGrid());
    writeText(folder / "names.vtm",
              "<VTKFile type=\"vtkMultiBlockDataSet\"><vtkMultiBlockDataSet><Block name=\"parts\">"
              "<DataSet name=\"K\u00fchlk\u00f6rper / fin &amp; base\" file=\"inside/a.vtu\"/><DataSet name=\"\" "
              "file=\"inside/a.vtu\"/>"
              "</Block></vtkMultiBlockDataSet></VTKFile>");
    NoProgress progress;
    const auto opened = openCase(folder / "names.vtm", {}, progress);
    ASSERT_TRUE(opened);
    EXPECT_EQ((*opened)->parts[0].name, "K\u00fchlk\u00f6rper / fin & base");
    EXPECT_EQ((*opened)->parts[1].name, "part 2");
}
