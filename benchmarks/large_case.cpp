#include "benchmarks/large_case.h"

#include <cmath>
#include <random>

namespace pyro::bench {
namespace {

struct Peak {
    Point at;
    double height;
    double width;
};

std::vector<Peak> peaks() {
    std::mt19937 random(24);
    std::uniform_real_distribution<double> place(0.1, 0.9);
    std::vector<Peak> all;
    for (int i = 0; i < 24; ++i)
        all.push_back(
            {{place(random), place(random), place(random)}, 20 + 40 * place(random), 0.03 + 0.04 * place(random)});
    return all;
}

// The nodes of a warped grid with their temperature.
BlockData nodesOfGrid(int perSide) {
    const auto nodes = static_cast<std::uint32_t>(perSide + 1);
    BlockData block;
    block.name = "block";
    ArrayData field{"temperature", Location::Node, 1, {}};
    const auto hot = peaks();
    for (std::uint32_t k = 0; k < nodes; ++k)
        for (std::uint32_t j = 0; j < nodes; ++j)
            for (std::uint32_t i = 0; i < nodes; ++i) {
                const Point share{i / double(perSide), j / double(perSide), k / double(perSide)};
                const double warp = 0.02 * std::sin(6 * share[0]) * std::sin(5 * share[1]) * std::sin(7 * share[2]);
                double value = 300 + 30 * share[0] + 10 * std::sin(3 * share[1]) * share[2];
                for (const auto& peak : hot) {
                    double distance = 0;
                    for (std::size_t axis = 0; axis < 3; ++axis)
                        distance += (share[axis] - peak.at[axis]) * (share[axis] - peak.at[axis]);
                    value += peak.height * std::exp(-distance / (2 * peak.width * peak.width));
                }
                for (const double at : share)
                    block.points.push_back(0.1 * (at + warp));
                field.values.push_back(value);
            }
    block.arrays.push_back(std::move(field));
    return block;
}

// Calls `use` with the eight nodes of every hexahedron.
template <class Use>
void forEachHexahedron(int perSide, Use use) {
    const auto nodes = static_cast<std::uint32_t>(perSide + 1);
    const auto at = [&](std::uint32_t i, std::uint32_t j, std::uint32_t k) { return i + nodes * (j + nodes * k); };
    for (std::uint32_t k = 0; k + 1 < nodes; ++k)
        for (std::uint32_t j = 0; j + 1 < nodes; ++j)
            for (std::uint32_t i = 0; i + 1 < nodes; ++i)
                use(std::array{at(i, j, k), at(i + 1, j, k), at(i + 1, j + 1, k), at(i, j + 1, k), at(i, j, k + 1),
                               at(i + 1, j, k + 1), at(i + 1, j + 1, k + 1), at(i, j + 1, k + 1)});
}

template <class Nodes>
void addCell(BlockData& block, CellType type, const Nodes& nodes) {
    block.connectivity.insert(block.connectivity.end(), nodes.begin(), nodes.end());
    block.offsets.push_back(block.connectivity.size());
    block.types.push_back(static_cast<std::uint8_t>(type));
}

} // namespace

BlockData largeHexahedra(int perSide) {
    auto block = nodesOfGrid(perSide);
    forEachHexahedron(perSide, [&](const auto& n) { addCell(block, CellType::Hexahedron, n); });
    return block;
}

// Each hexahedron in six, about its diagonal (Kuhn's subdivision).
BlockData largeTetrahedra(int perSide) {
    auto block = nodesOfGrid(perSide);
    forEachHexahedron(perSide, [&](const auto& n) {
        for (const auto& [a, b] : {std::pair{1U, 2U}, {2U, 3U}, {3U, 7U}, {7U, 4U}, {4U, 5U}, {5U, 1U}})
            addCell(block, CellType::Tetrahedron, std::array{n[0], n[a], n[b], n[6]});
    });
    return block;
}

BlockData sideOf(const BlockData& block, int perSide, int axis, bool high) {
    const auto nodes = static_cast<std::uint32_t>(perSide + 1);
    const bool triangles = block.types.front() == static_cast<std::uint8_t>(CellType::Tetrahedron);
    BlockData side;
    side.name = std::string(1, "xyz"[axis]) + (high ? "+" : "-");
    side.boundary = true;
    ArrayData field{"temperature", Location::Node, 1, {}};
    const auto a = static_cast<std::size_t>(axis);
    for (std::uint32_t v = 0; v < nodes; ++v)
        for (std::uint32_t u = 0; u < nodes; ++u) {
            std::array<std::uint32_t, 3> at{};
            at[a] = high ? nodes - 1 : 0;
            at[(a + 1) % 3] = u;
            at[(a + 2) % 3] = v;
            const std::size_t node = at[0] + nodes * (at[1] + nodes * at[2]);
            for (std::size_t i = 0; i < 3; ++i)
                side.points.push_back(block.points[3 * node + i]);
            field.values.push_back(block.arrays.front().values[node]);
        }
    side.arrays.push_back(std::move(field));
    for (std::uint32_t v = 0; v + 1 < nodes; ++v)
        for (std::uint32_t u = 0; u + 1 < nodes; ++u) {
            const auto first = u + nodes * v;
            if (triangles) {
                addCell(side, CellType::Triangle, std::array{first, first + 1, first + nodes + 1});
                addCell(side, CellType::Triangle, std::array{first, first + nodes + 1, first + nodes});
            } else {
                addCell(side, CellType::Quad, std::array{first, first + 1, first + nodes + 1, first + nodes});
            }
        }
    return side;
}

} // namespace pyro::bench
