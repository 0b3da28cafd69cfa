#include "core/field/locate.h"

#include <algorithm>
#include <cmath>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

constexpr double slack = 1e-6; // of the cell's size
using Corners = std::array<Point, 8>;
using Weights = std::array<double, 8>;

Point minus(const Point& a, const Point& b) { return {a[0] - b[0], a[1] - b[1], a[2] - b[2]}; }
Point cross(const Point& a, const Point& b) {
    return {a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
}
Point over(const Point& a, double b) { return {a[0] / b, a[1] / b, a[2] / b}; }
double volume(const Point& a, const Point& b, const Point& c) { // of the parallelepiped, signed
    return a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
}

bool inTetrahedron(const Corners& p, const std::array<int, 4>& node, const Point& at, Weights& weight) {
    const auto corner = [&](int i) { return p[static_cast<std::size_t>(node[static_cast<std::size_t>(i)])]; };
    const auto a = minus(corner(1), corner(0));
    const auto b = minus(corner(2), corner(0));
    const auto c = minus(corner(3), corner(0));
    const auto x = minus(at, corner(0));
    const double whole = volume(a, b, c);
    if (whole == 0)
        return false;
    const double l1 = volume(x, b, c) / whole;
    const double l2 = volume(a, x, c) / whole;
    const double l3 = volume(a, b, x) / whole;
    const std::array<double, 4> l{1 - l1 - l2 - l3, l1, l2, l3};
    if (std::ranges::any_of(l, [](double one) { return one < -slack; }))
        return false;
    weight.fill(0);
    for (std::size_t i = 0; i < 4; ++i)
        weight[static_cast<std::size_t>(node[i])] = l[i];
    return true;
}

// Shape functions and their slopes along the local coordinates, 0 .. 1 each.
struct Shape {
    Weights value{};
    std::array<Point, 8> slope{};
};

Shape hexahedronShape(const Point& at) {
    constexpr std::array<std::array<int, 3>, 8> corner{{{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}, {0, 0, 1}, {1, 0, 1}, {1, 1, 1}, {0, 1, 1}}};
    Shape shape;
    for (std::size_t i = 0; i < 8; ++i) {
        Point f{};
        Point d{};
        for (std::size_t axis = 0; axis < 3; ++axis) {
            f[axis] = corner[i][axis] == 1 ? at[axis] : 1 - at[axis];
            d[axis] = corner[i][axis] == 1 ? 1 : -1;
        }
        shape.value[i] = f[0] * f[1] * f[2];
        shape.slope[i] = {d[0] * f[1] * f[2], f[0] * d[1] * f[2], f[0] * f[1] * d[2]};
    }
    return shape;
}

Shape wedgeShape(const Point& at) {
    const auto [r, s, t] = at;
    const std::array<double, 3> l{1 - r - s, r, s};
    constexpr std::array<std::array<double, 2>, 3> d{{{-1, -1}, {1, 0}, {0, 1}}};
    Shape shape;
    for (std::size_t i = 0; i < 3; ++i)
        for (std::size_t end = 0; end < 2; ++end) {
            const double f = end == 1 ? t : 1 - t;
            shape.value[i + 3 * end] = l[i] * f;
            shape.slope[i + 3 * end] = {d[i][0] * f, d[i][1] * f, end == 1 ? l[i] : -l[i]};
        }
    return shape;
}

// Newton's method for the local coordinates of a point, from those given on; they end where the search does.
template <class ShapeOf, class Inside>
bool byNewton(const Corners& p, std::size_t corners, ShapeOf shapeOf, Inside inside, Point& local, const Point& at, Weights& weight) {
    for (int round = 0; round < 12; ++round) {
        const auto shape = shapeOf(local);
        Point rest = at;
        std::array<Point, 3> column{};
        for (std::size_t i = 0; i < corners; ++i)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                rest[axis] -= shape.value[i] * p[i][axis];
                for (std::size_t direction = 0; direction < 3; ++direction)
                    column[direction][axis] += shape.slope[i][direction] * p[i][axis];
            }
        const double whole = volume(column[0], column[1], column[2]);
        if (whole == 0)
            return false;
        const Point by{volume(rest, column[1], column[2]) / whole, volume(column[0], rest, column[2]) / whole,
                       volume(column[0], column[1], rest) / whole};
        double size = 0;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            local[axis] += by[axis];
            size = std::max(size, std::abs(by[axis]));
        }
        if (!(size < 10)) // far outside, or not a number
            return false;
        // The error squares from round to round: after a step this small the next would change nothing.
        if (size < 1e-7)
            break;
        // A point whose first steps lead well out of the cell is not in it.
        if (round == 1 && std::ranges::any_of(local, [](double l) { return l < -0.5 || l > 1.5; }))
            return false;
    }
    weight = shapeOf(local).value;
    return inside(local);
}

