// Hotspots with their prominence against a plain sorted union-find on the same mesh, with identical pairs; and the
// checks of the stage Trust. Prints Markdown.
#include "benchmarks/compare.h"
#include "benchmarks/large_case.h"
#include "core/evaluate/evaluate.h"
#include "core/field/mesh_edges.h"
#include "core/field/peaks.h"
#include "core/report/heat_flow_diagram.h"
#include "core/thermal/balances.h"
#include "core/trust/checks.h"

#include <filesystem>
#include <numeric>
#include <set>

namespace {

using namespace pyro;
using namespace pyro::bench;

// Each vertex with its neighbours along edges, once.
struct Adjacency {
    std::vector<std::uint64_t> begin;
    std::vector<std::uint32_t> to;
};
Adjacency adjacencyOf(const Mesh& mesh) {
    std::vector<std::uint64_t> edges;
    for (std::size_t cell = 0; cell < mesh.cells(); ++cell)
        forEdges(mesh.type(cell), mesh.cell(cell), [&](std::uint32_t a, std::uint32_t b) {
            edges.push_back(std::uint64_t{std::min(a, b)} << 32 | std::max(a, b));
        });
    std::ranges::sort(edges);
    edges.erase(std::unique(edges.begin(), edges.end()), edges.end());
    Adjacency out{std::vector<std::uint64_t>(mesh.nodes() + 1), std::vector<std::uint32_t>(2 * edges.size())};
    for (const auto edge : edges)
        for (const auto vertex : {edge >> 32, edge & 0xFFFFFFFFU})
            ++out.begin[vertex + 1];
    std::partial_sum(out.begin.begin(), out.begin.end(), out.begin.begin());
    auto next = out.begin;
    for (const auto edge : edges) {
        const auto a = static_cast<std::uint32_t>(edge >> 32);
        const auto b = static_cast<std::uint32_t>(edge);
        out.to[next[a]++] = b;
        out.to[next[b]++] = a;
    }
    return out;
}

using Pairs = std::set<std::pair<std::uint32_t, double>>;

// All vertices sorted by value, added from the top, sets united: the textbook way, with path halving.
Pairs plain(const RealView& values, const Adjacency& adjacency, double least) {
    std::vector<std::uint32_t> order(values.size());
    std::iota(order.begin(), order.end(), 0U);
    const auto higher = [&](std::uint32_t a, std::uint32_t b) {
        return values[a] > values[b] || (values[a] == values[b] && a < b);
    };
    std::ranges::sort(order, higher);
    constexpr auto none = ~0U;
    std::vector<std::uint32_t> parent(values.size(), none);
    const auto find = [&](std::uint32_t at) {
        while (parent[at] != at)
            at = parent[at] = parent[parent[at]];
        return at;
    };
    Pairs pairs;
    for (const auto vertex : order) {
        parent[vertex] = vertex;
        for (auto i = adjacency.begin[vertex]; i < adjacency.begin[vertex + 1]; ++i) {
            if (parent[adjacency.to[i]] == none)
                continue;
            const auto a = find(vertex);
            const auto b = find(adjacency.to[i]);
            if (a == b)
                continue;
            const auto ends = higher(a, b) ? b : a;
            if (const double prominence = values[ends] - values[vertex]; prominence >= least)
                pairs.emplace(ends, prominence);
            parent[ends] = ends == a ? b : a;
        }
    }
    pairs.emplace(order.front(), values[order.front()] - values[order.back()]);
    return pairs;
}

void run(const char* name, const BlockData& block, const std::filesystem::path& folder) {
    const auto file = folder / (std::string(name) + ".vtu");
    if (!writeBlock(block, file, Encoding::Raw))
        std::abort();
    NoProgress progress;
    const auto opened = openForEvaluation(file, {}, progress);
    if (!opened)
        std::abort();
    const auto& part = opened->solved->parts[0];
    const auto* array = part.find("temperature", Location::Node);
    const double least = 0.01 * (array->max - array->min);
    const PeakPart view{&part.mesh, array->values, Location::Node};
    const auto ours = [&] {
        Pairs pairs;
        for (const auto& peak : PeakField({view}, {}).peaks(least))
            pairs.emplace(peak.top.number, peak.prominence);
        return pairs;
    };
    const auto adjacency = adjacencyOf(part.mesh);
    const auto a = ours();
    const auto b = plain(array->values, adjacency, least);
    if (a != b) {
        fmt::print("the pairs differ: {} and {}\n", a.size(), b.size());
        std::abort();
    }
    const auto what = fmt::format("{} hotspots with prominence, {}", a.size(), name);
    compare(
        what, [&](int) { ours(); },
        {{"sorted union-find, neighbours kept", [&](int) { plain(array->values, adjacency, least); }},
         {"the same, neighbours gathered first", [&](int) { plain(array->values, adjacencyOf(part.mesh), least); }}},
        3);
    Survey survey;
    survey.cases.push_back({"large", "", {}, {}, {}, Json::object()});
    survey.materials["any"].conductivity = Written<double>{"10", 10};
    survey.cases[0].parts[part.name].material = "any";
    StepContext context;
    for (const bool checks : {false, true}) {
        context.balances = checks;
        const double seconds = secondsOf([&] {
            if (!evaluate(survey, survey.cases[0], *opened, Step{}, progress, context))
                std::abort();
        });
        fmt::print("{} evaluation {}: {:.2f} s\n", name, checks ? "with balances and checks" : "alone", seconds);
    }
    std::fflush(stdout);
}

// The block cut into parts of as many cells each, one behind the other, each with its own nodes.
std::vector<BlockData> slabsOf(const BlockData& block, std::size_t count) {
    std::vector<BlockData> slabs;
    for (std::size_t slab = 0; slab < count; ++slab) {
        BlockData part;
        part.name = "part " + std::to_string(slab);
        part.arrays.push_back({"temperature", Location::Node, 1, {}});
        std::vector<std::uint32_t> number(block.points.size() / 3, ~0U);
        for (auto cell = block.types.size() * slab / count; cell < block.types.size() * (slab + 1) / count; ++cell) {
            for (auto i = block.offsets[cell]; i < block.offsets[cell + 1]; ++i) {
                const auto node = block.connectivity[i];
                if (number[node] == ~0U) {
                    number[node] = static_cast<std::uint32_t>(part.points.size() / 3);
                    for (std::size_t axis = 0; axis < 3; ++axis)
                        part.points.push_back(block.points[3 * node + axis]);
                    part.arrays[0].values.push_back(block.arrays[0].values[node]);
                }
                part.connectivity.push_back(number[node]);
            }
            part.offsets.push_back(part.connectivity.size());
            part.types.push_back(block.types[cell]);
        }
        slabs.push_back(std::move(part));
    }
    return slabs;
}

// Ways of heat between eight parts and the diagram of them.
void runHeatFlowDiagram(const BlockData& block, const std::filesystem::path& folder) {
    const auto file = folder / "assembly.vtm";
    if (!writeCase(slabsOf(block, 8), file, Encoding::Raw))
        std::abort();
    NoProgress progress;
    const auto opened = openForEvaluation(file, {}, progress);
    if (!opened)
        std::abort();
    const auto& solved = *opened->solved;
    const auto quantities = *recognise(solved, {});
    PartProperties metal;
    metal.conductivity = 10;
    metal.power = 1;
    Readings readings{};
    std::size_t drawn = 0;
    const double seconds = secondsOf([&] {
        const PartFields fields(solved, *opened->index, quantities, std::vector(solved.parts.size(), metal));
        const CaseHeat heat(fields, {});
        readings.balances = std::make_shared<const Balances>(*balancesOf(heat, progress));
        drawn = heatFlowDiagram(readings, {})->bands.size();
    });
    fmt::print("ways of heat between {} parts and their heat flow diagram ({} bands): {:.2f} s\n", solved.parts.size(),
               drawn, seconds);
}

} // namespace

int main() {
    const auto folder = std::filesystem::temp_directory_path() / "pyrometer-bench-trust";
    std::filesystem::create_directories(folder);
    fmt::print("| what | against | ours | theirs | theirs / ours | our peak | their peak |\n| --- | --- | --- | --- | "
               "--- | --- | --- |\n");
    run("hexahedra", pyro::bench::largeHexahedra(), folder);
    run("tetrahedra", pyro::bench::largeTetrahedra(), folder);
    runHeatFlowDiagram(pyro::bench::largeHexahedra(), folder);
    std::filesystem::remove_all(folder);
}
