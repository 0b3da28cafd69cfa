#include "render/surface_builder.h"

#include "core/field/face_lookup.h"
#include "core/field/straight_pieces.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <tbb/parallel_sort.h>
#include <unordered_map>

namespace pyro {
namespace {

constexpr double unseenBend = 3e-4;                   // of the part's size: pieces that bend less are drawn straight
constexpr std::size_t mostDivision = 8;               // of each side of a piece
constexpr std::size_t mostTrianglesDivided = 300'000; // of a part: what is finer than that is fine enough

class SurfaceBuilder {
public:
    SurfaceBuilder(const Region& part, const ShellView& shell)
        : m_part(part), m_shell(shell), m_number(part.mesh.nodes(), -1) {}

    PartSurface run(std::optional<std::size_t> wanted) {
        const auto division = wanted ? *wanted : divisionOf();
        m_out.division = division;
        if (division > 1) // so that nodes of the part come first
            for (const auto node : m_shell.nodes)
                number(node);
        for (std::size_t face = 0; face < m_shell.faces(); ++face) {
            if (const auto* lattice = division > 1 ? latticeOf(m_part.mesh, m_shell.cell[face]) : nullptr)
                addCurved(face, *lattice, division);
            else
                addFace(m_shell.face(face), m_shell.cell[face]);
            if (division > 1)
                m_out.face.resize(m_out.partCell.size(), static_cast<std::uint32_t>(face));
        }
        keepSharpEdges();
        return std::move(m_out);
    }

private:
    struct EdgeOfFace {
        std::uint64_t key; // both nodes of the surface, the lower one first
        std::uint32_t face;
    };

    // One for the whole part, so that pieces still meet; 1: none.
    std::size_t divisionOf() const {
        if (!hasCurved(m_part.mesh))
            return 1;
        double bend = 0;
        Point low{1e300, 1e300, 1e300};
        Point high{-1e300, -1e300, -1e300};
        std::size_t curved = 0;
        for (std::size_t face = 0; face < m_shell.faces(); ++face) {
            const auto ring = m_shell.face(face);
            for (const auto node : ring)
                for (std::size_t axis = 0; axis < 3; ++axis) {
                    low[axis] = std::min(low[axis], m_part.mesh.node(node)[axis]);
                    high[axis] = std::max(high[axis], m_part.mesh.node(node)[axis]);
                }
            if (const auto* lattice = latticeOf(m_part.mesh, m_shell.cell[face])) {
                ++curved;
                const auto local = localPlaces(ring, m_shell.cell[face], *lattice);
                for (std::size_t i = 0; i < ring.size(); ++i) {
                    const auto next = (i + 1) % ring.size();
                    bend = std::max(
                        bend, length(minus(placeIn(m_shell.cell[face], *lattice, between(local[i], local[next], 0.5)),
                                           between(m_part.mesh.node(ring[i]), m_part.mesh.node(ring[next]), 0.5))));
                }
            }
        }
        const double size = length(minus(high, low));
        // 2: for what the field does within a piece
        auto wanted = static_cast<std::size_t>(
            std::clamp(std::ceil(std::sqrt(bend / (unseenBend * size))), 2.0, static_cast<double>(mostDivision)));
        while (wanted > 1 && 2 * curved * wanted * wanted > mostTrianglesDivided)
            --wanted;
        return wanted;
    }

    static Point between(const Point& a, const Point& b, double share) {
        Point out{};
        for (std::size_t axis = 0; axis < 3; ++axis)
            out[axis] = (1 - share) * a[axis] + share * b[axis];
        return out;
    }

    std::vector<LocalPoint> localPlaces(std::span<const std::uint32_t> ring, std::uint32_t cell,
                                        const CellLattice& lattice) const {
        const auto ids = m_part.mesh.cell(cell);
        std::vector<LocalPoint> out;
        for (const auto node : ring)
            out.push_back(lattice.place(static_cast<std::size_t>(std::ranges::find(ids, node) - ids.begin())));
        return out;
    }

    Point placeIn(std::uint32_t cell, const CellLattice& lattice, const LocalPoint& at) const {
        const auto ids = m_part.mesh.cell(cell);
        m_shape.resize(ids.size());
        lattice.shape(at, m_shape, {});
        Point out{};
        for (std::size_t i = 0; i < ids.size(); ++i) {
            const auto node = m_part.mesh.node(ids[i]);
            for (std::size_t axis = 0; axis < 3; ++axis)
                out[axis] += m_shape[i] * node[axis];
        }
        return out;
    }

    std::int32_t addNode(const Point& at) {
        m_at.push_back(at);
        for (const double one : at)
            m_out.points.push_back(static_cast<float>(one));
        return static_cast<std::int32_t>(m_at.size()) - 1;
    }

