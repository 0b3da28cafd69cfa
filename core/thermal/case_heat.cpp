#include "core/thermal/case_heat.h"

#include "core/field/vector_algebra.h"
#include "core/thermal/wall_layers.h"

#include "core/field/boundary_nodes.h"
#include "core/thermal/face_boundaries.h"
#include "core/thermal/site_values.h"

#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

tl::unexpected<Error> notStored() { return fail(ErrorCode::NotSupported, "no heat flux is stored there"); }

} // namespace

const Result<ShellHeat>& CaseHeat::shell(std::size_t part) const {
    const std::scoped_lock hold(m_lock);
    const auto found = m_shells.find(part);
    if (found != m_shells.end())
        return found->second;
    if (!m_fields.temperatureOn(part, Location::Cell))
        return m_shells.emplace(part, shellHeat(m_fields, part, m_transience)).first->second;
    const auto across = beyond(part);
    return m_shells.emplace(part, shellHeat(m_fields, part, m_transience, &across)).first->second;
}

TwinFace CaseHeat::twin(std::size_t part, std::size_t face) const {
    const std::scoped_lock hold(m_lock);
    if (!m_twins)
        m_twins = twinFaces(m_fields.solved(), m_fields.index().shells->parts);
    return (*m_twins)[part][face];
}

BeyondFaces CaseHeat::environmentOn(std::size_t boundary) const {
    const auto& region = m_fields.solved().boundaries[boundary];
    const auto given = m_given.find(region.name);
    const auto side = [&](const std::optional<double>& told, const char* array) {
        std::vector<double> out(region.mesh.cells(), told.value_or(std::nan("")));
        const auto* stored = told ? nullptr : region.find(array, Location::Cell);
        for (std::size_t face = 0; stored != nullptr && stored->components == 1 && face < out.size(); ++face)
            out[face] = stored->values[face];
        return out;
    };
    return {side(given == m_given.end() ? std::nullopt : given->second.temperature, "environment_temperature"),
            side(given == m_given.end() ? std::nullopt : given->second.resistance, "surface_resistance")};
}

// From the surface's temperature, what lies beyond and what resists between them.
std::optional<FacetHeat> CaseHeat::filmThrough(std::size_t boundary) const {
    const auto beyond = environmentOn(boundary);
    if (!std::ranges::all_of(beyond.resistance, [](double one) { return one > 0; }) ||
        !std::ranges::all_of(beyond.kelvin, [](double one) { return std::isfinite(one); }))
        return std::nullopt;
    const auto kelvin = readFacets(siteOfBoundary(m_fields.solved(), m_fields.index(), boundary), m_fields,
                                   "temperature", Component::Natural);
    if (!kelvin || kelvin->size() != beyond.kelvin.size())
        return std::nullopt;
    FacetHeat heat;
    heat.method = HeatMethod::Film;
    const auto areas = m_fields.index().boundaries[boundary].cellMeasure;
    for (std::size_t face = 0; face < kelvin->size(); ++face) {
        heat.flux.push_back(((*kelvin)[face] - beyond.kelvin[face]) / beyond.resistance[face]);
        heat.total += heat.flux.back() * areas[face];
    }
    return heat;
}

// Whether the energy equation is not kept right behind the faces: then what it tells of them is no better.
bool CaseHeat::leavesHeatOver(std::size_t boundary, double total) const {
    constexpr double share = 0.02;
    const auto& behind = m_fields.index().boundaries[boundary].part;
    const auto& faces = shellFaces(boundary);
    std::map<std::uint32_t, std::vector<std::uint32_t>> byPart;
    for (std::size_t face = 0; face < faces.size(); ++face)
        if (faces[face] != noNumber)
            byPart[behind[face]].push_back(faces[face]);
    double left = 0;
    for (const auto& [part, own] : byPart) {
        const auto boundaries = boundariesOfFaces(*this, part);
        std::vector<std::uint8_t> open(boundaries.size(), 0);
        for (std::size_t face = 0; face < open.size(); ++face)
            open[face] = boundaries[face] != noNumber || twin(part, face).part != ~0U ? 1 : 0;
        left += heatLeftBehind(m_fields, part, m_transience, own, open).value_or(0);
    }
    return std::abs(left) > share * std::abs(total);
}

