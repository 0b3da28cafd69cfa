#include "core/field/boundary_fit.h"

#include "core/field/face_lookup.h"
#include "core/field/face_measure.h"
#include "core/field/straight_pieces.h"
#include "core/field/whole_faces.h"

#include <algorithm>
#include <map>

namespace pyro {
namespace {

// A face of a boundary as its file has it: its cells here, and its corners.
struct BoundaryFace {
    std::vector<std::uint32_t> cells;
    std::vector<std::uint32_t> corners; // nodes of the boundary; of curved faces in no order
};

std::vector<BoundaryFace> facesOf(const Region& boundary) {
    std::vector<BoundaryFace> out;
    const auto& mesh = boundary.mesh;
    for (std::uint32_t cell = 0; cell < mesh.cells();) {
        BoundaryFace face;
        std::map<std::uint32_t, int> times; // a corner belongs to one piece only
        const auto parent = boundary.parentOf.empty() ? cell : boundary.parentOf[cell];
        do {
            face.cells.push_back(cell);
            for (const auto node : mesh.cell(cell))
                ++times[node];
            ++cell;
        } while (cell < mesh.cells() && !boundary.parentOf.empty() && boundary.parentOf[cell] == parent);
        for (const auto& [node, count] : times)
            if (count == 1 || face.cells.size() == 1)
                face.corners.push_back(node);
        out.push_back(std::move(face));
    }
    return out;
}

class Fitter {
public:
    Fitter(const Case& solved, std::span<const ShellView> shells)
        : m_case(solved), m_shells(shells), m_faces(solved, wholeFaces(solved, shells)) {}

    // Nothing where the boundary needs no other faces, or has one that no part has.
    std::optional<Region> fitted(const Region& boundary, std::vector<std::vector<double>>& keep) const {
        std::vector<const WholeFace*> partners;
        bool differs = false;
        const auto faces = facesOf(boundary);
        for (const auto& face : faces) {
            const auto* partner = m_faces.find(placesOf(boundary.mesh, face.corners),
                                               [](const WholeFace&) { return true; });
            if (partner == nullptr)
                return std::nullopt;
            differs = differs || partner->count != face.cells.size();
            partners.push_back(partner);
        }
        return differs ? std::optional(Builder(*this, boundary, faces, partners, keep).run()) : std::nullopt;
    }

private:
    class Builder {
    public:
        Builder(const Fitter& of, const Region& from, const std::vector<BoundaryFace>& faces,
                const std::vector<const WholeFace*>& partners, std::vector<std::vector<double>>& keep)
            : m_of(of), m_from(from), m_faces(faces), m_partners(partners), m_keep(keep) {}

        Region run() {
            for (std::size_t i = 0; i < m_partners.size(); ++i)
                addFaces(m_faces[i], *m_partners[i]);
            m_out.name = m_from.name;
            m_out.dimension = 2;
            m_out.fileCells = m_from.fileCells;
            m_out.asRead = std::make_shared<const Mesh>(m_from.mesh);
            m_out.mesh.coordinates = RealView(kept(std::move(m_points)));
            m_out.mesh.connectivity = keptAs(m_connectivity);
            m_out.mesh.types = keptAs(m_types);
            m_out.mesh.offsets = keptAs(m_offsets);
            if (m_curved) {
                m_share.resize(m_out.mesh.nodes(), 0.0);
                m_out.extent = kept(std::move(m_extent));
                m_out.share = kept(std::move(m_share));
            }
            for (const auto& array : m_from.arrays)
                m_out.arrays.push_back(follows(array));
            return std::move(m_out);
        }

    private:
        // What a new node's values come from.
        struct Source {
            std::array<std::uint32_t, 4> node{};
            std::array<double, 4> weight{};
        };

        std::span<const double> kept(std::vector<double> values) {
            m_keep.push_back(std::move(values));
            return m_keep.back();
        }
        template <class T>
        std::span<const T> keptAs(const std::vector<T>& values) {
            std::vector<double> room((values.size() * sizeof(T) + sizeof(double) - 1) / sizeof(double));
            std::copy_n(reinterpret_cast<const std::byte*>(values.data()), values.size() * sizeof(T),
                        reinterpret_cast<std::byte*>(room.data()));
            const auto all = kept(std::move(room));
            return {reinterpret_cast<const T*>(all.data()), values.size()};
        }

        void addFaces(const BoundaryFace& from, const WholeFace& to) {
            const auto& mesh = m_of.m_case.parts[to.part].mesh;
            const auto& shell = m_of.m_shells[to.part];
            FaceMeasure measure(mesh);
            for (auto face = to.first; face < to.first + to.count; ++face) {
                const auto ring = shell.face(face);
                for (const auto node : ring)
                    m_connectivity.push_back(numberOf(to, from, node));
                m_offsets.push_back(m_connectivity.size());
                m_types.push_back(static_cast<std::uint8_t>(ring.size() == 3 ? CellType::Triangle : CellType::Quad));
                m_cellFrom.push_back(from.cells.front());
                const bool curved = isCurved(mesh.type(shell.cell[face]));
                m_curved = m_curved || curved;
                const double area = measure.of(shell.cell[face], ring).size;
                m_extent.push_back(area);
                measure.forShares([&](std::uint32_t node, double share) {
                    const auto known = m_known.find({to.part, node});
                    if (known == m_known.end())
                        return; // a node amid the cell has no part in its face
                    m_share.resize(std::max<std::size_t>(m_share.size(), known->second + 1U), 0.0);
                    m_share[known->second] += share * area;
                });
            }
        }

