#include "core/case/reader_process.h"

#include "core/case/reader_program.h"
#include "core/program/program.h"

#include <algorithm>
#include <csignal>
#include <cstdlib>
#include <fmt/format.h>
#include <map>
#include <sys/wait.h>
#include <unistd.h>

namespace pyro {
namespace {

// Our own stays for many jobs; one that the caller names is started for each.
struct Program {
    std::filesystem::path file;
    bool stays;
};
Program readerProgram(const OpenOptions& options) {
    if (!options.reader.empty())
        return {options.reader, false};
    if (const char* given = std::getenv("PYROMETER_READER"); given != nullptr && *given != '\0')
        return {given, false};
    return {helperProgram("pyrometer-reader"), true};
}

std::uint64_t memoryLimit(const OpenOptions& options) {
    if (options.memoryLimit != 0)
        return options.memoryLimit;
    const auto pages = static_cast<std::uint64_t>(::sysconf(_SC_PHYS_PAGES));
    return pages * static_cast<std::uint64_t>(::sysconf(_SC_PAGE_SIZE)) / 4 * 3;
}

// One job and what the reading process says of it, line by line.
class ReadingJob {
public:
    ReadingJob(std::filesystem::path file, Progress& progress) : m_file(std::move(file)), m_progress(progress) {}

    // `words`: what the program is told. One that stays reads it, unless the caller names a program of his own.
    Done run(const std::filesystem::path& program, bool stays, const std::vector<std::string>& words);
    const std::map<std::size_t, std::vector<double>>& times() const { return m_times; }
    bool wasStopped() const { return m_stopped; }

private:
    Done runOnce(const std::filesystem::path& program, const std::vector<std::string>& words);
    void listen(ReaderProgram& reader);
    void takeLine(const std::string& line);
    Done verdict(int status) const;

    std::filesystem::path m_file;
    Progress& m_progress;
    bool m_done = false;
    bool m_stopped = false;
    bool m_heard = false; // anything at all
    bool m_ended = false; // the job, of a program that stays or leaves
    bool m_stays = false;
    std::optional<Error> m_error;
    std::map<std::size_t, std::vector<double>> m_times;
};

void ReadingJob::takeLine(const std::string& line) {
    if (line == "done") {
        m_done = true;
    } else if (line.starts_with("ended ")) {
        m_ended = true;
        m_stays = line == "ended stays";
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

void ReadingJob::listen(ReaderProgram& reader) {
    for (bool closed = false; !closed && !m_ended;) {
        if (!m_stopped && m_progress.cancelled()) {
            m_stopped = true;
            reader.kill();
        }
        if (const auto line = reader.line(50, closed)) {
            m_heard = true;
            takeLine(*line);
        }
    }
}

Done ReadingJob::run(const std::filesystem::path& program, bool stays, const std::vector<std::string>& words) {
    if (!stays)
        return runOnce(program, words);
    auto reader = IdleReaders::take(program);
    if (!reader)
        return tl::unexpected(reader.error());
    (*reader)->tell(words);
    listen(**reader);
    if (!m_heard && !m_stopped && (*reader)->waitForEnd() == 0) { // it left while it was told
        reader = ReaderProgram::start({program, "serve"});
        if (!reader)
            return tl::unexpected(reader.error());
        (*reader)->tell(words);
        listen(**reader);
    }
    if (!m_ended || m_stopped)
        return verdict((*reader)->waitForEnd());
    if (m_stays)
        IdleReaders::giveBack(program, std::move(*reader));
    return verdict(0);
}

Done ReadingJob::runOnce(const std::filesystem::path& program, const std::vector<std::string>& words) {
    std::vector<std::string> all{program};
    all.insert(all.end(), words.begin(), words.end());
    auto reader = ReaderProgram::start(std::move(all));
    if (!reader)
        return tl::unexpected(reader.error());
    listen(**reader);
    return verdict((*reader)->waitForEnd());
}

Done ReadingJob::verdict(int status) const {
    if (m_stopped)
        return fail(ErrorCode::Cancelled, "reading was cancelled", m_file.string());
    if (m_error)
        return tl::unexpected(*m_error);
    if (m_done && WIFEXITED(status) && WEXITSTATUS(status) == 0)
        return {};
    if (WIFSIGNALED(status) && WTERMSIG(status) == SIGXCPU)
        return fail(ErrorCode::ReaderCrashed, "reading it took far longer than a file of its size can take",
                    m_file.string(), "It is damaged in a way that leads its reader in a circle; write it again");
    return fail(ErrorCode::ReaderCrashed,
                WIFSIGNALED(status) ? fmt::format("the file broke its reader (signal {})", WTERMSIG(status))
                                    : fmt::format("the file broke its reader (exit status {})", WEXITSTATUS(status)),
                m_file.string(), "The file is damaged or needs more memory than allowed; write it again");
}

} // namespace

Done runReader(const CaseSource& source, const std::filesystem::path& storeFile, const OpenOptions& options,
               Progress& progress) {
    std::vector<std::string> words{source.file, storeFile, std::to_string(memoryLimit(options)),
                                   std::to_string(source.step)};
    words.push_back(source.as.toJson().dump());
    const auto program = readerProgram(options);
    return ReadingJob(source.file, progress).run(program.file, program.stays, words);
}

Result<std::vector<std::vector<double>>> readTimes(const std::vector<std::filesystem::path>& files,
                                                   const OpenOptions& options, Progress& progress) {
    std::vector<std::string> words{"times", std::to_string(memoryLimit(options))};
    for (const auto& file : files)
        words.push_back(std::filesystem::absolute(file)); // it may stay longer than we stand here
    ReadingJob job(files.front(), progress);
    const auto program = readerProgram(options);
    if (auto done = job.run(program.file, program.stays, words);
        !done && (job.wasStopped() || done.error().code == ErrorCode::ReaderMissing))
        return tl::unexpected(done.error());
    std::vector<std::vector<double>> times(files.size()); // those told before a file broke the reader count
    for (const auto& [at, told] : job.times())
        if (at < times.size())
            times[at] = told;
    return times;
}

nlohmann::json errorToJson(const Error& error) {
    const auto oneLine = [](std::string text) { // what is quoted from a file may hold anything
        std::ranges::replace_if(
            text, [](unsigned char c) { return c < 32 || c == 127; }, ' ');
        return text;
    };
    return {{"code", codeName(error.code)},
            {"what", oneLine(error.what)},
            {"where", oneLine(error.where)},
            {"remedy", error.remedy}};
}

Error errorFromJson(const nlohmann::json& json) {
    return {codeFromName(json.value("code", "")), json.value("what", ""), json.value("where", ""),
            json.value("remedy", "")};
}

} // namespace pyro