// Other parts' cells that touch, then the boundaries' own temperatures, which are nearer, or what is told to lie beyond
// them.
BeyondFaces CaseHeat::beyond(std::size_t part) const {
    const auto& solved = m_fields.solved();
    const auto& index = m_fields.index();
    const auto faces = index.parts[part].shell.faces();
    BeyondFaces out{std::vector<double>(faces, std::nan("")), std::vector<double>(faces, 0.0)};
    for (std::size_t face = 0; face < faces; ++face) {
        const auto twin = this->twin(part, face);
        const auto kelvin = twin.part == ~0U ? std::nullopt : m_fields.temperatureOn(twin.part, Location::Cell);
        if (!kelvin)
            continue;
        const auto cell = index.parts[twin.part].shell.cell[twin.face];
        out.kelvin[face] = kelvin->at(cell);
        out.resistance[face] = halfCellResistance(m_fields, twin.part, cell, areas(twin.part).centre[twin.face],
                                                  areas(twin.part).normal[twin.face]);
    }
    const auto* temperature = m_fields.quantities().named("temperature");
    for (std::size_t boundary = 0; boundary < solved.boundaries.size(); ++boundary) {
        const auto* own = solved.boundaries[boundary].find(temperature->array, Location::Cell);
        const auto& behind = index.boundaries[boundary].part;
        if (std::ranges::find(behind, static_cast<std::uint32_t>(part)) == behind.end())
            continue;
        const auto environment = own == nullptr ? environmentOn(boundary) : BeyondFaces{};
        const auto& shellFace = shellFaces(boundary);
        for (std::size_t face = 0; face < shellFace.size(); ++face) {
            if (behind[face] != part || shellFace[face] == noNumber)
                continue;
            const double kelvin = own != nullptr ? temperature->toSi(own->values[face]) : environment.kelvin[face];
            const double resistance = own != nullptr ? 0 : environment.resistance[face];
            if (own == nullptr && !std::isfinite(kelvin + resistance))
                continue;
            out.kelvin[shellFace[face]] = kelvin;
            out.resistance[shellFace[face]] = resistance;
        }
    }
    return out;
}

const ShellAreas& CaseHeat::areas(std::size_t part) const {
    const std::scoped_lock hold(m_lock);
    const auto found = m_areas.find(part);
    return found != m_areas.end()
               ? found->second
               : m_areas
                     .emplace(part, shellAreas(m_fields.solved().parts[part].mesh, m_fields.index().parts[part].shell))
                     .first->second;
}

const std::vector<std::uint32_t>& CaseHeat::shellFaces(std::size_t boundary) const {
    const std::scoped_lock hold(m_lock);
    const auto found = m_shellFaces.find(boundary);
    return found != m_shellFaces.end()
               ? found->second
               : m_shellFaces.emplace(boundary, shellFacesOf(m_fields.solved(), m_fields.index(), boundary))
                     .first->second;
}

std::optional<FacetHeat> CaseHeat::storedThrough(std::size_t boundary) const {
    if (m_fields.quantities().named("heat_flux") == nullptr)
        return std::nullopt;
    Site site;
    site.kind = SiteKind::Surface;
    site.regions = {true, {boundary}};
    site.stored = true;
    auto values = readFacets(site, m_fields, "heat_flux", Component::Normal);
    if (!values)
        return std::nullopt;
    FacetHeat heat{std::move(*values), HeatMethod::Stored};
    const auto areas = m_fields.index().boundaries[boundary].cellMeasure;
    for (std::size_t i = 0; i < areas.size(); ++i)
        heat.total += heat.flux[i] * areas[i];
    return heat;
}

std::optional<double> CaseHeat::spread(const Site& site, std::optional<HeatMethod> wanted) const {
    using FacesOfParts = std::map<std::uint32_t, std::vector<std::uint32_t>>;
    std::vector<FacesOfParts> walls;
    if (!site.regions.boundaries && !site.shellFaces.empty())
        walls.push_back({{site.facets.part.front(), site.shellFaces}});
    for (const auto boundary : site.regions.boundaries ? site.regions.regions : std::vector<std::size_t>()) {
        auto& wall = walls.emplace_back();
        const auto& faces = shellFaces(boundary);
        for (std::size_t face = 0; face < faces.size(); ++face)
            wall[m_fields.index().boundaries[boundary].part[face]].push_back(faces[face]);
    }
    std::optional<double> sum;
    for (const auto& wall : walls) {
        const bool better = wanted != HeatMethod::Gradient && std::ranges::all_of(wall, [&](const auto& one) {
                                return shell(one.first) && shell(one.first)->method == HeatMethod::Conservative;
                            });
        double first = 0;
        std::optional<double> second = better ? std::nullopt : std::optional(0.0);
        for (const auto& [part, faces] : wall) {
            const auto heat = second && shell(part) ? secondLayerHeat(m_fields, areas(part), part, faces)
                                                    : std::nullopt;
            second = heat ? std::optional(*second + *heat) : std::nullopt;
            for (const auto face : second ? faces : std::vector<std::uint32_t>())
                first += shell(part)->gradient[face];
        }
        if (second)
            sum = sum.value_or(0) + std::abs(*second - first);
    }
    return sum;
}

