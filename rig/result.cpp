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

// Node values of the whole grid, as a block takes them over.
struct NodeArray {
    const char* name;
    std::size_t components;
    const std::vector<double>& values;
};

// Gives grid nodes their numbers within one block, in the order they are met.
class NodeSet {
public:
    NodeSet(const Grid& grid, BlockData& block, std::vector<NodeArray> arrays)
        : m_grid(grid), m_block(block), m_arrays(std::move(arrays)),
          m_number((grid.cells(0) + 1) * (grid.cells(1) + 1) * (grid.cells(2) + 1), ~0U) {
        for (const auto& array : m_arrays)
            m_block.arrays.push_back({array.name, Location::Node, static_cast<int>(array.components), {}});
    }

    std::uint32_t take(const Grid::Index& cell, unsigned corner) {
        const auto node = cornerNode(m_grid, cell, corner);
        if (m_number[node] == ~0U) {
            m_number[node] = static_cast<std::uint32_t>(m_block.points.size() / 3);
            for (unsigned axis = 0; axis < 3; ++axis)
                m_block.points.push_back(m_grid.lines[axis][cell[axis] + (corner >> axis & 1)]);
            for (std::size_t i = 0; i < m_arrays.size(); ++i)
                for (std::size_t c = 0; c < m_arrays[i].components; ++c)
                    m_block.arrays[i].values.push_back(m_arrays[i].values[node * m_arrays[i].components + c]);
        }
        return m_number[node];
    }

private:
    const Grid& m_grid;
    BlockData& m_block;
    std::vector<NodeArray> m_arrays;
    std::vector<std::uint32_t> m_number;
};

// What the blocks of one solution share.
struct Fields {
    const Model& model;
    const Grid& grid;
    const Solution& solution;
    std::vector<double> still;    // K per node
    std::vector<double> flowing;  // K per node
    std::vector<double> velocity; // m/s, 3 per node

    std::vector<NodeArray> nodal(bool flows) const {
        std::vector<NodeArray> arrays{{"temperature", 1, flows ? flowing : still}};
        if (flows)
            arrays.push_back({"velocity", 3, velocity});
        return arrays;
    }
};

void closeCell(BlockData& block, CellType type) {
    block.offsets.push_back(block.connectivity.size());
    block.types.push_back(static_cast<std::uint8_t>(type));
}

std::array<ArrayData, 2> capacities(const Fields& fields, const std::string& part) {
    std::array<ArrayData, 2> arrays{{{"density", Location::Cell, 1, {}}, {"heat_capacity", Location::Cell, 1, {}}}};
    for (std::size_t cell = 0; cell < fields.grid.cellCount(); ++cell) {
        const auto box = fields.grid.box[cell];
        if (box < 0 || fields.model.boxes[static_cast<std::size_t>(box)].part != part)
            continue;
        const auto& material = fields.model.materials[fields.model.boxes[static_cast<std::size_t>(box)].material];
        arrays[0].values.push_back(material.density);
        arrays[1].values.push_back(material.heatCapacity);
    }
    return arrays;
}