        std::uint32_t numberOf(const WholeFace& to, const BoundaryFace& from, std::uint32_t node) {
            const auto next = static_cast<std::uint32_t>(m_sources.size());
            const auto [known, isNew] = m_known.try_emplace({to.part, node}, next);
            if (isNew) {
                const auto at = m_of.m_case.parts[to.part].mesh.node(node);
                m_points.insert(m_points.end(), at.begin(), at.end());
                m_sources.push_back(sourceOf(to, from, node));
            }
            return known->second;
        }

        // A node of the boundary's own face at the place, else its corners.
        Source sourceOf(const WholeFace& to, const BoundaryFace& from, std::uint32_t node) const {
            const auto at = m_of.m_case.parts[to.part].mesh.node(node);
            Source out;
            const double slack = 1e-6 * sizeOf(placesOf(m_from.mesh, from.corners));
            for (const auto cell : from.cells)
                for (const auto own : m_from.mesh.cell(cell))
                    if (squaredDistance(m_from.mesh.node(own), at) <= slack * slack) {
                        out.node[0] = own;
                        out.weight[0] = 1;
                        return out;
                    }
            const auto weights = weightsWithin(to, node);
            const auto& mesh = m_of.m_case.parts[to.part].mesh;
            for (std::size_t i = 0; i < to.corners.size(); ++i) {
                const auto corner = mesh.node(to.corners[i]);
                out.node[i] = *std::ranges::min_element(from.corners, {}, [&](std::uint32_t one) {
                    return squaredDistance(m_from.mesh.node(one), corner);
                });
                out.weight[i] = weights[i];
            }
            return out;
        }

        // Of the corners of a whole face at one of its nodes: linear in a triangle, bilinear in a quadrangle, in the
        // cell's local coordinates.
        std::array<double, 4> weightsWithin(const WholeFace& face, std::uint32_t node) const {
            const auto& mesh = m_of.m_case.parts[face.part].mesh;
            const auto cell = m_of.m_shells[face.part].cell[face.first];
            const auto ids = mesh.cell(cell);
            const auto* lattice = latticeOf(mesh, cell);
            if (lattice == nullptr)
                return {1, 0, 0, 0};
            const auto local = [&](std::uint32_t one) {
                return lattice->place(static_cast<std::size_t>(std::ranges::find(ids, one) - ids.begin()));
            };
            const auto origin = local(face.corners.front());
            const auto a = minus(local(face.corners[1]), origin);
            const auto b = minus(local(face.corners.back()), origin);
            const auto at = minus(local(node), origin);
            const double whole = dot(a, a) * dot(b, b) - dot(a, b) * dot(a, b);
            const double u = (dot(at, a) * dot(b, b) - dot(at, b) * dot(a, b)) / whole;
            const double v = (dot(at, b) * dot(a, a) - dot(at, a) * dot(a, b)) / whole;
            if (face.corners.size() == 3)
                return {1 - u - v, u, v, 0};
            return {(1 - u) * (1 - v), u * (1 - v), u * v, (1 - u) * v};
        }

        StoredArray follows(const StoredArray& array) {
            const auto width = static_cast<std::size_t>(array.components);
            std::vector<double> values;
            if (array.on == Location::Cell) {
                for (const auto cell : m_cellFrom)
                    for (std::size_t c = 0; c < width; ++c)
                        values.push_back(array.values[cell * width + c]);
            } else {
                for (const auto& source : m_sources)
                    for (std::size_t c = 0; c < width; ++c) {
                        double sum = 0;
                        for (std::size_t i = 0; i < 4; ++i)
                            if (source.weight[i] != 0)
                                sum += source.weight[i] * array.values[source.node[i] * width + c];
                        values.push_back(sum);
                    }
            }
            auto out = array;
            out.values = RealView(kept(std::move(values)));
            return out;
        }

        const Fitter& m_of;
        const Region& m_from;
        const std::vector<BoundaryFace>& m_faces;
        const std::vector<const WholeFace*>& m_partners;
        std::vector<std::vector<double>>& m_keep;
        Region m_out;
        std::map<std::pair<std::uint32_t, std::uint32_t>, std::uint32_t> m_known; // part and node
        std::vector<Source> m_sources;                                            // per new node
        std::vector<double> m_points;
        std::vector<std::uint32_t> m_connectivity;
        std::vector<std::uint64_t> m_offsets{0};
        std::vector<std::uint8_t> m_types;
        std::vector<std::uint32_t> m_cellFrom;
        bool m_curved = false;
        std::vector<double> m_extent;
        std::vector<double> m_share;
    };

    const Case& m_case;
    std::span<const ShellView> m_shells;
    WholeFaceLookup m_faces;
};

bool mayDiffer(const Case& solved) {
    const auto curved = [](const Region& part) { return hasCurved(part.mesh); };
    return !solved.boundaries.empty() &&
           (std::ranges::any_of(solved.parts, curved) ||
            std::ranges::any_of(solved.boundaries, [](const Region& boundary) { return !boundary.parentOf.empty(); }));
}

} // namespace

std::shared_ptr<const Case> withFittedBoundaries(std::shared_ptr<const Case> solved,
                                                 std::span<const ShellView> shells) {
    if (!mayDiffer(*solved))
        return solved;
    const Fitter fitter(*solved, shells);
    auto keep = std::make_shared<std::vector<std::vector<double>>>();
    auto out = std::make_shared<Case>(*solved);
    bool any = false;
    for (auto& boundary : out->boundaries)
        if (auto fitted = fitter.fitted(boundary, *keep)) {
            boundary = std::move(*fitted);
            any = true;
        }
    if (!any)
        return solved;
    out->made = std::move(keep);
    return out;
}

} // namespace pyro
