#include "core/case/reader_process.h"

#include <algorithm>
#include <array>
#include <csignal>
#include <cstdlib>
#include <fcntl.h>
#include <fmt/format.h>
#include <map>
#include <poll.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

extern char** environ;

namespace pyro {
namespace {

std::filesystem::path readerProgram(const OpenOptions& options) {
    if (!options.reader.empty())
        return options.reader;
    if (const char* given = std::getenv("PYROMETER_READER"); given != nullptr && *given != '\0')
        return given;
    std::error_code ignored;
    return std::filesystem::read_symlink("/proc/self/exe", ignored).parent_path() / "pyrometer-reader";
}

std::uint64_t memoryLimit(const OpenOptions& options) {
    if (options.memoryLimit != 0)
        return options.memoryLimit;
    const auto pages = static_cast<std::uint64_t>(::sysconf(_SC_PHYS_PAGES));
    return pages * static_cast<std::uint64_t>(::sysconf(_SC_PAGE_SIZE)) / 4 * 3;
}

class ReaderProcess {
public:
    ReaderProcess(const std::filesystem::path& file, Progress& progress) : m_file(file), m_progress(progress) {}
    ~ReaderProcess() {
        if (m_output >= 0)
            ::close(m_output);
    }
    ReaderProcess(const ReaderProcess&) = delete;
    ReaderProcess& operator=(const ReaderProcess&) = delete;

    // `words`: the program and what it is told.
    Done start(std::vector<std::string> words);
    Done wait();
    const std::map<std::size_t, std::vector<double>>& times() const { return m_times; }
    bool wasKilled() const { return m_killed; }

private:
    void listen();
    void takeLine(const std::string& line);
    Done verdict(int status) const;

