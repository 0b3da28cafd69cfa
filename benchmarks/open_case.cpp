// How long a case of 4.1 million cells takes to open, against the library reader's own time in the same run.
// Arguments: those of Google Benchmark. Files lie in a temporary folder and go with the program.
#include "benchmarks/large_case.h"
#include "core/evaluate/survey_run.h"
#include "render/surface.h"

#include <algorithm>
#include <benchmark/benchmark.h>
#include <chrono>
#include <fmt/format.h>
#include <map>
#include <unistd.h>
#include <vtkNew.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridReader.h>

namespace {

using namespace pyro;
using Clock = std::chrono::steady_clock;

class Files {
public:
    Files() : m_folder(std::filesystem::temp_directory_path() / fmt::format("pyrometer-bench-{}", ::getpid())) {
        std::filesystem::create_directories(m_folder);
        ::setenv("XDG_CACHE_HOME", m_folder.c_str(), 1);
        const auto block = bench::largeHexahedra();
        (void)writeBlock(block, raw(), Encoding::Raw);
        (void)writeBlock(block, packed(), Encoding::Appended);
    }
    ~Files() { std::filesystem::remove_all(m_folder); }
    std::filesystem::path raw() const { return m_folder / "raw.vtu"; }
    std::filesystem::path packed() const { return m_folder / "packed.vtu"; }

private:
    std::filesystem::path m_folder;
};

Files& files() {
    static Files made;
    return made;
}

double seconds(Clock::time_point since) { return std::chrono::duration<double>(Clock::now() - since).count(); }

double readByLibrary(const std::filesystem::path& file) {
    const auto begin = Clock::now();
    vtkNew<vtkXMLUnstructuredGridReader> reader;
    reader->SetFileName(file.c_str());
    reader->Update();
    benchmark::DoNotOptimize(reader->GetOutput()->GetNumberOfCells());
    return seconds(begin);
}

double median(std::vector<double> values) {
    std::ranges::sort(values);
    return values[values.size() / 2];
}

// Each round: the library's reader, then our opening without a store until the first picture, then what follows it,
// then again with the store; ratios of each pair.
void openCaseRounds(benchmark::State& state, const std::filesystem::path& file) {
    std::map<std::string, std::vector<double>> taken;
    NoProgress progress;
    for (auto unused : state) {
        (void)unused;
        const double library = readByLibrary(file);
        std::filesystem::remove_all(storeFolder());
        const auto time = [&](const char* what, auto work) {
            const auto begin = Clock::now();
            auto result = work();
            taken[what].push_back(seconds(begin));
            return result;
        };
        const auto solved = time("store_s", [&] { return openCase(file, {}, progress); });
        const auto shells = time("shells_s", [&] { return shellsOf(**solved, progress); });
        const OpenedCase opened{*solved, unmeasuredIndex(*shells)};
        const auto quantities = recognise(**solved, {});
        const auto picture = time(
            "picture_s", [&] { return makePicture(opened, *quantities->named("temperature"), nullptr, progress); });
        const auto whole = time("measures_s", [&] { return measured(opened, progress); });
        benchmark::DoNotOptimize(time("again_s", [&] { return openForEvaluation(file, {}, progress); }));
        taken["library_s"].push_back(library);
        taken["store_ratio"].push_back(taken["store_s"].back() / library);
        taken["shown_ratio"].push_back(
            (taken["store_s"].back() + taken["shells_s"].back() + taken["picture_s"].back()) / library);
    }
    for (const auto& [what, values] : taken)
        state.counters[what] = median(values);
}

void OpenRaw(benchmark::State& state) { openCaseRounds(state, files().raw()); }
void OpenPacked(benchmark::State& state) { openCaseRounds(state, files().packed()); }

} // namespace

BENCHMARK(OpenRaw)->Iterations(5)->Unit(benchmark::kSecond);
BENCHMARK(OpenPacked)->Iterations(3)->Unit(benchmark::kSecond);
BENCHMARK_MAIN();
