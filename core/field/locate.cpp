#include "core/field/locate.h"

#include <algorithm>
#include <cmath>
#include <cstring>
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
double dot(const Point& a, const Point& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; }
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
// mapAt(local, rest, column): what is left to the point there, and the slopes along the local coordinates.
template <class MapAt> bool byNewton(MapAt mapAt, Point& local) {
    for (int round = 0; round < 12; ++round) {
        Point rest;
        std::array<Point, 3> column;
        mapAt(local, rest, column);
        const auto cross12 = cross(column[1], column[2]);
        const double whole = dot(column[0], cross12);
        if (whole == 0)
            return false;
        const auto cross0 = cross(rest, column[0]);
        const double share = 1 / whole;
        const Point by{dot(rest, cross12) * share, -dot(cross0, column[2]) * share, dot(cross0, column[1]) * share};
        double size = 0;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            local[axis] += by[axis];
            size = std::max(size, std::abs(by[axis]));
        }
        if (!(size < 10)) // far outside, or not a number
            return false;
        // The error squares from round to round: after a step this small the next would change nothing.
        if (size < 1e-7)
            return true;
        // A point whose first steps lead well out of the cell is not in it.
        if (round == 1 && std::ranges::any_of(local, [](double l) { return l < -0.5 || l > 1.5; }))
            return false;
    }
    return true;
}

Weights hexahedronWeights(const Point& local) {
    const auto [r, s, t] = local;
    const std::array<double, 4> flat{(1 - r) * (1 - s), r * (1 - s), r * s, (1 - r) * s};
    Weights weight;
    for (std::size_t i = 0; i < 4; ++i) {
        weight[i] = flat[i] * (1 - t);
        weight[i + 4] = flat[i] * t;
    }
    return weight;
}

void wedgeMap(const Corners& p, const Point& at, const Point& local, Point& rest, std::array<Point, 3>& column) {
    const auto shape = wedgeShape(local);
    rest = at;
    column = {};
    for (std::size_t i = 0; i < 6; ++i)
        for (std::size_t axis = 0; axis < 3; ++axis) {
            rest[axis] -= shape.value[i] * p[i][axis];
            for (std::size_t direction = 0; direction < 3; ++direction)
                column[direction][axis] += shape.slope[i][direction] * p[i][axis];
        }
}

constexpr auto between = [](double value) { return value >= -slack && value <= 1 + slack; };
constexpr auto inUnitCube = [](const Point& l) { return between(l[0]) && between(l[1]) && between(l[2]); };
constexpr auto inUnitWedge = [](const Point& l) { return l[0] >= -slack && l[1] >= -slack && l[0] + l[1] <= 1 + slack && between(l[2]); };

Point middleOf(CellType type) {
    return type == CellType::Wedge ? Point{1.0 / 3, 1.0 / 3, 0.5} : Point{0.5, 0.5, 0.5};
}

// Places sorted into the bins of a grid over their own box, and their steps of it, 32 768 along each axis.
class PlaceGrid {
public:
    // Along x, y, z; -1: below the box, the largest: above. Four numbers that the processor compares at once.
    using Steps = std::int16_t __attribute__((vector_size(8)));

    explicit PlaceGrid(std::span<const Point> places) : m_sorted(places.size()), m_sortedSteps(places.size()) {
        m_low.fill(INFINITY);
        Point high;
        high.fill(-INFINITY);
        for (const auto& place : places)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                m_low[axis] = std::min(m_low[axis], place[axis]);
                high[axis] = std::max(high[axis], place[axis]);
            }
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const double hair = 1e-9 * std::max({std::abs(m_low[axis]), std::abs(high[axis]), high[axis] - m_low[axis]}) + 1e-300;
            m_low[axis] -= hair;
            m_perMetre[axis] = above / (high[axis] + hair - m_low[axis]);
        }
        while (m_bits < 7 && (std::size_t{1} << (3 * (m_bits + 1))) < 8 * places.size())
            ++m_bits;
        m_shift = 15 - m_bits;
        m_begin.assign((std::size_t{1} << (3 * m_bits)) + 1, 0);
        RawVector<Steps> steps(places.size());
        for (std::size_t i = 0; i < places.size(); ++i) {
            steps[i] = stepsOf(places[i]);
            ++m_begin[binOf(steps[i]) + 1];
        }
        for (std::size_t bin = 1; bin < m_begin.size(); ++bin)
            m_begin[bin] += m_begin[bin - 1];
        auto next = m_begin;
        for (std::size_t i = 0; i < places.size(); ++i) {
            const auto to = next[binOf(steps[i])]++;
            m_sorted[to] = static_cast<std::uint32_t>(i);
            m_sortedSteps[to] = steps[i];
        }
    }

    Steps stepsOf(const Point& at) const {
        Steps steps{};
        for (std::size_t axis = 0; axis < 3; ++axis)
            steps[axis] = static_cast<std::int16_t>(std::min(std::max((at[axis] - m_low[axis]) * m_perMetre[axis], -1.0), above));
        return steps;
    }

    // use(place) for those from low to high, a step's reach to both sides.
    template <class Use> void forWithin(Steps low, Steps high, Use use) const {
        if (low[0] == last || low[1] == last || low[2] == last || high[0] < 0 || high[1] < 0 || high[2] < 0)
            return;
        constexpr Steps one{1, 1, 1, 0};
        constexpr Steps least{0, 0, 0, 0};
        constexpr Steps most{last - 1, last - 1, last - 1, 0};
        low = low > least ? low - one : least;
        high = high < most ? high + one : most;
        const auto from = low >> m_shift;
        const auto to = high >> m_shift;
        for (int k = from[2]; k <= to[2]; ++k)
            for (int j = from[1]; j <= to[1]; ++j) {
                const int row = (j + (k << m_bits)) << m_bits;
                const auto end = m_begin[static_cast<std::size_t>(to[0] + row + 1)];
                for (auto at = m_begin[static_cast<std::size_t>(from[0] + row)]; at < end; ++at) {
                    const auto out = (m_sortedSteps[at] < low) | (m_sortedSteps[at] > high);
                    if ((out[0] | out[1] | out[2]) == 0)
                        use(m_sorted[at]);
                }
            }
    }

    // Places in the order of their bins: neighbours follow each other.
    std::span<const std::uint32_t> sorted() const { return m_sorted; }

