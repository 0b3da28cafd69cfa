// The installed window as another process: what it tells where it cannot show itself, one window for a file, demos.
#include "manual/manual.h"
#include "tests/install/coarse_demo.h"
#include "tests/install/installed.h"
#include "tests/support/meshes.h"

#include <gtest/gtest.h>
#include <signal.h>
#include <spawn.h>
#include <thread>
#include <unistd.h>

using namespace pyro;
using namespace pyro::test;
using namespace std::chrono_literals;

namespace {

// A window that runs until the test ends it.
class Running {
public:
    explicit Running(const std::vector<std::string>& words) {
        auto program = Installed::tree().bin("pyrometer").string();
        std::vector<char*> arguments{program.data()};
        auto own = words;
        for (auto& one : own)
            arguments.push_back(one.data());
        arguments.push_back(nullptr);
        EXPECT_EQ(::posix_spawn(&m_child, program.c_str(), nullptr, nullptr, arguments.data(), environ), 0);
    }
    ~Running() {
        if (!m_ended) {
            ::kill(m_child, SIGTERM);
            ::waitpid(m_child, nullptr, 0);
        }
    }
    Running(const Running&) = delete;
    Running& operator=(const Running&) = delete;

    // Its status once it has ended; nothing while it runs after that time.
    std::optional<int> statusWithin(std::chrono::seconds most) {
        const auto until = std::chrono::steady_clock::now() + most;
        do {
            int ended = 0;
            if (::waitpid(m_child, &ended, WNOHANG) == m_child) {
                m_ended = true;
                return WIFEXITED(ended) ? WEXITSTATUS(ended) : -1;
            }
            std::this_thread::sleep_for(20ms);
        } while (std::chrono::steady_clock::now() < until);
        return std::nullopt;
    }
    std::filesystem::path socket() const {
        return std::filesystem::path(std::getenv("XDG_RUNTIME_DIR")) / "pyrometer" /
               ("window-" + std::to_string(m_child));
    }
    bool listens() const {
        for (int i = 0; i < 1000 && !std::filesystem::exists(socket()); ++i)
            std::this_thread::sleep_for(20ms);
        return std::filesystem::exists(socket());
    }

private:
    pid_t m_child = 0;
    bool m_ended = false;
};

class InstalledWindow : public testing::Test {
protected:
    void SetUp() override {
        for (const char* name : {"a", "b"}) {
            auto block = boxPart("block", {{0, 0, 0}, {2, 2, 2}, {0.02, 0.02, 0.02}});
            addNodeField(block, "T [degC]", [](const Point& at) { return 30 + 200 * at[0]; });
            ASSERT_TRUE(writeCase({block}, m_folder / (std::string(name) + ".vtm")));
            std::ofstream(m_folder / (std::string(name) + ".survey.json"))
                << R"({"pyrometer": 1, "cases": [{"name": "one", "file": ")" << name << R"(.vtm"}]})";
        }
    }
    std::string file(const char* name) const { return (m_folder / name).string(); }
    TempFolder m_folder;
};

} // namespace

TEST_F(InstalledWindow, WithoutADisplayOneMessageTellsWhatToDo) {
    const auto none = Installed::tree().run("env -u DISPLAY -u WAYLAND_DISPLAY pyrometer");
    EXPECT_EQ(none.status, 2);
    EXPECT_EQ(none.text, "pyrometer: there is no display (DISPLAY and WAYLAND_DISPLAY are not set). Start it in a "
                         "session of the desktop, or use pyrometer-cli, which evaluates, reports and draws without "
                         "one.\n");
    const auto wrong = Installed::tree().run("env DISPLAY=:12345 pyrometer");
    EXPECT_EQ(wrong.status, 2);
    EXPECT_TRUE(wrong.text.starts_with("pyrometer: the display :12345 cannot be reached. ")) << wrong.text;
    const auto word = Installed::tree().run("pyrometer --no-such-word");
    EXPECT_EQ(word.status, 2);
    EXPECT_NE(word.text.find("--no-such-word"), std::string::npos);
}

TEST_F(InstalledWindow, AFileThatIsOpenComesToTheFrontInItsWindow) {
    Running first({file("a.survey.json")});
    ASSERT_TRUE(first.listens());
    Running again({file("a.survey.json")});
    EXPECT_EQ(again.statusWithin(20s), 0) << "the first window has it";
    Running itsCase({file("a.vtm")});
    EXPECT_EQ(itsCase.statusWithin(20s), 0) << "the case of the survey that is open";
    Running other({file("b.survey.json")});
    EXPECT_TRUE(other.listens()) << "another file has a window of its own";
    EXPECT_FALSE(other.statusWithin(1s));
    EXPECT_FALSE(first.statusWithin(0s));
}

