#include "core/gauge/site.h"

#include "core/gauge/surface_places.h"
#include "core/gauge/wall_trace.h"

#include <cmath>
#include <fmt/format.h>
#include <numeric>
#include <set>

namespace pyro {
namespace {

template <class... Cases>
struct Match : Cases... {
    using Cases::operator()...;
};
template <class... Cases>
Match(Cases...) -> Match<Cases...>;

Result<std::vector<std::size_t>> found(const std::vector<std::string>& names, const std::vector<Region>& regions,
                                       const char* kind) {
    std::vector<std::size_t> out;
    for (const auto& name : names) {
        const auto at = std::ranges::find(regions, name, &Region::name);
        if (at == regions.end())
            return fail(ErrorCode::NameUnknown, fmt::format("the case has no {} named \"{}\"", kind, name));
        out.push_back(static_cast<std::size_t>(at - regions.begin()));
    }
    return out;
}

class SiteMaker {
public:
    SiteMaker(const WhereShape& where, const SiteTools& tools) : m_where(where), m_tools(tools) {}

    Result<Site> run() {
        const auto parts = found(m_where.parts, m_tools.solved.parts, "part");
        if (!parts)
            return tl::unexpected(parts.error());
        const auto boundaries = found(m_where.boundaries, m_tools.solved.boundaries, "boundary");
        if (!boundaries)
            return tl::unexpected(boundaries.error());
        for (std::size_t part = 0; part < m_tools.solved.parts.size(); ++part)
            if (m_where.parts.empty() || std::ranges::find(*parts, part) != parts->end())
                m_parts.push_back(static_cast<std::uint32_t>(part));
        m_out.wall = *boundaries;
        const auto done = std::visit(Match{[&](const RegionShape&) { return regions(*parts, *boundaries); },
                                           [&](const PointShape& shape) { return point(shape); },
                                           [&](const LineShape& shape) { return line(shape); },
                                           [&](const TraceShape& shape) { return trace(shape); },
                                           [&](const PlaneShape& shape) { return plane(shape); },
                                           [&](const InterfaceShape& shape) { return interface(shape); },
                                           [&](const IsothermShape& shape) { return isotherm(shape); },
                                           [&](const SurfaceShape& shape) { return surface(shape); }},
                                     m_where.shape);
        if (!done)
            return tl::unexpected(done.error());
        return std::move(m_out);
    }

private:
    Done regions(const std::vector<std::size_t>& parts, const std::vector<std::size_t>& boundaries) {
        if (!boundaries.empty() &&
            std::ranges::all_of(boundaries, [&](auto boundary) { return isFreeSurface(boundary); })) {
            m_out.kind = SiteKind::Surface;
            for (const auto boundary : boundaries)
                triangles(m_tools.solved.boundaries[boundary].mesh, 1);
            m_out.wall.clear();
            return locateSurface();
        }
        m_out.stored = true;
        m_out.wall.clear();
        if (!boundaries.empty()) {
            m_out.kind = SiteKind::Surface;
            m_out.regions = {true, boundaries};
            for (const auto boundary : boundaries)
                m_out.extent += m_tools.index.boundaries[boundary].size;
            return {};
        }
        m_out.regions.regions.assign(m_parts.begin(), m_parts.end());
        if (!m_where.everything)
            m_out.regions.regions = parts;
        if (!m_out.regions.regions.empty() && m_tools.solved.parts[m_out.regions.regions.front()].dimension == 2) {
            m_out.kind = SiteKind::Surface;
            addFacets(m_out, m_tools.solved, m_tools.index);
        }
        for (const auto part : m_out.regions.regions)
            m_out.extent += m_tools.index.parts[part].size;
        return {};
    }

    // None of its faces is a face of a part, and it stores nothing itself: it is read where it cuts through the cells.
    bool isFreeSurface(std::size_t boundary) const {
        const auto& behind = m_tools.index.boundaries[boundary].part;
        const auto& region = m_tools.solved.boundaries[boundary];
        return region.arrays.empty() && region.dimension == 2 && !m_tools.solved.parts.empty() && !behind.empty() &&
               std::ranges::all_of(behind, [](auto part) { return part == noNumber; });
    }

    Done point(const PointShape& shape) {
        m_out.kind = SiteKind::Spot;
        m_out.points = placesOfPoints(m_tools.solved, m_tools.index, std::span(&shape.at, 1), m_parts);
        if (m_out.points.part[0] == noNumber)
            return fail(ErrorCode::NotSupported,
                        fmt::format("the point ({:g}, {:g}, {:g}) m lies outside of the {}", shape.at[0], shape.at[1],
                                    shape.at[2], m_where.parts.empty() ? "mesh" : "parts named"));
        m_out.points.weight[0] = 1;
        return {};
    }