    std::filesystem::path m_file;
    Progress& m_progress;
    pid_t m_child = -1;
    int m_output = -1;
    std::string m_pending;
    bool m_done = false;
    bool m_killed = false;
    std::optional<Error> m_error;
    std::map<std::size_t, std::vector<double>> m_times;
};

Done ReaderProcess::start(std::vector<std::string> words) {
    const std::filesystem::path program = words.front();
    std::error_code ignored;
    if (!std::filesystem::exists(program, ignored))
        return fail(ErrorCode::ReaderMissing, "the reading program is missing", program.string(),
                    "Install Pyrometer again, or build the target pyrometer-reader");
    std::array<int, 2> ends{};
    if (::pipe2(ends.data(), O_CLOEXEC) != 0)
        return fail(ErrorCode::ReaderCrashed, "no pipe to the reading program", m_file.string(), "Try again");
    m_output = ends[0];
    posix_spawn_file_actions_t actions;
    posix_spawn_file_actions_init(&actions);
    posix_spawn_file_actions_adddup2(&actions, ends[1], STDOUT_FILENO);
    posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
    std::vector<char*> arguments;
    arguments.reserve(words.size() + 1);
    for (auto& word : words)
        arguments.push_back(word.data());
    arguments.push_back(nullptr);
    const int status = ::posix_spawn(&m_child, program.c_str(), &actions, nullptr, arguments.data(), environ);
    posix_spawn_file_actions_destroy(&actions);
    ::close(ends[1]);
    if (status != 0)
        return fail(ErrorCode::ReaderMissing, "the reading program cannot be started", program.string(),
                    "Check that it may be executed");
    return {};
}

void ReaderProcess::takeLine(const std::string& line) {
    if (line == "done") {
        m_done = true;
    } else if (line.starts_with("error ")) {
        const auto json = nlohmann::json::parse(line.substr(6), nullptr, false);
        if (!json.is_discarded())
            m_error = errorFromJson(json);
    } else if (line.starts_with("time ")) {
        char* rest = nullptr;
        const auto at = std::strtoull(line.c_str() + 5, &rest, 10);
        m_times[at].push_back(std::strtod(rest, nullptr));
    } else if (line.starts_with("progress ")) {
        char* rest = nullptr;
        const double share = std::strtod(line.c_str() + 9, &rest);
        m_progress.report(share, *rest == ' ' ? rest + 1 : rest);
    }
}

void ReaderProcess::listen() {
    std::array<char, 4096> buffer{};
    pollfd watched{m_output, POLLIN, 0};
    for (;;) {
        if (!m_killed && m_progress.cancelled()) {
            m_killed = true;
            ::kill(m_child, SIGKILL);
        }
        if (::poll(&watched, 1, 50) <= 0)
            continue;
        const auto got = ::read(m_output, buffer.data(), buffer.size());
        if (got <= 0)
            return; // the child closed its end
        m_pending.append(buffer.data(), static_cast<std::size_t>(got));
        for (auto end = m_pending.find('\n'); end != std::string::npos; end = m_pending.find('\n')) {
            takeLine(m_pending.substr(0, end));
            m_pending.erase(0, end + 1);
        }
    }
}

Done ReaderProcess::wait() {
    listen();
    int status = 0;
    while (::waitpid(m_child, &status, 0) < 0 && errno == EINTR) {
    }
    return verdict(status);
}

Done ReaderProcess::verdict(int status) const {
    if (m_killed)
        return fail(ErrorCode::Cancelled, "reading was cancelled", m_file.string());
    if (m_error)
        return tl::unexpected(*m_error);
    if (m_done && WIFEXITED(status) && WEXITSTATUS(status) == 0)
        return {};
    if (WIFSIGNALED(status) && WTERMSIG(status) == SIGXCPU)
        return fail(ErrorCode::ReaderCrashed, "reading it took far longer than a file of its size can take", m_file.string(), "It is damaged in a way that leads its reader in a circle; write it again");
    return fail(ErrorCode::ReaderCrashed,
                WIFSIGNALED(status)
                    ? fmt::format("the file broke its reader (signal {})", WTERMSIG(status))
                    : fmt::format("the file broke its reader (exit status {})", WEXITSTATUS(status)),
                m_file.string(), "The file is damaged or needs more memory than allowed; write it again");
}

} // namespace

Done runReader(const CaseSource& source, const std::filesystem::path& storeFile, const OpenOptions& options, Progress& progress) {
    ReaderProcess process(source.file, progress);
    std::vector<std::string> words{readerProgram(options), source.file, storeFile, std::to_string(memoryLimit(options)), std::to_string(source.step)};
    if (source.parts)
        words.push_back(*source.parts);
    if (auto started = process.start(std::move(words));
        !started)
        return started;
    return process.wait();
}

Result<std::vector<std::vector<double>>> readTimes(const std::vector<std::filesystem::path>& files, const OpenOptions& options, Progress& progress) {
    std::vector<std::string> words{readerProgram(options), "times", std::to_string(memoryLimit(options))};
    for (const auto& file : files)
        words.push_back(file);
    ReaderProcess process(files.front(), progress);
    if (auto started = process.start(std::move(words)); !started)
        return tl::unexpected(started.error());
    if (auto done = process.wait(); !done && process.wasKilled())
        return tl::unexpected(done.error());
    std::vector<std::vector<double>> times(files.size()); // those told before a file broke the reader count
    for (const auto& [at, told] : process.times())
        if (at < times.size())
            times[at] = told;
    return times;
}

nlohmann::json errorToJson(const Error& error) {
    const auto oneLine = [](std::string text) { // what is quoted from a file may hold anything
        std::ranges::replace_if(text, [](unsigned char c) { return c < 32 || c == 127; }, ' ');
        return text;
    };
    return {{"code", codeName(error.code)}, {"what", oneLine(error.what)}, {"where", oneLine(error.where)}, {"remedy", error.remedy}};
}

Error errorFromJson(const nlohmann::json& json) {
    return {codeFromName(json.value("code", "")), json.value("what", ""), json.value("where", ""),
            json.value("remedy", "")};
}

} // namespace pyro