constexpr auto between = [](double value) { return value >= -slack && value <= 1 + slack; };
constexpr auto inUnitCube = [](const Point& l) { return between(l[0]) && between(l[1]) && between(l[2]); };
constexpr auto inUnitWedge = [](const Point& l) { return l[0] >= -slack && l[1] >= -slack && l[0] + l[1] <= 1 + slack && between(l[2]); };

Point middleOf(CellType type) {
    return type == CellType::Wedge ? Point{1.0 / 3, 1.0 / 3, 0.5} : Point{0.5, 0.5, 0.5};
}

template <class Box> bool holds(const Box& box, const Point& at) {
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double reach = slack * (box.high[axis] - box.low[axis]);
        if (at[axis] < box.low[axis] - reach || at[axis] > box.high[axis] + reach)
            return false;
    }
    return true;
}

// Places sorted into a grid of about two per bin over their own box.
class PlaceGrid {
public:
    explicit PlaceGrid(std::span<const Point> places) : m_places(places) {
        if (places.empty())
            return;
        m_low = m_high = places[0];
        for (const auto& place : places)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                m_low[axis] = std::min(m_low[axis], place[axis]);
                m_high[axis] = std::max(m_high[axis], place[axis]);
            }
        const auto side = std::clamp<std::size_t>(static_cast<std::size_t>(std::cbrt(static_cast<double>(places.size()) / 2)), 1, 256);
        for (std::size_t axis = 0; axis < 3; ++axis)
            m_perMetre[axis] = m_high[axis] > m_low[axis] ? static_cast<double>(side) / (m_high[axis] - m_low[axis]) : 0.0;
        m_side = side;
        m_begin.assign(side * side * side + 1, 0);
        for (const auto& place : places)
            ++m_begin[binOf(place) + 1];
        for (std::size_t bin = 1; bin < m_begin.size(); ++bin)
            m_begin[bin] += m_begin[bin - 1];
        m_sorted.resize(places.size());
        auto next = m_begin;
        for (std::size_t i = 0; i < places.size(); ++i)
            m_sorted[next[binOf(places[i])]++] = static_cast<std::uint32_t>(i);
    }

    // use(place) for those within the box of a volume cell, widened by a hair.
    template <class Use> void forNear(const Region& part, std::size_t cell, Use use) const {
        const auto* shape = cellShape(part.mesh.type(cell));
        if (m_places.empty() || shape->dimension != 3)
            return;
        const auto ids = part.mesh.cell(cell);
        Point low = part.mesh.node(ids[0]);
        Point high = low;
        for (std::size_t i = 1; i < static_cast<std::size_t>(shape->corners); ++i) {
            const auto at = part.mesh.node(ids[i]);
            for (std::size_t axis = 0; axis < 3; ++axis) {
                low[axis] = std::min(low[axis], at[axis]);
                high[axis] = std::max(high[axis], at[axis]);
            }
        }
        std::array<std::size_t, 3> from{};
        std::array<std::size_t, 3> to{};
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const double reach = 2 * slack * (high[axis] - low[axis]);
            low[axis] -= reach;
            high[axis] += reach;
            if (low[axis] > m_high[axis] || high[axis] < m_low[axis])
                return;
            from[axis] = step(low[axis], axis);
            to[axis] = step(high[axis], axis);
        }
        for (auto k = from[2]; k <= to[2]; ++k)
            for (auto j = from[1]; j <= to[1]; ++j)
                for (auto at = m_begin[from[0] + m_side * (j + m_side * k)]; at < m_begin[to[0] + m_side * (j + m_side * k) + 1]; ++at) {
                    const auto& place = m_places[m_sorted[at]];
                    bool inside = true;
                    for (std::size_t axis = 0; axis < 3; ++axis)
                        inside = inside && place[axis] >= low[axis] && place[axis] <= high[axis];
                    if (inside)
                        use(m_sorted[at]);
                }
    }