    std::int32_t number(std::uint32_t node) {
        auto& at = m_number[node];
        if (at < 0) {
            at = addNode(m_part.mesh.node(node));
            m_out.partNode.push_back(node);
        }
        return at;
    }

    // A place within a curved face. What it goes by is the same from either side of an edge, since there the nodes
    // beside it have no weight.
    std::int32_t blended(std::uint32_t cell, const CellLattice& lattice, const LocalPoint& local) {
        const auto at = placeIn(cell, lattice, local);
        const auto ids = m_part.mesh.cell(cell);
        std::vector<std::pair<std::uint32_t, long>> sources; // weights in millionths, to be compared
        for (std::size_t i = 0; i < ids.size(); ++i)
            if (const long weight = std::lround(1e6 * m_shape[i]); weight != 0)
                sources.emplace_back(ids[i], weight);
        if (sources.size() == 1)
            return number(sources.front().first);
        std::ranges::sort(sources);
        const auto [known, isNew] = m_blended.try_emplace(sources, 0);
        if (isNew) {
            known->second = addNode(at);
            for (std::size_t i = 0; i < ids.size(); ++i)
                if (std::abs(m_shape[i]) > 1e-7) {
                    m_out.blendNode.push_back(ids[i]);
                    m_out.blendWeight.push_back(static_cast<float>(m_shape[i]));
                }
            m_out.blendStart.push_back(static_cast<std::uint32_t>(m_out.blendNode.size()));
        }
        return known->second;
    }

    void addFace(std::span<const std::uint32_t> nodes, std::uint32_t cell) {
        m_ring.clear();
        for (const auto node : nodes)
            m_ring.push_back(number(node));
        addRing(cell);
    }

    // A piece in division x division parts, whose nodes lie on the curved face.
    void addCurved(std::size_t face, const CellLattice& lattice, std::size_t division) {
        const auto cell = m_shell.cell[face];
        const auto corner = localPlaces(m_shell.face(face), cell, lattice);
        const bool triangle = corner.size() == 3;
        const auto at = [&](std::size_t i, std::size_t j) {
            const double u = static_cast<double>(i) / static_cast<double>(division);
            const double v = static_cast<double>(j) / static_cast<double>(division);
            if (triangle) { // i along the first side, j along the last one
                LocalPoint local{};
                for (std::size_t axis = 0; axis < 3; ++axis)
                    local[axis] = (1 - u - v) * corner[0][axis] + u * corner[1][axis] + v * corner[2][axis];
                return blended(cell, lattice, local);
            }
            return blended(cell, lattice,
                           between(between(corner[0], corner[1], u), between(corner[3], corner[2], u), v));
        };
        for (std::size_t j = 0; j < division; ++j)
            for (std::size_t i = 0; i + (triangle ? j : 0) < division; ++i) {
                if (!triangle) {
                    m_ring = {at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)};
                    addRing(cell);
                    continue;
                }
                m_ring = {at(i, j), at(i + 1, j), at(i, j + 1)};
                addRing(cell);
                if (i + j + 1 < division) {
                    m_ring = {at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)};
                    addRing(cell);
                }
            }
    }

    void addRing(std::uint32_t cell) {
        for (std::size_t i = 1; i + 1 < m_ring.size(); ++i) {
            m_out.triangles.insert(m_out.triangles.end(), {m_ring[0], m_ring[i], m_ring[i + 1]});
            m_out.partCell.push_back(cell);
        }
        m_normals.push_back(normalOfRing());
        for (std::size_t i = 0; i < m_ring.size(); ++i) {
            const auto a = static_cast<std::uint64_t>(m_ring[i]);
            const auto b = static_cast<std::uint64_t>(m_ring[(i + 1) % m_ring.size()]);
            m_edges.push_back(
                {std::min(a, b) << 32 | std::max(a, b), static_cast<std::uint32_t>(m_normals.size() - 1)});
        }
    }

    std::array<float, 3> normalOfRing() const {
        const auto at = [&](std::size_t i) { return m_at[static_cast<std::size_t>(m_ring[i])]; };
        Point sum{};
        for (std::size_t i = 1; i + 1 < m_ring.size(); ++i) {
            const auto part = cross(minus(at(i), at(0)), minus(at(i + 1), at(0)));
            for (std::size_t axis = 0; axis < 3; ++axis)
                sum[axis] += part[axis];
        }
        const auto normal = unit(sum);
        return {static_cast<float>(normal[0]), static_cast<float>(normal[1]), static_cast<float>(normal[2])};
    }