private:
    static constexpr std::int16_t last = 32767;
    static constexpr double above = last;

    std::size_t binOf(const Steps& steps) const {
        const auto bin = steps >> m_shift;
        return static_cast<std::size_t>(bin[0] + ((bin[1] + (bin[2] << m_bits)) << m_bits));
    }

    Point m_low{};
    std::array<double, 3> m_perMetre{};
    int m_bits = 0;  // bins along each axis: 2 to their power
    int m_shift = 0; // of steps, to bins
    std::vector<std::uint32_t> m_sorted; // places, bin after bin
    RawVector<Steps> m_sortedSteps;
    std::vector<std::uint32_t> m_begin;  // per bin: first in m_sorted
};

// The cells against the places: of several that hold a place the lowest number is told, whatever the order in which
// threads come by.
class HolderSearch {
public:
    static constexpr std::uint32_t nowhere = ~0U;

    HolderSearch(const Region& part, std::span<const Point> places)
        : m_part(part), m_places(places), m_grid(places), m_steps(part.mesh.nodes()), m_holder(places.size()) {}

    std::vector<std::atomic<std::uint32_t>>& run() {
        for (auto& one : m_holder)
            one.store(nowhere, std::memory_order_relaxed);
        const auto& mesh = m_part.mesh;
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.nodes(), 1 << 14), [&](const auto& range) {
            for (auto node = range.begin(); node != range.end(); ++node)
                m_steps[node] = m_grid.stepsOf(mesh.node(node));
        });
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.cells(), 1 << 13), [&](const auto& range) {
            const CellShape* shape = nullptr;
            for (auto cell = range.begin(); cell != range.end(); ++cell) {
                if (shape == nullptr || shape->type != mesh.type(cell))
                    shape = cellShape(mesh.type(cell));
                if (shape->dimension == 3)
                    look(static_cast<std::uint32_t>(cell), static_cast<std::size_t>(shape->corners));
            }
        });
        return m_holder;
    }

private:
    void look(std::uint32_t cell, std::size_t corners) {
        const auto ids = m_part.mesh.cell(cell);
        auto low = m_steps[ids[0]];
        auto high = low;
        for (std::size_t i = 1; i < corners; ++i) {
            const auto step = m_steps[ids[i]];
            low = low < step ? low : step;
            high = high > step ? high : step;
        }
        m_grid.forWithin(low, high, [&](std::uint32_t place) {
            auto before = m_holder[place].load(std::memory_order_relaxed);
            Weights weight;
            if (cell >= before || !CellFrame(m_part, cell).weightsAt(m_places[place], weight))
                return;
            while (cell < before && !m_holder[place].compare_exchange_weak(before, cell, std::memory_order_relaxed)) {
            }
        });
    }

    const Region& m_part;
    std::span<const Point> m_places;
    PlaceGrid m_grid;
    RawVector<PlaceGrid::Steps> m_steps; // per node
    std::vector<std::atomic<std::uint32_t>> m_holder;
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

