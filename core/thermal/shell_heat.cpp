#include "core/thermal/shell_heat.h"

#include "core/field/boundary_nodes.h"
#include "core/field/curved_gradient.h"
#include "core/field/face_measure.h"
#include "core/field/face_side.h"
#include "core/gauge/places.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

// The terms that the conservative method needs; an error says which one is missing.
Result<HeatTerms> termsOf(const PartFields& fields, std::size_t part, const Transience& transience) {
    const auto& name = fields.solved().parts[part].name;
    HeatTerms terms;
    const auto temperature = fields.temperatureOn(part, Location::Node);
    if (!temperature)
        return fail(ErrorCode::NotSupported, fmt::format("the temperature of \"{}\" is not stored on nodes", name));
    terms.temperature = *temperature;
    const auto conductivity = fields.field(part, "conductivity");
    if (!conductivity)
        return tl::unexpected(conductivity.error());
    terms.conductivity = *conductivity;
    if (const auto source = fields.field(part, "heat_source"))
        terms.source = *source;
    terms.velocity = fields.stored(part, "velocity");
    if (!terms.velocity && !transience.changes)
        return terms;
    const auto density = fields.field(part, "density");
    const auto capacity = fields.field(part, "heat_capacity");
    if (!density || !capacity)
        return tl::unexpected((density ? capacity : density).error());
    if (!density->isConstant() || !capacity->isConstant()) {
        if (density->on != capacity->on && !density->isConstant() && !capacity->isConstant())
            return fail(ErrorCode::NotSupported,
                        fmt::format("density and heat capacity of \"{}\" are stored on different places", name));
        const auto& varying = density->isConstant() ? *capacity : *density;
        auto values = std::make_shared<std::vector<double>>(varying.values.size());
        for (std::size_t i = 0; i < values->size(); ++i)
            (*values)[i] = density->at(i) * capacity->at(i);
        PartField product;
        product.on = varying.on;
        product.values = RealView(std::span<const double>(*values));
        product.made = values;
        terms.capacity = std::move(product);
    } else {
        terms.capacity.emplace().constant = density->constant * capacity->constant;
    }
    if (!transience.changes)
        return terms;
    const auto before = transience.before != nullptr ? transience.before->temperatureOn(part, Location::Node)
                                                     : std::nullopt;
    if (!before || !(transience.seconds > 0) || before->values.size() != temperature->values.size())
        return fail(ErrorCode::NotSupported, "the field changes with time, and the step before is not at hand");
    terms.temperatureBefore = *before;
    terms.seconds = transience.seconds;
    return terms;
}

// The heat of each node goes to the faces around it: each takes what the gradient lets pass there, the rest in
// proportion to that, and to the areas where no face lets anything pass.
void distribute(const ShellView& shell, const ShellAreas& areas, const std::vector<double>& faceFlux,
                const std::vector<double>& leaving, ShellHeat& out) {
    struct Sums {
        double plain = 0; // W by the gradient
        double through = 0;
        double area = 0;
    };
    std::vector<Sums> sums(leaving.size());
    for (std::size_t face = 0; face < shell.faces(); ++face)
        for (auto i = shell.offsets[face]; i < shell.offsets[face + 1]; ++i) {
            auto& at = sums[shell.nodes[i]];
            at.plain += faceFlux[face] * areas.corner[i];
            at.through += std::abs(faceFlux[face]) * areas.corner[i];
            at.area += areas.corner[i];
        }
    out.corner.assign(shell.nodes.size(), 0.0);
    for (std::size_t face = 0; face < shell.faces(); ++face)
        for (auto i = shell.offsets[face]; i < shell.offsets[face + 1]; ++i) {
            const auto& at = sums[shell.nodes[i]];
            const double share = at.through > 0 ? std::abs(faceFlux[face]) * areas.corner[i] / at.through
                                 : at.area > 0  ? areas.corner[i] / at.area
                                                : 0;
            out.corner[i] = faceFlux[face] * areas.corner[i] + share * (leaving[shell.nodes[i]] - at.plain);
            out.face[face] += out.corner[i];
        }
}

