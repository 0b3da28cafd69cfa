#include "core/field/cell_lattice.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <mutex>

namespace pyro {
namespace {

using Step = std::array<int, 3>;

constexpr std::array<Step, 8> cube{
    {{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}, {0, 0, 1}, {1, 0, 1}, {1, 1, 1}, {0, 1, 1}}};
constexpr std::array<Step, 4> simplex{{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}}};
constexpr std::array<Step, 6> prism{{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {1, 0, 1}, {0, 1, 1}}};

std::span<const Step> cornersOfUnit(CellType type) {
    switch (type) {
    case CellType::CurvedTriangle:
        return std::span(simplex).first(3);
    case CellType::CurvedQuad:
        return std::span(cube).first(4);
    case CellType::CurvedTetrahedron:
        return simplex;
    case CellType::CurvedWedge:
        return prism;
    default:
        return cube;
    }
}

Step plus(const Step& a, const Step& b, int by = 1) { return {a[0] + by * b[0], a[1] + by * b[1], a[2] + by * b[2]}; }

// Lagrange polynomials on 0, 1/p ... 1 and their slopes.
struct Line {
    std::array<double, CellLattice::highestOrder + 1> value;
    std::array<double, CellLattice::highestOrder + 1> slope;
};
Line lagrange(int order, double at) {
    Line line;
    for (int i = 0; i <= order; ++i) {
        double value = 1;
        double slope = 0;
        for (int k = 0; k <= order; ++k) {
            if (k == i)
                continue;
            const double width = static_cast<double>(i - k) / order;
            const double factor = (at - static_cast<double>(k) / order) / width;
            slope = slope * factor + value / width;
            value *= factor;
        }
        line.value[static_cast<std::size_t>(i)] = value;
        line.slope[static_cast<std::size_t>(i)] = slope;
    }
    return line;
}

// The factors of the shape functions of triangles and tetrahedra in one of their coordinates L (Silvester 1969): the
// product of (p L - k) / (k + 1) for k below i.
Line silvester(int order, double at) {
    Line line;
    line.value[0] = 1;
    line.slope[0] = 0;
    for (int i = 0; i < order; ++i) {
        const auto n = static_cast<std::size_t>(i);
        const double factor = (order * at - i) / (i + 1);
        line.value[n + 1] = line.value[n] * factor;
        line.slope[n + 1] = line.slope[n] * factor + line.value[n] * order / (i + 1);
    }
    return line;
}

} // namespace

std::size_t CellLattice::nodesOf(CellType type, int order) {
    const auto n = static_cast<std::size_t>(order) + 1;
    switch (type) {
    case CellType::CurvedTriangle:
        return n * (n + 1) / 2;
    case CellType::CurvedQuad:
        return n * n;
    case CellType::CurvedTetrahedron:
        return n * (n + 1) * (n + 2) / 6;
    case CellType::CurvedWedge:
        return n * n * (n + 1) / 2;
    default:
        return n * n * n;
    }
}

const CellLattice* CellLattice::of(CellType type, std::size_t nodes) {
    static std::mutex guard;
    // as long as the program
    static std::array<std::array<std::atomic<const CellLattice*>, highestOrder + 1>, 5> made{};
    if (!isCurved(type) || type > CellType::CurvedWedge)
        return nullptr;
    for (int order = 2; order <= highestOrder; ++order)
        if (nodesOf(type, order) == nodes) {
            auto& slot = made[static_cast<std::size_t>(type) - static_cast<std::size_t>(CellType::CurvedTriangle)]
                             [static_cast<std::size_t>(order)];
            if (const auto* known = slot.load(std::memory_order_acquire)) // asked for each cell: no lock then
                return known;
            const std::lock_guard lock(guard);
            if (slot.load(std::memory_order_relaxed) == nullptr)
                slot.store(new CellLattice(type, order), std::memory_order_release);
            return slot.load(std::memory_order_relaxed);
        }
    return nullptr;
}

