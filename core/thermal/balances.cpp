#include "core/thermal/balances.h"

#include "core/thermal/bulk_temperature.h"
#include "core/thermal/face_boundaries.h"
#include "core/thermal/site_values.h"
#include "core/thermal/stored_heat.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <functional>
#include <map>

namespace pyro {
namespace {

bool mayTouch(const CaseIndex& index, std::size_t boundary, std::size_t part) {
    const auto& a = index.boundaries[boundary].box;
    const auto& b = index.parts[part].box;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double hair = 1e-6 * (b[2 * axis + 1] - b[2 * axis]);
        if (a[2 * axis] > b[2 * axis + 1] + hair || a[2 * axis + 1] < b[2 * axis] - hair)
            return false;
    }
    return true;
}

// A temperature that the boundary stores on its faces is what the solver's flow carries, whichever the user looks at.
Result<std::vector<double>> facetTemperature(const Site& site, const PartFields& fields, std::size_t boundary) {
    const auto* quantity = fields.quantities().named("temperature");
    const auto* own = quantity != nullptr ? fields.solved().boundaries[boundary].find(quantity->array, Location::Cell)
                                          : nullptr;
    if (own == nullptr)
        return readFacets(site, fields, "temperature", Component::Natural);
    std::vector<double> kelvin;
    for (const auto face : site.faceOf)
        kelvin.push_back(quantity->toSi(own->values[face]));
    return kelvin;
}

// Net enthalpy through the openings of a part, above its mean temperature so that little is lost in a difference of
// large numbers. 0 for a part without velocity; nothing where the flow's properties are not known.
std::optional<double> carriedOut(const CaseHeat& heat, std::size_t part) {
    const auto& fields = heat.fields();
    if (!fields.stored(part, "velocity"))
        return 0;
    const auto temperature = fields.field(part, "temperature");
    if (!temperature)
        return std::nullopt;
    double mean = 0;
    for (std::size_t i = 0; i < temperature->values.size(); ++i)
        mean += temperature->at(i) / static_cast<double>(temperature->values.size());
    double sum = 0;
    for (std::size_t boundary = 0; boundary < fields.solved().passable(); ++boundary) {
        const auto& behind = fields.index().boundaries[boundary].part;
        if (std::ranges::find(behind, static_cast<std::uint32_t>(part)) == behind.end())
            continue;
        const auto site = dividedForProducts(siteOfBoundary(fields.solved(), fields.index(), boundary), fields.solved(),
                                             fields.index());
        const auto velocity = readFacets(site, fields, "velocity", Component::Normal);
        const auto kelvin = facetTemperature(site, fields, boundary);
        const auto density = readAt(site.facets, fields, "density", Component::Natural);
        const auto capacity = readAt(site.facets, fields, "heat_capacity", Component::Natural);
        if (!velocity)
            continue; // a wall that stores no velocity
        if (!kelvin || !density || !capacity)
            return std::nullopt;
        for (std::size_t i = 0; i < velocity->size(); ++i)
            if (site.facets.part[i] == part)
                sum += (*density)[i] * (*capacity)[i] * (*velocity)[i] * ((*kelvin)[i] - mean) * site.facets.weight[i];
    }
    return sum;
}

// What boundaries of this part tell better than its shell, stored fluxes and those by films, written over the faces
// they cover. Returns whether every face is covered by stored ones.
struct Taken {
    bool stored = false;
    bool film = false;
};
bool takeBetter(const CaseHeat& heat, std::size_t part, std::vector<double>& face, Taken& any) {
    const auto& index = heat.fields().index();
    std::vector<std::uint8_t> covered(face.size());
    std::vector<std::uint8_t> written(face.size());
    for (std::size_t boundary = 0; boundary < heat.fields().solved().passable(); ++boundary) {
        const auto& behind = index.boundaries[boundary];
        if (!mayTouch(index, boundary, part))
            continue;
        const auto flux = heat.through(boundary);
        if (!flux || (flux->method != HeatMethod::Stored && flux->method != HeatMethod::Film))
            continue;
        (flux->method == HeatMethod::Film ? any.film : any.stored) = true;
        const auto& faces = heat.shellFaces(boundary);
        for (std::size_t i = 0; i < faces.size(); ++i) {
            if (faces[i] == noNumber)
                continue;
            const auto across = behind.part[i] == part ? TwinFace{static_cast<std::uint32_t>(part), faces[i]}
                                                       : heat.twin(behind.part[i], faces[i]);
            if (across.part != part)
                continue;
            // What leaves the part behind a boundary between two parts enters the other one.
            const double leaving = (behind.part[i] == part ? 1 : -1) * flux->flux[i] * behind.cellMeasure[i];
            const bool more = across.piece && written[across.face] != 0;
            for (std::uint32_t k = across.face; k < across.face + across.count; ++k) {
                face[k] = (more ? face[k] : 0) + leaving / across.count;
                covered[k] = flux->method == HeatMethod::Stored ? 1 : 0;
                written[k] = 1;
            }
        }
    }
    return std::ranges::all_of(covered, [](auto one) { return one != 0; });
}

} // namespace

