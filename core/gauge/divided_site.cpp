// The faces of a site, divided so that products of two fields are summed exactly.
#include "core/field/boundary_nodes.h"
#include "core/gauge/facet_rule.h"
#include "core/gauge/site.h"

namespace pyro {
namespace {

class Divider {
public:
    explicit Divider(const Places& faces) : m_faces(faces) {}

    // The next face: its corners and the node of the part at each, noNumber where nothing is behind it.
    template <class At, class NodeAt>
    void add(std::size_t corners, At at, NodeAt nodeAt) {
        const auto& points = m_rule.of(corners, at);
        double area = 0;
        for (const auto& point : points)
            area += point.area;
        for (const auto& point : points) {
            m_out.at.push_back(point.place(at));
            m_out.weight.push_back(area > 0 ? m_faces.weight[m_face] * point.area / area : 0);
            m_out.normal.push_back(m_faces.normal[m_face]);
            m_out.part.push_back(m_faces.part[m_face]);
            m_out.cell.push_back(m_faces.cell[m_face]);
            for (std::size_t i = 0; i < corners && m_faces.part[m_face] != noNumber; ++i)
                if (point.share[i] != 0)
                    m_out.addShare(nodeAt(i), point.share[i]);
            m_out.closePlace();
            m_faceOf.push_back(m_face);
        }
        ++m_face;
    }

    void into(Site& site) {
        site.facets = std::move(m_out);
        site.faceOf = std::move(m_faceOf);
    }

private:
    const Places& m_faces;
    std::uint32_t m_face = 0;
    FacetRule m_rule;
    Places m_out;
    std::vector<std::uint32_t> m_faceOf;
};

void addBoundary(Divider& divider, const Case& solved, const CaseIndex& index, std::size_t boundary) {
    const auto& region = solved.boundaries[boundary];
    for (std::size_t face = 0; face < region.mesh.cells(); ++face) {
        const auto nodes = cornersOf(region.mesh, face);
        divider.add(
            nodes.size(), [&](std::size_t i) { return region.mesh.node(nodes[i]); },
            [&](std::size_t i) { return nodeBehind(solved, region, index.boundaries[boundary], face, nodes[i]); });
    }
}

// A face whose nodes are the part's own.
void addOwn(Divider& divider, const Mesh& mesh, std::span<const std::uint32_t> nodes) {
    divider.add(
        nodes.size(), [&](std::size_t i) { return mesh.node(nodes[i]); }, [&](std::size_t i) { return nodes[i]; });
}

} // namespace

Site dividedForProducts(const Site& site, const Case& solved, const CaseIndex& index) {
    Site out = site;
    if (!site.faceOf.empty() || (!site.stored && site.shellFaces.empty()))
        return out;
    Divider divider(site.facets);
    if (!site.stored)
        for (std::size_t i = 0; i < site.shellFaces.size(); ++i)
            addOwn(divider, solved.parts[site.facets.part[i]].mesh,
                   index.shells->parts[site.facets.part[i]].face(site.shellFaces[i]));
    for (const auto region : site.stored ? site.regions.regions : std::vector<std::size_t>{}) {
        if (site.regions.boundaries)
            addBoundary(divider, solved, index, region);
        else if (const auto& mesh = solved.parts[region].mesh; solved.parts[region].dimension == 2)
            for (std::size_t cell = 0; cell < mesh.cells(); ++cell)
                addOwn(divider, mesh, cornersOf(mesh, cell));
    }
    divider.into(out);
    return out;
}

} // namespace pyro
