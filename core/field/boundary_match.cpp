#include "core/field/boundary_match.h"

#include "core/field/face_lookup.h"
#include "core/field/face_side.h"
#include "core/field/measure.h"

namespace pyro {
namespace {

class Matcher {
public:
    Matcher(const Case& solved, const FaceLookup& lookup, const Region& boundary)
        : m_case(solved), m_lookup(lookup), m_boundary(boundary) {}

    BoundaryMatch run() {
        const auto faces = m_boundary.mesh.cells();
        m_out.part.assign(faces, ~0U);
        m_out.cell.assign(faces, ~0U);
        m_out.face.assign(faces, ~0U);
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
            if (!m_lookup.coincides(mesh, mesh.cell(face), candidate, 1e-6 * std::sqrt(area)))
                return;
            const double out = outwards(candidate, normal, area);
            if (out > best) {
                best = out;
                found = candidate;
            }
        });
        for (int axis = 0; axis < 3 && area > 0; ++axis)
            m_out.normal[3 * face + static_cast<std::size_t>(axis)] = (best < 0 && found.part != ~0U ? -1 : 1) *
                                                                      normal[axis] / area;
        if (found.part == ~0U) {
            ++m_out.unmatched;
            return;
        }
        m_out.part[face] = found.part;
        m_out.cell[face] = m_lookup.cell(found);
        m_out.face[face] = found.face;
        matchNodes(face, found, 1e-6 * std::sqrt(area));
    }

    double outwards(PartFace candidate, const Point& normal, double area) const {
        const auto into = intoCell(m_case.parts[candidate.part].mesh, m_lookup.cell(candidate),
                                   m_lookup.nodes(candidate));
        return area > 0 && length(into) > 0 ? -dot(normal, into) / (area * length(into)) : 0;
    }

    void matchNodes(std::size_t face, PartFace found, double slack) {
        for (const auto id : m_boundary.mesh.cell(face))
            if (m_out.node[id] == ~0U)
                m_out.node[id] = m_lookup.twin(m_boundary.mesh.node(id), found, slack);
    }

    const Case& m_case;
    const FaceLookup& m_lookup;
    const Region& m_boundary;
    BoundaryMatch m_out;
};

// A patch is made of faces of the part: nothing to search.
BoundaryMatch matchOfPatch(const Case& solved, const ShellView& shell, const Region& boundary) {
    BoundaryMatch out;
    const auto& mesh = boundary.mesh;
    const auto& part = solved.parts[boundary.patchOf->part].mesh;
    out.part.assign(mesh.cells(), boundary.patchOf->part);
    out.face.assign(boundary.patchOf->faces.begin(), boundary.patchOf->faces.end());
    out.node.assign(mesh.nodes(), ~0U);
    for (std::size_t i = 0; i < mesh.cells(); ++i) {
        const auto face = out.face[i];
        out.cell.push_back(shell.cell[face]);
        const auto ring = shell.face(face);
        for (const double along : outOfCell(unit(areaVector(mesh, i)), part, shell.cell[face], ring))
            out.normal.push_back(along);
        const auto nodes = mesh.cell(i);
        for (std::size_t k = 0; k < nodes.size(); ++k)
            out.node[nodes[k]] = ring[k];
    }
    return out;
}

double smallestFace(const Case& solved) {
    double smallest = 0;
    for (const auto& boundary : solved.boundaries)
        for (std::size_t face = 0; !boundary.patchOf && face < boundary.mesh.cells(); ++face) {
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
    std::optional<FaceLookup> lookup; // only where something is to be searched
    if (!std::ranges::all_of(solved.boundaries, [](const Region& boundary) { return boundary.patchOf.has_value(); })) {
        const double size = smallestFace(solved);
        lookup.emplace(solved, shells, size > 0 ? 0.1 * size : 1.0);
    }
    for (const auto& boundary : solved.boundaries)
        matches.push_back(boundary.patchOf ? matchOfPatch(solved, shells[boundary.patchOf->part], boundary)
                                           : Matcher(solved, *lookup, boundary).run());
    return matches;
}

} // namespace pyro
