#include "core/field/locate.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace pyro {
namespace {

// The place's box within its block, in 255 steps along each axis.
struct Steps {
    std::array<double, 3> low;
    std::array<double, 3> perMetre;
    explicit Steps(const CellBlock& block) : low{block.low[0], block.low[1], block.low[2]} {
        for (std::size_t axis = 0; axis < 3; ++axis)
            perMetre[axis] = block.high[axis] > block.low[axis] ? 255.0 / (block.high[axis] - low[axis]) : 0.0;
    }
    float of(double at, std::size_t axis) const { return static_cast<float>((at - low[axis]) * perMetre[axis]); }
};

} // namespace

PointLocator::PointLocator(const Region& part, const CellOrder& order) : m_part(part), m_order(order) {
    std::size_t leaves = 1;
    while (leaves < std::max<std::size_t>(order.blocks.size(), 1))
        leaves *= 2;
    m_tree.resize(2 * leaves);
    if (!order.blocks.empty())
        build(0, 0, order.blocks.size());
    m_boxes = std::make_unique_for_overwrite<ByteBoxes[]>(order.blocks.size());
    m_state = std::make_unique<std::atomic<std::uint8_t>[]>(order.blocks.size());
}

PointLocator::Box PointLocator::build(std::size_t node, std::size_t from, std::size_t to) {
    if (to - from == 1) {
        Box box{};
        // a point in the slack around a cell is found too, and so is one rounded to a float
        for (int axis = 0; axis < 3; ++axis) {
            const float low = m_order.blocks[from].low[static_cast<std::size_t>(axis)];
            const float high = m_order.blocks[from].high[static_cast<std::size_t>(axis)];
            const float reach = 2e-6F * (high - low) + 2e-7F * std::max(std::abs(low), std::abs(high)) + bulgeOf(from);
            box.low[axis] = low - reach;
            box.high[axis] = high + reach;
        }
        return m_tree[node] = box;
    }
    const auto middle = from + (to - from) / 2;
    const auto one = build(2 * node + 1, from, middle);
    const auto other = build(2 * node + 2, middle, to);
    return m_tree[node] = {one.low < other.low ? one.low : other.low, one.high > other.high ? one.high : other.high};
}

// How far the curved cells of a block may reach beyond their nodes: a tenth of the block, for a quarter of a circle of
// order 2 on two pieces.
float PointLocator::bulgeOf(std::size_t at) const {
    const auto block = m_order.block(at);
    const auto curved = [&](std::uint32_t cell) { return isCurved(m_part.mesh.type(cell)); };
    if (std::ranges::none_of(block.cells, curved))
        return 0;
    float extent = 0;
    for (std::size_t axis = 0; axis < 3; ++axis)
        extent = std::max(extent, m_order.blocks[at].high[axis] - m_order.blocks[at].low[axis]);
    return 0.1F * extent;
}

// Rounded outwards, and widened a little: warped faces bulge, and curved ones more.
void PointLocator::fillBoxes(std::size_t at, ByteBoxes& out) const {
    const auto block = m_order.block(at);
    const Steps steps(m_order.blocks[at]);
    std::array<std::array<float, 3>, CellOrder::mostNodes> node;
    for (std::size_t i = 0; i < block.nodes.size(); ++i) {
        const auto place = m_part.mesh.node(block.nodes[i]);
        for (std::size_t axis = 0; axis < 3; ++axis)
            node[i][axis] = steps.of(place[axis], axis);
    }
    const auto* corners = block.corners;
    for (std::size_t i = 0; i < block.cells.size(); ++i) {
        const auto count = static_cast<std::size_t>(cellShape(static_cast<CellType>(block.types[i]))->nodes);
        std::array<float, 3> lowest;
        std::array<float, 3> highest;
        double extent = 0; // m
        for (std::size_t axis = 0; axis < 3; ++axis) {
            lowest[axis] = highest[axis] = node[corners[0]][axis];
            for (std::size_t corner = 1; corner < count; ++corner) {
                lowest[axis] = std::min(lowest[axis], node[corners[corner]][axis]);
                highest[axis] = std::max(highest[axis], node[corners[corner]][axis]);
            }
            if (steps.perMetre[axis] > 0)
                extent = std::max(extent, (highest[axis] - lowest[axis]) / steps.perMetre[axis]);
        }
        const bool curved = isCurved(m_part.mesh.type(block.cells[i]));
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const float low = lowest[axis];
            const float high = highest[axis];
            const float reach = 2e-3F * (high - low) + 0.01F +
                                (curved ? static_cast<float>(0.3 * extent * steps.perMetre[axis]) + 1 : 0);
            out[2 * axis][i] = static_cast<std::uint8_t>(std::clamp(std::floor(low - reach), 0.0F, 255.0F));
            out[2 * axis + 1][i] = static_cast<std::uint8_t>(std::clamp(std::floor(high + reach), 0.0F, 255.0F));
        }
        corners += count;
    }
    for (std::size_t i = block.cells.size(); i < lanes; ++i) { // no place lies in these
        out[0][i] = 255;
        out[1][i] = 0;
    }
}