BlockData partBlock(const std::string& part, const Fields& fields) {
    const auto& [model, grid, solution, still, flowing, velocities] = fields;
    BlockData block;
    block.name = part;
    const bool flows = std::ranges::find(model.channels, part, &Channel::part) != model.channels.end();
    const bool steps = !flows && std::ranges::any_of(model.contacts, [&](const Contact& contact) {
        return contact.parts[0] == part || contact.parts[1] == part;
    });
    const auto alone = steps ? nodeTemperatures(model, grid, solution, Phase::Still, part) : std::vector<double>();
    NodeSet set(grid, block, steps ? std::vector<NodeArray>{{"temperature", 1, alone}} : fields.nodal(flows));
    ArrayData temperature{"temperature", Location::Cell, 1, {}};
    ArrayData flux{"heat_flux", Location::Cell, 3, {}};
    ArrayData source{"heat_source", Location::Cell, 1, {}};
    ArrayData conducts{"conductivity", Location::Cell, 3, {}};
    ArrayData velocity{"velocity", Location::Cell, 3, {}};
    for (std::size_t cell = 0; cell < grid.cellCount(); ++cell) {
        if (grid.box[cell] < 0 || model.boxes[static_cast<std::size_t>(grid.box[cell])].part != part)
            continue;
        const auto at = grid.indices(cell);
        for (const auto corner : hexahedronCorners)
            block.connectivity.push_back(set.take(at, corner));
        closeCell(block, CellType::Hexahedron);
        temperature.values.push_back(solution.temperature[cell]);
        source.values.push_back(solution.source[cell]);
        for (const double along : conductivity(model, grid, cell))
            conducts.values.push_back(along);
        for (std::size_t axis = 0; axis < 3; ++axis) {
            flux.values.push_back(0.5 * (solution.fluxBelow[axis][cell] + solution.fluxAbove[axis][cell]));
            if (flows)
                velocity.values.push_back(0.5 * (solution.flow.below[axis][cell] + solution.flow.above[axis][cell]));
        }
    }
    for (auto* array : {&temperature, &flux, &source, &conducts})
        block.arrays.push_back(std::move(*array));
    if (model.transient) // what is stored is told with them; a part may be of several materials
        for (auto& array : capacities(fields, part))
            block.arrays.push_back(std::move(array));
    if (flows)
        block.arrays.push_back(std::move(velocity));
    return block;
}

// K: of the surface itself; an inlet has the temperature it is fed with.
double faceTemperature(const Fields& fields, std::size_t boundary, std::size_t cell, std::size_t side) {
    const auto& [model, grid, solution, still, flowing, velocities] = fields;
    for (std::size_t channel = 0; channel < model.channels.size(); ++channel)
        if (boundary == model.inletOf(channel))
            return model.channels[channel].inletTemperature;
    const auto axis = side / 2;
    const double half = 0.5 * grid.width(static_cast<int>(axis), grid.indices(cell)[axis]) /
                        conductivity(model, grid, cell)[axis];
    return solution.temperature[cell] -
           half * (side % 2 == 1 ? solution.fluxAbove[axis][cell] : -solution.fluxBelow[axis][cell]);
}

BlockData boundaryBlock(std::size_t boundary, const Fields& fields) {
    const auto& [model, grid, solution, still, flowing, velocities] = fields;
    BlockData block;
    block.name = model.boundaryName(boundary);
    block.boundary = true;
    const bool flows = boundary >= model.environments.size() && (boundary - model.environments.size()) % 3 != 2;
    NodeSet set(grid, block, fields.nodal(flows));
    ArrayData temperature{"temperature", Location::Cell, 1, {}};
    ArrayData flux{"heat_flux", Location::Cell, 3, {}};
    ArrayData velocity{"velocity", Location::Cell, 3, {}};
    const auto& flow = solution.flow;
    for (std::size_t face = 0; face < solution.boundary.size(); ++face) {
        if (solution.boundary[face] != static_cast<std::int8_t>(boundary))
            continue;
        const auto cell = face / 6;
        const auto side = face % 6;
        const bool above = side % 2 == 1;
        for (const auto corner : sideCorners[side])
            block.connectivity.push_back(set.take(grid.indices(cell), corner));
        closeCell(block, CellType::Quad);
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const bool along = axis == side / 2;
            flux.values.push_back(along ? (above ? solution.fluxAbove : solution.fluxBelow)[axis][cell] : 0.0);
            if (flows)
                velocity.values.push_back(along ? (above ? flow.above : flow.below)[axis][cell] : 0.0);
        }
        temperature.values.push_back(faceTemperature(fields, boundary, cell, side));
    }
    if (boundary < model.environments.size()) {
        const auto& environment = model.environments[boundary];
        const auto even = [&](const char* name, double value) {
            block.arrays.push_back({name, Location::Cell, 1, std::vector<double>(temperature.values.size(), value)});
        };
        even("environment_temperature", solution.levels[boundary]);
        if (environment.emissivity == 0) // else it differs from face to face
            even("surface_resistance", environment.resistance);
    }
    block.arrays.push_back(std::move(temperature));
    block.arrays.push_back(std::move(flux));
    if (flows)
        block.arrays.push_back(std::move(velocity));
    return block;
}

