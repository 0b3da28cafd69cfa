// A sweep of many cases with 50 gauges: cold, changed in one case, and again; against reading them with the library.
#include "benchmarks/compare.h"
#include "benchmarks/large_case.h"
#include "core/evaluate/sweep_run.h"
#include "core/survey/survey_file.h"

#include <cstdlib>
#include <filesystem>
#include <sys/resource.h>
#include <vtkNew.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridReader.h>

namespace {

using namespace pyro;
using namespace pyro::bench;

constexpr int perSide = 47; // 103 823 cells

// Fifty gauges: means, maxima, percentiles, points, sections and lines.
Survey surveyOf50() {
    Json gauges = Json::array();
    const auto add = [&](const Json& where, const std::string& statistic) {
        Json gauge{{"id", fmt::format("g{}", gauges.size())}, {"where", where}, {"quantity", "temperature"}};
        if (!statistic.empty())
            gauge["statistic"] = statistic;
        gauges.push_back(gauge);
    };
    for (const auto* statistic : {"mean", "max", "min", "deviation"})
        add({{"part", "block"}}, statistic);
    for (int i = 1; i <= 16; ++i)
        add({{"point", {0.006 * i, 0.05, 0.05}}}, "");
    for (int i = 1; i <= 15; ++i) {
        add({{"plane", {{"origin", {0.006 * i, 0.05, 0.05}}, {"normal", {1, 0, 0}}}}}, "mean");
        add({{"line", {{"from", {0.006 * i, 0.01, 0.05}}, {"to", {0.006 * i, 0.09, 0.05}}, {"points", 50}}}}, "mean");
    }
    const Json json{{"pyrometer", 1},
                    {"cases", {{{"name", "like"}, {"file", "block.vtu"}}}},
                    {"gauges", gauges},
                    {"limits", {{{"part", "block"}, {"max", "400 K"}}}},
                    {"sweep", {{"table", "sweep.csv"}, {"like", "like"}}}};
    auto survey = surveyFromJson(json, "bench");
    if (!survey) {
        fmt::print(stderr, "{}\n", survey.error().text());
        std::exit(1);
    }
    return *survey;
}

std::filesystem::path fileOf(const std::filesystem::path& folder, int number) {
    return folder / fmt::format("case{}.vtu", number);
}

void writeCases(const std::filesystem::path& folder, int count) {
    std::filesystem::create_directories(folder);
    auto block = largeHexahedra(perSide);
    std::ofstream table(folder / "sweep.csv");
    table << "file,a,b\n";
    for (int i = 0; i < count; ++i) {
        for (auto& value : block.arrays[0].values)
            value += 0.25;
        if (!writeBlock(block, fileOf(folder, i), Encoding::Raw))
            std::exit(1);
        table << fmt::format("case{}.vtu,{},{}\n", i, i % 16, i / 16);
    }
    std::filesystem::copy_file(fileOf(folder, 0), folder / "block.vtu",
                               std::filesystem::copy_options::overwrite_existing);
}

// Processor seconds of this process and the readers that it waited for.
double processorSeconds() {
    double sum = 0;
    for (const int who : {RUSAGE_SELF, RUSAGE_CHILDREN}) {
        rusage usage{};
        getrusage(who, &usage);
        for (const auto& time : {usage.ru_utime, usage.ru_stime})
            sum += static_cast<double>(time.tv_sec) + 1e-6 * static_cast<double>(time.tv_usec);
    }
    return sum;
}

void told(const std::string& what, const Survey& survey, const std::filesystem::path& folder) {
    NoProgress progress;
    RunOptions options;
    std::size_t cases = 0;
    double seconds = 0;
    const double before = processorSeconds();
    const double peak = peakOf([&] {
        seconds = secondsOf([&] {
            const auto sweep = runSweep(survey, folder / "bench.survey.json", {}, options, progress);
            for (const auto& one : (*sweep)->cases)
                cases += one.why.empty() ? 1 : 0;
        });
    });
    fmt::print("| {} | {} | {:.2f} s | {:.0f} % of two cores | {:.0f} MB |\n", what, cases, seconds,
               50 * (processorSeconds() - before) / seconds, peak);
    std::fflush(stdout);
}

} // namespace

// sweep FOLDER [CASES]: writes the cases there (10 MB each) and a store of its own.
int main(int argc, char** argv) {
    if (argc < 2)
        return 2;
    const std::filesystem::path folder = argv[1];
    const int count = argc > 2 ? std::atoi(argv[2]) : 256;
    ::setenv("XDG_CACHE_HOME", (folder / "cache").c_str(), 1);
    const auto survey = surveyOf50();
    writeCases(folder / "cases", count);
    auto one = survey;
    one.sweep->table = "one.csv";
    std::ofstream(folder / "cases" / "one.csv") << "file,a,b\nblock.vtu,0,0\n";
    fmt::print("| what | cases | time | processor | our peak |\n| --- | --- | --- | --- | --- |\n");
    told("one case, nothing kept", one, folder / "cases");
    told("the sweep, nothing kept", survey, folder / "cases");
    told("again", survey, folder / "cases");
    std::filesystem::last_write_time(fileOf(folder / "cases", 3), std::filesystem::file_time_type::clock::now());
    told("one case written anew", survey, folder / "cases");
    const double theirs = secondsOf([&] {
        for (int i = 0; i < count; ++i) {
            vtkNew<vtkXMLUnstructuredGridReader> reader;
            reader->SetFileName(fileOf(folder / "cases", i).c_str());
            reader->Update();
        }
    });
    fmt::print("| the files read by vtkXMLUnstructuredGridReader, no gauge | {} | {:.2f} s | | |\n", count, theirs);
}
