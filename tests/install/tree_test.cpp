// What is installed: complete, movable, and free of where it was built.
#include "core/case/case_endings.h"
#include "tests/install/installed.h"

#include <algorithm>
#include <gtest/gtest.h>
#include <regex>
#include <set>

using namespace pyro;
using namespace pyro::test;

namespace {

std::set<std::string> filesBelow(const std::filesystem::path& folder) {
    std::set<std::string> names;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder))
        if (entry.is_regular_file())
            names.insert(entry.path().lexically_relative(folder).string());
    return names;
}

std::vector<std::string> programs() {
    return {"bin/pyrometer", "bin/pyrometer-cli", "bin/pyrometer-reader", "bin/pyrometer-rig",
            "libexec/pyrometer/pyrometer-pages"};
}

// The libraries that a program names, as the linker left them.
std::set<std::string> neededBy(const std::filesystem::path& program) {
    const auto text = told("readelf -d '" + program.string() + "'").text;
    const std::regex line(R"(\(NEEDED\)\s+Shared library: \[([^\]]+)\])");
    std::set<std::string> names;
    for (std::sregex_iterator at(text.begin(), text.end(), line), end; at != end; ++at)
        names.insert((*at)[1]);
    return names;
}

} // namespace

TEST(InstalledTree, HoldsProgramsDataDocumentsAndWhatTheDesktopReads) {
    ASSERT_EQ(Installed::tree().installation().status, 0) << Installed::tree().installation().text;
    const auto files = filesBelow(Installed::tree().root());
    std::vector<std::string> wanted = programs();
    for (const char* one :
         {"applications/example.pyrometer.pyrometer.desktop", "metainfo/example.pyrometer.pyrometer.metainfo.xml",
          "mime/packages/pyrometer.xml", "icons/hicolor/scalable/apps/pyrometer.svg",
          "icons/hicolor/48x48/apps/pyrometer.png", "icons/hicolor/16x16/mimetypes/pyrometer-survey.png",
          "pyrometer/demos/larkspur/demos.json", "pyrometer/templates/full.report.json",
          "pyrometer/templates/letterhead.odt", "doc/pyrometer/docs/survey.schema.json", "doc/pyrometer/docs/guide.md",
          "doc/pyrometer/docs/licences.md", "doc/pyrometer/copyright", "doc/pyrometer/LICENSE"})
        wanted.push_back(std::string("share/") + one);
    for (const auto& one : wanted)
        EXPECT_TRUE(files.contains(one)) << one;
}

TEST(InstalledTree, NamesNeitherSourcesNorBuildFolder) {
    const auto& root = Installed::tree().root();
    for (const auto& name : filesBelow(root)) {
        const auto content = readText(root / name);
        EXPECT_EQ(content.find(PYROMETER_BUILD), std::string::npos) << name;
        EXPECT_EQ(content.find(PYROMETER_SOURCE "/"), std::string::npos) << name;
    }
}

TEST(InstalledTree, ProgramsCarryNoSearchPathForLibraries) {
    for (const auto& name : programs()) {
        const auto dynamic = told("readelf -d '" + (Installed::tree().root() / name).string() + "'").text;
        ASSERT_NE(dynamic.find("NEEDED"), std::string::npos) << name;
        EXPECT_EQ(dynamic.find("RPATH"), std::string::npos) << name;
        EXPECT_EQ(dynamic.find("RUNPATH"), std::string::npos) << name;
    }
}

TEST(InstalledTree, EvaluatingNeedsNeitherWindowNorOpenGl) {
    for (const char* name : {"bin/pyrometer-cli", "bin/pyrometer-rig", "bin/pyrometer-reader"})
        for (const auto& library : neededBy(Installed::tree().root() / name))
            EXPECT_FALSE(library.starts_with("libQt") || library.starts_with("libGL") || library.starts_with("libEGL"))
                << name << " needs " << library;
}

TEST(InstalledTree, DesktopEntryAndDescriptionAreValid) {
    const auto share = Installed::tree().share().string();
    if (told("command -v desktop-file-validate && command -v appstreamcli").status != 0)
        GTEST_SKIP() << "desktop-file-utils or appstream are not installed";
    const auto entry = told("desktop-file-validate " + share + "/applications/*.desktop");
    EXPECT_EQ(entry.status, 0) << entry.text;
    EXPECT_EQ(entry.text, "");
    const auto described = told("appstreamcli validate --no-net " + share + "/metainfo/*.xml");
    EXPECT_EQ(described.status, 0) << described.text;
}