std::optional<double> producedIn(const PartFields& fields, std::size_t part) {
    const auto source = fields.field(part, "heat_source");
    if (!source)
        return std::nullopt;
    const auto& index = fields.index().parts[part];
    if (source->isConstant())
        return source->constant * index.size;
    const auto weight = source->on == Location::Node ? index.nodeShare : index.cellMeasure;
    double sum = 0;
    for (std::size_t i = 0; i < weight.size(); ++i)
        sum += weight[i] * source->at(i);
    return sum;
}

bool producesHeat(const PartFields& fields, std::size_t part) {
    const auto source = fields.field(part, "heat_source");
    if (!source)
        return false;
    if (source->isConstant())
        return source->constant != 0;
    for (std::size_t i = 0; i < source->values.size(); ++i)
        if (source->values[i] != 0)
            return true;
    return false;
}

PartBalance partBalance(const CaseHeat& heat, std::size_t part, std::vector<double>* faces) {
    const auto& fields = heat.fields();
    PartBalance out;
    out.part = fields.solved().parts[part].name;
    out.produced = producedIn(fields, part);
    const auto stored = storedIn(fields, part, heat.transience());
    if (stored)
        out.stored = *stored;
    out.carried = carriedOut(heat, part);
    const auto& shell = heat.shell(part);
    std::vector<double> face(fields.index().parts[part].shell.faces(), std::nan(""));
    if (shell) {
        face = shell->face;
        out.method = heatMethodName(shell->method);
    }
    Taken some;
    const bool allStored = takeBetter(heat, part, face, some);
    if (!shell && !allStored) {
        out.why = shell.error().what;
        return out;
    }
    if (some.stored || some.film)
        out.method = allStored ? "stored" : fmt::format("{} and {}", some.stored ? "stored" : "film", out.method);
    out.in = 0;
    out.out = 0;
    for (const double through : face)
        (through < 0 ? *out.in : *out.out) += std::abs(through);
    if (!out.carried)
        out.why = "density and heat capacity of the fluid are needed for what it carries";
    if (!stored)
        out.why = stored.error().what;
    if (!std::isfinite(*out.in) || !std::isfinite(*out.out)) {
        out.in.reset();
        out.out.reset();
        out.why = "the heat through some of its faces is not a finite number";
    } else if (faces != nullptr)
        *faces = std::move(face);
    return out;
}

Result<MassThrough> massThrough(const PartFields& fields, std::size_t part) {
    MassThrough sums;
    const auto& index = fields.index();
    bool any = false;
    for (std::size_t boundary = 0; boundary < fields.solved().passable(); ++boundary) {
        auto places = placesOfBoundary(fields.solved(), index, boundary);
        bool own = false;
        for (auto& one : places.part) {
            own = own || one == part;
            one = one == part ? one : noNumber;
        }
        if (!own)
            continue;
        any = true;
        const auto flux = readAt(places, fields, "mass_flux", Component::Normal);
        if (!flux)
            return tl::unexpected(flux.error());
        for (std::size_t i = 0; i < flux->size(); ++i)
            if (places.part[i] != noNumber)
                ((*flux)[i] < 0 ? sums.in : sums.out) += std::abs((*flux)[i]) * places.weight[i];
    }
    if (!any)
        return fail(ErrorCode::NotSupported, "no boundary lies on this part");
    return sums;
}

double conductedOut(const CaseHeat& heat, std::size_t boundary, const FacetHeat& through, const std::vector<bool>& from,
                    std::set<std::pair<std::uint32_t, std::uint32_t>>* walls) {
    const auto& behind = heat.fields().index().boundaries[boundary];
    const auto& faces = heat.shellFaces(boundary);
    double sum = 0;
    for (std::size_t i = 0; i < faces.size(); ++i) {
        const auto own = behind.part[i];
        const auto other = own == noNumber || faces[i] == noNumber ? ~0U : heat.twin(own, faces[i]).part;
        const bool isFrom = own == noNumber || from[own];
        const bool isTo = other != ~0U && from[other]; // what lies outside of the case is none of its parts
        if (walls != nullptr && other != ~0U && isFrom != isTo)
            walls->insert(std::minmax(own, other));
        if (isFrom != isTo)
            sum += (isFrom ? 1 : -1) * through.flux[i] * behind.cellMeasure[i];
    }
    return sum;
}

