#include "core/field/cell_order.h"

#include "core/field/straight_pieces.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

namespace pyro {
namespace {

constexpr std::uint32_t bitsPerAxis = 10;
constexpr std::size_t ranks = 1 << bitsPerAxis;
constexpr float infinity = std::numeric_limits<float>::infinity();

float down(double value) { return std::nextafter(static_cast<float>(value), -infinity); }
float up(double value) { return std::nextafter(static_cast<float>(value), infinity); }

template <class Work>
void inParallel(std::size_t count, std::size_t grain, Work work) {
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, count, grain), [&](const auto& range) {
        for (auto i = range.begin(); i != range.end(); ++i)
            work(i);
    });
}

struct Keyed {
    std::uint32_t key;
    std::uint32_t cell;
};

// Stable counting sort by ten bits of the key at a time; each thread counts and places its own piece.
void sortByKey(RawVector<Keyed>& items) {
    const auto pieces = static_cast<std::size_t>(std::clamp(tbb::this_task_arena::max_concurrency(), 1, 16));
    RawVector<Keyed> other(items.size());
    for (std::uint32_t shift = 0; shift < 3 * bitsPerAxis; shift += bitsPerAxis) {
        std::vector<std::array<std::size_t, ranks>> place(pieces);
        const auto from = [&](std::size_t piece) { return items.size() * piece / pieces; };
        const auto digit = [shift](std::uint32_t key) { return key >> shift & (ranks - 1); };
        tbb::parallel_for(std::size_t{0}, pieces, [&](std::size_t piece) {
            place[piece].fill(0);
            for (auto i = from(piece); i < from(piece + 1); ++i)
                ++place[piece][digit(items[i].key)];
        });
        std::size_t next = 0;
        for (std::size_t value = 0; value < ranks; ++value)
            for (auto& counts : place)
                next += std::exchange(counts[value], next);
        tbb::parallel_for(std::size_t{0}, pieces, [&](std::size_t piece) {
            for (auto i = from(piece); i < from(piece + 1); ++i)
                other[place[piece][digit(items[i].key)]++] = items[i];
        });
        items.swap(other);
    }
}

// Turns a coordinate into its rank among all nodes, 0 .. ranks - 1: half of the nodes lie below the middle rank.
class RankAlong {
public:
    template <class Coordinate>
    RankAlong(std::size_t count, Coordinate coordinate) {
        double low = std::numeric_limits<double>::max();
        double high = std::numeric_limits<double>::lowest();
        for (std::size_t i = 0; i < count; ++i) {
            low = std::min(low, coordinate(i));
            high = std::max(high, coordinate(i));
        }
        m_low = low;
        m_scale = high > low ? static_cast<double>(classes - 1) / (high - low) : 0;
        std::vector<std::uint64_t> below(classes);
        for (std::size_t i = 0; i < count; ++i)
            ++below[classOf(coordinate(i))];
        std::uint64_t sum = 0;
        for (std::size_t i = 0; i < classes; ++i) {
            m_rank[i] = static_cast<std::uint16_t>(
                std::min<std::uint64_t>(ranks - 1, (sum + below[i] / 2) * ranks / std::max<std::size_t>(count, 1)));
            sum += below[i];
        }
    }
    std::uint32_t operator()(double coordinate) const { return m_rank[classOf(coordinate)]; }

private:
    static constexpr std::size_t classes = 1 << 14;
    std::size_t classOf(double coordinate) const { return static_cast<std::size_t>((coordinate - m_low) * m_scale); }

    double m_low = 0;
    double m_scale = 0;
    std::array<std::uint16_t, classes> m_rank{};
};

// Spreads the lowest ten bits so that two free bits follow each.
std::uint32_t spread(std::uint32_t bits) {
    bits = (bits | bits << 16) & 0x030000FFU;
    bits = (bits | bits << 8) & 0x0300F00FU;
    bits = (bits | bits << 4) & 0x030C30C3U;
    return (bits | bits << 2) & 0x09249249U;
}

