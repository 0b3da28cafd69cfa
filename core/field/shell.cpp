#include "core/field/shell.h"

#include "core/case/mixed_bits.h"
#include "core/field/straight_pieces.h"

#include <algorithm>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_sort.h>
#include <tbb/task_arena.h>

namespace pyro {
namespace {

struct FaceOf {
    std::uint32_t cell;
    std::uint32_t face;
};

// The corner nodes of a face, sorted.
struct SortedCorners {
    std::array<std::uint32_t, 4> id{};
    bool operator==(const SortedCorners&) const = default;
};

SortedCorners cornersOf(std::span<const std::uint32_t> cell, const FaceNodes& face) {
    SortedCorners corners;
    corners.id.fill(~0U);
    for (std::size_t i = 0; i < face.count; ++i)
        corners.id[i] = cell[face.node[i]];
    auto& id = corners.id; // four values: a sorting network
    const auto order = [&](int a, int b) {
        if (id[static_cast<std::size_t>(b)] < id[static_cast<std::size_t>(a)])
            std::swap(id[static_cast<std::size_t>(a)], id[static_cast<std::size_t>(b)]);
    };
    order(0, 1), order(2, 3), order(0, 2), order(1, 3), order(1, 2);
    return corners;
}

// Two passes. First every node keeps the exclusive or of the hashes of those faces whose lowest corner it is: faces
// that two cells share cancel, so that all nodes within the part end at zero (two different faces cancel with a
// chance of 2^-64). Then only the few faces at the other nodes are compared by their corners.
class FaceFinder {
public:
    explicit FaceFinder(const Mesh& mesh) : m_mesh(mesh) {
        for (const auto type : {CellType::Tetrahedron, CellType::Hexahedron, CellType::Wedge, CellType::Pyramid,
                                CellType::CurvedTetrahedron, CellType::CurvedHexahedron, CellType::CurvedWedge})
            m_shapes[static_cast<std::size_t>(type)] = cellShape(type);
    }

    std::vector<FaceOf> run() {
        findOpenNodes();
        const auto atOpenNode = [&](std::span<const std::uint32_t> ids) {
            return std::ranges::any_of(ids, [&](auto id) { return m_open[id] != 0; });
        };
        tbb::enumerable_thread_specific<std::vector<Candidate>> found;
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, m_mesh.cells(), 8192), [&](const auto& range) {
            auto& mine = found.local();
            forFacesOf(range.begin(), range.end(), atOpenNode,
                       [&](FaceOf face, std::uint32_t lowest, std::uint64_t hash) {
                           if (m_open[lowest] != 0)
                               mine.push_back({hash, face});
                       });
        });
        std::vector<Candidate> candidates;
        for (const auto& some : found)
            candidates.insert(candidates.end(), some.begin(), some.end());
        return alone(std::move(candidates));
    }

    const CellShape* shape(std::size_t cell) const { return m_shapes[m_mesh.types[cell]]; }

private:
    struct Candidate {
        std::uint64_t hash;
        FaceOf face;
    };

