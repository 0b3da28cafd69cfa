#include "core/field/shell.h"

#include <algorithm>
#include <atomic>
#include <tbb/parallel_for.h>
#include <tbb/parallel_sort.h>

namespace pyro {
namespace {

struct FaceOf {
    std::uint32_t cell;
    std::uint32_t face;
};

// The corner nodes of a face, sorted; quadratic faces list corners at even places.
struct Corners {
    std::array<std::uint32_t, 4> id{};
    bool operator==(const Corners&) const = default;
};

Corners cornersOf(std::span<const std::uint32_t> cell, const FaceNodes& face) {
    const int step = face.count >= 6 ? 2 : 1;
    Corners corners;
    corners.id.fill(~0U);
    for (int i = 0, at = 0; at < face.count; ++i, at += step)
        corners.id[static_cast<std::size_t>(i)] = cell[face.node[at]];
    auto& id = corners.id; // four values: a sorting network
    const auto order = [&](int a, int b) {
        if (id[static_cast<std::size_t>(b)] < id[static_cast<std::size_t>(a)])
            std::swap(id[static_cast<std::size_t>(a)], id[static_cast<std::size_t>(b)]);
    };
    order(0, 1), order(2, 3), order(0, 2), order(1, 3), order(1, 2);
    return corners;
}

class FaceFinder {
public:
    explicit FaceFinder(const Mesh& mesh) : m_mesh(mesh), m_begin(mesh.nodes() + 1) {
        for (const auto type : {CellType::Tetrahedron, CellType::Hexahedron, CellType::Wedge, CellType::Pyramid,
                                CellType::QuadraticTetrahedron, CellType::QuadraticHexahedron})
            m_shapes[static_cast<std::size_t>(type)] = cellShape(type);
    }

    // Faces are put into buckets by their lowest corner node; within a bucket equal faces cancel.
    std::vector<FaceOf> run() {
        std::vector<std::atomic<std::uint32_t>> fill(m_mesh.nodes());
        forAllFaces([&](FaceOf, std::uint32_t lowest) { fill[lowest].fetch_add(1, std::memory_order_relaxed); });
        for (std::size_t i = 0; i < fill.size(); ++i) {
            m_begin[i + 1] = m_begin[i] + fill[i].load(std::memory_order_relaxed);
            fill[i].store(0, std::memory_order_relaxed);
        }
        m_faces.resize(m_begin.back());
        forAllFaces([&](FaceOf face, std::uint32_t lowest) {
            m_faces[m_begin[lowest] + fill[lowest].fetch_add(1, std::memory_order_relaxed)] = face;
        });
        std::vector<std::uint8_t> outer(m_faces.size());
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, m_mesh.nodes(), 4096), [&](const auto& range) {
            for (auto node = range.begin(); node != range.end(); ++node)
                markOuter(m_begin[node], m_begin[node + 1], outer);
        });
        std::vector<FaceOf> found;
        for (std::size_t i = 0; i < m_faces.size(); ++i)
            if (outer[i] != 0)
                found.push_back(m_faces[i]);
        tbb::parallel_sort(found.begin(), found.end(), [](FaceOf a, FaceOf b) {
            return a.cell != b.cell ? a.cell < b.cell : a.face < b.face;
        });
        return found;
    }

    const CellShape* shape(std::size_t cell) const { return m_shapes[m_mesh.types[cell]]; }

private:
    template <class Use> void forAllFaces(Use use) const {
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, m_mesh.cells(), 8192), [&](const auto& range) {
            for (auto cell = range.begin(); cell != range.end(); ++cell) {
                const auto* cellKind = shape(cell);
                if (cellKind == nullptr)
                    continue;
                const auto ids = m_mesh.cell(cell);
                for (std::uint32_t face = 0; face < cellKind->faces.size(); ++face) {
                    std::uint32_t lowest = ~0U;
                    const auto& nodes = cellKind->faces[face];
                    for (int i = 0; i < nodes.count; i += nodes.count >= 6 ? 2 : 1)
                        lowest = std::min(lowest, ids[nodes.node[i]]);
                    use(FaceOf{static_cast<std::uint32_t>(cell), face}, lowest);
                }
            }
        });
    }

    void markOuter(std::size_t from, std::size_t to, std::vector<std::uint8_t>& outer) const {
        thread_local std::vector<Corners> corners;
        corners.resize(to - from);
        for (std::size_t i = from; i < to; ++i) {
            const auto& face = m_faces[i];
            corners[i - from] = cornersOf(m_mesh.cell(face.cell), shape(face.cell)->faces[face.face]);
        }
        for (std::size_t i = 0; i < corners.size(); ++i) {
            bool alone = true;
            for (std::size_t j = 0; j < corners.size() && alone; ++j)
                alone = i == j || corners[i] != corners[j];
            outer[from + i] = alone ? 1 : 0;
        }
    }

    const Mesh& m_mesh;
    std::array<const CellShape*, 256> m_shapes{};
    std::vector<std::uint64_t> m_begin;
    std::vector<FaceOf> m_faces;
};

Shell surfaceItself(const Mesh& mesh) {
    Shell shell;
    shell.offsets.push_back(0);
    for (std::size_t cell = 0; cell < mesh.cells(); ++cell) {
        const auto* shape = cellShape(mesh.type(cell));
        if (shape == nullptr || shape->dimension != 2)
            continue;
        const auto ids = mesh.cell(cell);
        const auto corners = static_cast<std::size_t>(shape->corners);
        for (std::size_t i = 0; i < (corners == 0 ? ids.size() : corners); ++i) {
            shell.nodes.push_back(ids[i]);
            if (corners != 0 && ids.size() == 2 * corners) // quadratic: the mid-edge node follows its corner
                shell.nodes.push_back(ids[corners + i]);
        }
        shell.offsets.push_back(static_cast<std::uint32_t>(shell.nodes.size()));
        shell.cell.push_back(static_cast<std::uint32_t>(cell));
    }
    return shell;
}

} // namespace

Shell outerFaces(const Region& part) {
    if (part.dimension < 3)
        return surfaceItself(part.mesh);
    FaceFinder finder(part.mesh);
    Shell shell;
    shell.offsets.push_back(0);
    for (const auto& [cell, face] : finder.run()) {
        const auto ids = part.mesh.cell(cell);
        const auto& nodes = finder.shape(cell)->faces[face];
        for (int i = 0; i < nodes.count; ++i)
            shell.nodes.push_back(ids[nodes.node[i]]);
        shell.offsets.push_back(static_cast<std::uint32_t>(shell.nodes.size()));
        shell.cell.push_back(cell);
    }
    return shell;
}

} // namespace pyro