TEST(InstalledTree, TheDescriptionTellsTheVersionThatTheProgramsTell) {
    const auto description = readText(Installed::tree().share() / "metainfo/example.pyrometer.pyrometer.metainfo.xml");
    std::smatch release;
    ASSERT_TRUE(std::regex_search(description, release, std::regex("<release version=\"([^\"]+)\"")));
    const auto version = Installed::tree().run("pyrometer-cli --version").text;
    EXPECT_TRUE(version.starts_with("Pyrometer " + release[1].str() + "\n")) << version;
    EXPECT_NE(readText(PYROMETER_SOURCE "/CHANGELOG.md").find("## " + release[1].str() + " - "), std::string::npos);
    EXPECT_TRUE(
        readText(PYROMETER_SOURCE "/packaging/debian-changelog").starts_with("pyrometer (" + release[1].str() + ")"));
}

TEST(InstalledTree, EveryFileThatCanBeOpenedHasATypeThatTheDesktopEntryTakes) {
    const auto types = readText(Installed::tree().share() / "mime/packages/pyrometer.xml");
    const auto entry = readText(Installed::tree().share() / "applications/example.pyrometer.pyrometer.desktop");
    std::vector<std::string> endings{".survey.json", ".pvd"};
    for (const auto one : caseEndings)
        endings.emplace_back(one);
    for (const auto& ending : endings) {
        const auto glob = types.find("<glob pattern=\"*" + ending + "\"");
        ASSERT_NE(glob, std::string::npos) << ending;
        const auto begin = types.rfind("type=\"", types.rfind("<mime-type ", glob) + 12) + 6;
        const auto type = types.substr(begin, types.find('"', begin) - begin);
        EXPECT_NE(entry.find(type + ";"), std::string::npos) << ending << " is " << type;
    }
}

TEST(InstalledTree, EveryLibraryAndWhatIsCompiledInIsInTheTableOfLicences) {
    const auto table = readText(PYROMETER_SOURCE "/docs/licences.md");
    // Rows: | name | how | files | licence | package |
    const std::regex row(R"(\n\| ([^|]+) \| ([^|]+) \| ([^|]+) \| ([^|]+) \| ([^|]+) \|)");
    std::vector<std::string> patterns;
    for (std::sregex_iterator at(table.begin(), table.end(), row), end; at != end; ++at) {
        const std::string files = (*at)[3];
        const std::regex word("`([^`]+)`");
        for (std::sregex_iterator one(files.begin(), files.end(), word); one != end; ++one)
            patterns.push_back((*one)[1]);
    }
    ASSERT_GT(patterns.size(), 20U);
    const auto isListed = [&](const std::string& name) {
        return std::ranges::any_of(patterns, [&](const std::string& pattern) {
            return pattern.ends_with("*") ? name.starts_with(pattern.substr(0, pattern.size() - 1)) : name == pattern;
        });
    };
    for (const auto& program : programs())
        for (const auto& library : neededBy(Installed::tree().root() / program))
            EXPECT_TRUE(isListed(library)) << library << ", which " << program << " needs";
    // Headers of others: what is included by its own folder.
    const auto included = told("grep -rhoE '#include <[A-Za-z0-9_]+/' " PYROMETER_SOURCE "/core " PYROMETER_SOURCE
                               "/rig " PYROMETER_SOURCE "/manual " PYROMETER_SOURCE "/render " PYROMETER_SOURCE
                               "/app | sort -u")
                              .text;
    std::istringstream lines(included);
    for (std::string line; std::getline(lines, line);)
        if (!line.starts_with("#include <sys/") && !line.starts_with("#include <Qt")) {
            EXPECT_TRUE(isListed(line.substr(10))) << line;
        }
}

TEST(InstalledTree, DocumentsLinkOnlyToWhatIsInstalled) {
    const auto doc = Installed::tree().share() / "doc/pyrometer";
    const std::regex link(R"(\]\(([^)#:\s]+)(#[^)]*)?\))");
    for (const auto& name : filesBelow(doc)) {
        if (!name.ends_with(".md"))
            continue;
        const auto text = readText(doc / name);
        for (std::sregex_iterator at(text.begin(), text.end(), link), end; at != end; ++at)
            EXPECT_TRUE(std::filesystem::exists((doc / name).parent_path() / (*at)[1].str()))
                << name << " links to " << (*at)[1];
    }
}