TEST_F(InstalledWindow, AWindowThatShowsNothingTakesTheFile) {
    Running empty({});
    ASSERT_TRUE(empty.listens());
    Running opened({file("b.survey.json")});
    EXPECT_EQ(opened.statusWithin(20s), 0);
    Running again({file("b.survey.json")});
    EXPECT_EQ(again.statusWithin(20s), 0);
    Running other({file("a.survey.json")});
    EXPECT_TRUE(other.listens()) << "now it shows something";
}

TEST_F(InstalledWindow, NamesMayHoldAnything) {
    const auto odd = file("tab\tquote\" new\nline, Grad \xC2\xB0.survey.json");
    std::filesystem::copy(file("a.survey.json"), odd);
    Running first({odd});
    ASSERT_TRUE(first.listens());
    Running again({odd});
    EXPECT_EQ(again.statusWithin(20s), 0);
}

TEST_F(InstalledWindow, AWindowThatWasKilledIsNotWaitedFor) {
    {
        Running first({file("a.survey.json")});
        ASSERT_TRUE(first.listens());
        std::filesystem::rename(first.socket(), first.socket().string() + "9"); // as kill -9 leaves it
    }
    Running next({file("a.survey.json")});
    EXPECT_TRUE(next.listens());
}

TEST_F(InstalledWindow, WithoutARunTimeFolderItStartsAllTheSame) {
    const auto done = Installed::tree().run("env -u XDG_RUNTIME_DIR pyrometer --tour '" + file("tour") + "' '" +
                                            file("a.survey.json") + "'");
    EXPECT_EQ(done.status, 0) << done.text;
    EXPECT_TRUE(std::filesystem::exists(m_folder / "tour/limits.png"));
}

TEST_F(InstalledWindow, EveryExampleOfItsHelpRuns) {
    ASSERT_TRUE(solveCoarseTelemetry(m_folder.path()));
    WindowWords words;
    const auto manual = windowManual(words);
    ASSERT_GE(manual.examples.size(), 4U);
    for (const auto& one : manual.examples) {
        const auto line = "cd '" + m_folder.path().string() + "' && " + one.words;
        const auto done = Installed::tree().run("pyrometer --self-check" == one.words ? line
                                                                                      : line + " --tour pictures");
        EXPECT_EQ(done.status, 0) << one.words << "\n" << done.text;
    }
}

TEST_F(InstalledWindow, AHomeThatCannotBeWrittenIsNoReasonNotToStart) {
    const auto home = "env -u XDG_CACHE_HOME -u XDG_CONFIG_HOME -u XDG_DATA_HOME HOME='" + file("a.vtm") + "/below' ";
    const auto done = Installed::tree().run(home + "pyrometer --tour '" + file("tour") + "' '" + file("a.survey.json") +
                                            "'");
    EXPECT_EQ(done.status, 0) << done.text;
    const auto judged = Installed::tree().run(home + "pyrometer-cli evaluate '" + file("a.survey.json") + "'");
    EXPECT_EQ(judged.status, 0) << judged.text;
}

TEST_F(InstalledWindow, ADemoIsSolvedIntoTheCacheOnceAndThenOpens) {
    const auto line = "pyrometer --demo mast-foot --tour '" + file("tour") + "'";
    const auto done = Installed::tree().run(line);
    EXPECT_EQ(done.status, 0) << done.text;
    const auto made = demoFolder() / "cases/mast-foot.vtm";
    ASSERT_TRUE(std::filesystem::exists(made)) << made;
    const auto when = std::filesystem::last_write_time(made);
    EXPECT_EQ(Installed::tree().run(line).status, 0);
    EXPECT_EQ(std::filesystem::last_write_time(made), when) << "solved once";
    const auto none = Installed::tree().run("timeout 60 pyrometer --demo nowhere --tour '" + file("tour") + "'");
    EXPECT_EQ(none.status, 1);
    EXPECT_NE(none.text.find("there is no demo \"nowhere\""), std::string::npos) << none.text;
}

TEST_F(InstalledWindow, WithoutOpenGlTheTablesWorkAndTheMissingIsTold) {
    const auto done = Installed::tree().run("env QT_XCB_GL_INTEGRATION=none pyrometer --tour '" + file("tour") + "' '" +
                                            file("a.survey.json") + "'");
    EXPECT_EQ(done.status, 0) << done.text;
    for (const char* stage : {"cases", "trust", "field", "gauges", "limits", "compare", "report"})
        EXPECT_TRUE(std::filesystem::exists(m_folder / "tour" / (std::string(stage) + ".png"))) << stage;
}
