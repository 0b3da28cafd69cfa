// pyrometer-reader FILE STORE MEMORY_LIMIT STEP [PARTS]: reads one step of a case file into a case store, divided by the array PARTS.
// pyrometer-reader times MEMORY_LIMIT FILE...: prints the time that each file carries.
// Started by the other programs; core/case/reader_process.h tells what it prints.
#include "core/case/reader_process.h"
#include "core/case/readers/format.h"
#include "core/case/readers/read_case.h"

#include <cstdio>
#include <cstdlib>
#include <fmt/format.h>
#include <new>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <csignal>

namespace {

class LineProgress final : public pyro::Progress {
public:
    void report(double share, std::string_view what) override {
        fmt::print("progress {:.4f} {}\n", share, what);
        std::fflush(stdout);
    }
    bool cancelled() const override { return false; } // the parent kills
};

void limitMemory(std::uint64_t bytes) {
#if !defined(__SANITIZE_ADDRESS__) // the address sanitizer reserves terabytes
    const rlimit limit{bytes, bytes};
    ::setrlimit(RLIMIT_AS, &limit);
#else
    (void)bytes;
#endif
    const rlimit noCore{0, 0};
    ::setrlimit(RLIMIT_CORE, &noCore);
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
}

// Seconds of processor time for what lies in the file's folder, from which it may be made: a damaged file can lead a library in a circle.
void limitTime(const std::filesystem::path& file) {
    constexpr double least = 20;
    constexpr double bytesPerSecond = 1e6;
    constexpr int mostEntries = 20'000;
    double bytes = 0;
    int entries = 0;
    std::error_code failed;
    const auto folder = file.has_parent_path() ? file.parent_path() : std::filesystem::path(".");
    for (std::filesystem::recursive_directory_iterator at(folder, std::filesystem::directory_options::skip_permission_denied, failed), end; !failed && at != end && entries < mostEntries; at.increment(failed), ++entries) {
        if (at.depth() >= 2)
            at.disable_recursion_pending();
        std::error_code unknown;
        if (at->is_regular_file(unknown))
            bytes += static_cast<double>(at->file_size(unknown));
    }
    const auto seconds = static_cast<rlim_t>(least + bytes / bytesPerSecond);
    const rlimit limit{seconds, RLIM_INFINITY};
    if (entries < mostEntries) // else nothing is known
        ::setrlimit(RLIMIT_CPU, &limit);
}

pyro::Done readGuarded(const pyro::CaseSource& source, const char* store) {
    const auto file = source.file.string();
    LineProgress progress;
    try {
        return pyro::readCaseIntoStore(source, store, progress);
    } catch (const std::bad_alloc&) {
        return pyro::fail(pyro::ErrorCode::MemoryLimit, "the file needs more memory than allowed", file,
                          "Close other programs or raise the memory limit");
    } catch (const std::exception& problem) {
        return pyro::fail(pyro::ErrorCode::ReaderCrashed, fmt::format("the file broke its reader: {}", problem.what()),
                          file, "Have the solver write the file again");
    }
}

[[noreturn]] void printTimes(int count, char** words) {
    limitMemory(std::strtoull(words[2], nullptr, 10));
    limitTime(words[3]);
    for (int i = 3; i < count; ++i) {
        if (const auto* format = pyro::formatOf(words[i]))
            for (const double time : format->times(words[i]))
                fmt::print("time {} {:.17g}\n", i - 3, time);
        fmt::print("progress {:.4f} times of the steps\n", static_cast<double>(i - 2) / (count - 3));
        std::fflush(stdout);
    }
    fmt::print("done\n");
    std::fflush(stdout);
    std::_Exit(0);
}

} // namespace

int main(int count, char** words) {
    if (count > 3 && std::string_view(words[1]) == "times")
        printTimes(count, words);
    if (count != 5 && count != 6) {
        fmt::print(stderr, "pyrometer-reader is started by Pyrometer: FILE STORE MEMORY_LIMIT STEP [PARTS]\n");
        return 2;
    }
    limitMemory(std::strtoull(words[3], nullptr, 10));
    pyro::CaseSource source{words[1], static_cast<int>(std::strtol(words[4], nullptr, 10))};
    if (count == 6)
        source.parts = words[5];
    limitTime(source.file);
    const auto done = readGuarded(source, words[2]);
    if (done)
        fmt::print("done\n");
    else
        fmt::print("error {}\n", pyro::errorToJson(done.error()).dump(-1, ' ', false,
                                                                      nlohmann::json::error_handler_t::replace));
    std::fflush(stdout);
    std::_Exit(done ? 0 : 1); // nothing is left to tidy up that the system does not do faster
}