// - k grad T . n at a face.
double drivenFlux(const PartField& k, std::uint32_t cell, std::span<const std::uint32_t> nodes, const Point& gradient,
                  const Point& normal) {
    double flux = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        double conductivity = 0;
        if (k.isConstant() || k.on == Location::Cell)
            conductivity = k.along(cell, axis);
        else
            for (const auto node : nodes)
                conductivity += k.along(node, axis) / static_cast<double>(nodes.size());
        flux -= conductivity * gradient[axis] * normal[axis];
    }
    return flux;
}

Result<ShellHeat> byGradient(const PartFields& fields, std::size_t part, const ShellView& shell,
                             const ShellAreas& areas, std::string why) {
    const auto flux = fields.field(part, "heat_flux");
    if (!flux)
        return tl::unexpected(flux.error());
    ShellHeat out;
    out.why = std::move(why);
    out.method = fields.stored(part, "heat_flux") ? HeatMethod::Stored : HeatMethod::Gradient;
    for (std::size_t face = 0; face < shell.faces(); ++face) {
        Point vector{};
        const auto nodes = shell.face(face);
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (flux->on == Location::Cell)
                vector[axis] = flux->at(shell.cell[face], axis);
            else
                for (const auto node : nodes)
                    vector[axis] += flux->at(node, axis) / static_cast<double>(nodes.size());
        out.face.push_back(areas.face[face] * dot(vector, areas.normal[face]));
    }
    out.gradient = out.face;
    return out;
}

// Between the middle of each cell and what lies beyond its outer face. Faces beyond which nothing is known keep what
// the gradient says.
Result<ShellHeat> byTwoPoints(const PartFields& fields, std::size_t part, const ShellView& shell,
                              const ShellAreas& areas, const BeyondFaces& beyond) {
    const auto temperature = fields.temperatureOn(part, Location::Cell);
    ShellHeat out;
    out.method = HeatMethod::Conservative;
    const auto plain = byGradient(fields, part, shell, areas, {});
    out.gradient = plain ? plain->face : std::vector<double>(shell.faces(), std::nan(""));
    for (std::size_t face = 0; face < shell.faces(); ++face) {
        const double own = halfCellResistance(fields, part, shell.cell[face], areas.centre[face], areas.normal[face]);
        const double flow = areas.face[face] * (temperature->at(shell.cell[face]) - beyond.kelvin[face]) /
                            (own + beyond.resistance[face]);
        out.face.push_back(std::isfinite(flow) ? flow : out.gradient[face]);
        out.plain.push_back(std::isfinite(flow) ? 0 : 1);
    }
    return out;
}

} // namespace

double halfCellResistance(const PartFields& fields, std::size_t part, std::uint32_t cell, const Point& faceCentre,
                          const Point& normal) {
    const auto conductivity = fields.field(part, "conductivity");
    if (!conductivity)
        return std::nan("");
    const double distance = dot(minus(faceCentre, fields.solved().parts[part].mesh.cellCentre(cell)), normal);
    if (conductivity->isConstant() || conductivity->on == Location::Cell)
        return distance / conductivity->along(cell, normal);
    const auto nodes = fields.solved().parts[part].mesh.cell(cell);
    double mean = 0;
    for (const auto node : nodes)
        mean += conductivity->along(node, normal) / static_cast<double>(nodes.size());
    return distance / mean;
}

std::string_view heatMethodName(HeatMethod method) {
    constexpr std::array<std::string_view, 4> names{"stored", "conservative", "film", "gradient"};
    return names[static_cast<std::size_t>(method)];
}

ShellAreas shellAreas(const Mesh& mesh, const ShellView& shell) {
    ShellAreas areas;
    FaceMeasure measure(mesh);
    for (std::size_t face = 0; face < shell.faces(); ++face) {
        const auto& fan = measure.of(shell.cell[face], shell.face(face));
        areas.face.push_back(fan.size);
        areas.corner.insert(areas.corner.end(), fan.share.begin(), fan.share.end());
        areas.normal.push_back(outOfCell(fan.normal(), mesh, shell.cell[face], shell.face(face)));
        areas.centre.push_back(fan.centre);
    }
    return areas;
}