    bool sharp(std::size_t from, std::size_t to) const {
        if (to - from != 2)
            return true;
        const auto& one = m_normals[m_edges[from].face];
        const auto& other = m_normals[m_edges[from + 1].face];
        return std::abs(one[0] * other[0] + one[1] * other[1] + one[2] * other[2]) < 0.866F;
    }

    // Sharp are edges of one face only, and those where faces meet at more than 30 degrees.
    void keepSharpEdges() {
        tbb::parallel_sort(m_edges.begin(), m_edges.end(), [](const EdgeOfFace& a, const EdgeOfFace& b) {
            return a.key != b.key ? a.key < b.key : a.face < b.face;
        });
        for (std::size_t from = 0, to = 0; from < m_edges.size(); from = to) {
            while (to < m_edges.size() && m_edges[to].key == m_edges[from].key)
                ++to;
            if (sharp(from, to)) {
                m_out.edges.push_back(static_cast<std::uint32_t>(m_edges[from].key >> 32));
                m_out.edges.push_back(static_cast<std::uint32_t>(m_edges[from].key & 0xffffffffU));
            }
        }
    }

    const Region& m_part;
    const ShellView& m_shell;
    std::vector<std::int32_t> m_number;
    std::vector<std::int32_t> m_ring; // of the face at hand, nodes of the surface
    std::vector<Point> m_at;          // per node of the surface
    std::map<std::vector<std::pair<std::uint32_t, long>>, std::int32_t> m_blended;
    std::vector<EdgeOfFace> m_edges;
    std::vector<std::array<float, 3>> m_normals; // per face
    mutable std::vector<double> m_shape;         // of the place asked for last
    PartSurface m_out;
};

} // namespace

PartSurface surfaceOf(const Region& part, const ShellView& shell) {
    return SurfaceBuilder(part, shell).run(std::nullopt);
}
PartSurface surfaceOf(const Region& part, const ShellView& faces, std::size_t division) {
    return SurfaceBuilder(part, faces).run(division);
}

namespace {

// Of the faces of a cell the one nearest to a place.
std::optional<std::size_t> faceNear(const Mesh& mesh, const ShellView& shell, std::uint32_t cell, const Point& at) {
    const auto [from, to] = std::ranges::equal_range(shell.cell, cell);
    std::optional<std::size_t> best;
    double least = 0;
    for (auto face = static_cast<std::size_t>(from - shell.cell.begin());
         face < static_cast<std::size_t>(to - shell.cell.begin()); ++face)
        if (const double away = squaredDistance(centroid(mesh, shell.face(face)), at); !best || away < least) {
            best = face;
            least = away;
        }
    return best;
}

} // namespace

std::optional<PartSurface> surfaceOfBoundary(const FieldPicture& picture, std::size_t boundary) {
    const auto& opened = picture.opened;
    if (boundary >= opened.index->boundaries.size())
        return std::nullopt; // not measured yet
    const auto& mesh = opened.solved->boundaries[boundary].mesh;
    const auto& behind = opened.index->boundaries[boundary];
    if (behind.part.empty() || behind.part[0] == noNumber ||
        std::ranges::any_of(behind.part, [&](auto part) { return part != behind.part[0]; }))
        return std::nullopt;
    const auto part = behind.part[0];
    const auto division = (*picture.surfaces)[part].division;
    if (division < 2)
        return std::nullopt;
    const auto& shell = opened.index->parts[part].shell;
    Shell faces;
    faces.offsets.push_back(0);
    for (std::size_t face = 0; face < mesh.cells(); ++face) {
        const auto found = faceNear(opened.solved->parts[part].mesh, shell, behind.cell[face],
                                    centroid(mesh, mesh.cell(face)));
        if (!found)
            return std::nullopt;
        const auto ring = shell.face(*found);
        faces.nodes.insert(faces.nodes.end(), ring.begin(), ring.end());
        faces.offsets.push_back(static_cast<std::uint32_t>(faces.nodes.size()));
        faces.cell.push_back(behind.cell[face]);
    }
    auto surface = surfaceOf(opened.solved->parts[part], {faces.nodes, faces.offsets, faces.cell}, division);
    std::unordered_map<std::uint32_t, std::uint32_t> own; // nodes of the boundary by those of the part
    for (std::uint32_t node = 0; node < behind.node.size(); ++node)
        own.emplace(behind.node[node], node);
    for (auto* list : {&surface.partNode, &surface.blendNode})
        for (auto& node : *list) {
            const auto found = own.find(node);
            if (found == own.end())
                return std::nullopt;
            node = found->second;
        }
    surface.partCell = surface.face;
    return surface;
}

} // namespace pyro