Result<FacetHeat> CaseHeat::computedThrough(std::size_t boundary, bool plain) const {
    const auto& solved = m_fields.solved();
    const auto& behind = m_fields.index().boundaries[boundary];
    const auto& faces = shellFaces(boundary);
    FacetHeat heat;
    heat.method = HeatMethod::Conservative;
    double gradientTotal = 0;
    for (std::size_t face = 0; face < faces.size(); ++face) {
        if (faces[face] == noNumber)
            return fail(ErrorCode::NotSupported,
                        fmt::format("face {} of \"{}\" has no part behind it", face, solved.boundaries[boundary].name));
        const auto& part = shell(behind.part[face]);
        if (!part)
            return tl::unexpected(part.error());
        const double area = behind.cellMeasure[face];
        const double through = plain ? part->gradient[faces[face]] : part->face[faces[face]];
        heat.flux.push_back(area > 0 ? through / area : 0);
        heat.total += through;
        gradientTotal += part->gradient[faces[face]];
        if (part->method != HeatMethod::Conservative)
            heat.method = part->method;
        else if (!part->plain.empty() && part->plain[faces[face]] != 0) {
            heat.method = HeatMethod::Gradient;
            heat.why = fmt::format("what lies beyond \"{}\" is not known", solved.boundaries[boundary].name);
        }
        if (!part->why.empty())
            heat.why = part->why;
    }
    if (plain)
        heat.method = HeatMethod::Gradient;
    if (heat.method == HeatMethod::Conservative)
        heat.gradientTotal = gradientTotal;
    return heat;
}

Result<FacetHeat> CaseHeat::through(std::size_t boundary, std::optional<HeatMethod> wanted) const {
    if (!wanted || wanted == HeatMethod::Stored) {
        if (auto stored = storedThrough(boundary))
            return std::move(*stored);
        if (wanted)
            return notStored();
    }
    if (wanted == HeatMethod::Film) {
        if (auto film = filmThrough(boundary))
            return std::move(*film);
        return fail(ErrorCode::NotSupported,
                    "the environment of the boundary, its surface resistance or its temperature is not told", {},
                    "Give them in the stage Cases");
    }
    auto computed = computedThrough(boundary, wanted == HeatMethod::Gradient);
    auto film = wanted ? std::nullopt : filmThrough(boundary);
    if (film && (!computed || computed->method == HeatMethod::Gradient || leavesHeatOver(boundary, computed->total))) {
        if (computed)
            film->gradientTotal = computed->gradientTotal.value_or(computed->total);
        return std::move(*film);
    }
    if (computed && wanted == HeatMethod::Conservative && computed->method != HeatMethod::Conservative)
        return fail(ErrorCode::NotSupported, "the conservative method does not apply: " + computed->why);
    return computed;
}

Result<FacetHeat> CaseHeat::throughInterface(const Site& site, std::optional<HeatMethod> wanted) const {
    if (wanted == HeatMethod::Stored)
        return throughField(site, wanted);
    const auto part = site.facets.part.front();
    const auto& heat = shell(part);
    if (!heat)
        return tl::unexpected(heat.error());
    if (wanted == HeatMethod::Conservative && heat->method != HeatMethod::Conservative)
        return fail(ErrorCode::NotSupported, "the conservative method does not apply: " + heat->why);
    FacetHeat out;
    out.method = wanted.value_or(heat->method);
    double gradientTotal = 0;
    for (std::size_t i = 0; i < site.shellFaces.size(); ++i) {
        const auto face = site.shellFaces[i];
        // A wall that a plane lies in is read along the plane's normal.
        const double sign = dot(site.facets.normal[i], areas(part).normal[face]) < 0 ? -1 : 1;
        const double through = sign * (out.method == HeatMethod::Gradient ? heat->gradient[face] : heat->face[face]);
        out.flux.push_back(site.facets.weight[i] > 0 ? through / site.facets.weight[i] : 0);
        out.total += through;
        gradientTotal += sign * heat->gradient[face];
    }
    if (out.method == HeatMethod::Conservative)
        out.gradientTotal = gradientTotal;
    out.why = heat->why;
    return out;
}

