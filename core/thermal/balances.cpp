#include "core/thermal/balances.h"

#include "core/thermal/measure.h"
#include "core/thermal/site_values.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

Site siteOfBoundary(const CaseHeat& heat, std::size_t boundary) {
    Site site;
    site.kind = SiteKind::Surface;
    site.stored = true;
    site.regions = {true, {boundary}};
    site.extent = heat.fields().index().boundaries[boundary].size;
    addFacets(site, heat.fields().solved(), heat.fields().index());
    return site;
}

std::optional<double> produced(const PartFields& fields, std::size_t part) {
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

// Stored fluxes of boundaries on this part, written over the faces they cover. Returns whether every face is covered.
bool takeStored(const CaseHeat& heat, std::size_t part, std::vector<double>& face, bool& any) {
    const auto& index = heat.fields().index();
    std::vector<std::uint8_t> covered(face.size());
    for (std::size_t boundary = 0; boundary < index.boundaries.size(); ++boundary) {
        const auto& behind = index.boundaries[boundary];
        if (std::ranges::find(behind.part, static_cast<std::uint32_t>(part)) == behind.part.end())
            continue;
        const auto flux = heat.through(boundary);
        if (!flux || flux->method != HeatMethod::Stored)
            continue;
        any = true;
        const auto& faces = heat.shellFaces(boundary);
        for (std::size_t i = 0; i < faces.size(); ++i)
            if (behind.part[i] == part && faces[i] != noNumber) {
                face[faces[i]] = flux->flux[i] * behind.cellMeasure[i];
                covered[faces[i]] = 1;
            }
    }
    return std::ranges::all_of(covered, [](auto one) { return one != 0; });
}

} // namespace

std::optional<double> PartBalance::remainder() const {
    if (!in || !out || !produced || !stored)
        return std::nullopt;
    return *in + *produced - *out - *stored;
}

std::optional<double> PartBalance::share() const {
    const auto rest = remainder();
    if (!rest)
        return std::nullopt;
    const double turnover = std::max({*in + std::max(*produced, 0.0), *out, std::abs(*stored)});
    return turnover > 0 ? std::abs(*rest) / turnover : 0;
}

PartBalance partBalance(const CaseHeat& heat, std::size_t part) {
    const auto& fields = heat.fields();
    PartBalance out;
    out.part = fields.solved().parts[part].name;
    out.produced = produced(fields, part);
    if (!heat.transience().changes)
        out.stored = 0;
    const auto& shell = heat.shell(part);
    std::vector<double> face(fields.index().parts[part].shell.faces(), std::nan(""));
    if (shell) {
        face = shell->face;
        out.method = heatMethodName(shell->method);
        if (shell->storedKnown)
            out.stored = shell->stored;
    }
    bool someStored = false;
    const bool allStored = takeStored(heat, part, face, someStored);
    if (!shell && !allStored) {
        out.why = shell.error().what;
        return out;
    }
    if (someStored)
        out.method = allStored ? "stored" : "stored and " + out.method;
    out.in = 0;
    out.out = 0;
    for (const double through : face)
        (through < 0 ? *out.in : *out.out) += std::abs(through);
    if (!out.stored)
        out.why = shell ? shell->why : shell.error().what;
    if (!std::isfinite(*out.in) || !std::isfinite(*out.out)) {
        out.in.reset();
        out.out.reset();
        out.why = "the heat through some of its faces is not a finite number";
    }
    return out;
}

Result<MassThrough> massThrough(const PartFields& fields, std::size_t part) {
    MassThrough sums;
    const auto& index = fields.index();
    bool any = false;
    for (std::size_t boundary = 0; boundary < index.boundaries.size(); ++boundary) {
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

BoundaryFlow boundaryFlow(const CaseHeat& heat, std::size_t boundary) {
    const auto& fields = heat.fields();
    BoundaryFlow out;
    out.boundary = fields.solved().boundaries[boundary].name;
    if (const auto through = heat.through(boundary)) {
        out.heat = through->total;
        out.method = heatMethodName(through->method);
        out.gradientHeat = through->gradientTotal;
    } else {
        out.why = through.error().what;
    }
    const auto site = siteOfBoundary(heat, boundary);
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
    if (const auto capacity = readFacets(site, fields, "heat_capacity", Component::Natural); capacity && !capacity->empty())
        out.enthalpy = bulk->massFlow * capacity->front() * (bulk->kelvin - 273.15);
    return out;
}

Result<Balances> balancesOf(const CaseHeat& heat, Progress& progress) {
    Balances out;
    const auto& solved = heat.fields().solved();
    const auto whole = static_cast<double>(solved.parts.size() + solved.boundaries.size());
    const auto next = [&] {
        progress.report(static_cast<double>(out.parts.size() + out.boundaries.size()) / whole, "balancing the heat");
        return !progress.cancelled();
    };
    for (std::size_t part = 0; part < solved.parts.size() && next(); ++part)
        out.parts.push_back(partBalance(heat, part));
    for (std::size_t boundary = 0; boundary < solved.boundaries.size() && next(); ++boundary)
        out.boundaries.push_back(boundaryFlow(heat, boundary));
    if (progress.cancelled())
        return fail(ErrorCode::Cancelled, "the balance was cancelled", solved.file);
    return out;
}

} // namespace pyro