BoundaryFlow flowOfAll(const Balances& balances) {
    BoundaryFlow all;
    all.boundary = "whole case";
    all.heat = 0;
    bool flows = false;
    for (const auto& flow : balances.boundaries) {
        all.heat = all.heat && flow.outer ? std::optional(*all.heat + *flow.outer) : std::nullopt;
        flows = flows || flow.mass || flow.volume;
        // A wall that passes nothing has no mass flow to tell.
        if (flow.mass)
            all.mass = all.mass.value_or(0) + *flow.mass;
        if (flow.volume)
            all.volume = all.volume.value_or(0) + *flow.volume;
    }
    all.method = flows ? "conducted; what flows carry stands under Balances" : "";
    return all;
}

BoundaryFlow boundaryFlow(const CaseHeat& heat, std::size_t boundary) {
    const auto& fields = heat.fields();
    BoundaryFlow out;
    out.boundary = fields.solved().boundaries[boundary].name;
    if (const auto through = heat.through(boundary)) {
        out.heat = through->total;
        out.outer = conductedOut(heat, boundary, *through, std::vector<bool>(fields.solved().parts.size(), true));
        out.method = heatMethodName(through->method);
        out.gradientHeat = through->gradientTotal;
    } else {
        out.why = through.error().what;
    }
    const auto site = siteOfBoundary(heat.fields().solved(), heat.fields().index(), boundary);
    const auto volume = readFacets(site, fields, "velocity", Component::Normal);
    const auto mass = readFacets(site, fields, "mass_flux", Component::Normal);
    const auto sum = [&](const Result<std::vector<double>>& flux) {
        double total = 0;
        for (std::size_t i = 0; i < flux->size(); ++i)
            total += (*flux)[i] * site.facets.weight[i];
        return total;
    };
    if (volume && std::isfinite(sum(volume)))
        out.volume = sum(volume);
    if (!mass || !std::isfinite(sum(mass)))
        return out;
    out.mass = sum(mass);
    const auto bulk = bulkTemperature(site, fields);
    if (!bulk)
        return out;
    out.bulk = Temperature{bulk->kelvin};
    if (const auto capacity = readFacets(site, fields, "heat_capacity", Component::Natural);
        capacity && !capacity->empty())
        out.enthalpy = bulk->massFlow * capacity->front() * (bulk->kelvin - 273.15);
    return out;
}

namespace {

// Mean of the nodal temperature over a face, K; NaN where it is stored on cells.
double faceTemperature(const CaseHeat& heat, const std::optional<PartField>& kelvin, std::size_t part,
                       std::size_t face) {
    if (!kelvin)
        return std::nan("");
    const auto nodes = heat.fields().index().shells->parts[part].face(face);
    double sum = 0;
    for (const auto node : nodes)
        sum += kelvin->at(node);
    return sum / static_cast<double>(nodes.size());
}

// What is added up of the faces of one link; temperatures weighted by area.
struct LinkSums {
    PartLink link;
    double leaving = 0;  // K m2, on the first part's side
    double entering = 0; // on the other's
};

// The links of one part, added to those known: to other parts each pair once, out of the first; to boundaries.
void addLinks(const CaseHeat& heat, std::uint32_t part, const std::vector<double>& faces,
              std::vector<PartLink>& links) {
    const auto& solved = heat.fields().solved();
    const auto& areas = heat.areas(part);
    const auto boundaryOf = boundariesOfFaces(heat, part);
    std::map<std::uint32_t, LinkSums> toParts;
    std::map<std::uint32_t, LinkSums> toBoundaries;
    const auto own = heat.fields().temperatureOn(part, Location::Node);
    std::map<std::uint32_t, std::optional<PartField>> others;
    for (std::uint32_t face = 0; face < faces.size(); ++face) {
        const auto twin = heat.twin(part, face);
        const bool outwards = twin.part == ~0U;
        if (outwards ? boundaryOf[face] == noNumber : twin.part < part)
            continue; // adiabatic, or told from the other side
        auto& sums = outwards ? toBoundaries[boundaryOf[face]] : toParts[twin.part];
        sums.link.heat += faces[face];
        sums.link.area += areas.face[face];
        sums.leaving += areas.face[face] * faceTemperature(heat, own, part, face);
        if (outwards)
            continue;
        const auto& other =
            others.try_emplace(twin.part, heat.fields().temperatureOn(twin.part, Location::Node)).first->second;
        for (std::uint32_t i = 0; i < twin.count; ++i)
            sums.entering += areas.face[face] / twin.count * faceTemperature(heat, other, twin.part, twin.face + i);
    }
    const auto mean = [](double sum, double area) {
        return area > 0 && std::isfinite(sum) ? std::optional(sum / area) : std::nullopt;
    };
    const auto keep = [&](const LinkSums& sums, const std::string& to, bool boundary) {
        auto link = sums.link;
        link.leave = mean(sums.leaving, link.area);
        if (!boundary)
            link.enter = mean(sums.entering, link.area);
        link.from = solved.parts[part].name;
        link.to = to;
        link.toBoundary = boundary;
        if (link.heat < 0 && !boundary) {
            std::swap(link.from, link.to);
            std::swap(link.leave, link.enter);
            link.heat = -link.heat;
        }
        links.push_back(std::move(link));
    };
    for (const auto& [other, link] : toParts)
        keep(link, solved.parts[other].name, false);
    for (const auto& [boundary, link] : toBoundaries)
        keep(link, solved.boundaries[boundary].name, true);
}

} // namespace

