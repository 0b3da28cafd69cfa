#include "cli/reader_jobs.h"

#include <array>
#include <cerrno>
#include <csignal>
#include <fcntl.h>
#include <fmt/format.h>
#include <optional>
#include <poll.h>
#include <sys/signalfd.h>
#include <sys/wait.h>
#include <unistd.h>

namespace pyro::cli {
namespace {

using Words = std::vector<std::string>;

// Jobs as they come in; this process runs no thread besides its first, so that it may be forked at any time.
class Inbox {
public:
    // Nothing as long as no whole job is there.
    std::optional<Words> take() {
        const auto end = m_pending.starts_with('\0') ? 0 : m_pending.find(std::string_view("\0\0", 2));
        if (end == std::string::npos)
            return std::nullopt;
        Words words;
        for (std::size_t from = 0; from < end;) {
            const auto to = m_pending.find('\0', from);
            words.push_back(m_pending.substr(from, to - from));
            from = to + 1;
        }
        m_pending.erase(0, end + (end == 0 ? 1 : 2));
        return words;
    }
    // False when no more can come.
    bool read() {
        std::array<char, 4096> buffer{};
        const auto got = ::read(STDIN_FILENO, buffer.data(), buffer.size());
        if (got < 0 && errno == EINTR)
            return true;
        if (got <= 0)
            return false;
        m_pending.append(buffer.data(), static_cast<std::size_t>(got));
        return true;
    }

private:
    std::string m_pending;
};

class Server {
public:
    Server() {
        sigemptyset(&m_childEnds);
        sigaddset(&m_childEnds, SIGCHLD);
        ::sigprocmask(SIG_BLOCK, &m_childEnds, nullptr);
        m_ended = ::signalfd(-1, &m_childEnds, SFD_CLOEXEC | SFD_NONBLOCK);
    }

    int run() {
        for (;;) {
            if (const auto job = m_inbox.take()) {
                if (*job == Words{"stop"}) // of a job that had ended by itself
                    continue;
                if (!runJob(*job))
                    return 0;
            } else if (!m_inbox.read()) {
                return 0;
            }
        }
    }

private:
    // False when nobody is there any more.
    bool runJob(const Words& words) {
        if (const auto file = fileOfJob(words); !file.empty())
            secondsFor(file); // known to the child then
        const pid_t child = ::fork();
        if (child == 0) {
            ::sigprocmask(SIG_UNBLOCK, &m_childEnds, nullptr);
            const int nothing = ::open("/dev/null", O_RDONLY | O_CLOEXEC);
            ::dup2(nothing, STDIN_FILENO);
            runReaderJob(words);
        }
        int status = 1 << 8; // as of a process that ended with 1
        const bool heard = child < 0 || watch(child, status);
        const auto line = fmt::format("\nended {}\n", status); // on a line of its own whatever the job has left
        return heard && ::write(STDOUT_FILENO, line.data(), line.size()) == static_cast<ssize_t>(line.size());
    }

    // Until the child has ended; it is killed when it is told to stop, and when nobody is there any more: false then.
    bool watch(pid_t child, int& status) {
        bool open = true;
        for (;;) {
            if (::waitpid(child, &status, WNOHANG) == child)
                return open;
            std::array<pollfd, 2> watched{{{m_ended, POLLIN, 0}, {open ? STDIN_FILENO : -1, POLLIN, 0}}};
            ::poll(watched.data(), watched.size(), 1000);
            signalfd_siginfo told{};
            while (::read(m_ended, &told, sizeof told) > 0) {
            }
            if (watched[1].revents == 0)
                continue;
            open = m_inbox.read();
            if (const auto job = m_inbox.take(); !open || (job && *job == Words{"stop"}))
                ::kill(child, SIGKILL);
        }
    }

    Inbox m_inbox;
    sigset_t m_childEnds{};
    int m_ended = -1;
};

} // namespace

int serveReaderJobs() { return Server().run(); }

} // namespace pyro::cli
