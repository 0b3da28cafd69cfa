// pyrometer-rig INPUT.rig.json -o FILE.vtm: solves a stand-in case; a transient gives numbered files.
#include "rig/result.h"

#include <CLI/CLI.hpp>
#include <chrono>
#include <fmt/format.h>

namespace {

int complain(const pyro::Error& error) {
    fmt::print(stderr, "pyrometer-rig: {}\n", error.text());
    return 2;
}

// "warm-up.vtm" becomes "warm-up_0000.vtm", "warm-up_0001.vtm" ..., each with its time.
int stepInto(const pyro::rig::Model& model, const pyro::rig::Grid& grid, const std::filesystem::path& output) {
    int written = 0;
    pyro::NoProgress progress;
    const auto done = pyro::rig::solveTransient(
        model, grid,
        [&](const pyro::rig::Solution& solution) {
            auto file = output;
            file.replace_filename(fmt::format("{}_{:04}.vtm", output.stem().string(), written++));
            fmt::print("{}: t = {:g} s; produced {:.6g} W, leaving {:.6g} W, stored {:.6g} W\n", file.string(),
                       solution.time, solution.produced, solution.leaving, solution.stored);
            auto blocks = toBlocks(model, grid, solution);
            for (auto& block : blocks)
                block.time = solution.time;
            return pyro::writeCase(blocks, file);
        },
        progress);
    return done ? 0 : complain(done.error());
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
    if (model->transient)
        return stepInto(*model, *grid, output);
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
    CLI::App app("Solves steady and transient heat conduction for demos and tests.", "pyrometer-rig");
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
