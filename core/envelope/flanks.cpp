#include "core/envelope/flanks.h"

#include "core/envelope/ray.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <numeric>
#include <unordered_map>

namespace pyro {
namespace {

constexpr double mostDeviation = 0.02;
constexpr std::size_t probesAlong = 9;
constexpr std::size_t mostSplit = 4000; // faces that are looked through one by one
constexpr std::size_t mostPlanes = 64;  // of a surface; more of them are no plane elements

Point moved(const Point& from, const Point& along, double by) {
    return {from[0] + by * along[0], from[1] + by * along[1], from[2] + by * along[2]};
}

// Faces of the inner surface that lie in one plane, before one environment.
struct Patch {
    Point normal{}; // out of the part, into the environment
    double offset = 0;
    std::size_t environment = 0; // position among those inside
    std::vector<std::size_t> facets;
};

// A face of the surfaces inside.
struct Facet {
    std::size_t environment;
    std::size_t face; // of its boundary
    Point at;
    double area;
    double flux; // W/m2 into the environment
};
// A face of the surfaces outside, with the part's cell behind it.
struct OuterFace {
    std::size_t environment;
    Point normal;
    double flux;
};

struct Span {
    double low = 0;
    double high = 0;
    double length() const { return high - low; }
};

// An element on one patch, before its dimensions are known.
struct Found {
    std::size_t patch;
    Ray ray;
    double deviation;
    std::size_t outside; // position among the environments outside
};

bool sameLayers(const Ray& a, const Ray& b, double size) {
    return std::ranges::equal(a.layers, b.layers, [size](const RayLayer& x, const RayLayer& y) {
        return x.part == y.part && std::abs(x.thickness - y.thickness) <= 1e-5 * size &&
               std::abs(x.conductivity() - y.conductivity()) <= 0.01 * x.conductivity();
    });
}

class Search {
public:
    Search(const CaseHeat& heat, std::span<const Environment> inside, std::span<const Environment> outside)
        : m_heat(heat), m_inside(inside), m_outside(outside), m_case(heat.fields().solved()),
          m_index(heat.fields().index()), m_depth(depthOf(m_case, m_index)) {
        m_low = {1e300, 1e300, 1e300};
        m_high = {-1e300, -1e300, -1e300};
        for (const auto& part : m_index.parts)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                m_low[axis] = std::min(m_low[axis], part.box[2 * axis]);
                m_high[axis] = std::max(m_high[axis], part.box[2 * axis + 1]);
            }
        for (std::size_t axis = 0; axis < 3; ++axis)
            m_size = std::max(m_size, m_high[axis] - m_low[axis]);
    }

    Result<std::vector<Flank>> run() {
        for (std::size_t i = 0; i < m_inside.size(); ++i)
            if (auto done = takeInside(i); !done)
                return tl::unexpected(done.error());
        for (std::size_t i = 0; i < m_outside.size(); ++i)
            if (auto done = takeOutside(i); !done)
                return tl::unexpected(done.error());
        std::vector<Found> found;
        for (std::size_t patch = 0; patch < m_patches.size(); ++patch)
            if (auto done = probe(patch, found); !done)
                return tl::unexpected(done.error());
        if (found.empty())
            return ask(fmt::format(
                "no plane element was found between \"{}\" and \"{}\"{}", m_inside.front().name, m_outside.front().name,
                m_least < 1e300 ? fmt::format("; the least disturbed place deviates by {:.1f} %", 100 * m_least)
                                : std::string()));
        return dimensioned(found);
    }

private:
    static tl::unexpected<Error> ask(const std::string& what) {
        return fail(ErrorCode::NotSupported, what, {},
                    "Give the elements with the key \"flanks\": layers or transmittance, and length or area");
    }
    static std::uint64_t key(std::uint32_t part, std::uint32_t cell) { return std::uint64_t{part} << 32 | cell; }

    Done takeInside(std::size_t number) {
        const auto heat = m_heat.through(m_inside[number].boundary);
        if (!heat)
            return tl::unexpected(heat.error());
        const auto facets = siteOfBoundary(m_case, m_index, m_inside[number].boundary).facets;
        for (std::size_t i = 0; i < facets.size(); ++i) {
            if (facets.part[i] == noNumber)
                continue;
            const auto& normal = facets.normal[i];
            const double offset = dot(normal, facets.at[i]);
            m_facets.push_back({number, i, facets.at[i], facets.weight[i], heat->flux[i]});
            const auto same = std::ranges::find_if(m_patches, [&](const Patch& patch) {
                return patch.environment == number && dot(patch.normal, normal) > 1 - 1e-6 &&
                       std::abs(patch.offset - offset) < 1e-6 * m_size;
            });
            if (same != m_patches.end())
                same->facets.push_back(m_facets.size() - 1);
            else if (m_patches.size() < mostPlanes)
                m_patches.push_back({normal, offset, number, {m_facets.size() - 1}});
        }
        return {};
    }

