// Man pages, --help and completions tell the same; what they show as examples runs.
#include "core/program/demo_list.h"
#include "manual/manual.h"
#include "tests/install/coarse_demo.h"
#include "tests/install/installed.h"

#include <gtest/gtest.h>
#include <regex>
#include <set>
#include <sstream>

using namespace pyro;
using namespace pyro::test;

namespace {

struct Words {
    WindowWords window;
    CliWords cli;
    RigWords rig;
};

std::vector<Manual> manuals(Words& words) {
    std::vector<Manual> list;
    list.push_back(windowManual(words.window));
    list.push_back(cliManual(words.cli));
    list.push_back(rigManual(words.rig));
    list.push_back(readerManual());
    return list;
}

std::set<std::string> optionsIn(const std::string& text) {
    const std::regex option(R"((^|[^\w-])(--[a-z][a-z-]*|-[a-z])(?![\w-]))");
    std::set<std::string> names;
    for (std::sregex_iterator at(text.begin(), text.end(), option), end; at != end; ++at)
        names.insert((*at)[2]);
    return names;
}

std::string joined(const std::set<std::string>& names) {
    std::string text;
    for (const auto& one : names)
        text += one + " ";
    return text;
}

// --help of the program and of each of its commands, without examples.
std::string helpOf(const Manual& manual) {
    std::string text;
    std::vector<std::string> commands{""};
    for (const auto* one : manual.app->get_subcommands([](const CLI::App*) { return true; }))
        commands.push_back(one->get_name() + " ");
    for (const auto& command : commands) {
        const auto help = Installed::tree().run(manual.name() + " " + command + "--help");
        EXPECT_EQ(help.status, 0) << help.text;
        text += help.text.substr(0, help.text.find("Examples:"));
    }
    return text;
}

std::string pageOf(const Manual& manual) {
    return told("zcat '" + (Installed::tree().share() / "man/man1" / (manual.name() + ".1.gz")).string() + "'").text;
}
std::string plain(std::string page) {
    page = std::regex_replace(page, std::regex(R"(\\-)"), "-");
    return std::regex_replace(page, std::regex(R"(\\f[BIR])"), "");
}

// The demos' files beside their solved cases, as the examples name them; grids are coarse.
void fill(const std::filesystem::path& folder) {
    ASSERT_TRUE(solveCoarseTelemetry(folder));
    for (const auto& entry : std::filesystem::directory_iterator(shippedDemo("telemetry")->source))
        if (!std::filesystem::exists(folder / entry.path().filename()))
            std::filesystem::copy(entry.path(), folder / entry.path().filename());
}

} // namespace

TEST(Manuals, PagesTellEveryOptionOfHelpAndNoOther) {
    Words words;
    for (const auto& manual : manuals(words)) {
        const auto help = optionsIn(helpOf(manual));
        auto page = plain(pageOf(manual));
        page = page.substr(0, page.find(".SH EXAMPLES"));
        ASSERT_GT(help.size(), 1U) << manual.name();
        EXPECT_EQ(joined(help), joined(optionsIn(page))) << manual.name();
    }
}

TEST(Manuals, PagesTellStatusesExamplesAndFiles) {
    Words words;
    for (const auto& manual : manuals(words)) {
        const auto page = plain(pageOf(manual));
        const auto help = Installed::tree().run(manual.name() + " --help").text;
        ASSERT_FALSE(manual.statuses.empty()) << manual.name();
        for (const auto& one : manual.statuses) {
            EXPECT_NE(page.find(".TP\n" + std::to_string(one.status) + "\n" + one.meaning), std::string::npos);
            EXPECT_NE(help.find(std::to_string(one.status) + "  " + one.meaning), std::string::npos);
        }
        for (const auto& one : manual.examples) {
            EXPECT_NE(page.find(one.words + "\n" + one.meaning), std::string::npos) << one.words;
            EXPECT_NE(help.find(one.words + "\n"), std::string::npos) << one.words;
        }
        EXPECT_EQ(manual.internal, manual.examples.empty()) << manual.name();
    }
}

TEST(Manuals, PagesAreWellFormed) {
    if (told("command -v groff").text.empty())
        GTEST_SKIP() << "groff is not installed";
    for (const char* name : {"pyrometer", "pyrometer-cli", "pyrometer-rig", "pyrometer-reader"}) {
        const auto page = Installed::tree().share() / "man/man1" / (std::string(name) + ".1.gz");
        const auto warned = told("zcat '" + page.string() + "' | groff -man -ww -Tutf8 > /dev/null");
        EXPECT_EQ(warned.status, 0);
        EXPECT_EQ(warned.text, "") << name;
    }
}

TEST(Manuals, ExamplesOfTheCommandLineRun) {
    const TempFolder folder;
    fill(folder.path());
    Words words;
    int run = 0;
    for (const auto& manual : manuals(words))
        for (const auto& one : manual.examples) {
            if (manual.name() == "pyrometer")
                continue; // see InstalledWindow.EveryExampleOfItsHelpRuns
            const auto done = Installed::tree().run("cd '" + folder.path().string() + "' && " + one.words);
            EXPECT_TRUE(done.status == 0 || done.status == 1) << one.words << ": " << done.status << "\n" << done.text;
            ++run;
        }
    EXPECT_GE(run, 7);
    for (const char* made : {"readings.json", "verdicts.xml", "telemetry.pdf", "telemetry.xlsx", "hot.png",
                             "cases/roof-edge.vtm", "cases/warm-up.csv", "demo/mast-foot.survey.json"})
        EXPECT_TRUE(std::filesystem::exists(folder / made)) << made;
}

