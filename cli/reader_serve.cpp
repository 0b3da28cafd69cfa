#include "cli/reader_jobs.h"

#include <array>
#include <cerrno>
#include <cstdio>
#include <optional>
#include <poll.h>
#include <sys/resource.h>
#include <unistd.h>

namespace pyro::cli {
namespace {

using Words = std::vector<std::string>;

constexpr int patience = 60'000;         // ms without a job
constexpr long mostMemory = 400L * 1024; // KiB that it has ever held: beyond it leaves rather than keep it

// The next job; nothing when none comes any more.
std::optional<Words> nextJob(std::string& pending) {
    for (;;) {
        if (const auto end = pending.find(std::string_view("\0\0", 2)); end != std::string::npos) {
            Words words;
            for (std::size_t from = 0; from < end;) {
                const auto to = pending.find('\0', from);
                words.push_back(pending.substr(from, to - from));
                from = to + 1;
            }
            pending.erase(0, end + 2);
            return words;
        }
        pollfd watched{STDIN_FILENO, POLLIN, 0};
        if (::poll(&watched, 1, patience) == 0)
            return std::nullopt;
        std::array<char, 4096> buffer{};
        const auto got = ::read(STDIN_FILENO, buffer.data(), buffer.size());
        if (got < 0 && errno == EINTR)
            continue;
        if (got <= 0)
            return std::nullopt;
        pending.append(buffer.data(), static_cast<std::size_t>(got));
    }
}

bool isLarge() {
    rusage used{};
    ::getrusage(RUSAGE_SELF, &used);
    return used.ru_maxrss > mostMemory;
}

} // namespace

int serveReaderJobs() {
    std::string pending;
    while (const auto job = nextJob(pending)) {
        const bool stays = runReaderJob(*job, false) == 0 && !isLarge();
        std::puts(stays ? "ended stays" : "ended leaves");
        std::fflush(stdout);
        if (!stays)
            break;
    }
    return 0;
}

} // namespace pyro::cli