    Done line(const LineShape& shape) {
        std::vector<double> reach{0};
        for (std::size_t i = 1; i < shape.through.size(); ++i)
            reach.push_back(reach.back() + std::sqrt(dot(minus(shape.through[i], shape.through[i - 1]),
                                                         minus(shape.through[i], shape.through[i - 1]))));
        std::vector<Point> at;
        for (std::size_t i = 0; i < shape.points; ++i) {
            const double s = reach.back() * static_cast<double>(i) / static_cast<double>(shape.points - 1);
            const auto after = static_cast<std::size_t>(std::ranges::upper_bound(reach, s) - reach.begin());
            const auto to = std::clamp<std::size_t>(after, 1, reach.size() - 1);
            const double span = reach[to] - reach[to - 1];
            const double share = span > 0 ? (s - reach[to - 1]) / span : 0;
            Point place{};
            for (std::size_t axis = 0; axis < 3; ++axis)
                place[axis] = shape.through[to - 1][axis] +
                              share * (shape.through[to][axis] - shape.through[to - 1][axis]);
            at.push_back(place);
            m_out.s.push_back(s);
        }
        return alongLine(at);
    }

    // Weights by the trapezoidal rule; each stretch between two places counts as inside when both are.
    Done alongLine(const std::vector<Point>& at) {
        m_out.kind = SiteKind::Line;
        m_out.points = placesOfPoints(m_tools.solved, m_tools.index, at, m_parts);
        for (std::size_t i = 1; i < at.size(); ++i) {
            const double span = m_out.s[i] - m_out.s[i - 1];
            if (m_out.points.part[i] == noNumber || m_out.points.part[i - 1] == noNumber)
                continue;
            m_out.extent += span;
            m_out.points.weight[i] += span / 2;
            m_out.points.weight[i - 1] += span / 2;
        }
        m_out.outside = m_out.s.back() > 0 ? std::max(0.0, 1 - m_out.extent / m_out.s.back()) : 0;
        if (std::ranges::all_of(m_out.points.part, [](auto part) { return part == noNumber; }))
            return fail(ErrorCode::NotSupported, "the line lies outside of the mesh everywhere");
        return {};
    }

    Done trace(const TraceShape& shape) {
        std::vector<const Mesh*> walls;
        for (const auto boundary : m_out.wall)
            walls.push_back(&m_tools.solved.boundaries[boundary].mesh);
        const auto through = wallTrace(walls, shape.plane);
        if (through.size() < 2)
            return fail(ErrorCode::NotSupported, "the plane of the trace misses the boundary");
        return line({through, shape.points});
    }

    Done plane(const PlaneShape& shape) {
        // the better methods serve there
        if (auto wall = placesOfWall(m_tools.solved, m_tools.index, m_parts, shape.plane)) {
            m_out.kind = SiteKind::Surface;
            m_out.wallFaces = true;
            m_out.shellFaces = std::move(wall->shellFaces);
            take(std::move(wall->surface));
            return {};
        }
        return cuts(
            [&](std::size_t part) {
                return Result<Cut>(section(m_tools.solved.parts[part], m_tools.index.search->order(part), shape.plane));
            },
            shape.plane.normal, "the plane misses the parts it is asked on");
    }

    Done isotherm(const IsothermShape& shape) {
        const auto* temperature = m_tools.quantities.named("temperature");
        if (temperature == nullptr)
            return fail(ErrorCode::NameUnknown, "the case has no temperature");
        const auto cut = [&](std::size_t part) -> Result<Cut> {
            const auto& region = m_tools.solved.parts[part];
            const auto* array = region.find(temperature->array, Location::Node);
            if (array == nullptr)
                return fail(
                    ErrorCode::NotSupported,
                    fmt::format("an isotherm needs the temperature on nodes, and \"{}\" has none there", region.name));
            const auto& order = m_tools.index.search->order(part);
            return levelSurface(region, order, blockRanges(order, *array), array->values,
                                temperature->toSi.inverse()(shape.kelvin));
        };
        return cuts(cut, {}, "no place has the temperature of the isotherm");
    }