// Whether a film lies between a cell of coolant and what is beyond that side.
bool meetsFilm(const Model& model, const Grid& grid, const Flow& flow, std::size_t cell, const Grid::Index& at,
               int axis, bool above) {
    const auto channel = flow.channel[cell];
    const auto beyond = grid.neighbour(at, axis, above);
    return channel >= 0 && model.channels[static_cast<std::size_t>(channel)].resistance > 0 && beyond != Grid::none &&
           flow.channel[static_cast<std::size_t>(beyond)] < 0;
}

} // namespace

std::vector<double> nodeTemperatures(const Model& model, const Grid& grid, const Solution& solution, Phase phase,
                                     const std::string& part) {
    const auto count = (grid.cells(0) + 1) * (grid.cells(1) + 1) * (grid.cells(2) + 1);
    std::vector<double> sum(count, 0.0);
    std::vector<double> weights(count, 0.0);
    for (std::size_t cell = 0; cell < grid.cellCount(); ++cell) {
        if (grid.box[cell] < 0 || (solution.flow.channel[cell] >= 0) != (phase == Phase::Flowing))
            continue;
        if (!part.empty() && model.boxes[static_cast<std::size_t>(grid.box[cell])].part != part)
            continue;
        const auto at = grid.indices(cell);
        const auto& k = conductivity(model, grid, cell);
        const double weight = std::cbrt(k[0] * k[1] * k[2]);
        std::array<std::array<double, 2>, 3> rise{}; // K from the middle of the cell to each side
        for (int axis = 0; axis < 3; ++axis)
            for (const bool above : {false, true}) {
                const auto a = static_cast<std::size_t>(axis);
                const double half = 0.5 * grid.width(axis, at[a]) / k[a];
                if (!meetsFilm(model, grid, solution.flow, cell, at, axis, above))
                    rise[a][above ? 1 : 0] = half *
                                             (above ? -solution.fluxAbove[a][cell] : solution.fluxBelow[a][cell]);
            }
        for (unsigned corner = 0; corner < 8; ++corner) {
            double value = solution.temperature[cell];
            for (unsigned axis = 0; axis < 3; ++axis)
                value += rise[axis][corner >> axis & 1];
            const auto node = cornerNode(grid, at, corner);
            sum[node] += weight * value;
            weights[node] += weight;
        }
    }
    for (std::size_t node = 0; node < count; ++node)
        sum[node] = weights[node] > 0 ? sum[node] / weights[node] : std::nan("");
    return sum;
}

std::vector<double> nodeVelocities(const Grid& grid, const Flow& flow) {
    const auto count = (grid.cells(0) + 1) * (grid.cells(1) + 1) * (grid.cells(2) + 1);
    std::vector<double> sum(3 * count, 0.0);
    std::vector<double> area(3 * count, 0.0);
    grid.forSides([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t) {
        if (flow.channel[cell] < 0)
            return;
        const auto a = static_cast<std::size_t>(axis);
        for (unsigned corner = 0; corner < 8; ++corner) {
            if ((corner >> axis & 1) != (above ? 1U : 0U))
                continue;
            const auto node = 3 * cornerNode(grid, at, corner) + a;
            sum[node] += grid.area(axis, at) * (above ? flow.above : flow.below)[a][cell];
            area[node] += grid.area(axis, at);
        }
    });
    for (std::size_t i = 0; i < sum.size(); ++i)
        sum[i] = area[i] > 0 ? sum[i] / area[i] : 0.0;
    return sum;
}

std::vector<BlockData> toBlocks(const Model& model, const Grid& grid, const Solution& solution) {
    const Fields fields{model,
                        grid,
                        solution,
                        nodeTemperatures(model, grid, solution),
                        nodeTemperatures(model, grid, solution, Phase::Flowing),
                        nodeVelocities(grid, solution.flow)};
    std::vector<BlockData> blocks;
    for (const auto& box : model.boxes)
        if (std::ranges::none_of(blocks, [&](const BlockData& block) { return block.name == box.part; })) {
            auto block = partBlock(box.part, fields);
            if (!block.types.empty())
                blocks.push_back(std::move(block));
        }
    for (std::size_t boundary = 0; boundary < model.boundaries(); ++boundary) {
        auto block = boundaryBlock(boundary, fields);
        if (!block.types.empty() && !block.name.empty())
            blocks.push_back(std::move(block));
    }
    return blocks;
}

} // namespace pyro::rig
