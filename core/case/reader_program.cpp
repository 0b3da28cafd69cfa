#include "core/case/reader_program.h"

#include <array>
#include <cerrno>
#include <csignal>
#include <fcntl.h>
#include <filesystem>
#include <mutex>
#include <poll.h>
#include <spawn.h>
#include <sys/socket.h>
#include <sys/wait.h>
#include <unistd.h>

namespace pyro {
namespace {

constexpr std::size_t mostIdle = 4;

struct Shelf {
    std::mutex guard;
    std::vector<std::pair<std::string, std::unique_ptr<ReaderProgram>>> idle;
};
Shelf& shelf() {
    static Shelf all;
    return all;
}

} // namespace

Result<std::unique_ptr<ReaderProgram>> ReaderProgram::start(std::vector<std::string> words) {
    const std::filesystem::path program = words.front();
    std::error_code ignored;
    if (!std::filesystem::exists(program, ignored))
        return fail(ErrorCode::ReaderMissing, "the reading program is missing", program.string(),
                    "Install Pyrometer again, or build the target pyrometer-reader");
    std::array<int, 2> input{};
    std::array<int, 2> output{};
    if (::socketpair(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0, input.data()) != 0)
        return fail(ErrorCode::ReaderCrashed, "no connection to the reading program", program.string(), "Try again");
    if (::pipe2(output.data(), O_CLOEXEC) != 0) {
        ::close(input[0]);
        ::close(input[1]);
        return fail(ErrorCode::ReaderCrashed, "no pipe to the reading program", program.string(), "Try again");
    }
    posix_spawn_file_actions_t actions;
    posix_spawn_file_actions_init(&actions);
    posix_spawn_file_actions_adddup2(&actions, input[1], STDIN_FILENO);
    posix_spawn_file_actions_adddup2(&actions, output[1], STDOUT_FILENO);
    posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
    std::vector<char*> arguments;
    arguments.reserve(words.size() + 1);
    for (auto& word : words)
        arguments.push_back(word.data());
    arguments.push_back(nullptr);
    pid_t child = -1;
    const int status = ::posix_spawn(&child, program.c_str(), &actions, nullptr, arguments.data(), environ);
    posix_spawn_file_actions_destroy(&actions);
    ::close(input[1]);
    ::close(output[1]);
    std::unique_ptr<ReaderProgram> started(new ReaderProgram(status == 0 ? child : -1, input[0], output[0]));
    if (status != 0)
        return fail(ErrorCode::ReaderMissing, "the reading program cannot be started", program.string(),
                    "Check that it may be executed");
    return started;
}

ReaderProgram::~ReaderProgram() {
    ::close(m_to);
    ::close(m_from);
    if (m_child > 0)
        waitForEnd();
}

void ReaderProgram::tell(const std::vector<std::string>& words) const {
    std::string message;
    for (const auto& word : words)
        message += word + '\0';
    message += '\0';
    for (std::size_t sent = 0; sent < message.size();) {
        const auto now = ::send(m_to, message.data() + sent, message.size() - sent, MSG_NOSIGNAL);
        if (now < 0 && errno != EINTR)
            return;
        sent += now > 0 ? static_cast<std::size_t>(now) : 0;
    }
}

std::optional<std::string> ReaderProgram::line(int milliseconds, bool& closed) {
    for (;;) {
        if (const auto end = m_pending.find('\n'); end != std::string::npos) {
            auto out = m_pending.substr(0, end);
            m_pending.erase(0, end + 1);
            return out;
        }
        pollfd watched{m_from, POLLIN, 0};
        if (::poll(&watched, 1, milliseconds) <= 0)
            return std::nullopt;
        std::array<char, 4096> buffer{};
        const auto got = ::read(m_from, buffer.data(), buffer.size());
        if (got < 0 && errno == EINTR)
            continue;
        if (got <= 0) {
            closed = true;
            return std::nullopt;
        }
        m_pending.append(buffer.data(), static_cast<std::size_t>(got));
    }
}

int ReaderProgram::waitForEnd() {
    while (m_child > 0 && ::waitpid(m_child, &m_status, 0) < 0 && errno == EINTR) {
    }
    m_child = -1;
    return m_status;
}

void ReaderProgram::kill() const {
    if (m_child > 0)
        ::kill(m_child, SIGKILL);
}

Result<std::unique_ptr<ReaderProgram>> IdleReaders::take(const std::string& program) {
    {
        auto& all = shelf();
        const std::lock_guard lock(all.guard);
        for (auto at = all.idle.begin(); at != all.idle.end(); ++at)
            if (at->first == program) {
                auto reader = std::move(at->second);
                all.idle.erase(at);
                return reader;
            }
    }
    return ReaderProgram::start({program, "serve"});
}

void IdleReaders::giveBack(const std::string& program, std::unique_ptr<ReaderProgram> reader) {
    auto& all = shelf();
    const std::lock_guard lock(all.guard);
    if (all.idle.size() < mostIdle)
        all.idle.emplace_back(program, std::move(reader));
}

} // namespace pyro
