// Where a gauge measures on one case: its `where` found again on this mesh.
#pragma once

#include "core/gauge/places.h"
#include "core/gauge/support.h"
#include "core/gauge/where_shape.h"

#include <functional>

namespace pyro {

enum class SiteKind { Volume, Surface, Line, Spot };

struct Site {
    SiteKind kind = SiteKind::Volume;
    Support regions;     // of parts and boundaries; empty for other shapes
    bool stored = false; // parts or boundaries, whose own arrays are read
    Places points;       // nodes of a surface; points of a line; the point. Empty for parts and boundaries
    Places facets;       // of surfaces; of boundaries in the order of `regions`
    std::vector<std::uint32_t> shellFaces; // of an interface: per facet, of its part's shell
    bool wallFaces = false;        // of a plane that lies in outer faces of one part, which `shellFaces` are then
    std::vector<double> s;         // of lines: metres from the start
    double outside = 0;            // share of the support outside of the mesh
    std::vector<std::size_t> wall; // boundaries that a point or line lies on
    // of a surface from a file its triangles there, of a section its polygons; else as many as facets
    std::size_t faces = 0;
    // of a site divided for products: the face that each facet is a point of; else empty
    std::vector<std::uint32_t> faceOf;
    double extent = 0; // m, m2 or m3 within the mesh
};

// A surface from a file as triangles in metres, for `surface`; errors as openCase.
using SurfaceReader = std::function<Result<std::shared_ptr<const Case>>(const std::string& file)>;

struct SiteTools {
    const Case& solved;
    const CaseIndex& index;
    const QuantityList& quantities;
    SurfaceReader readSurface;
};

// Errors: NameUnknown for parts and boundaries that the case lacks; NotSupported with the reason for a plane, isotherm,
// point or surface that misses the mesh.
Result<Site> siteOf(const WhereShape& where, const SiteTools& tools);

// One boundary as a site, with its facets.
Site siteOfBoundary(const Case& solved, const CaseIndex& index, std::size_t boundary);

// The same site with each face divided into the points of its rule (facet_rule.h), so that products of two fields, as
// in a bulk temperature, are summed exactly.
Site dividedForProducts(const Site& site, const Case& solved, const CaseIndex& index);

// The facets of a site of boundaries or surface parts, which most readings do without. Does nothing where they are
// there already.
void addFacets(Site& site, const Case& solved, const CaseIndex& index);

} // namespace pyro