    Done takeOutside(std::size_t number) {
        const auto heat = m_heat.through(m_outside[number].boundary);
        if (!heat)
            return tl::unexpected(heat.error());
        const auto& behind = m_index.boundaries[m_outside[number].boundary];
        for (std::size_t face = 0; face < behind.cell.size(); ++face)
            m_outer.emplace(
                key(behind.part[face], behind.cell[face]),
                OuterFace{number,
                          {behind.normal[3 * face], behind.normal[3 * face + 1], behind.normal[3 * face + 2]},
                          heat->flux[face]});
        return {};
    }

    std::span<const std::uint32_t> nodesOf(std::size_t facet) const { return meshOf(facet).cell(m_facets[facet].face); }
    const Mesh& meshOf(std::size_t facet) const {
        return m_case.boundaries[m_inside[m_facets[facet].environment].boundary].mesh;
    }
    const std::string& nameOf(const Patch& patch) const { return m_inside[patch.environment].name; }

    // The one or two directions in the plane of a patch.
    std::vector<Point> directions(const Patch& patch) const {
        if (m_depth) {
            Point along{};
            along[m_depth->axis] = 1;
            return {unit(cross(along, patch.normal))};
        }
        std::size_t least = 0;
        for (std::size_t axis = 1; axis < 3; ++axis)
            if (std::abs(patch.normal[axis]) < std::abs(patch.normal[least]))
                least = axis;
        Point along{};
        along[least] = 1;
        const auto first = unit(cross(patch.normal, along));
        return {first, unit(cross(patch.normal, first))};
    }

    // Facets to look at: spread over the patch in each direction and in its corners, where it is least disturbed.
    std::vector<std::size_t> probesOf(const Patch& patch) const {
        std::vector<std::size_t> probes;
        const auto along = directions(patch);
        std::vector<Point> orders = along;
        if (along.size() == 2)
            orders.insert(orders.end(), {unit(moved(along[0], along[1], 1)), unit(moved(along[0], along[1], -1))});
        auto sorted = patch.facets;
        for (const auto& direction : orders) {
            std::ranges::stable_sort(sorted, {}, [&](std::size_t facet) { return dot(direction, m_facets[facet].at); });
            for (std::size_t i = 0; i < probesAlong; ++i)
                probes.push_back(sorted[i * (sorted.size() - 1) / (probesAlong - 1)]);
        }
        std::ranges::sort(probes);
        probes.erase(std::unique(probes.begin(), probes.end()), probes.end());
        return probes;
    }

    // A way to the second environment, which ends square to its surface; nothing where it ends elsewhere.
    Result<std::optional<Found>> look(std::size_t patch, std::size_t facet) {
        const auto& normal = m_patches[patch].normal;
        auto ray = rayThrough(m_heat.fields(), m_facets[facet].at, {-normal[0], -normal[1], -normal[2]});
        if (!ray)
            return ray.error().code == ErrorCode::NotSupported && ray.error().what.starts_with("no part")
                       ? Result<std::optional<Found>>(std::nullopt)
                       : tl::unexpected(ray.error());
        const auto [from, to] = m_outer.equal_range(key(ray->part, ray->cell));
        for (auto it = from; it != to; ++it) {
            const auto& end = it->second;
            if (dot(end.normal, normal) > -(1 - 1e-5))
                continue;
            const auto& inside = m_inside[m_facets[facet].environment];
            const auto& outside = m_outside[end.environment];
            const double resistance = std::accumulate(
                ray->layers.begin(), ray->layers.end(), inside.resistance + outside.resistance,
                [](double sum, const RayLayer& layer) { return sum + layer.resistance; });
            const double expected = (inside.temperature - outside.temperature) / resistance;
            const double deviation = std::max(std::abs(-m_facets[facet].flux / expected - 1),
                                              std::abs(end.flux / expected - 1));
            m_least = std::min(m_least, deviation);
            return Found{patch, std::move(*ray), deviation, end.environment};
        }
        return std::nullopt;
    }