Trilinear trilinear(const std::array<Point, 8>& p) {
    Trilinear map;
    auto& of = map.of;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const auto c = [&](std::size_t corner) { return p[corner][axis]; };
        of[0][axis] = c(0);
        of[1][axis] = c(1) - c(0);
        of[2][axis] = c(3) - c(0);
        of[3][axis] = c(4) - c(0);
        of[4][axis] = c(2) - c(3) - of[1][axis];
        of[5][axis] = c(7) - c(4) - of[2][axis];
        of[6][axis] = c(5) - c(4) - of[1][axis];
        of[7][axis] = c(6) - c(7) - (c(5) - c(4)) - of[4][axis];
    }
    return map;
}

void Trilinear::map(const Point& at, const Point& local, Point& rest, std::array<Point, 3>& column) const {
    const auto [r, s, t] = local;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double alongR = of[1][axis] + s * of[4][axis] + t * (of[6][axis] + s * of[7][axis]);
        rest[axis] = at[axis] - of[0][axis] - r * alongR - s * of[2][axis] - t * (of[3][axis] + s * of[5][axis]);
        column[0][axis] = alongR;
        column[1][axis] = of[2][axis] + r * of[4][axis] + t * (of[5][axis] + r * of[7][axis]);
        column[2][axis] = of[3][axis] + r * of[6][axis] + s * (of[5][axis] + r * of[7][axis]);
    }
}

CellFrame::CellFrame(const Region& part, std::uint32_t cell)
    : m_cell(cell), m_type(part.mesh.type(cell)), m_corners(static_cast<std::uint8_t>(cellShape(m_type)->corners)), m_local(middleOf(m_type)) {
    const auto ids = part.mesh.cell(cell);
    for (std::size_t i = 0; i < m_corners; ++i) {
        m_node[i] = ids[i];
        m_at[i] = part.mesh.node(ids[i]);
    }
    if (m_corners == 8)
        m_map = trilinear(m_at);
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
        if (byNewton([&](const Point& local, Point& rest, auto& column) { m_map.map(place, local, rest, column); }, m_local) && inUnitCube(m_local)) {
            weight = hexahedronWeights(m_local);
            return true;
        }
        break;
    case CellType::Wedge:
        if (byNewton([&](const Point& local, Point& rest, auto& column) { wedgeMap(m_at, place, local, rest, column); }, m_local) && inUnitWedge(m_local)) {
            weight = wedgeShape(m_local).value;
            return true;
        }
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
    if (to - from == 1) {
        Box box{};
        for (int axis = 0; axis < 3; ++axis) { // a point in the slack around a cell is found too, and so is one rounded to a float
            const float low = m_order.blocks[from].low[static_cast<std::size_t>(axis)];
            const float high = m_order.blocks[from].high[static_cast<std::size_t>(axis)];
            const float reach = 2e-6F * (high - low) + 2e-7F * std::max(std::abs(low), std::abs(high));
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

std::optional<CellFrame> PointLocator::inBlock(std::size_t at, const Point& place, Weights& weight) const {
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
    found.corners = static_cast<std::uint8_t>(frame->corners().size());
    return found;
}

bool PointLocator::mayHold(std::size_t node, const FourFloats& at) const {
    const auto out = (at < m_tree[node].low) | (at > m_tree[node].high);
    return (out[0] | out[1] | out[2]) == 0;
}

std::optional<CellFrame> PointLocator::frameAt(const Point& place, Weights& weight, std::uint32_t& block) const {
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

std::vector<double> sampleAll(const Region& part, const PointLocator& locator, const RealView& values, std::span<const Point> places) {
    std::vector<double> sampled(places.size(), std::nan(""));
    const PlaceGrid grid(places);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, places.size(), 256), [&](const auto& range) {
        for (auto i = range.begin(); i != range.end(); ++i) {
            const auto at = grid.sorted()[i];
            if (const auto place = locator.find(places[at]))
                sampled[at] = valueAt(part, *place, values);
        }
    });
    return sampled;
}

std::vector<double> sampleAll(const Region& part, const RealView& values, std::span<const Point> places) {
    HolderSearch search(part, places);
    const auto& holder = search.run();
    std::vector<double> sampled(places.size(), std::nan(""));
    tbb::parallel_for(std::size_t{0}, places.size(), [&](std::size_t i) {
        const auto cell = holder[i].load(std::memory_order_relaxed);
        if (cell == HolderSearch::nowhere)
            return;
        CellFrame frame(part, cell);
        CellPlace place{cell, {}, static_cast<std::uint8_t>(frame.corners().size())};
        if (frame.weightsAt(places[i], place.weight))
            sampled[i] = valueAt(part, place, values);
    });
    return sampled;
}

double valueAt(const Region& part, const CellPlace& place, const RealView& values, std::size_t components, std::size_t component) {
    const auto ids = part.mesh.cell(place.cell);
    double sum = 0;
    for (std::size_t i = 0; i < place.corners; ++i)
        sum += place.weight[i] * values[components * ids[i] + component];
    return sum;
}

} // namespace pyro