const PointLocator::ByteBoxes& PointLocator::boxesOf(std::size_t block, ByteBoxes& own) const {
    auto& state = m_state[block];
    if (state.load(std::memory_order_acquire) == Made)
        return m_boxes[block];
    std::uint8_t unmade = Unmade;
    if (state.compare_exchange_strong(unmade, Making, std::memory_order_acquire)) {
        fillBoxes(block, m_boxes[block]);
        state.store(Made, std::memory_order_release);
        return m_boxes[block];
    }
    fillBoxes(block, own); // another thread is at it: not worth waiting for
    return own;
}

std::optional<CellFrame> PointLocator::inBlock(std::size_t at, const Point& place, CellWeights& weight) const {
    ByteBoxes own;
    const auto& boxes = boxesOf(at, own);
    const Steps steps(m_order.blocks[at]);
    std::array<std::uint8_t, 3> step{};
    for (std::size_t axis = 0; axis < 3; ++axis)
        step[axis] = static_cast<std::uint8_t>(std::clamp(std::floor(steps.of(place[axis], axis)), 0.0F, 255.0F));
    std::array<std::uint8_t, lanes> near;
    // without branches, so that many cells are compared at once; NOLINTNEXTLINE
    for (std::size_t i = 0; i < lanes; ++i)
        near[i] = static_cast<std::uint8_t>((boxes[0][i] <= step[0]) & (boxes[1][i] >= step[0]) &
                                            (boxes[2][i] <= step[1]) & (boxes[3][i] >= step[1]) &
                                            (boxes[4][i] <= step[2]) & (boxes[5][i] >= step[2]));
    const auto cells = m_order.block(at).cells;
    for (std::size_t from = 0; from < lanes; from += 8) { // most eights hold none
        std::uint64_t any = 0;
        std::memcpy(&any, near.data() + from, sizeof any);
        for (std::size_t i = from; any != 0 && i < from + 8; ++i)
            if (near[i] != 0)
                if (std::optional<CellFrame> frame(std::in_place, m_part, cells[i]); frame->weightsAt(place, weight))
                    return frame;
    }
    return std::nullopt;
}

std::optional<CellPlace> PointLocator::find(const Point& place) const {
    CellPlace found{};
    std::uint32_t block = ~0U;
    const auto frame = frameAt(place, found.weight, block);
    if (!frame)
        return std::nullopt;
    found.cell = frame->cell();
    found.nodes = static_cast<std::uint16_t>(frame->nodes().size());
    return found;
}

bool PointLocator::mayHold(std::size_t node, const FourFloats& at) const {
    const auto out = (at < m_tree[node].low) | (at > m_tree[node].high);
    return (out[0] | out[1] | out[2]) == 0;
}

void PointLocator::blocksWithin(const Point& low, const Point& high, std::vector<std::uint32_t>& out) const {
    if (m_order.blocks.empty())
        return;
    const auto meets = [&](std::size_t node) {
        bool meet = true;
        for (int axis = 0; axis < 3; ++axis)
            meet = meet && high[static_cast<std::size_t>(axis)] >= static_cast<double>(m_tree[node].low[axis]) &&
                   low[static_cast<std::size_t>(axis)] <= static_cast<double>(m_tree[node].high[axis]);
        return meet;
    };
    const auto visit = [&](const auto& self, std::size_t node, std::size_t from, std::size_t to) -> void {
        if (!meets(node))
            return;
        if (to - from == 1) {
            out.push_back(static_cast<std::uint32_t>(from));
            return;
        }
        const auto middle = from + (to - from) / 2;
        self(self, 2 * node + 1, from, middle);
        self(self, 2 * node + 2, middle, to);
    };
    visit(visit, 0, 0, m_order.blocks.size());
}

std::optional<CellFrame> PointLocator::frameAt(const Point& place, CellWeights& weight, std::uint32_t& block) const {
    struct Span {
        std::uint32_t node;
        std::uint32_t from;
        std::uint32_t to;
    };
    const FourFloats at{static_cast<float>(place[0]), static_cast<float>(place[1]), static_cast<float>(place[2]), 0};
    const auto first = block;
    if (first < m_order.blocks.size())
        if (auto found = inBlock(first, place, weight))
            return found;
    std::array<Span, 64> waiting;
    std::size_t count = 0;
    if (!m_order.blocks.empty())
        waiting[count++] = {0, 0, static_cast<std::uint32_t>(m_order.blocks.size())};
    while (count > 0) {
        const auto [node, from, to] = waiting[--count];
        if (!mayHold(node, at))
            continue;
        if (to - from == 1) {
            if (from != first)
                if (auto found = inBlock(from, place, weight)) {
                    block = from;
                    return found;
                }
            continue;
        }
        const auto middle = from + (to - from) / 2;
        waiting[count++] = {2 * node + 2, middle, to};
        waiting[count++] = {2 * node + 1, from, middle};
    }
    return std::nullopt;
}

} // namespace pyro
