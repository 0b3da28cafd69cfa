// What is known of the program itself: folders of the user, helpers, demos.
#include "core/program/demo_list.h"
#include "core/program/program.h"
#include "tests/support/temp_folder.h"

#include <cstdlib>
#include <gtest/gtest.h>
#include <sys/stat.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// A variable of the environment for as long as it lives.
class Variable {
public:
    Variable(const char* name, const std::string& value) : m_name(name) {
        if (const char* before = std::getenv(name))
            m_before = before;
        ::setenv(name, value.c_str(), 1);
    }
    ~Variable() { m_before ? ::setenv(m_name, m_before->c_str(), 1) : ::unsetenv(m_name); }
    Variable(const Variable&) = delete;
    Variable& operator=(const Variable&) = delete;

private:
    const char* m_name;
    std::optional<std::string> m_before;
};

} // namespace

TEST(Program, FoldersFollowTheBaseDirectorySpecification) {
    const TempFolder folder;
    const Variable home("HOME", folder.path().string());
    {
        const Variable cache("XDG_CACHE_HOME", (folder / "c").string());
        EXPECT_EQ(usualCacheFolder(), folder / "c/pyrometer");
        EXPECT_EQ(cacheFolder(), folder / "c/pyrometer");
        EXPECT_TRUE(std::filesystem::is_directory(folder / "c/pyrometer")) << "it is made";
    }
    const Variable relative("XDG_CACHE_HOME", "relative/path");
    EXPECT_EQ(usualCacheFolder(), folder / ".cache/pyrometer") << "paths that are not absolute are to be ignored";
    const Variable settings("XDG_CONFIG_HOME", "");
    EXPECT_EQ(settingsFolder(), folder / ".config/pyrometer");
    EXPECT_EQ(withoutHome(folder / ".config/pyrometer"), "~/.config/pyrometer");
    EXPECT_EQ(withoutHome("/elsewhere/x"), "/elsewhere/x");
}

TEST(Program, ACacheThatCannotBeWrittenGivesWayToOneOfThisUserAlone) {
    const TempFolder folder;
    writeText(folder / "file", "no folder");
    const Variable cache("XDG_CACHE_HOME", (folder / "file/below").string());
    const auto instead = cacheFolder();
    EXPECT_EQ(instead.parent_path(), std::filesystem::temp_directory_path());
    struct stat status {};
    ASSERT_EQ(::stat(instead.c_str(), &status), 0);
    EXPECT_EQ(status.st_uid, ::getuid());
    EXPECT_EQ(status.st_mode & 0077, 0U) << "nobody else reads cases there";
    EXPECT_EQ(cacheFolder(), instead);
}

TEST(Demos, TheListNamesWhatIsThere) {
    const auto demos = shippedDemos();
    ASSERT_TRUE(demos) << demos.error().text();
    ASSERT_GE(demos->size(), 6U);
    for (const auto& demo : *demos) {
        EXPECT_FALSE(demo.title.empty() || demo.about.empty()) << demo.name;
        EXPECT_TRUE(std::filesystem::exists(demo.source / demo.survey)) << demo.survey;
        EXPECT_FALSE(demo.cases.empty()) << demo.name;
        for (const auto& one : demo.cases)
            EXPECT_TRUE(std::filesystem::exists(demo.source / one.input)) << one.input;
        for (const auto& file : demo.files)
            EXPECT_TRUE(std::filesystem::exists(demo.source / file)) << file;
        // every case of its survey is made
        const auto survey = nlohmann::json::parse(readText(demo.source / demo.survey));
        for (const auto& one : survey.value("cases", nlohmann::json::array())) {
            const auto file = one.at("file").get<std::string>();
            EXPECT_TRUE(std::ranges::any_of(
                demo.cases,
                [&](const DemoCase& made) {
                    return made.output == file || file.starts_with(made.output.substr(0, made.output.size() - 4) + "_");
                }))
                << file << " of the demo " << demo.name;
        }
    }
    const auto none = shippedDemo("nowhere");
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().code, ErrorCode::NameUnknown);
    EXPECT_NE(none.error().remedy.find("telemetry"), std::string::npos);
}
