#include "core/field/boundary_match.h"

#include "core/field/measure.h"

#include <cmath>
#include <unordered_map>

namespace pyro {
namespace {

struct PartFace {
    std::uint32_t part;
    std::uint32_t face;
};

double squaredDistance(const Point& a, const Point& b) {
    double sum = 0;
    for (int axis = 0; axis < 3; ++axis)
        sum += (a[axis] - b[axis]) * (a[axis] - b[axis]);
    return sum;
}

template <class Ids> Point centroid(const Mesh& mesh, const Ids& ids) {
    Point sum{};
    for (const auto id : ids)
        for (int axis = 0; axis < 3; ++axis)
            sum[axis] += mesh.coordinates[3 * std::size_t{id} + axis] / static_cast<double>(ids.size());
    return sum;
}

// Faces of the parts found by their centroid on a lattice fine against the smallest boundary face.
class FaceLookup {
public:
    FaceLookup(const Case& solved, std::span<const ShellView> shells, double spacing)
        : m_case(solved), m_shells(shells), m_spacing(spacing) {
        for (std::uint32_t part = 0; part < shells.size(); ++part)
            for (std::uint32_t face = 0; face < shells[part].cell.size(); ++face)
                m_cells.emplace(key(bin(centroid(solved.parts[part].mesh, nodes({part, face})))),
                                PartFace{part, face});
    }

    std::span<const std::uint32_t> nodes(PartFace at) const {
        return m_shells[at.part].face(at.face);
    }
    std::uint32_t cell(PartFace at) const { return m_shells[at.part].cell[at.face]; }

    template <class Use> void near(const Point& at, Use use) const {
        const auto centre = bin(at);
        for (long long dx = -1; dx <= 1; ++dx)
            for (long long dy = -1; dy <= 1; ++dy)
                for (long long dz = -1; dz <= 1; ++dz) {
                    const auto [from, to] = m_cells.equal_range(key({centre[0] + dx, centre[1] + dy, centre[2] + dz}));
                    for (auto it = from; it != to; ++it)
                        use(it->second);
                }
    }

private:
    std::array<long long, 3> bin(const Point& at) const {
        return {std::llround(at[0] / m_spacing), std::llround(at[1] / m_spacing), std::llround(at[2] / m_spacing)};
    }
    static std::uint64_t key(const std::array<long long, 3>& bin) {
        std::uint64_t hash = 0;
        for (const auto value : bin)
            hash = (hash ^ static_cast<std::uint64_t>(value)) * 0x9E3779B97F4A7C15ULL;
        return hash;
    }

    const Case& m_case;
    std::span<const ShellView> m_shells;
    double m_spacing;
    std::unordered_multimap<std::uint64_t, PartFace> m_cells;
};

class Matcher {
public:
    Matcher(const Case& solved, const FaceLookup& lookup, const Region& boundary)
        : m_case(solved), m_lookup(lookup), m_boundary(boundary) {}

    BoundaryMatch run() {
        const auto faces = m_boundary.mesh.cells();
        m_out.part.assign(faces, ~0U);
        m_out.cell.assign(faces, ~0U);
        m_out.node.assign(m_boundary.mesh.nodes(), ~0U);
        m_out.normal.assign(3 * faces, 0.0);
        for (std::size_t face = 0; face < faces; ++face)
            match(face);
        return std::move(m_out);
    }

private:
    void match(std::size_t face) {
        const auto& mesh = m_boundary.mesh;
        auto normal = areaVector(mesh, face);
        const double area = std::sqrt(squaredDistance(normal, {}));
        const auto centre = centroid(mesh, mesh.cell(face));
        double best = -2; // cosine between the face normal and the direction out of the part
        PartFace found{~0U, 0};
        m_lookup.near(centre, [&](PartFace candidate) {
            if (!coincides(face, candidate, 1e-6 * std::sqrt(area)))
                return;
            const double out = outwards(candidate, centre, normal, area);
            if (out > best) {
                best = out;
                found = candidate;
            }
        });
        for (int axis = 0; axis < 3 && area > 0; ++axis)
            m_out.normal[3 * face + static_cast<std::size_t>(axis)] = (best < 0 && found.part != ~0U ? -1 : 1) * normal[axis] / area;
        if (found.part == ~0U) {
            ++m_out.unmatched;
            return;
        }
        m_out.part[face] = found.part;
        m_out.cell[face] = m_lookup.cell(found);
        matchNodes(face, found, 1e-6 * std::sqrt(area));
    }

    bool coincides(std::size_t face, PartFace candidate, double slack) const {
        const auto own = m_boundary.mesh.cell(face);
        const auto other = m_lookup.nodes(candidate);
        if (own.size() > other.size())
            return false;
        for (const auto id : own)
            if (twin(m_boundary.mesh.node(id), candidate, slack) == ~0U)
                return false;
        return true;
    }

    std::uint32_t twin(const Point& at, PartFace candidate, double slack) const {
        for (const auto id : m_lookup.nodes(candidate))
            if (squaredDistance(at, m_case.parts[candidate.part].mesh.node(id)) <= slack * slack)
                return id;
        return ~0U;
    }

    double outwards(PartFace candidate, const Point& centre, const Point& normal, double area) const {
        const auto inside = m_case.parts[candidate.part].mesh.cellCentre(m_lookup.cell(candidate));
        const double distance = std::sqrt(squaredDistance(centre, inside));
        double sum = 0;
        for (int axis = 0; axis < 3; ++axis)
            sum += normal[axis] * (centre[axis] - inside[axis]);
        return area > 0 && distance > 0 ? sum / (area * distance) : 0;
    }

    void matchNodes(std::size_t face, PartFace found, double slack) {
        for (const auto id : m_boundary.mesh.cell(face))
            if (m_out.node[id] == ~0U)
                m_out.node[id] = twin(m_boundary.mesh.node(id), found, slack);
    }

    const Case& m_case;
    const FaceLookup& m_lookup;
    const Region& m_boundary;
    BoundaryMatch m_out;
};

double smallestFace(const Case& solved) {
    double smallest = 0;
    for (const auto& boundary : solved.boundaries)
        for (std::size_t face = 0; face < boundary.mesh.cells(); ++face) {
            const double area = std::sqrt(squaredDistance(areaVector(boundary.mesh, face), {}));
            if (area > 0 && (smallest == 0 || area < smallest))
                smallest = area;
        }
    return std::sqrt(smallest);
}

} // namespace

std::vector<BoundaryMatch> matchBoundaries(const Case& solved, std::span<const ShellView> shells) {
    std::vector<BoundaryMatch> matches;
    if (solved.boundaries.empty())
        return matches;
    const double size = smallestFace(solved);
    const FaceLookup lookup(solved, shells, size > 0 ? 0.1 * size : 1.0);
    for (const auto& boundary : solved.boundaries)
        matches.push_back(Matcher(solved, lookup, boundary).run());
    return matches;
}

} // namespace pyro
