#include "rig/result.h"

#include <algorithm>
#include <cmath>

namespace pyro::rig {
namespace {

const Vec& conductivity(const Model& model, const Grid& grid, std::size_t cell) {
    return model.materials[model.boxes[static_cast<std::size_t>(grid.box[cell])].material].conductivity;
}

std::size_t nodeAt(const Grid& grid, std::size_t i, std::size_t j, std::size_t k) {
    return i + (grid.cells(0) + 1) * (j + (grid.cells(1) + 1) * k);
}

// Corner c of a cell: bit 0 x, bit 1 y, bit 2 z.
std::size_t cornerNode(const Grid& grid, const std::array<std::size_t, 3>& at, unsigned c) {
    return nodeAt(grid, at[0] + (c & 1), at[1] + (c >> 1 & 1), at[2] + (c >> 2 & 1));
}

constexpr std::array<unsigned, 8> hexahedronCorners{0, 1, 3, 2, 4, 5, 7, 6};
// The corners of each side, in the order of Side, ring order with the normal pointing out.
constexpr std::array<std::array<unsigned, 4>, 6> sideCorners{
    {{0, 4, 6, 2}, {1, 3, 7, 5}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 2, 3, 1}, {4, 5, 7, 6}}};

// Gives grid nodes their numbers within one block, in the order they are met.
class NodeSet {
public:
    NodeSet(const Grid& grid, BlockData& block, const std::vector<double>& temperature)
        : m_grid(grid), m_block(block), m_temperature(temperature),
          m_number((grid.cells(0) + 1) * (grid.cells(1) + 1) * (grid.cells(2) + 1), ~0U) {
        m_block.arrays.push_back({"temperature", Location::Node, 1, {}});
    }

    std::uint32_t take(const std::array<std::size_t, 3>& cell, unsigned corner) {
        const auto node = cornerNode(m_grid, cell, corner);
        if (m_number[node] == ~0U) {
            m_number[node] = static_cast<std::uint32_t>(m_block.points.size() / 3);
            for (unsigned axis = 0; axis < 3; ++axis)
                m_block.points.push_back(m_grid.lines[axis][cell[axis] + (corner >> axis & 1)]);
            m_block.arrays[0].values.push_back(m_temperature[node]);
        }
        return m_number[node];
    }

private:
    const Grid& m_grid;
    BlockData& m_block;
    const std::vector<double>& m_temperature;
    std::vector<std::uint32_t> m_number;
};

void closeCell(BlockData& block, CellType type) {
    block.offsets.push_back(block.connectivity.size());
    block.types.push_back(static_cast<std::uint8_t>(type));
}

BlockData partBlock(const std::string& part, const Model& model, const Grid& grid, const Solution& solution,
                    const std::vector<double>& nodes) {
    BlockData block;
    block.name = part;
    NodeSet set(grid, block, nodes);
    ArrayData temperature{"temperature", Location::Cell, 1, {}};
    ArrayData flux{"heat_flux", Location::Cell, 3, {}};
    ArrayData source{"heat_source", Location::Cell, 1, {}};
    for (std::size_t cell = 0; cell < grid.cellCount(); ++cell) {
        if (grid.box[cell] < 0 || model.boxes[static_cast<std::size_t>(grid.box[cell])].part != part)
            continue;
        const auto at = grid.indices(cell);
        for (const auto corner : hexahedronCorners)
            block.connectivity.push_back(set.take(at, corner));
        closeCell(block, CellType::Hexahedron);
        temperature.values.push_back(solution.temperature[cell]);
        source.values.push_back(solution.source[cell]);
        for (std::size_t axis = 0; axis < 3; ++axis)
            flux.values.push_back(0.5 * (solution.fluxBelow[axis][cell] + solution.fluxAbove[axis][cell]));
    }
    for (auto* array : {&temperature, &flux, &source})
        block.arrays.push_back(std::move(*array));
    return block;
}

BlockData boundaryBlock(std::size_t environment, const Model& model, const Grid& grid, const Solution& solution,
                        const std::vector<double>& nodes) {
    BlockData block;
    block.name = model.environments[environment].boundary;
    block.boundary = true;
    NodeSet set(grid, block, nodes);
    ArrayData temperature{"temperature", Location::Cell, 1, {}};
    ArrayData flux{"heat_flux", Location::Cell, 3, {}};
    for (std::size_t face = 0; face < solution.environment.size(); ++face) {
        if (solution.environment[face] != static_cast<std::int8_t>(environment))
            continue;
        const auto cell = face / 6;
        const auto side = face % 6;
        const auto axis = side / 2;
        const bool above = side % 2 == 1;
        const auto at = grid.indices(cell);
        for (const auto corner : sideCorners[side])
            block.connectivity.push_back(set.take(at, corner));
        closeCell(block, CellType::Quad);
        const double along = (above ? solution.fluxAbove : solution.fluxBelow)[axis][cell];
        for (std::size_t a = 0; a < 3; ++a)
            flux.values.push_back(a == axis ? along : 0.0);
        const double half = 0.5 * grid.width(static_cast<int>(axis), at[axis]) / conductivity(model, grid, cell)[axis];
        temperature.values.push_back(solution.temperature[cell] - (above ? along : -along) * half);
    }
    block.arrays.push_back(std::move(temperature));
    block.arrays.push_back(std::move(flux));
    return block;
}

} // namespace

std::vector<double> nodeTemperatures(const Model& model, const Grid& grid, const Solution& solution) {
    const auto count = (grid.cells(0) + 1) * (grid.cells(1) + 1) * (grid.cells(2) + 1);
    std::vector<double> sum(count, 0.0);
    std::vector<double> weights(count, 0.0);
    for (std::size_t cell = 0; cell < grid.cellCount(); ++cell) {
        if (grid.box[cell] < 0)
            continue;
        const auto at = grid.indices(cell);
        const auto& k = conductivity(model, grid, cell);
        const double weight = std::cbrt(k[0] * k[1] * k[2]);
        for (unsigned corner = 0; corner < 8; ++corner) {
            double value = solution.temperature[cell];
            for (unsigned axis = 0; axis < 3; ++axis) {
                const double half = 0.5 * grid.width(static_cast<int>(axis), at[axis]) / k[axis];
                value += (corner >> axis & 1) != 0 ? -solution.fluxAbove[axis][cell] * half
                                                   : solution.fluxBelow[axis][cell] * half;
            }
            const auto node = cornerNode(grid, at, corner);
            sum[node] += weight * value;
            weights[node] += weight;
        }
    }
    for (std::size_t node = 0; node < count; ++node)
        sum[node] = weights[node] > 0 ? sum[node] / weights[node] : std::nan("");
    return sum;
}

std::vector<BlockData> toBlocks(const Model& model, const Grid& grid, const Solution& solution) {
    const auto nodes = nodeTemperatures(model, grid, solution);
    std::vector<BlockData> blocks;
    for (const auto& box : model.boxes)
        if (std::ranges::none_of(blocks, [&](const BlockData& block) { return block.name == box.part; })) {
            auto block = partBlock(box.part, model, grid, solution, nodes);
            if (!block.types.empty())
                blocks.push_back(std::move(block));
        }
    for (std::size_t e = 0; e < model.environments.size(); ++e) {
        auto block = boundaryBlock(e, model, grid, solution, nodes);
        if (!block.types.empty())
            blocks.push_back(std::move(block));
    }
    return blocks;
}

} // namespace pyro::rig