namespace {

// Heat that leaves a part with what flows out of it, above the mean temperature with which it flows in: m cp (T - T
// in), of one heat capacity.
void fillCarried(Balances& balances) {
    const auto flowAt = [&](const PartLink& link) -> const BoundaryFlow* {
        const auto found = link.toBoundary ? std::ranges::find(balances.boundaries, link.to, &BoundaryFlow::boundary)
                                           : balances.boundaries.end();
        return found != balances.boundaries.end() && found->mass && found->enthalpy && *found->mass != 0 ? &*found
                                                                                                         : nullptr;
    };
    struct Entering {
        double mass = 0;     // kg/s
        double enthalpy = 0; // W
    };
    std::map<std::string, Entering> entering;
    for (const auto& link : balances.links)
        if (const auto* flow = flowAt(link); flow != nullptr && *flow->mass < 0) {
            entering[link.from].mass -= *flow->mass;
            entering[link.from].enthalpy -= *flow->enthalpy;
        }
    for (auto& link : balances.links) {
        const auto* flow = flowAt(link);
        if (flow == nullptr)
            continue;
        if (*flow->mass < 0)
            link.carried = 0; // what comes in is what the rest is told from
        else if (const auto in = entering.find(link.from); in != entering.end())
            link.carried = *flow->enthalpy - *flow->mass * in->second.enthalpy / in->second.mass;
    }
}

} // namespace

void fillDifferences(Balances& balances, const std::vector<RegionReading>& parts,
                     const std::vector<Environment>& environments) {
    fillCarried(balances);
    auto& links = balances.links;
    const auto mean = [&](const std::string& name) -> std::optional<double> {
        const auto found = std::ranges::find(parts, name, &RegionReading::name);
        return found != parts.end() && found->mean ? std::optional(found->mean->kelvin) : std::nullopt;
    };
    const auto outside = [&](const std::string& name) -> std::optional<double> {
        const auto found = std::ranges::find(environments, name, &Environment::name);
        return found != environments.end() ? std::optional(found->temperature) : std::nullopt;
    };
    std::map<std::string, double> leaving;
    for (const auto& link : links)
        leaving[link.from] += link.leaving();
    for (auto& link : links) {
        if (leaving[link.from] > 0 && link.leaving() > 0)
            link.share = link.leaving() / leaving[link.from];
        const auto a = mean(link.from);
        const auto b = link.toBoundary ? outside(link.to) : mean(link.to);
        if (link.toBoundary)
            link.enter = b;
        if (!a || !b)
            continue;
        link.difference = *a - *b;
        if (link.heat != 0 && *link.difference / link.heat > 0)
            link.resistance = *link.difference / link.heat;
    }
}

Result<Balances> balancesOf(const CaseHeat& heat, Progress& progress) {
    Balances out;
    const auto& solved = heat.fields().solved();
    const auto whole = static_cast<double>(solved.parts.size() + solved.passable());
    const auto next = [&] {
        progress.report(static_cast<double>(out.parts.size() + out.boundaries.size()) / whole, "balancing the heat");
        return !progress.cancelled();
    };
    for (std::size_t part = 0; part < solved.parts.size() && next(); ++part) {
        std::vector<double> faces;
        out.parts.push_back(partBalance(heat, part, &faces));
        if (!faces.empty())
            addLinks(heat, static_cast<std::uint32_t>(part), faces, out.links);
    }
    std::ranges::stable_sort(out.links, std::greater<>(), [](const PartLink& link) { return std::abs(link.heat); });
    for (std::size_t boundary = 0; boundary < solved.passable() && next(); ++boundary)
        out.boundaries.push_back(boundaryFlow(heat, boundary));
    if (progress.cancelled())
        return fail(ErrorCode::Cancelled, "the balance was cancelled", solved.file);
    return out;
}

} // namespace pyro