private:
    std::size_t step(double at, std::size_t axis) const {
        return static_cast<std::size_t>(std::clamp((at - m_low[axis]) * m_perMetre[axis], 0.0, static_cast<double>(m_side - 1)));
    }
    std::size_t binOf(const Point& place) const { return step(place[0], 0) + m_side * (step(place[1], 1) + m_side * step(place[2], 2)); }

    std::span<const Point> m_places;
    Point m_low{};
    Point m_high{};
    std::array<double, 3> m_perMetre{};
    std::size_t m_side = 1;
    std::vector<std::uint32_t> m_begin;  // per bin: first in m_sorted
    std::vector<std::uint32_t> m_sorted; // places, bin after bin
};

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

CellFrame::CellFrame(const Region& part, std::uint32_t cell)
    : m_cell(cell), m_type(part.mesh.type(cell)), m_corners(static_cast<std::uint8_t>(cellShape(m_type)->corners)), m_local(middleOf(m_type)) {
    const auto ids = part.mesh.cell(cell);
    for (std::size_t i = 0; i < m_corners; ++i) {
        m_node[i] = ids[i];
        m_at[i] = part.mesh.node(ids[i]);
    }
    if (m_corners != 4)
        return;
    const auto a = minus(m_at[1], m_at[0]);
    const auto b = minus(m_at[2], m_at[0]);
    const auto c = minus(m_at[3], m_at[0]);
    const double whole = volume(a, b, c);
    if (whole == 0) // without extent it holds nothing
        m_inverse[0].fill(std::nan(""));
    else
        m_inverse = {over(cross(b, c), whole), over(cross(c, a), whole), over(cross(a, b), whole)};
}

bool CellFrame::insideTetrahedron(const Point& place, Weights& weight) const {
    const auto x = minus(place, m_at[0]);
    weight[0] = 1;
    bool inside = true;
    for (std::size_t i = 0; i < 3; ++i) {
        weight[i + 1] = m_inverse[i][0] * x[0] + m_inverse[i][1] * x[1] + m_inverse[i][2] * x[2];
        weight[0] -= weight[i + 1];
        inside = inside && weight[i + 1] >= -slack;
    }
    return inside && weight[0] >= -slack;
}

bool CellFrame::weightsAt(const Point& place, Weights& weight) {
    switch (m_type) {
    case CellType::Hexahedron:
    case CellType::QuadraticHexahedron:
        if (byNewton(m_at, 8, hexahedronShape, inUnitCube, m_local, place, weight))
            return true;
        break;
    case CellType::Wedge:
        if (byNewton(m_at, 6, wedgeShape, inUnitWedge, m_local, place, weight))
            return true;
        break;
    case CellType::Pyramid:
        return inTetrahedron(m_at, {0, 1, 2, 4}, place, weight) || inTetrahedron(m_at, {0, 2, 3, 4}, place, weight);
    default:
        return insideTetrahedron(place, weight);
    }
    m_local = middleOf(m_type); // what lies outside is no start for the next search
    return false;
}

double CellFrame::size() const {
    Point low = m_at[0];
    Point high = m_at[0];
    for (std::size_t i = 1; i < m_corners; ++i)
        for (std::size_t axis = 0; axis < 3; ++axis) {
            low[axis] = std::min(low[axis], m_at[i][axis]);
            high[axis] = std::max(high[axis], m_at[i][axis]);
        }
    return std::cbrt((high[0] - low[0]) * (high[1] - low[1]) * (high[2] - low[2]));
}

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
    if (to - from == 1)
        return m_tree[node] = {m_order.blocks[from].low, m_order.blocks[from].high};
    const auto middle = from + (to - from) / 2;
    auto box = build(2 * node + 1, from, middle);
    const auto other = build(2 * node + 2, middle, to);
    for (std::size_t axis = 0; axis < 3; ++axis) {
        box.low[axis] = std::min(box.low[axis], other.low[axis]);
        box.high[axis] = std::max(box.high[axis], other.high[axis]);
    }
    return m_tree[node] = box;
}

std::optional<CellPlace> PointLocator::within(std::uint32_t cell, const Point& place) const {
    CellFrame frame(m_part, cell);
    CellPlace found{cell, {}, static_cast<std::uint8_t>(frame.corners().size())};
    return frame.weightsAt(place, found.weight) ? std::optional(found) : std::nullopt;
}

