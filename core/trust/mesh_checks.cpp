#include "core/feedback/counted.h"
#include "core/thermal/face_boundaries.h"
#include "core/trust/cell_shape.h"
#include "core/trust/checks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

constexpr double largeShare = 0.1; // of the range, across one cell
constexpr double lookShare = 0.2;
constexpr double brokenShare = 0.4;
constexpr double worstShape = 0.2; // scaled Jacobian; common practice, no source
constexpr double thinShare = 0.02; // of the range, that may change across a cell where fewer than three lie across

struct Steepest {
    double share = 0;
    std::size_t part = 0;
    std::size_t cell = 0;
    std::vector<MarkedCell> large; // cells above largeShare
};

std::shared_ptr<const std::vector<MarkedCell>> kept(std::vector<MarkedCell> cells) {
    if (cells.empty())
        return nullptr;
    if (cells.size() > mostMarked)
        cells.resize(mostMarked);
    return std::make_shared<const std::vector<MarkedCell>>(std::move(cells));
}

// How much of the temperature range a cell spans by the values at its nodes.
double spanOf(const Mesh& mesh, const RealView& values, std::size_t cell) {
    double low = 1e300;
    double high = -1e300;
    for (const auto node : mesh.cell(cell)) {
        low = std::min(low, values[node]);
        high = std::max(high, values[node]);
    }
    return high - low;
}

// Across how much of the range one cell reaches, with the temperature at its nodes.
void resolutionAnswer(const TrustInput& input, Check& check) {
    const auto& temperature = *input.heat.fields().quantities().named("temperature");
    const auto& solved = input.heat.fields().solved();
    const double range = temperature.max - temperature.min;
    if (temperature.on != Location::Node || !(range > 0)) {
        check.state = CheckState::NotCheckable;
        check.meaning = range > 0 ? "The temperature is stored on cells." : "The temperature is the same everywhere.";
        return;
    }
    Steepest worst;
    std::vector<MarkedCell> large;
    std::size_t cells = 0;
    for (std::size_t part = 0; part < solved.parts.size(); ++part) {
        const auto& mesh = solved.parts[part].mesh;
        const auto* array = solved.parts[part].find(temperature.array, Location::Node);
        if (array == nullptr)
            continue;
        cells += mesh.cells();
        const double scale = std::abs(temperature.toSi.scale) / range;
        tbb::enumerable_thread_specific<Steepest> threads;
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.cells(), 1 << 13), [&](const auto& chunk) {
            auto& own = threads.local();
            for (auto cell = chunk.begin(); cell != chunk.end(); ++cell) {
                const double share = scale * spanOf(mesh, array->values, cell);
                if (share > largeShare)
                    own.large.push_back({static_cast<std::uint32_t>(part), static_cast<std::uint32_t>(cell)});
                if (share > own.share || (share == own.share && cell < own.cell)) {
                    own.share = share;
                    own.cell = cell;
                    own.part = part;
                }
            }
        });
        const auto before = static_cast<std::ptrdiff_t>(large.size());
        for (const auto& own : threads) {
            large.insert(large.end(), own.large.begin(), own.large.end());
            if (own.share > worst.share || (own.share == worst.share && worst.part == part && own.cell < worst.cell))
                worst = {own.share, own.part, own.cell, {}};
        }
        std::ranges::sort(large.begin() + before, large.end(), {}, &MarkedCell::cell);
    }
    check.part = solved.parts[worst.part].name;
    check.at = solved.parts[worst.part].mesh.cellCentre(worst.cell);
    check.figure = fmt::format("{:.0f} % ({:.3g} K) in {}; {} of {} cells above 10 %", 100 * worst.share,
                               worst.share * range, input.shown(check.part), large.size(), cells);
    check.cells = kept(std::move(large));
    check.state = worst.share > brokenShare ? CheckState::Failed
                  : worst.share > lookShare ? CheckState::Review
                                            : CheckState::Passed;
}

void cellShapeAnswer(const TrustInput& input, Check& check) {
    const auto& solved = input.heat.fields().solved();
    double worst = 2;
    std::vector<MarkedCell> bad;
    for (std::size_t part = 0; part < solved.parts.size(); ++part) {
        const auto& mesh = solved.parts[part].mesh;
        if (solved.parts[part].dimension != 3)
            continue;
        struct Own {
            std::pair<double, std::size_t> worst{2, 0}; // and its cell
            std::vector<MarkedCell> bad;
        };
        tbb::enumerable_thread_specific<Own> threads;
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.cells(), 1 << 13), [&](const auto& chunk) {
            auto& own = threads.local();
            for (auto cell = chunk.begin(); cell != chunk.end(); ++cell) {
                const double shape = scaledJacobian(mesh, cell);
                if (shape < worstShape)
                    own.bad.push_back({static_cast<std::uint32_t>(part), static_cast<std::uint32_t>(cell)});
                // The first of equally bad ones, whichever thread meets it: rounded, and by its number.
                own.worst = std::min(own.worst, std::pair{std::round(shape * 1e9) * 1e-9, cell});
            }
        });
        Own all;
        for (const auto& own : threads) {
            all.bad.insert(all.bad.end(), own.bad.begin(), own.bad.end());
            all.worst = std::min(all.worst, own.worst);
        }
        std::ranges::sort(all.bad, {}, &MarkedCell::cell);
        bad.insert(bad.end(), all.bad.begin(), all.bad.end());
        if (all.worst.first < worst) {
            worst = all.worst.first;
            check.part = solved.parts[part].name;
            check.at = mesh.cellCentre(all.worst.second);
        }
    }
    if (worst > 1.5) {
        check.state = CheckState::NotCheckable;
        check.meaning = "The case has no volume cells.";
        return;
    }
    check.figure = fmt::format("{:.2g} in {}; {} below 0.2", worst, input.shown(check.part),
                               counted(bad.size(), "cell"));
    check.state = worst <= 1e-9 ? CheckState::Failed : worst < worstShape ? CheckState::Review : CheckState::Passed;
    check.cells = kept(std::move(bad));
}