// Gathers the blocks of one stretch. Nodes are numbered within their block by a small hash table.
class StretchMaker {
public:
    StretchMaker(const Mesh& mesh, std::uint32_t number, std::size_t cells) : m_mesh(mesh), m_number(number) {
        stretch.cells.reserve(cells);
        stretch.types.reserve(cells);
        stretch.nodes.reserve(5 * cells / 2);
        stretch.corners.reserve(8 * cells);
        close();
    }

    // Cells that share their key's higher bits make a block once there are few enough of them.
    void add(std::span<const Keyed> items, int bit) {
        if (items.size() <= CellOrder::mostCells || bit < 0) {
            for (const auto& item : items)
                addCell(item.cell);
            return close();
        }
        const auto upper = std::ranges::partition_point(
            items, [bit](const Keyed& item) { return (item.key >> bit & 1U) == 0; });
        const auto half = static_cast<std::size_t>(upper - items.begin());
        if (half > 0)
            add(items.first(half), bit - 1);
        if (half < items.size())
            add(items.subspan(half), bit - 1);
    }

    CellOrder::Stretch stretch;
    std::vector<CellBlock> blocks;

private:
    struct Slot {
        std::uint32_t node;
        std::uint32_t stamp; // of the block it belongs to
        std::uint32_t number;
    };

    // Of a curved cell its straight pieces.
    void addCell(std::uint32_t cell) {
        forPieces(m_mesh, cell, [&](CellType type, std::span<const std::uint32_t> ids) { addPiece(cell, type, ids); });
    }

    void addPiece(std::uint32_t cell, CellType type, std::span<const std::uint32_t> ids) {
        if (m_open.cellCount == CellOrder::mostCells || m_open.nodeCount + ids.size() > CellOrder::mostNodes)
            close();
        for (const auto id : ids)
            stretch.corners.push_back(static_cast<std::uint8_t>(numberOf(id)));
        stretch.cells.push_back(cell);
        stretch.types.push_back(static_cast<std::uint8_t>(type));
        ++m_open.cellCount;
    }

    void close() {
        if (m_open.cellCount > 0)
            blocks.push_back(m_open);
        m_open = {};
        m_open.stretch = m_number;
        m_open.firstCell = static_cast<std::uint32_t>(stretch.cells.size());
        m_open.firstNode = static_cast<std::uint32_t>(stretch.nodes.size());
        m_open.firstCorner = static_cast<std::uint32_t>(stretch.corners.size());
        ++m_stamp;
    }

    std::uint32_t numberOf(std::uint32_t node) {
        for (auto at = node * 2654435761U >> 22;; at = (at + 1) % m_slots.size()) { // Knuth's multiplicative hash
            auto& slot = m_slots[at];
            if (slot.stamp != m_stamp) {
                slot = {node, m_stamp, m_open.nodeCount++};
                stretch.nodes.push_back(node);
                return slot.number;
            }
            if (slot.node == node)
                return slot.number;
        }
    }

    const Mesh& m_mesh;
    std::uint32_t m_number;
    std::array<Slot, 1024> m_slots{};
    std::uint32_t m_stamp = 0;
    CellBlock m_open{};
};

template <class Real>
class Orderer {
public:
    Orderer(const Mesh& mesh, std::span<const Real> coordinates) : m_mesh(mesh), m_coordinates(coordinates) {}

    CellOrder run() {
        auto items = keyedCells();
        sortByKey(items);
        const auto bounds = stretchBounds(items);
        CellOrder order;
        order.stretches.resize(bounds.size() - 1);
        std::vector<std::vector<CellBlock>> blocks(bounds.size() - 1);
        tbb::parallel_for(std::size_t{0}, blocks.size(), [&](std::size_t i) {
            const auto mine = std::span<const Keyed>(items).subspan(bounds[i], bounds[i + 1] - bounds[i]);
            StretchMaker maker(m_mesh, static_cast<std::uint32_t>(i), mine.size());
            maker.add(mine, topBit - stretchBits);
            order.stretches[i] = std::move(maker.stretch);
            blocks[i] = std::move(maker.blocks);
            for (auto& block : blocks[i])
                findBox(order.stretches[i], block);
        });
        for (const auto& some : blocks)
            order.blocks.insert(order.blocks.end(), some.begin(), some.end());
        return order;
    }

private:
    static constexpr int topBit = 3 * bitsPerAxis - 1;
    static constexpr int stretchBits = 5;