// Rounded outwards, and widened a little: warped faces bulge.
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
        for (std::size_t axis = 0; axis < 3; ++axis) {
            float low = node[corners[0]][axis];
            float high = low;
            for (std::size_t corner = 1; corner < count; ++corner) {
                low = std::min(low, node[corners[corner]][axis]);
                high = std::max(high, node[corners[corner]][axis]);
            }
            const float reach = 2e-3F * (high - low) + 0.01F;
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

std::optional<CellPlace> PointLocator::inBlock(std::size_t at, const Point& place) const {
    ByteBoxes own;
    const auto& boxes = boxesOf(at, own);
    const Steps steps(m_order.blocks[at]);
    std::array<std::uint8_t, 3> step{};
    for (std::size_t axis = 0; axis < 3; ++axis)
        step[axis] = static_cast<std::uint8_t>(std::clamp(std::floor(steps.of(place[axis], axis)), 0.0F, 255.0F));
    std::array<std::uint8_t, lanes> near;
    for (std::size_t i = 0; i < lanes; ++i)
        near[i] = static_cast<std::uint8_t>((boxes[0][i] <= step[0]) & (boxes[1][i] >= step[0]) & (boxes[2][i] <= step[1]) &
                                            (boxes[3][i] >= step[1]) & (boxes[4][i] <= step[2]) & (boxes[5][i] >= step[2]));
    const auto block = m_order.block(at);
    for (std::size_t i = 0; i < block.cells.size(); ++i)
        if (near[i] != 0)
            if (auto found = within(block.cells[i], place))
                return found;
    return std::nullopt;
}

std::optional<CellPlace> PointLocator::find(const Point& place) const {
    struct Span {
        std::uint32_t node;
        std::uint32_t from;
        std::uint32_t to;
    };
    std::array<Span, 64> waiting;
    std::size_t count = 0;
    if (!m_order.blocks.empty())
        waiting[count++] = {0, 0, static_cast<std::uint32_t>(m_order.blocks.size())};
    while (count > 0) {
        const auto [node, from, to] = waiting[--count];
        if (!holds(m_tree[node], place))
            continue;
        if (to - from == 1) {
            if (auto found = inBlock(from, place))
                return found;
            continue;
        }
        const auto middle = from + (to - from) / 2;
        waiting[count++] = {2 * node + 2, middle, to};
        waiting[count++] = {2 * node + 1, from, middle};
    }
    return std::nullopt;
}

std::vector<std::optional<CellPlace>> locateAll(const Region& part, std::span<const Point> places) {
    constexpr std::uint32_t nowhere = ~0U;
    const PlaceGrid grid(places);
    std::vector<std::atomic<std::uint32_t>> holder(places.size());
    for (auto& one : holder)
        one.store(nowhere, std::memory_order_relaxed);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, part.mesh.cells(), 1 << 13), [&](const auto& range) {
        for (auto cell = range.begin(); cell != range.end(); ++cell)
            grid.forNear(part, cell, [&](std::uint32_t place) {
                const auto number = static_cast<std::uint32_t>(cell);
                Weights weight;
                // Of several cells the lowest number is told, whatever the order in which threads come by.
                auto before = holder[place].load(std::memory_order_relaxed);
                if (number < before && CellFrame(part, number).weightsAt(places[place], weight))
                    while (number < before && !holder[place].compare_exchange_weak(before, number, std::memory_order_relaxed)) {
                    }
            });
    });
    std::vector<std::optional<CellPlace>> found(places.size());
    tbb::parallel_for(std::size_t{0}, places.size(), [&](std::size_t i) {
        const auto cell = holder[i].load(std::memory_order_relaxed);
        if (cell == nowhere)
            return;
        CellFrame frame(part, cell);
        CellPlace place{cell, {}, static_cast<std::uint8_t>(frame.corners().size())};
        if (frame.weightsAt(places[i], place.weight))
            found[i] = place;
    });
    return found;
}

double valueAt(const Region& part, const CellPlace& place, const RealView& values, std::size_t components, std::size_t component) {
    const auto ids = part.mesh.cell(place.cell);
    double sum = 0;
    for (std::size_t i = 0; i < place.corners; ++i)
        sum += place.weight[i] * values[components * ids[i] + component];
    return sum;
}

} // namespace pyro