// Nodes of the faces that heat may pass: those on another part or on a boundary that is not adiabatic.
std::vector<std::uint8_t> passingNodes(const TrustInput& input, std::size_t part,
                                       const std::vector<std::uint8_t>& adiabatic) {
    const auto& shell = input.heat.fields().index().parts[part].shell;
    const auto boundaryOf = boundariesOfFaces(input.heat, static_cast<std::uint32_t>(part));
    std::vector<std::uint8_t> passing(input.heat.fields().solved().parts[part].mesh.nodes());
    for (std::size_t face = 0; face < shell.faces(); ++face) {
        const bool outer = boundaryOf[face] == noNumber ? input.heat.twin(part, face).part == ~0U
                                                        : adiabatic[boundaryOf[face]] != 0;
        if (!outer)
            for (const auto node : shell.face(face))
                passing[node] = 1;
    }
    return passing;
}

std::vector<std::uint8_t> adiabaticBoundaries(const Readings& readings) {
    std::vector<std::uint8_t> adiabatic;
    double most = 0;
    for (const auto& flow : readings.balances->boundaries)
        most = std::max(most, std::abs(flow.heat.value_or(0)));
    for (const auto& flow : readings.balances->boundaries)
        adiabatic.push_back(flow.heat && std::abs(*flow.heat) <= 1e-6 * most ? 1 : 0);
    return adiabatic;
}

// With three cells across, the middle one has no node on a face that passes heat. A cell that touches none such lies
// where fewer than three are across.
std::vector<std::uint32_t> thinCells(const Mesh& mesh, const std::vector<std::uint8_t>& passing) {
    std::vector<std::uint8_t> inner(mesh.nodes()); // of cells without a passing node
    for (std::size_t cell = 0; cell < mesh.cells(); ++cell) {
        const auto nodes = mesh.cell(cell);
        if (std::ranges::none_of(nodes, [&](auto node) { return passing[node] != 0; }))
            for (const auto node : nodes)
                inner[node] = 1;
    }
    std::vector<std::uint32_t> thin;
    for (std::uint32_t cell = 0; cell < mesh.cells(); ++cell) {
        const auto nodes = mesh.cell(cell);
        if (std::ranges::any_of(nodes, [&](auto node) { return passing[node] != 0; }) &&
            std::ranges::none_of(nodes, [&](auto node) { return inner[node] != 0; }))
            thin.push_back(cell);
    }
    return thin;
}

void thinRegionsAnswer(const TrustInput& input, Check& check) {
    const auto* temperature = input.heat.fields().quantities().named("temperature");
    if (!input.readings.balances || temperature == nullptr || temperature->on != Location::Node ||
        !(temperature->max > temperature->min)) {
        check.state = CheckState::NotCheckable;
        check.meaning = "It needs a temperature on nodes, and the balances.";
        return;
    }
    const auto& solved = input.heat.fields().solved();
    const auto adiabatic = adiabaticBoundaries(input.readings);
    const double scale = std::abs(temperature->toSi.scale) / (temperature->max - temperature->min);
    double worst = 0;
    std::vector<MarkedCell> marked;
    for (std::size_t part = 0; part < solved.parts.size(); ++part) {
        const auto* array = solved.parts[part].find(temperature->array, Location::Node);
        // across a shell nothing changes
        if (array == nullptr || solved.parts[part].dimension != 3 || solved.parts[part].thickness)
            continue;
        const auto& mesh = solved.parts[part].mesh;
        for (const auto cell : thinCells(mesh, passingNodes(input, part, adiabatic))) {
            const double share = scale * spanOf(mesh, array->values, cell);
            if (share > thinShare)
                marked.push_back({static_cast<std::uint32_t>(part), cell});
            if (share > worst) {
                worst = share;
                check.part = solved.parts[part].name;
                check.at = mesh.cellCentre(cell);
            }
        }
    }
    check.figure = worst > 0 ? fmt::format("{:.2g} % ({:.3g} K) across a cell of {}; {} above 2 %", 100 * worst,
                                           worst / scale * std::abs(temperature->toSi.scale), input.shown(check.part),
                                           counted(marked.size(), "cell"))
                             : std::string("no thin regions");
    check.state = worst > thinShare ? CheckState::Review : CheckState::Passed;
    check.cells = kept(std::move(marked));
}

} // namespace

constexpr CheckKind resolutionCheck{
    .key = "resolution",
    .title = "No cell spans much of the temperature range",
    .threshold = "below 20 % of the range",
    .meaning = "Where one cell takes a large step, the mesh is too coarse to tell what happens within.",
    .applies = [](const TrustInput& input) { return input.heat.fields().quantities().named("temperature") != nullptr; },
    .answer = resolutionAnswer,
};

constexpr CheckKind cellShapeCheck{
    .key = "cell-shape",
    .title = "No cell is badly distorted",
    .threshold = "scaled Jacobian above 0.2",
    .meaning = "In a distorted cell the gradient, and with it the heat flux, is worth little; one that is turned over "
               "in itself is a fault of the mesh.",
    .answer = cellShapeAnswer,
};

constexpr CheckKind thinRegionsCheck{
    .key = "thin-regions",
    .title = "Thin regions have three cells across",
    .threshold = "below 2 % of the range across a cell where fewer than three lie across",
    .meaning = "Where a part is one or two cells thick and the temperature still changes across it, its drop is a "
               "guess of the mesh.",
    .answer = thinRegionsAnswer,
};

} // namespace pyro
