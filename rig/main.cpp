// pyrometer-rig INPUT.rig.json -o FILE.vtm: solves a stand-in case.
#include "rig/result.h"

#include <CLI/CLI.hpp>
#include <chrono>
#include <fmt/format.h>

namespace {

int complain(const pyro::Error& error) {
    fmt::print(stderr, "pyrometer-rig: {}\n", error.text());
    return 2;
}

int solveInto(const std::string& input, const std::string& output) {
    using namespace pyro::rig;
    const auto begin = std::chrono::steady_clock::now();
    const auto model = loadModel(input);
    if (!model)
        return complain(model.error());
    const auto grid = makeGrid(*model);
    if (!grid)
        return complain(grid.error());
    pyro::NoProgress progress;
    const auto solution = solve(*model, *grid, progress);
    if (!solution)
        return complain(solution.error());
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    if (auto written = pyro::writeCase(toBlocks(*model, *grid, *solution), output); !written)
        return complain(written.error());
    fmt::print("{}: {} x {} x {} cells, {} iterations, {:.1f} s; produced {:.6g} W, leaving {:.6g} W\n", output,
               grid->cells(0), grid->cells(1), grid->cells(2), solution->iterations, seconds, solution->produced,
               solution->leaving);
    return 0;
}

} // namespace

int main(int count, char** words) {
    CLI::App app("Solves steady heat conduction for demos and tests.", "pyrometer-rig");
    std::string input;
    std::string output;
    app.add_option("INPUT", input, "a .rig.json file")->required();
    app.add_option("-o,--output", output, "the .vtm file to write")->required();
    try {
        app.parse(count, words);
    } catch (const CLI::ParseError& wrong) {
        return app.exit(wrong) == 0 ? 0 : 2;
    }
    return solveInto(input, output);
}
