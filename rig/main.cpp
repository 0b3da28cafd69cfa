// pyrometer-rig INPUT.rig.json -o FILE.vtm [--history FILE.csv]: solves a stand-in case.
#include "rig/run.h"

#include <CLI/CLI.hpp>
#include <atomic>
#include <csignal>
#include <fmt/format.h>
#include <unistd.h>

namespace {

std::atomic<bool> stopped{false};

// One line on a terminal, written over and over; Ctrl+C cancels.
class TerminalProgress final : public pyro::Progress {
public:
    void report(double share, std::string_view what) override {
        if (m_terminal)
            fmt::print(stderr, "\r{:3.0f} %  {:<60}", 100 * std::min(1.0, std::max(0.0, share)), what.substr(0, 60));
    }
    bool cancelled() const override { return stopped; }
    void end() const {
        if (m_terminal)
            fmt::print(stderr, "\r{:<70}\r", "");
    }

private:
    bool m_terminal = isatty(STDERR_FILENO) == 1;
};

} // namespace

int main(int count, char** words) {
    CLI::App app("Solves steady and transient heat conduction for demos and tests.", "pyrometer-rig");
    std::string input;
    std::string output;
    std::string history;
    app.add_option("INPUT", input, "a .rig.json file")->required();
    app.add_option("-o,--output", output, "the .vtm file to write")->required();
    app.add_option("--history", history, "a .csv file that grows by a line per step, or per grid when it refines");
    try {
        app.parse(count, words);
    } catch (const CLI::ParseError& wrong) {
        return app.exit(wrong) == 0 ? 0 : 2;
    }
    std::signal(SIGINT, [](int) { stopped = true; });
    TerminalProgress progress;
    const auto done = pyro::rig::run({input, output, history}, progress);
    progress.end();
    if (done)
        return 0;
    fmt::print(stderr, "pyrometer-rig: {}\n", done.error().text());
    return 2;
}