CellLattice::CellLattice(CellType type, int order) : m_type(type), m_order(order) {
    const auto side = static_cast<std::size_t>(order) + 1;
    m_node.assign(dimension() == 3 ? side * side * side : side * side, 0xffff);
    for (const auto& corner : cornersOfUnit(type))
        m_at.push_back({order * corner[0], order * corner[1], order * corner[2]});
    const auto corners = m_at;
    for (int k = 0; k <= (dimension() == 3 ? order : 0); ++k)
        for (int j = 0; j <= order; ++j)
            for (int i = 0; i <= order; ++i)
                if (const Step at{i, j, k}; within(at) && std::ranges::find(corners, at) == corners.end())
                    m_at.push_back(at);
    for (std::size_t node = 0; node < m_at.size(); ++node)
        m_node[slotOf(m_at[node])] = static_cast<std::uint16_t>(node);
    if (dimension() == 3) {
        addSolidPieces();
        addFacePieces();
    } else {
        addSurfacePieces();
    }
    addEdges();
}

int CellLattice::dimension() const {
    return m_type == CellType::CurvedTriangle || m_type == CellType::CurvedQuad ? 2 : 3;
}

bool CellLattice::within(const Step& at) const {
    if (std::ranges::any_of(at, [&](int one) { return one < 0 || one > m_order; }))
        return false;
    switch (m_type) {
    case CellType::CurvedTriangle:
    case CellType::CurvedWedge:
        return at[0] + at[1] <= m_order;
    case CellType::CurvedTetrahedron:
        return at[0] + at[1] + at[2] <= m_order;
    default:
        return true;
    }
}

std::size_t CellLattice::slotOf(const Step& at) const {
    const auto side = static_cast<std::size_t>(m_order) + 1;
    return static_cast<std::size_t>(at[0]) +
           side * (static_cast<std::size_t>(at[1]) + side * static_cast<std::size_t>(at[2]));
}

std::uint16_t CellLattice::nodeAt(const Step& step) const { return m_node[slotOf(step)]; }

LocalPoint CellLattice::place(std::size_t node) const {
    const auto& at = m_at[node];
    return {static_cast<double>(at[0]) / m_order, static_cast<double>(at[1]) / m_order,
            static_cast<double>(at[2]) / m_order};
}

LocalPoint CellLattice::centre() const {
    LocalPoint sum{};
    const auto corners = cornersOfUnit(m_type);
    for (const auto& corner : corners)
        for (std::size_t axis = 0; axis < 3; ++axis)
            sum[axis] += static_cast<double>(corner[axis]) / static_cast<double>(corners.size());
    return sum;
}

bool CellLattice::holds(const LocalPoint& at, double hair) const {
    const auto low = [&](double value) { return value >= -hair; };
    const auto between = [&](double value) { return value >= -hair && value <= 1 + hair; };
    switch (m_type) {
    case CellType::CurvedTriangle:
        return low(at[0]) && low(at[1]) && at[0] + at[1] <= 1 + hair;
    case CellType::CurvedTetrahedron:
        return low(at[0]) && low(at[1]) && low(at[2]) && at[0] + at[1] + at[2] <= 1 + hair;
    case CellType::CurvedWedge:
        return low(at[0]) && low(at[1]) && at[0] + at[1] <= 1 + hair && between(at[2]);
    default:
        return between(at[0]) && between(at[1]) && (dimension() == 2 || between(at[2]));
    }
}

