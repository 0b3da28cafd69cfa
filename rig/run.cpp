#include "rig/run.h"

#include "rig/result.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fstream>
#include <limits>

namespace pyro::rig {
namespace {

std::vector<std::string> partsOf(const Model& model) {
    std::vector<std::string> parts;
    for (const auto& box : model.boxes)
        if (std::ranges::find(parts, box.part) == parts.end())
            parts.push_back(box.part);
    return parts;
}

// CSV that whoever watches reads line by line while it grows.
class History {
public:
    History(const std::filesystem::path& file, const Model& model) : m_model(model), m_parts(partsOf(model)) {
        if (!file.empty())
            m_stream.open(file, std::ios::binary | std::ios::trunc);
        m_wanted = !file.empty();
    }
    bool broken() const { return m_wanted && !m_stream; }

    void steps() {
        std::string head = "time_s,produced_W,leaving_W,stored_W";
        for (const auto& part : m_parts)
            for (const char* which : {"mean", "max"})
                head += fmt::format(",\"{} {} K\"", part, which);
        line(head);
    }
    void step(const Grid& grid, const Solution& solution) {
        auto text = fmt::format("{:.9g},{:.9g},{:.9g},{:.9g}", solution.time, solution.produced, solution.leaving,
                                solution.stored);
        for (const auto& part : m_parts) {
            double volume = 0;
            double sum = 0;
            double most = std::numeric_limits<double>::lowest();
            for (std::size_t cell = 0; cell < grid.cellCount(); ++cell) {
                if (grid.box[cell] < 0 || m_model.boxes[static_cast<std::size_t>(grid.box[cell])].part != part)
                    continue;
                const double own = grid.volume(grid.indices(cell));
                volume += own;
                sum += own * solution.temperature[cell];
                most = std::max(most, solution.temperature[cell]);
            }
            text += fmt::format(",{:.9g},{:.9g}", sum / volume, most);
        }
        line(text);
    }
    void grids() { line("cells,heat_W,change,remainder"); }
    void grid(const RefinementStep& step) {
        line(fmt::format("{},{:.9g},{:.6g},{:.3g}", step.cells, step.heat, step.change, step.remainder));
    }

private:
    void line(const std::string& text) {
        if (m_wanted)
            m_stream << text << '\n' << std::flush;
    }
    const Model& m_model;
    std::vector<std::string> m_parts;
    std::ofstream m_stream;
    bool m_wanted = false;
};

std::string sizeText(const Grid& grid) {
    return fmt::format("{} x {} x {} cells", grid.cells(0), grid.cells(1), grid.cells(2));
}

// "warm-up.vtm" becomes "warm-up_0000.vtm", "warm-up_0001.vtm" ..., each with its time.
Done runSteps(const Model& model, const Grid& grid, const RunOrder& order, History& history, Progress& progress) {
    int written = 0;
    history.steps();
    return solveTransient(
        model, grid,
        [&](const Solution& solution) -> Done {
            auto file = order.output;
            file.replace_filename(fmt::format("{}_{:04}.vtm", order.output.stem().string(), written++));
            fmt::print("{}: t = {:g} s; produced {:.6g} W, leaving {:.6g} W, stored {:.6g} W\n", file.string(),
                       solution.time, solution.produced, solution.leaving, solution.stored);
            auto blocks = toBlocks(model, grid, solution);
            for (auto& block : blocks)
                block.time = solution.time;
            history.step(grid, solution);
            return writeCase(blocks, file);
        },
        progress);
}

Done runSteady(const Model& model, Grid grid, const RunOrder& order, History& history, Progress& progress) {
    Refined refined{std::move(grid), {}, {}};
    if (model.refinement) {
        history.grids();
        auto found = solveRefined(
            model, std::move(refined.grid),
            [&](const RefinementStep& step) {
                fmt::print("{} cells: heat flow {:.6g} W, change {:.3g} %, remainder {:.1e}\n", step.cells, step.heat,
                           100 * step.change, step.remainder);
                history.grid(step);
            },
            progress);
        if (!found)
            return tl::unexpected(found.error());
        refined = std::move(*found);
    } else {
        auto solution = solve(model, refined.grid, progress);
        if (!solution)
            return tl::unexpected(solution.error());
        refined.solution = std::move(*solution);
    }
    if (auto written = writeCase(toBlocks(model, refined.grid, refined.solution), order.output); !written)
        return written;
    fmt::print("{}: {}, {} iterations, residual {:.1e}; produced {:.6g} W, leaving {:.6g} W\n", order.output.string(),
               sizeText(refined.grid), refined.solution.iterations, refined.solution.residual,
               refined.solution.produced, refined.solution.leaving);
    return {};
}

} // namespace

Done run(const RunOrder& order, Progress& progress) {
    const auto model = loadModel(order.input);
    if (!model)
        return tl::unexpected(model.error());
    auto grid = makeGrid(*model);
    if (!grid)
        return tl::unexpected(grid.error());
    History history(order.history, *model);
    if (history.broken())
        return fail(ErrorCode::WriteFailed, "the history cannot be written", order.history.string(),
                    "Check the folder and its permissions");
    return model->transient ? runSteps(*model, *grid, order, history, progress)
                            : runSteady(*model, std::move(*grid), order, history, progress);
}

} // namespace pyro::rig