    Done probe(std::size_t at, std::vector<Found>& found) {
        const auto& patch = m_patches[at];
        std::vector<Found> here;
        bool passes = false;
        double least = 1e300;
        for (const auto facet : probesOf(patch)) {
            auto one = look(at, facet);
            if (!one)
                return tl::unexpected(one.error());
            if (!*one)
                continue;
            passes = true;
            least = std::min(least, (*one)->deviation);
            if ((*one)->deviation > mostDeviation)
                continue;
            const auto known = std::ranges::find_if(
                here, [&](const Found& other) { return sameLayers(other.ray, (*one)->ray, m_size); });
            if (known == here.end())
                here.push_back(std::move(**one));
            else if ((*one)->deviation < known->deviation)
                *known = std::move(**one);
        }
        if (here.empty() && passes && reachesTheEnd(patch))
            return ask(fmt::format("the surface of \"{}\" through {} reaches the end of the model, but is disturbed "
                                   "there: the flux deviates by {:.1f} % from that of its layers",
                                   nameOf(patch), placeText(m_facets[patch.facets.front()].at), 100 * least));
        found.insert(found.end(), std::make_move_iterator(here.begin()), std::make_move_iterator(here.end()));
        return {};
    }

    static std::string placeText(const Point& at) {
        return fmt::format("({:.4g}, {:.4g}, {:.4g}) m", at[0], at[1], at[2]);
    }

    Span spanOf(const Patch& patch, const Point& direction) const {
        Span span{1e300, -1e300};
        for (const auto facet : patch.facets)
            for (const auto node : nodesOf(facet)) {
                const double at = dot(direction, meshOf(facet).node(node));
                span.low = std::min(span.low, at);
                span.high = std::max(span.high, at);
            }
        return span;
    }
    // The extent of the whole model along a direction.
    Span modelSpan(const Point& direction) const {
        Span span{0, 0};
        for (std::size_t axis = 0; axis < 3; ++axis) {
            span.low += direction[axis] * (direction[axis] > 0 ? m_low : m_high)[axis];
            span.high += direction[axis] * (direction[axis] > 0 ? m_high : m_low)[axis];
        }
        return span;
    }
    bool near(double a, double b) const { return std::abs(a - b) < 1e-6 * m_size; }

    bool reachesTheEnd(const Patch& patch) const {
        return std::ranges::any_of(directions(patch), [&](const Point& direction) {
            const auto own = spanOf(patch, direction);
            const auto whole = modelSpan(direction);
            return near(own.low, whole.low) || near(own.high, whole.high);
        });
    }

    double areaOf(const std::vector<std::size_t>& facets) const {
        double sum = 0;
        for (const auto facet : facets)
            sum += m_facets[facet].area;
        return sum;
    }

    Result<std::vector<Flank>> dimensioned(const std::vector<Found>& found) {
        std::vector<Flank> flanks;
        for (const auto& one : found) {
            auto flank = describe(one);
            const auto sharing = std::ranges::count(found, one.patch, &Found::patch);
            if (sharing > 1) {
                if (auto done = split(one, found, flank); !done)
                    return tl::unexpected(done.error());
            } else {
                flank.internal = areaOf(m_patches[one.patch].facets);
                flank.external = extent(one, found, true);
                flank.overallInternal = extent(one, found, false);
            }
            flanks.push_back(std::move(flank));
        }
        return flanks;
    }

    Flank describe(const Found& one) const {
        Flank flank;
        flank.deviation = one.deviation;
        flank.line = {one.ray.from, one.ray.to};
        flank.element.inner = m_inside[m_patches[one.patch].environment].resistance;
        flank.element.outer = m_outside[one.outside].resistance;
        for (const auto& layer : one.ray.layers)
            flank.element.layers.push_back({m_case.parts[layer.part].name, layer.thickness, layer.conductivity(), {}});
        return flank;
    }

