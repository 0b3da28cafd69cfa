// pyrometer --self-check: all is well, and each thing broken in turn is told.
#include "tests/install/installed.h"

#include <gtest/gtest.h>
#include <regex>
#include <sys/stat.h>

using namespace pyro::test;

namespace {

// The line of a check.
std::string lineOf(const std::string& text, const std::string& name) {
    std::smatch found;
    return std::regex_search(text, found, std::regex("(passed|failed) +" + name + " .*")) ? found.str() : "";
}

Told checked(const std::string& environment = {}) {
    return Installed::tree().run(environment + " pyrometer --self-check");
}

// Another tree, to be broken.
class BrokenTree {
public:
    BrokenTree() { Installed::tree().copyTo(m_folder / "tree"); }
    std::filesystem::path operator/(const std::string& name) const { return m_folder / "tree" / name; }
    Told checked() const { return told("'" + (*this / "bin/pyrometer").string() + "' --self-check"); }
    void replace(const std::string& name, const std::string& script) const {
        std::filesystem::remove(*this / name);
        std::ofstream(*this / name) << "#!/bin/sh\n" << script << "\n";
        ::chmod((*this / name).c_str(), 0755);
    }

private:
    TempFolder m_folder;
};

void failsAt(const Told& done, const std::string& name, const std::string& because) {
    EXPECT_EQ(done.status, 1) << done.text;
    const auto line = lineOf(done.text, name);
    EXPECT_TRUE(line.starts_with("failed")) << done.text;
    EXPECT_NE(line.find(because), std::string::npos) << line;
}

} // namespace

TEST(SelfCheck, PassesWhereAllIsThereAndTellsWhatIsSentWithAReport) {
    const auto done = checked();
    EXPECT_EQ(done.status, 0) << done.text;
    for (const char* name : {"display", "pictures", "programs", "shipped files", "units", "settings", "cache",
                             "temporary files", "solved case"})
        EXPECT_TRUE(lineOf(done.text, name).starts_with("passed")) << name << "\n" << done.text;
    for (const char* word : {"Pyrometer 0.", "commit: ", "compiler: ", "libraries: Qt", "system: ", "OpenGL"})
        EXPECT_NE(done.text.find(word), std::string::npos) << word;
    EXPECT_EQ(done.text.find(std::getenv("HOME")), std::string::npos) << "nobody's folders are told";
}

TEST(SelfCheck, UnitsAndDecimalSignFollowTheDesktop) {
    const auto line = [](const std::string& language) {
        const auto text = checked("env LC_ALL=" + language).text;
        const auto at = text.find("language: ");
        return text.substr(at, text.find('\n', at) - at);
    };
    EXPECT_EQ(line("en_US.UTF-8"), "language: en_US: °F, decimal point");
    EXPECT_EQ(line("en_GB.UTF-8"), "language: en_GB: °C, decimal point");
    EXPECT_EQ(line("de_DE.UTF-8"), "language: de_DE: °C, decimal comma");
    EXPECT_EQ(line("C"), "language: C: °C, decimal point");
}

TEST(SelfCheck, NoDisplay) {
    failsAt(checked("env -u DISPLAY -u WAYLAND_DISPLAY"), "display", "there is no display");
    failsAt(checked("env DISPLAY=:12345"), "display", ":12345 cannot be reached");
}

TEST(SelfCheck, NoOpenGl) {
    failsAt(checked("env QT_XCB_GL_INTEGRATION=none"), "display", "libgl1-mesa-dri");
    failsAt(checked("env __EGL_VENDOR_LIBRARY_FILENAMES=/none LIBGL_DRIVERS_PATH=/none"), "pictures", "EGL");
}

TEST(SelfCheck, PlacesThatCannotBeWritten) {
    const TempFolder folder;
    std::ofstream(folder / "file") << "no folder";
    const auto within = (folder / "file/below").string();
    failsAt(checked("env XDG_CONFIG_HOME=" + within), "settings", "cannot be made");
    failsAt(checked("env XDG_CACHE_HOME=" + within), "cache", "cases are read into /tmp/pyrometer-");
    failsAt(checked("env TMPDIR=" + within), "temporary files", "TMPDIR");
}

TEST(SelfCheck, ProgramsThatAreMissingBrokenOrOfAnotherVersion) {
    const BrokenTree tree;
    std::filesystem::remove(tree / "libexec/pyrometer/pyrometer-pages");
    failsAt(tree.checked(), "programs", "pyrometer-pages is missing");
    tree.replace("libexec/pyrometer/pyrometer-pages", "exit 3");
    failsAt(tree.checked(), "programs", "pyrometer-pages cannot be run");
    tree.replace("libexec/pyrometer/pyrometer-pages", "echo 'Pyrometer 0.0.1'");
    failsAt(tree.checked(), "programs", "pyrometer-pages is Pyrometer 0.0.1");
}

TEST(SelfCheck, ShippedFilesThatAreMissing) {
    const BrokenTree tree;
    std::filesystem::remove(tree / "share/pyrometer/demos/larkspur/more-flow.rig.json");
    failsAt(tree.checked(), "shipped files", "more-flow.rig.json of the demo telemetry is missing");
    std::filesystem::remove_all(tree / "share/pyrometer/demos");
    failsAt(tree.checked(), "shipped files", "no demos");
}

TEST(SelfCheck, NoUnits) { failsAt(checked("env UDUNITS2_XML_PATH=/none"), "units", "units cannot be read"); }

TEST(SelfCheck, ASolvedCaseThatIsWrongOrCannotBeRead) {
    const BrokenTree tree;
    const auto rig = Installed::tree().bin("pyrometer-rig").string();
    tree.replace("bin/pyrometer-rig", "[ \"$1\" = --version ] && exec " + rig +
                                          " --version\nsed -i 's/0.04 W/0.05 W/' \"$1\"\nexec " + rig + " \"$@\"");
    failsAt(tree.checked(), "solved case", "exactly 10.101010 W");
    failsAt(checked("env PYROMETER_READER=/bin/false"), "solved case", "");
}