void CellLattice::shape(const LocalPoint& at, std::span<double> value, std::span<LocalPoint> slope) const {
    // Factors of the product for each node: which line, which entry, and how the line's coordinate changes along r, s,
    // t.
    std::array<Line, 4> line;
    const bool barycentric = m_type == CellType::CurvedTriangle || m_type == CellType::CurvedTetrahedron;
    const bool wedge = m_type == CellType::CurvedWedge;
    const std::size_t lines = barycentric ? (dimension() == 3 ? 4 : 3)
                              : wedge     ? 4
                                          : static_cast<std::size_t>(dimension());
    if (barycentric || wedge) {
        const double rest = 1 - at[0] - at[1] - (m_type == CellType::CurvedTetrahedron ? at[2] : 0);
        line[0] = silvester(m_order, rest);
        line[1] = silvester(m_order, at[0]);
        line[2] = silvester(m_order, at[1]);
        if (lines == 4)
            line[3] = wedge ? lagrange(m_order, at[2]) : silvester(m_order, at[2]);
    } else {
        for (std::size_t axis = 0; axis < lines; ++axis)
            line[axis] = lagrange(m_order, at[axis]);
    }
    // d(coordinate of the line) / d(r, s, t)
    static constexpr std::array<LocalPoint, 4> ofTetrahedron{{{-1, -1, -1}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}}};
    static constexpr std::array<LocalPoint, 4> ofTriangle{{{-1, -1, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}}};
    static constexpr std::array<LocalPoint, 4> ofCube{{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0, 0, 0}}};
    const auto& along = m_type == CellType::CurvedTetrahedron ? ofTetrahedron
                        : barycentric || wedge                ? ofTriangle
                                                              : ofCube;
    for (std::size_t node = 0; node < m_at.size(); ++node) {
        const auto& step = m_at[node];
        std::array<int, 4> entry{step[0], step[1], step[2], 0};
        if (barycentric || wedge)
            entry = {m_order - step[0] - step[1] - (m_type == CellType::CurvedTetrahedron ? step[2] : 0), step[0],
                     step[1], step[2]};
        double product = 1;
        LocalPoint sum{};
        for (std::size_t i = 0; i < lines; ++i) {
            const auto n = static_cast<std::size_t>(entry[i]);
            const double factor = line[i].value[n];
            for (std::size_t axis = 0; axis < 3; ++axis)
                sum[axis] = sum[axis] * factor + product * line[i].slope[n] * along[i][axis];
            product *= factor;
        }
        value[node] = product;
        if (!slope.empty())
            slope[node] = sum;
    }
}

void CellLattice::addSolidPieces() {
    const auto add = [&](CellType type, std::initializer_list<Step> steps) {
        Piece piece{type, static_cast<std::uint8_t>(steps.size()), {}};
        std::ranges::transform(steps, piece.node.begin(), [&](const Step& step) { return nodeAt(step); });
        m_pieces.push_back(piece);
    };
    const auto forSteps = [&](auto use) {
        for (int k = 0; k < m_order; ++k)
            for (int j = 0; j < m_order; ++j)
                for (int i = 0; i < m_order; ++i)
                    use(Step{i, j, k});
    };
    const auto up = [](const Step& at, int i, int j, int k) { return plus(at, {i, j, k}); };
    if (m_type == CellType::CurvedHexahedron)
        forSteps([&](const Step& at) {
            add(CellType::Hexahedron, {at, up(at, 1, 0, 0), up(at, 1, 1, 0), up(at, 0, 1, 0), up(at, 0, 0, 1),
                                       up(at, 1, 0, 1), up(at, 1, 1, 1), up(at, 0, 1, 1)});
        });
    if (m_type == CellType::CurvedWedge)
        forSteps([&](const Step& at) {
            if (at[0] + at[1] < m_order)
                add(CellType::Wedge,
                    {at, up(at, 1, 0, 0), up(at, 0, 1, 0), up(at, 0, 0, 1), up(at, 1, 0, 1), up(at, 0, 1, 1)});
            if (at[0] + at[1] < m_order - 1)
                add(CellType::Wedge, {up(at, 1, 1, 0), up(at, 0, 1, 0), up(at, 1, 0, 0), up(at, 1, 1, 1),
                                      up(at, 0, 1, 1), up(at, 1, 0, 1)});
        });
    if (m_type == CellType::CurvedTetrahedron)
        forSteps([&](const Step& at) {
            const int sum = at[0] + at[1] + at[2];
            if (sum < m_order)
                add(CellType::Tetrahedron, {at, up(at, 1, 0, 0), up(at, 0, 1, 0), up(at, 0, 0, 1)});
            if (sum < m_order - 1) { // an octahedron, by the diagonal from (1, 0, 0) to (0, 1, 1)
                const std::array<Step, 4> ring{up(at, 0, 1, 0), up(at, 1, 1, 0), up(at, 1, 0, 1), up(at, 0, 0, 1)};
                for (std::size_t i = 0; i < 4; ++i)
                    add(CellType::Tetrahedron, {up(at, 1, 0, 0), ring[(i + 1) % 4], ring[i], up(at, 0, 1, 1)});
            }
            if (sum < m_order - 2)
                add(CellType::Tetrahedron, {up(at, 1, 1, 0), up(at, 0, 1, 1), up(at, 1, 0, 1), up(at, 1, 1, 1)});
        });
}