    // Along the plane of one end of the ray, up to where the planes of the other elements meet it; m2.
    double extent(const Found& one, const std::vector<Found>& all, bool outer) const {
        const auto& patch = m_patches[one.patch];
        double size = m_depth ? m_depth->metres : 1;
        for (const auto& direction : directions(patch)) {
            auto span = spanOf(patch, direction);
            const auto whole = modelSpan(direction);
            const auto meets = [&](double end, bool high) {
                if (near(end, high ? whole.high : whole.low))
                    return end;
                std::optional<double> best;
                for (const auto& other : all) {
                    const auto& normal = m_patches[other.patch].normal;
                    const double slope = dot(normal, direction);
                    if (std::abs(slope) < 0.02)
                        continue;
                    // On this element's plane, the place along `direction` that lies in the other's plane.
                    const auto& base = outer ? one.ray.to : one.ray.from;
                    const double by = (dot(normal, outer ? other.ray.to : other.ray.from) - dot(normal, base)) / slope;
                    const double at = dot(direction, base) + by;
                    if (!best || std::abs(at - end) < std::abs(*best - end))
                        best = at;
                }
                return best.value_or(high ? whole.high : whole.low);
            };
            size *= meets(span.high, true) - meets(span.low, false);
        }
        return size;
    }

    // Elements beside each other on one surface, in 2D: each has the faces through which its layers are met. What lies
    // between two stretches of one element belongs to it, between two elements it has to be told.
    Done split(const Found& one, const std::vector<Found>& all, Flank& flank) {
        const auto& patch = m_patches[one.patch];
        if (!m_depth || patch.facets.size() > mostSplit)
            return ask(
                fmt::format("several plane elements lie beside each other on one surface of \"{}\"", nameOf(patch)));
        const auto direction = directions(patch).front();
        auto sorted = patch.facets;
        std::ranges::stable_sort(sorted, {}, [&](std::size_t facet) { return dot(direction, m_facets[facet].at); });
        const Found* before = nullptr;
        double between = 0; // m2 since `before` that belong to nothing yet
        for (const auto facet : sorted) {
            const auto there = look(one.patch, facet);
            if (!there)
                return tl::unexpected(there.error());
            const auto element = std::ranges::find_if(all, [&](const Found& other) {
                return *there && other.patch == one.patch && sameLayers(other.ray, (*there)->ray, m_size);
            });
            if (element == all.end()) {
                between += m_facets[facet].area;
                continue;
            }
            if (between > 0 && before != nullptr && before != &*element)
                return ask(fmt::format("two plane elements share a surface of \"{}\" with something else between them",
                                       nameOf(patch)));
            if (&*element == &one)
                flank.internal += m_facets[facet].area + between;
            between = 0;
            before = &*element;
        }
        if (before == &one)
            flank.internal += between;
        flank.external = flank.overallInternal = flank.internal;
        return {};
    }

    const CaseHeat& m_heat;
    std::span<const Environment> m_inside;
    std::span<const Environment> m_outside;
    const Case& m_case;
    const CaseIndex& m_index;
    std::optional<Depth> m_depth;
    Point m_low;
    Point m_high;
    double m_size = 0;
    double m_least = 1e300;
    std::vector<Facet> m_facets;
    std::unordered_multimap<std::uint64_t, OuterFace> m_outer; // by part and cell
    std::vector<Patch> m_patches;
};

} // namespace

std::string_view dimensionsText(Dimensions dimensions) {
    return dimensions == Dimensions::Internal   ? "internal"
           : dimensions == Dimensions::External ? "external"
                                                : "overall_internal";
}

std::optional<Depth> depthOf(const Case& solved, const CaseIndex& index) {
    if (const auto axis = solved.plane ? solved.plane->axis() : std::nullopt)
        return Depth{*axis, solved.plane->depth};
    for (const std::size_t axis : {2U, 1U, 0U}) {
        double low = 1e300;
        double high = -1e300;
        for (const auto& part : index.parts) {
            low = std::min(low, part.box[2 * axis]);
            high = std::max(high, part.box[2 * axis + 1]);
        }
        const double slack = 1e-6 * (high - low);
        const bool flat = std::ranges::all_of(solved.parts, [&](const Region& part) {
            for (std::size_t node = 0; node < part.mesh.nodes(); ++node) {
                const double at = part.mesh.coordinates[3 * node + axis];
                if (at > low + slack && at < high - slack)
                    return false;
            }
            return true;
        });
        if (flat && high > low)
            return Depth{axis, high - low};
    }
    return std::nullopt;
}

std::string Flank::text() const {
    std::vector<std::string> words;
    for (const auto& layer : element.layers)
        words.push_back(
            fmt::format("{} {:.4g} mm {:.4g} W/(m.K)", layer.name, 1e3 * layer.thickness, layer.conductivity));
    return fmt::format("{}", fmt::join(words, ", "));
}

Result<std::vector<Flank>> flanksBetween(const CaseHeat& heat, std::span<const Environment> inside,
                                         std::span<const Environment> outside) {
    return Search(heat, inside, outside).run();
}

} // namespace pyro