    // Each thread has its own numbers, put together afterwards: exclusive or knows no order.
    void findOpenNodes() {
        const auto threads = static_cast<std::size_t>(std::clamp(tbb::this_task_arena::max_concurrency(), 1, 8));
        const auto pieces = m_mesh.cells() < 10'000 ? std::size_t{1} : threads;
        std::vector<std::vector<std::uint64_t>> open(pieces);
        const auto everyCell = [](std::span<const std::uint32_t>) { return true; };
        tbb::parallel_for(std::size_t{0}, pieces, [&](std::size_t piece) {
            auto& mine = open[piece];
            mine.assign(m_mesh.nodes(), 0);
            forFacesOf(m_mesh.cells() * piece / pieces, m_mesh.cells() * (piece + 1) / pieces, everyCell,
                       [&](FaceOf, std::uint32_t lowest, std::uint64_t hash) { mine[lowest] ^= hash; });
        });
        m_open = std::move(open[0]);
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, m_open.size(), 1 << 16), [&](const auto& range) {
            for (std::size_t piece = 1; piece < pieces; ++piece)
                for (auto i = range.begin(); i != range.end(); ++i)
                    m_open[i] ^= open[piece][i];
        });
    }

    template <class Wanted, class Use>
    void forFacesOf(std::size_t from, std::size_t to, Wanted wanted, Use use) const {
        std::array<std::uint64_t, 20> mixedNode{};
        for (auto cell = from; cell != to; ++cell) {
            const auto* kind = shape(cell);
            if (kind == nullptr)
                continue;
            const auto ids = m_mesh.cell(cell);
            if (!wanted(ids.first(static_cast<std::size_t>(kind->corners))))
                continue;
            for (int i = 0; i < kind->corners; ++i)
                mixedNode[static_cast<std::size_t>(i)] = mixedBits(ids[static_cast<std::size_t>(i)]);
            if (kind->corners == 8) { // the most frequent cell, written out: the table costs half the time
                const auto quad = [&](std::uint32_t face, std::size_t a, std::size_t b, std::size_t c, std::size_t d) {
                    use(FaceOf{static_cast<std::uint32_t>(cell), face},
                        std::min(std::min(ids[a], ids[b]), std::min(ids[c], ids[d])),
                        mixedNode[a] + mixedNode[b] + mixedNode[c] + mixedNode[d]);
                };
                quad(0, 0, 4, 7, 3), quad(1, 1, 2, 6, 5), quad(2, 0, 1, 5, 4);
                quad(3, 3, 7, 6, 2), quad(4, 0, 3, 2, 1), quad(5, 4, 5, 6, 7);
                continue;
            }
            for (std::uint32_t face = 0; face < kind->faces.size(); ++face) {
                std::uint32_t lowest = ~0U;
                std::uint64_t hash = 0; // a sum of mixed numbers: the order of the corners does not matter
                const auto& nodes = kind->faces[face];
                for (int i = 0; i < nodes.count; ++i) {
                    lowest = std::min(lowest, ids[nodes.node[i]]);
                    hash += mixedNode[nodes.node[i]];
                }
                use(FaceOf{static_cast<std::uint32_t>(cell), face}, lowest, hash);
            }
        }
    }

    SortedCorners corners(FaceOf face) const {
        return cornersOf(m_mesh.cell(face.cell), shape(face.cell)->faces[face.face]);
    }

    // The candidates that no other one equals, by cell and face.
    std::vector<FaceOf> alone(std::vector<Candidate> candidates) const {
        tbb::parallel_sort(candidates.begin(), candidates.end(),
                           [](const Candidate& a, const Candidate& b) { return a.hash < b.hash; });
        std::vector<FaceOf> outer;
        for (std::size_t from = 0, to = 0; from < candidates.size(); from = to) {
            while (to < candidates.size() && candidates[to].hash == candidates[from].hash)
                ++to;
            for (auto i = from; i < to; ++i) {
                bool single = true;
                for (auto j = from; j < to && single; ++j)
                    single = i == j || corners(candidates[i].face) != corners(candidates[j].face);
                if (single)
                    outer.push_back(candidates[i].face);
            }
        }
        tbb::parallel_sort(outer.begin(), outer.end(),
                           [](FaceOf a, FaceOf b) { return a.cell != b.cell ? a.cell < b.cell : a.face < b.face; });
        return outer;
    }

    const Mesh& m_mesh;
    std::array<const CellShape*, 256> m_shapes{};
    std::vector<std::uint64_t> m_open; // by lowest corner: hashes of faces without a partner
};

Shell surfaceItself(const Mesh& mesh) {
    Shell shell;
    shell.offsets.push_back(0);
    for (std::size_t cell = 0; cell < mesh.cells(); ++cell) {
        const auto* shape = cellShape(mesh.type(cell));
        if (shape == nullptr || shape->dimension != 2)
            continue;
        const auto ids = mesh.cell(cell);
        shell.nodes.insert(shell.nodes.end(), ids.begin(), ids.end());
        shell.offsets.push_back(static_cast<std::uint32_t>(shell.nodes.size()));
        shell.cell.push_back(static_cast<std::uint32_t>(cell));
    }
    return shell;
}

