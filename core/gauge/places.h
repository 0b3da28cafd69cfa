// Places on a case with the way to read a part's arrays there: nodes of sections, facets of surfaces, points of lines.
#pragma once

#include "core/field/case_index.h"
#include "core/field/cut.h"
#include "core/field/polygon_fan.h"

namespace pyro {

// All lists have one entry per place, `node` and `share` between begin[i] and begin[i + 1].
struct Places {
    std::vector<Point> at;
    std::vector<double> weight;      // m, m2; sums to the extent
    std::vector<Point> normal;       // of facets, unit length; else empty
    std::vector<std::uint32_t> part; // position in Case::parts; noNumber outside of the mesh
    std::vector<std::uint32_t> cell; // of the part
    std::vector<std::uint32_t> begin{0};
    std::vector<std::uint32_t> node; // of the part
    std::vector<double> share;       // of each node in the value; they sum to 1

    std::size_t size() const { return at.size(); }
    void addShare(std::uint32_t ofNode, double by) {
        node.push_back(ofNode);
        share.push_back(by);
    }
    void closePlace() { begin.push_back(static_cast<std::uint32_t>(node.size())); }
};

// Nodes of a surface, their weights the integrals of their shape functions; and facets: of a section the points of each
// polygon's rule (facet_rule.h), else one for each face.
struct SurfacePlaces {
    Places nodes;
    Places facets;
};

void append(Places& to, const Places& more);

// The polygons of cuts, one per part. `normal`: theirs, for a plane; zero: from each polygon.
SurfacePlaces placesOfCuts(std::span<const std::pair<std::uint32_t, Cut>> cuts, const Point& normal);

// The faces of a boundary that a part stands behind: a facet each, in the order of the boundary; faces without a part
// have noNumber. Normals point out of the part.
Places placesOfBoundary(const Case& solved, const CaseIndex& index, std::size_t boundary);

// The cells of a part that is a surface, a facet each; their normals by the right-hand rule over their nodes.
Places placesOfSurfacePart(const Case& solved, std::uint32_t part);

// Faces in which the first part touches the second, read from the first; normals point into the second.
// Errors: NameUnknown when they touch nowhere.
struct InterfacePlaces {
    SurfacePlaces surface;
    std::vector<std::uint32_t> shellFaces; // of the first part, per facet
};
Result<InterfacePlaces> placesOfInterface(const Case& solved, const CaseIndex& index, std::uint32_t first,
                                          std::uint32_t second);

// The outer faces of one part that lie in a plane, where no other part has some there and the plane cuts none; normals
// as the plane's.
std::optional<InterfacePlaces> placesOfWall(const Case& solved, const CaseIndex& index,
                                            std::span<const std::uint32_t> parts, const Plane& unitPlane);

// The corners of a cell or face, without the nodes between them.
std::span<const std::uint32_t> cornersOf(const Mesh& mesh, std::size_t face);

// The normal of a face, away from a place behind it.
Point outwards(const PolygonFan& face, const Point& inside);

// Single places, weight 0; those outside of the mesh have noNumber.
Places placesOfPoints(const Case& solved, const CaseIndex& index, std::span<const Point> points,
                      std::span<const std::uint32_t> parts);

} // namespace pyro