void CellLattice::addSurfacePieces() {
    const bool triangle = m_type == CellType::CurvedTriangle;
    for (int j = 0; j < m_order; ++j)
        for (int i = 0; i < m_order; ++i) {
            const auto at = [&](int di, int dj) { return nodeAt({i + di, j + dj, 0}); };
            if (!triangle) {
                m_pieces.push_back({CellType::Quad, 4, {at(0, 0), at(1, 0), at(1, 1), at(0, 1)}});
                continue;
            }
            if (i + j < m_order)
                m_pieces.push_back({CellType::Triangle, 3, {at(0, 0), at(1, 0), at(0, 1)}});
            if (i + j < m_order - 1)
                m_pieces.push_back({CellType::Triangle, 3, {at(1, 1), at(0, 1), at(1, 0)}});
        }
}

void CellLattice::addFacePieces() {
    const auto faces = cellShape(m_type)->faces;
    const auto count = static_cast<std::uint8_t>(faces.size());
    for (std::uint8_t face = 0; face < count; ++face) {
        const auto& ring = faces[face];
        const auto origin = m_at[ring.node[0]];
        const auto towards = [&](std::size_t corner) { // one step of the lattice
            auto step = plus(m_at[ring.node[corner]], origin, -1);
            for (auto& one : step)
                one /= m_order;
            return step;
        };
        const auto u = towards(1);
        const auto v = towards(ring.count - 1U);
        const auto at = [&](int i, int j) { return nodeAt(plus(plus(origin, u, i), v, j)); };
        for (int j = 0; j < m_order; ++j)
            for (int i = 0; i < m_order; ++i) {
                if (ring.count == 4) {
                    m_facePieces.push_back({face, 4, {at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)}});
                    continue;
                }
                if (i + j < m_order)
                    m_facePieces.push_back({face, 3, {at(i, j), at(i + 1, j), at(i, j + 1), 0}});
                if (i + j < m_order - 1)
                    m_facePieces.push_back({face, 3, {at(i + 1, j + 1), at(i, j + 1), at(i + 1, j), 0}});
            }
    }
}

void CellLattice::addEdges() {
    const auto add = [&](std::uint16_t a, std::uint16_t b) { m_edges.push_back({std::min(a, b), std::max(a, b)}); };
    for (const auto& piece : m_pieces) {
        const auto* shape = cellShape(piece.type);
        if (shape->faces.empty())
            for (std::size_t i = 0; i < piece.count; ++i)
                add(piece.node[i], piece.node[(i + 1) % piece.count]);
        for (const auto& face : shape->faces)
            for (std::size_t i = 0; i < face.count; ++i)
                add(piece.node[face.node[i]], piece.node[face.node[(i + 1) % face.count]]);
    }
    std::ranges::sort(m_edges);
    m_edges.erase(std::unique(m_edges.begin(), m_edges.end()), m_edges.end());
}

} // namespace pyro
