// How long a case of 4.1 million cells takes to open, against the library reader's own time in the same run.
// Arguments: those of Google Benchmark. Files lie in a temporary folder and go with the program.
#include "benchmarks/large_case.h"
#include "core/evaluate/survey_run.h"
#include "render/surface.h"

#include <algorithm>
#include <benchmark/benchmark.h>
#include <chrono>
#include <fmt/format.h>
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

// Each round: the library's reader, then our opening without a store, then again with it; ratios of each pair.
void openCaseRounds(benchmark::State& state, const std::filesystem::path& file) {
    std::vector<double> library;
    std::vector<double> store;
    std::vector<double> index;
    std::vector<double> picture;
    std::vector<double> again;
    std::vector<double> ratio;
    NoProgress progress;
    for (auto unused : state) {
        (void)unused;
        library.push_back(readByLibrary(file));
        std::filesystem::remove_all(storeFolder());
        auto begin = Clock::now();
        auto solved = openCase(file, {}, progress);
        store.push_back(seconds(begin));
        begin = Clock::now();
        auto built = indexOf(**solved, progress);
        index.push_back(seconds(begin));
        const OpenedCase opened{*solved, *built};
        const auto quantities = recognise(**solved, {});
        begin = Clock::now();
        benchmark::DoNotOptimize(makePicture(opened, *quantities->named("temperature"), progress));
        picture.push_back(seconds(begin));
        begin = Clock::now();
        benchmark::DoNotOptimize(openForEvaluation(file, {}, progress));
        again.push_back(seconds(begin));
        ratio.push_back((store.back() + index.back() + picture.back()) / library.back());
    }
    state.counters["library_s"] = median(library);
    state.counters["store_s"] = median(store);
    state.counters["index_s"] = median(index);
    state.counters["picture_s"] = median(picture);
    state.counters["again_s"] = median(again);
    state.counters["store_ratio"] = median(store) / median(library);
    state.counters["shown_ratio"] = median(ratio);
}

void OpenRaw(benchmark::State& state) { openCaseRounds(state, files().raw()); }
void OpenPacked(benchmark::State& state) { openCaseRounds(state, files().packed()); }

} // namespace

BENCHMARK(OpenRaw)->Iterations(5)->Unit(benchmark::kSecond);
BENCHMARK(OpenPacked)->Iterations(3)->Unit(benchmark::kSecond);
BENCHMARK_MAIN();