// Of a structured grid: faces whose corners all lie on one side of it, from the cells along its sides.
std::vector<FaceOf> sidesOfLattice(const Mesh& mesh, const std::array<std::size_t, 3>& nodes) {
    const auto sidesAt = [&](std::size_t node) {
        const std::array<std::size_t, 3> at{node % nodes[0], node / nodes[0] % nodes[1], node / nodes[0] / nodes[1]};
        unsigned sides = 0;
        for (std::size_t axis = 0; axis < 3; ++axis)
            sides |= (at[axis] == 0 ? 1U : 0U) << (2 * axis) | (at[axis] + 1 == nodes[axis] ? 2U : 0U) << (2 * axis);
        return sides;
    };
    const auto& faces = cellShape(CellType::Hexahedron)->faces;
    std::vector<FaceOf> out;
    std::uint32_t cell = 0;
    for (std::size_t k = 0; k + 1 < nodes[2]; ++k)
        for (std::size_t j = 0; j + 1 < nodes[1]; ++j)
            for (std::size_t i = 0; i + 1 < nodes[0]; ++i, ++cell) {
                if (i > 0 && i + 2 < nodes[0] && j > 0 && j + 2 < nodes[1] && k > 0 && k + 2 < nodes[2])
                    continue;
                const auto ids = mesh.cell(cell);
                for (std::uint32_t face = 0; face < faces.size(); ++face) {
                    unsigned common = ~0U;
                    for (int corner = 0; corner < faces[face].count; ++corner)
                        common &= sidesAt(ids[faces[face].node[corner]]);
                    if (common != 0)
                        out.push_back({cell, face});
                }
            }
    return out;
}

// Along the depth a plane case's cells begin and end with these.
bool isOfPlane(const CellShape& shape, std::uint32_t face) { return shape.corners == 6 ? face < 2 : face >= 4; }

} // namespace

Shell outerFaces(const Region& part, bool plane) {
    if (part.dimension < 3)
        return surfaceItself(part.mesh);
    FaceFinder finder(part.mesh);
    Shell shell;
    shell.offsets.push_back(0);
    for (const auto& [cell, face] : part.lattice ? sidesOfLattice(part.mesh, *part.lattice) : finder.run()) {
        if (plane && isOfPlane(*finder.shape(cell), face))
            continue;
        const auto ids = part.mesh.cell(cell);
        const auto add = [&, of = cell](const auto& ring) {
            for (std::size_t i = 0; i < ring.count; ++i)
                shell.nodes.push_back(ids[ring.node[i]]);
            shell.offsets.push_back(static_cast<std::uint32_t>(shell.nodes.size()));
            shell.cell.push_back(of);
        };
        const auto* lattice = latticeOf(part.mesh, cell);
        if (lattice == nullptr)
            add(finder.shape(cell)->faces[face]);
        else
            for (const auto& piece : lattice->facePieces())
                if (piece.face == face)
                    add(piece);
    }
    return shell;
}

Shell facesInPlane(const Region& part) {
    Shell flat;
    flat.offsets.push_back(0);
    for (std::size_t cell = 0; cell < part.mesh.cells(); ++cell) {
        const auto* shape = cellShape(part.mesh.type(cell));
        if (shape == nullptr || shape->dimension != 3)
            continue;
        const auto ids = part.mesh.cell(cell);
        const std::uint8_t lower = shape->corners == 6 ? 0 : 4; // see isOfPlane
        const auto add = [&](const auto& ring) {
            for (std::size_t i = 0; i < ring.count; ++i)
                flat.nodes.push_back(ids[ring.node[i]]);
            if (lower == 4) // these point out of the cell, against the normal
                std::reverse(flat.nodes.begin() + flat.offsets.back(), flat.nodes.end());
            flat.offsets.push_back(static_cast<std::uint32_t>(flat.nodes.size()));
            flat.cell.push_back(static_cast<std::uint32_t>(cell));
        };
        if (const auto* lattice = latticeOf(part.mesh, cell)) {
            for (const auto& piece : lattice->facePieces())
                if (piece.face == lower)
                    add(piece);
        } else {
            add(shape->faces[lower]);
        }
    }
    return flat;
}

} // namespace pyro