Result<ShellHeat> shellHeat(const PartFields& fields, std::size_t part, const Transience& transience,
                            const BeyondFaces* beyond) {
    const auto& region = fields.solved().parts[part];
    const auto& shell = fields.index().parts[part].shell;
    const auto areas = shellAreas(region.mesh, shell);
    if (beyond != nullptr && fields.temperatureOn(part, Location::Cell))
        return byTwoPoints(fields, part, shell, areas, *beyond);
    const auto terms = termsOf(fields, part, transience);
    if (!terms)
        return byGradient(fields, part, shell, areas, terms.error().what);
    std::vector<std::uint8_t> wanted(region.mesh.nodes());
    for (const auto node : shell.nodes)
        wanted[node] = 1;
    const auto heat = nodalHeat(region, *terms, wanted);
    ShellHeat out;
    out.method = HeatMethod::Conservative;
    out.face.assign(shell.faces(), 0.0);
    std::vector<double> faceFlux(shell.faces());
    CurvedGradient curved(region.mesh, [&](std::size_t node) { return terms->temperature.at(node); });
    for (std::size_t face = 0; face < shell.faces(); ++face) {
        const auto cell = shell.cell[face];
        const auto at = std::ranges::lower_bound(heat.cells, cell) - heat.cells.begin();
        const auto gradient = curved.enter(cell) ? curved.amid(shell.face(face))
                                                 : heat.gradient[static_cast<std::size_t>(at)];
        faceFlux[face] = drivenFlux(terms->conductivity, cell, shell.face(face), gradient, areas.normal[face]);
        out.gradient.push_back(faceFlux[face] * areas.face[face]);
    }
    distribute(shell, areas, faceFlux, heat.leaving, out);
    return out;
}

std::optional<double> heatLeftBehind(const PartFields& fields, std::size_t part, const Transience& transience,
                                     std::span<const std::uint32_t> faces, std::span<const std::uint8_t> open) {
    const auto& region = fields.solved().parts[part];
    const auto& shell = fields.index().parts[part].shell;
    const auto terms = termsOf(fields, part, transience);
    if (!terms)
        return std::nullopt;
    std::vector<std::uint8_t> wanted(region.mesh.nodes(), 0);
    for (const auto face : faces)
        for (const auto node : region.mesh.cell(shell.cell[face]))
            wanted[node] = 1;
    for (std::size_t face = 0; face < shell.faces(); ++face)
        for (const auto node : open[face] != 0 ? shell.face(face) : std::span<const std::uint32_t>())
            wanted[node] = 0;
    if (std::ranges::find(wanted, 1) == wanted.end())
        return std::nullopt;
    const auto heat = nodalHeat(region, *terms, wanted);
    double left = 0;
    for (std::size_t node = 0; node < wanted.size(); ++node)
        if (wanted[node] != 0)
            left += heat.leaving[node];
    return left;
}

std::vector<std::uint32_t> shellFacesOf(const Case& solved, const CaseIndex& index, std::size_t boundary) {
    const auto& mesh = solved.boundaries[boundary].mesh;
    const auto& behind = index.boundaries[boundary];
    std::vector<std::uint32_t> faces(mesh.cells(), noNumber);
    for (std::size_t face = 0; face < mesh.cells(); ++face) {
        if (behind.part[face] == noNumber)
            continue;
        const auto& shell = index.parts[behind.part[face]].shell;
        const auto own = mesh.cell(face);
        const auto [from, to] = std::equal_range(shell.cell.begin(), shell.cell.end(), behind.cell[face]);
        for (auto at = from; at != to; ++at) {
            const auto candidate = static_cast<std::size_t>(at - shell.cell.begin());
            const auto nodes = shell.face(candidate);
            if (std::ranges::all_of(own, [&](std::uint32_t node) {
                    return std::ranges::find(nodes, nodeBehind(solved, solved.boundaries[boundary], behind, face,
                                                               node)) != nodes.end();
                }))
                faces[face] = static_cast<std::uint32_t>(candidate);
        }
    }
    return faces;
}

} // namespace pyro