    double coordinate(std::uint32_t node, std::size_t axis) const {
        return static_cast<double>(m_coordinates[3 * std::size_t{node} + axis]);
    }

    // The middle between the first node and the one opposite to it in the list is near enough to the centre.
    RawVector<Keyed> keyedCells() const {
        std::array<std::optional<RankAlong>, 3> rank;
        tbb::parallel_for(std::size_t{0}, std::size_t{3}, [&](std::size_t axis) {
            rank[axis].emplace(m_mesh.nodes(),
                               [&](std::size_t node) { return static_cast<double>(m_coordinates[3 * node + axis]); });
        });
        RawVector<Keyed> cells(m_mesh.cells());
        constexpr std::uint32_t noVolume = ~0U;
        inParallel(cells.size(), 1 << 14, [&](std::size_t cell) {
            const auto* shape = cellShape(m_mesh.type(cell));
            const auto ids = m_mesh.cell(cell);
            const auto first = ids[0];
            const auto corners = shape != nullptr && shape->corners > 0 ? static_cast<std::size_t>(shape->corners)
                                                                        : ids.size();
            const auto other = ids[corners == 8 ? 6 : corners / 2];
            std::uint32_t key = 0;
            for (std::size_t axis = 0; axis < 3; ++axis)
                key |= spread((*rank[axis])(0.5 * (coordinate(first, axis) + coordinate(other, axis)))) << (2 - axis);
            cells[cell] = {key,
                           shape != nullptr && shape->dimension == 3 ? static_cast<std::uint32_t>(cell) : noVolume};
        });
        std::erase_if(cells, [](const Keyed& cell) { return cell.cell == noVolume; });
        return cells;
    }

    // Where the highest bits of the key change, so that the blocks do not depend on the number of threads.
    static std::vector<std::size_t> stretchBounds(const RawVector<Keyed>& items) {
        std::vector<std::size_t> bounds{0};
        for (std::uint32_t part = 1; part < 1U << stretchBits; ++part) {
            const auto from = std::ranges::partition_point(
                items, [part](const Keyed& item) { return item.key >> (topBit + 1 - stretchBits) < part; });
            bounds.push_back(static_cast<std::size_t>(from - items.begin()));
        }
        bounds.push_back(items.size());
        return bounds;
    }

    void findBox(const CellOrder::Stretch& stretch, CellBlock& block) const {
        for (std::size_t axis = 0; axis < 3; ++axis) {
            double low = std::numeric_limits<double>::max();
            double high = std::numeric_limits<double>::lowest();
            for (const auto node : std::span(stretch.nodes).subspan(block.firstNode, block.nodeCount)) {
                low = std::min(low, coordinate(node, axis));
                high = std::max(high, coordinate(node, axis));
            }
            block.low[axis] = down(low);
            block.high[axis] = up(high);
        }
    }

    const Mesh& m_mesh;
    std::span<const Real> m_coordinates;
};

} // namespace

CellOrder cellOrder(const Region& part) {
    return part.mesh.coordinates.visit([&](auto coordinates) {
        return Orderer<typename decltype(coordinates)::value_type>(part.mesh, coordinates).run();
    });
}

std::vector<BlockRange> blockRanges(const CellOrder& order, const StoredArray& field) {
    std::vector<BlockRange> ranges(order.blocks.size());
    field.values.visit([&](auto values) {
        inParallel(ranges.size(), 64, [&](std::size_t at) {
            double low = std::numeric_limits<double>::max();
            double high = std::numeric_limits<double>::lowest();
            const auto block = order.block(at);
            for (const auto place : field.on == Location::Cell ? block.cells : block.nodes) {
                const auto value = static_cast<double>(values[place]);
                low = value < low ? value : low; // comparisons with NaN are false
                high = value > high ? value : high;
            }
            ranges[at] = {down(low), up(high)};
        });
    });
    return ranges;
}

} // namespace pyro
