#include "cli/reader_jobs.h"

#include "core/case/reader_process.h"
#include "core/case/readers/format.h"
#include "core/case/readers/read_case.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <fmt/format.h>
#include <map>
#include <new>
#include <span>
#include <sys/prctl.h>
#include <sys/resource.h>

namespace pyro::cli {
namespace {

class LineProgress final : public Progress {
public:
    void report(double share, std::string_view what) override {
        fmt::print("progress {:.4f} {}\n", share, what);
        std::fflush(stdout);
    }
    bool cancelled() const override { return false; } // the parent kills
};

// The soft limit alone, so that the next job may have another one.
void setLimit(__rlimit_resource which, std::uint64_t value) {
    rlimit limit{};
    ::getrlimit(which, &limit);
    limit.rlim_cur = std::min<rlim_t>(value, limit.rlim_max);
    ::setrlimit(which, &limit);
}

void limitMemory(const std::string& word) {
#if !defined(__SANITIZE_ADDRESS__) // the address sanitizer reserves terabytes
    setLimit(RLIMIT_AS, std::strtoull(word.c_str(), nullptr, 10));
#else
    (void)word;
#endif
    setLimit(RLIMIT_CORE, 0);
}

Done readGuarded(const CaseSource& source, const std::filesystem::path& store) {
    const auto file = source.file.string();
    LineProgress progress;
    try {
        return readCaseIntoStore(source, store, progress);
    } catch (const std::bad_alloc&) {
        return fail(ErrorCode::MemoryLimit, "the file needs more memory than allowed", file,
                    "Close other programs or raise the memory limit");
    } catch (const std::exception& problem) {
        return fail(ErrorCode::ReaderCrashed, fmt::format("the file broke its reader: {}", problem.what()), file,
                    "Have the solver write the file again");
    }
}

int printTimes(const std::vector<std::string>& words) {
    const auto files = std::span(words).subspan(2);
    for (std::size_t i = 0; i < files.size(); ++i) {
        if (const auto* format = formatOf(files[i]))
            for (const double time : format->times(files[i]))
                fmt::print("time {} {:.17g}\n", i, time);
        fmt::print("progress {:.4f} times of the steps\n",
                   static_cast<double>(i + 1) / static_cast<double>(files.size()));
        std::fflush(stdout);
    }
    fmt::print("done\n");
    return 0;
}

int readCase(const std::vector<std::string>& words) {
    CaseSource source{words[0], static_cast<int>(std::strtol(words[3].c_str(), nullptr, 10))};
    if (words.size() > 4)
        source.as = ReadAs::fromJson(nlohmann::json::parse(words[4]));
    const auto done = readGuarded(source, words[1]);
    if (done)
        fmt::print("done\n");
    else
        fmt::print("error {}\n",
                   errorToJson(done.error()).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace));
    return done ? 0 : 1;
}

double bytesIn(const std::filesystem::path& folder, int mostEntries) {
    double bytes = 0;
    int entries = 0;
    std::error_code failed;
    for (std::filesystem::recursive_directory_iterator
             at(folder, std::filesystem::directory_options::skip_permission_denied, failed),
         last;
         !failed && at != last; at.increment(failed)) {
        if (++entries > mostEntries)
            return HUGE_VAL; // nothing is known
        if (at.depth() >= 2)
            at.disable_recursion_pending();
        std::error_code unknown;
        if (at->is_regular_file(unknown))
            bytes += static_cast<double>(at->file_size(unknown));
    }
    return bytes;
}

// Processor time for what lies in the file's folder, from which it may be made: a damaged file can lead a library in a
// circle. The folder is known for a few seconds, so that many files of one do not list it each.
void limitTime(const std::filesystem::path& file) {
    constexpr double least = 20; // seconds
    constexpr double bytesPerSecond = 1e6;
    constexpr int mostEntries = 20'000;
    constexpr auto known = std::chrono::seconds(5);
    using Clock = std::chrono::steady_clock;
    static std::map<std::filesystem::path, std::pair<Clock::time_point, double>> folders;
    const auto folder = file.has_parent_path() ? file.parent_path() : std::filesystem::path(".");
    auto& [when, bytes] = folders[folder];
    if (when == Clock::time_point{} || Clock::now() - when > known) {
        bytes = bytesIn(folder, mostEntries);
        when = Clock::now();
    }
    rusage used{};
    ::getrusage(RUSAGE_SELF, &used);
    const auto before = static_cast<double>(used.ru_utime.tv_sec + used.ru_stime.tv_sec) + 2;
    setLimit(RLIMIT_CPU, std::isfinite(bytes) ? static_cast<std::uint64_t>(before + least + bytes / bytesPerSecond)
                                              : RLIM_INFINITY);
}

} // namespace

int runReaderJob(const std::vector<std::string>& words, bool once) {
    const bool times = words.size() > 2 && words[0] == "times";
    if (!times && words.size() < 4) {
        fmt::print(stderr, "pyrometer-reader is started by Pyrometer: FILE STORE MEMORY_LIMIT STEP [AS]\n");
        return 2;
    }
    if (once)
        ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    limitMemory(words[times ? 1 : 2]);
    limitTime(words[times ? 2 : 0]);
    return times ? printTimes(words) : readCase(words);
}

} // namespace pyro::cli