    template <class MakeCut>
    Done cuts(MakeCut make, const Point& normal, const char* missed) {
        m_out.kind = SiteKind::Surface;
        std::vector<std::pair<std::uint32_t, Cut>> all;
        for (const auto part : m_parts) {
            auto cut = make(part);
            if (!cut)
                return tl::unexpected(cut.error());
            if (!cut->empty())
                all.emplace_back(part, std::move(*cut));
        }
        if (all.empty())
            return fail(ErrorCode::NotSupported, missed);
        for (const auto& cut : all)
            m_out.faces += cut.second.polygons();
        take(placesOfCuts(all, normal));
        return {};
    }

    Done interface(const InterfaceShape& shape) {
        const auto parts = found({shape.parts[0], shape.parts[1]}, m_tools.solved.parts, "part");
        if (!parts)
            return tl::unexpected(parts.error());
        auto places = placesOfInterface(m_tools.solved, m_tools.index, static_cast<std::uint32_t>((*parts)[0]),
                                        static_cast<std::uint32_t>((*parts)[1]));
        if (!places)
            return tl::unexpected(places.error());
        m_out.kind = SiteKind::Surface;
        m_out.shellFaces = std::move(places->shellFaces);
        take(std::move(places->surface));
        return {};
    }

    void take(SurfacePlaces places) {
        m_out.points = std::move(places.nodes);
        m_out.facets = std::move(places.facets);
        m_out.extent = std::accumulate(m_out.facets.weight.begin(), m_out.facets.weight.end(), 0.0);
    }

    Done surface(const SurfaceShape& shape) {
        const auto file = m_tools.readSurface
                              ? m_tools.readSurface(shape.file)
                              : fail(ErrorCode::NotSupported, "surfaces from files cannot be read here");
        if (!file)
            return tl::unexpected(file.error());
        m_out.kind = SiteKind::Surface;
        bool any = false;
        for (const auto& region : (*file)->parts)
            if (shape.solid.empty() || region.name == shape.solid) {
                any = true;
                triangles(region.mesh, shape.metresPerUnit);
            }
        if (!any)
            return fail(ErrorCode::NameUnknown,
                        fmt::format("\"{}\" has no solid named \"{}\"", shape.file, shape.solid));
        return locateSurface();
    }

    // The triangles of a surface that is not part of the mesh, each facet once however often the file has it.
    void triangles(const Mesh& mesh, double scale) {
        for (std::size_t cell = 0; cell < mesh.cells(); ++cell) {
            const auto nodes = mesh.cell(cell);
            const auto corner = [&](std::size_t i) {
                auto at = mesh.node(nodes[i]);
                for (auto& value : at)
                    value *= scale;
                return at;
            };
            std::set<Point> corners;
            for (std::size_t i = 0; i < nodes.size(); ++i)
                corners.insert(corner(i));
            if (nodes.size() < 3 || !m_seen.insert(corners).second)
                continue;
            for (std::size_t i = 1; i + 1 < nodes.size(); ++i)
                m_triangles.push_back({corner(0), corner(i), corner(i + 1)});
        }
    }

    Done locateSurface() {
        m_out.faces = m_triangles.size();
        auto surface = divided(m_tools.solved, m_tools.index, m_triangles, m_parts);
        take(std::move(surface.places));
        m_out.outside = surface.area > 0 ? std::max(0.0, 1 - surface.inside / surface.area) : 0;
        if (m_out.outside < 1e-9) // rounding
            m_out.outside = 0;
        if (!(m_out.extent > 0))
            return fail(ErrorCode::NotSupported, "the surface misses the mesh", {}, "Check the unit of its lengths");
        return {};
    }

    const WhereShape& m_where;
    const SiteTools& m_tools;
    std::vector<std::uint32_t> m_parts; // that a shape may lie in
    Site m_out;
    std::set<std::set<Point>> m_seen;
    std::vector<Triangle> m_triangles;
};

} // namespace

Site siteOfBoundary(const Case& solved, const CaseIndex& index, std::size_t boundary) {
    Site site;
    site.kind = SiteKind::Surface;
    site.stored = true;
    site.regions = {true, {boundary}};
    site.extent = index.boundaries[boundary].size;
    addFacets(site, solved, index);
    return site;
}

void addFacets(Site& site, const Case& solved, const CaseIndex& index) {
    if (site.facets.size() > 0)
        return;
    for (const auto region : site.regions.regions)
        if (site.regions.boundaries)
            append(site.facets, placesOfBoundary(solved, index, region));
        else if (solved.parts[region].dimension == 2)
            append(site.facets, placesOfSurfacePart(solved, static_cast<std::uint32_t>(region)));
}

Result<Site> siteOf(const WhereShape& where, const SiteTools& tools) { return SiteMaker(where, tools).run(); }

} // namespace pyro