TEST(Manuals, VersionTellsCommitCompilerAndLibraries) {
    for (const char* name : {"pyrometer", "pyrometer-cli", "pyrometer-rig", "pyrometer-reader"}) {
        const auto version = Installed::tree().run(std::string("env -u DISPLAY ") + name + " --version");
        EXPECT_EQ(version.status, 0) << name;
        EXPECT_EQ(version.text, buildText() + "\n") << name;
    }
    EXPECT_TRUE(std::regex_search(buildText(), std::regex("commit: [0-9a-f]{12}|commit: unknown"))) << buildText();
    EXPECT_NE(buildText().find("VTK 9"), std::string::npos);
}

namespace {

// What bash offers behind the line.
std::set<std::string> offeredByBash(const std::string& program, const std::vector<std::string>& line,
                                    const std::string& folder = "/") {
    std::string words;
    for (const auto& one : line)
        words += " '" + one + "'";
    const auto file = Installed::tree().share() / "bash-completion/completions" / program;
    const auto script = "cd '" + folder + "'; . '" + file.string() + "'; COMP_WORDS=(" + words +
                        "); COMP_CWORD=" + std::to_string(line.size() - 1) + "; $(complete -p " + program +
                        " | sed 's/.*-F \\([^ ]*\\) .*/\\1/'); printf '%s\\n' \"${COMPREPLY[@]}\"";
    const TempFolder temp;
    std::ofstream(temp / "s.sh") << script;
    const auto done = Installed::tree().run("bash --norc '" + (temp / "s.sh").string() + "'");
    std::istringstream lines(done.text);
    std::set<std::string> out;
    for (std::string one; std::getline(lines, one);)
        if (!one.empty())
            out.insert(one);
    return out;
}

} // namespace

TEST(Completion, BashOffersCommandsOptionsChoicesFilesAndDemos) {
    EXPECT_EQ(joined(offeredByBash("pyrometer-cli", {"pyrometer-cli", "re"})), "render report ");
    EXPECT_TRUE(offeredByBash("pyrometer-cli", {"pyrometer-cli", "evaluate", "--"}).contains("--junit"));
    EXPECT_FALSE(offeredByBash("pyrometer-cli", {"pyrometer-cli", "inspect", "--"}).contains("--junit"));
    EXPECT_EQ(joined(offeredByBash("pyrometer-cli", {"pyrometer-cli", "render", "--ground", ""})),
              "graphite transparent white ");
    const TempFolder folder;
    std::ofstream(folder / "some.survey.json") << "{}";
    std::filesystem::create_directory(folder / "somewhere");
    EXPECT_EQ(joined(offeredByBash("pyrometer-cli", {"pyrometer-cli", "evaluate", "som"}, folder.path().string())),
              "some.survey.json somewhere ");
    EXPECT_EQ(
        joined(offeredByBash("pyrometer-cli", {"pyrometer-cli", "evaluate", "--csv", "som"}, folder.path().string())),
        "somewhere ");
    const auto demos = offeredByBash("pyrometer", {"pyrometer", "--demo", ""});
    EXPECT_TRUE(demos.contains("telemetry") && demos.contains("mast-foot")) << joined(demos);
    EXPECT_EQ(joined(offeredByBash("pyrometer-rig", {"pyrometer-rig", "--demo", "war"})), "warm-up ");
}

TEST(Completion, FishOffersTheSame) {
    if (told("command -v fish").text.empty())
        GTEST_SKIP() << "fish is not installed";
    const auto offered = [](const std::string& program, const std::string& line) {
        const auto file = Installed::tree().share() / "fish/vendor_completions.d" / (program + ".fish");
        return Installed::tree()
            .run("fish --no-config -c \"source '" + file.string() + "'; complete -C '" + line + "'\" | cut -f1")
            .text;
    };
    EXPECT_EQ(offered("pyrometer-cli", "pyrometer-cli re"), "render\nreport\n");
    EXPECT_EQ(offered("pyrometer-cli", "pyrometer-cli evaluate --ju"), "--junit\n");
    EXPECT_EQ(offered("pyrometer-cli", "pyrometer-cli render --ground tr"), "transparent\n");
    EXPECT_EQ(offered("pyrometer-rig", "pyrometer-rig --demo roof"), "roof-edge\n");
}

TEST(Completion, ZshFilesAreReadAndNameEveryOption) {
    Words words;
    for (const auto& manual : manuals(words)) {
        const auto file = Installed::tree().share() / "zsh/vendor-completions" / ("_" + manual.name());
        if (manual.internal) {
            EXPECT_FALSE(std::filesystem::exists(file));
            continue;
        }
        const auto text = readText(file);
        EXPECT_TRUE(text.starts_with("#compdef " + manual.name() + "\n"));
        for (const auto& option : optionsIn(helpOf(manual)))
            EXPECT_NE(text.find(option + "["), std::string::npos) << manual.name() << " " << option;
        if (!told("command -v zsh").text.empty()) {
            EXPECT_EQ(told("zsh -n '" + file.string() + "'").text, "");
        }
    }
}