Result<FacetHeat> CaseHeat::throughField(const Site& site, std::optional<HeatMethod> wanted) const {
    if (wanted == HeatMethod::Conservative)
        return fail(ErrorCode::NotSupported, "the conservative method is for boundaries and interfaces");
    const bool stored = m_fields.quantities().named("heat_flux") != nullptr;
    if (wanted == HeatMethod::Stored && !stored)
        return notStored();
    if (wanted == HeatMethod::Gradient && stored)
        return fail(ErrorCode::NotSupported,
                    "within the mesh the stored flux is told; its array can be switched off under Cases");
    auto flux = readAt(site.facets, m_fields, "heat_flux", Component::Normal);
    if (!flux)
        return tl::unexpected(flux.error());
    FacetHeat heat{std::move(*flux), stored ? HeatMethod::Stored : HeatMethod::Gradient};
    for (std::size_t i = 0; i < heat.flux.size(); ++i)
        if (site.facets.part[i] != noNumber)
            heat.total += heat.flux[i] * site.facets.weight[i];
    return heat;
}

Result<FacetHeat> CaseHeat::through(const Site& site, std::optional<HeatMethod> wanted) const {
    if (site.kind != SiteKind::Surface)
        return fail(ErrorCode::NotSupported,
                    "heat flows through surfaces: name a boundary, an interface, a plane or a surface");
    if (site.wallFaces && !wanted && m_fields.quantities().named("heat_flux") != nullptr)
        return throughField(site, HeatMethod::Stored);
    if (!site.regions.boundaries)
        return site.shellFaces.empty() ? throughField(site, wanted) : throughInterface(site, wanted);
    FacetHeat sum;
    bool first = true;
    for (const auto boundary : site.regions.regions) {
        auto one = through(boundary, wanted);
        if (!one)
            return one;
        sum.flux.insert(sum.flux.end(), one->flux.begin(), one->flux.end());
        sum.total += one->total;
        sum.method = first ? one->method : std::max(sum.method, one->method); // the weakest of them
        if (!one->why.empty())
            sum.why = one->why;
        sum.gradientTotal = one->gradientTotal && (first || sum.gradientTotal)
                                ? std::optional(sum.gradientTotal.value_or(0) + *one->gradientTotal)
                                : std::nullopt;
        first = false;
    }
    return sum;
}

Result<std::vector<double>> CaseHeat::nodeFlux(std::size_t boundary, std::optional<HeatMethod> wanted,
                                               HeatMethod& method) const {
    const auto heat = through(boundary, wanted);
    if (!heat)
        return tl::unexpected(heat.error());
    method = heat->method;
    const auto& mesh = m_fields.solved().boundaries[boundary].mesh;
    const auto& behind = m_fields.index().boundaries[boundary];
    // Files often list a node once for each of its faces: what counts is the node of the part behind.
    std::map<std::pair<std::uint32_t, std::uint32_t>, std::array<double, 2>> sums; // W, m2
    const auto& solved = m_fields.solved();
    const auto behindNode = [&](std::size_t face, std::uint32_t node) {
        return std::pair(behind.part[face], nodeBehind(solved, solved.boundaries[boundary], behind, face, node));
    };
    for (std::size_t face = 0; face < mesh.cells(); ++face) {
        const auto nodes = mesh.cell(face);
        for (const auto node : nodes) {
            double share = behind.cellMeasure[face] / static_cast<double>(nodes.size());
            double flow = heat->flux[face] * share;
            if (method == HeatMethod::Conservative && !shell(behind.part[face])->corner.empty()) {
                const auto& shellView = m_fields.index().parts[behind.part[face]].shell;
                const auto shellFace = shellFaces(boundary)[face];
                const auto ring = shellView.face(shellFace);
                const auto at = std::ranges::find(ring, behindNode(face, node).second) - ring.begin();
                const auto corner = shellView.offsets[shellFace] + static_cast<std::size_t>(at);
                share = areas(behind.part[face]).corner[corner];
                flow = shell(behind.part[face])->corner[corner];
            }
            auto& at = sums[behindNode(face, node)];
            at[0] += flow;
            at[1] += share;
        }
    }
    std::vector<double> sum(mesh.nodes(), std::nan(""));
    for (std::size_t face = 0; face < mesh.cells(); ++face)
        for (const auto node : mesh.cell(face))
            if (const auto& at = sums[behindNode(face, node)]; at[1] > 0)
                sum[node] = at[0] / at[1];
    return sum;
}

} // namespace pyro
