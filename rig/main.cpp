// pyrometer-rig: solves a stand-in case, or all of a demo.
#include "core/program/program.h"
#include "manual/manual.h"
#include "rig/run.h"
#include "rig/solve_demo.h"

#include <atomic>
#include <csignal>
#include <fmt/format.h>
#include <iostream>
#include <unistd.h>

namespace {

std::atomic<bool> stopped{false};

// One line on a terminal, written over and over, or lines for another program; Ctrl+C cancels.
class ShownProgress final : public pyro::Progress {
public:
    explicit ShownProgress(bool lines) : m_lines(lines) {}
    void report(double share, std::string_view what) override {
        share = std::min(1.0, std::max(0.0, share));
        if (m_lines)
            fmt::print("progress {:.4f} {}\n", share, what), std::fflush(stdout);
        else if (m_terminal)
            fmt::print(stderr, "\r{:3.0f} %  {:<60}", 100 * share, what.substr(0, 60));
    }
    bool cancelled() const override { return stopped; }
    void end() const {
        if (m_terminal && !m_lines)
            fmt::print(stderr, "\r{:<70}\r", "");
    }

private:
    bool m_lines;
    bool m_terminal = isatty(STDERR_FILENO) == 1;
};

int listDemos() {
    const auto demos = pyro::shippedDemos();
    if (!demos) {
        fmt::print(stderr, "pyrometer-rig: {}\n", demos.error().text());
        return 2;
    }
    for (const auto& one : *demos)
        fmt::print("{}\t{}: {}\n", one.name, one.title, one.about);
    return 0;
}

pyro::Done solve(const pyro::RigWords& asked, pyro::Progress& progress) {
    if (asked.demo.empty())
        return pyro::rig::run({asked.input, asked.output, asked.history}, progress);
    const auto demo = pyro::shippedDemo(asked.demo);
    if (!demo)
        return tl::unexpected(demo.error());
    const auto folder = asked.folder.empty() ? pyro::demoFolder() : std::filesystem::absolute(asked.folder);
    const auto survey = pyro::rig::solveDemo(*demo, folder, progress);
    if (!survey)
        return tl::unexpected(survey.error());
    fmt::print("{}\n", survey->string());
    return {};
}

} // namespace

int main(int count, char** words) {
    pyro::RigWords asked;
    const auto manual = pyro::rigManual(asked);
    if (const auto ended = pyro::parse(manual, {words + 1, words + count}, std::cout, std::cerr))
        return *ended;
    if (asked.demo == "list")
        return listDemos();
    std::signal(SIGINT, [](int) { stopped = true; });
    std::signal(SIGTERM, [](int) { stopped = true; });
    ShownProgress progress(asked.progressLines);
    const auto done = solve(asked, progress);
    progress.end();
    if (done)
        return 0;
    fmt::print(stderr, "pyrometer-rig: {}\n", done.error().text());
    return 2;
}
