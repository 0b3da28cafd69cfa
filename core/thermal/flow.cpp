// Volume, mass and enthalpy through surfaces, bulk temperatures, boundary layers.
#include "core/thermal/measure.h"
#include "core/thermal/site_values.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

double integralOf(const Site& site, const std::vector<double>& numbers) {
    double sum = 0;
    for (std::size_t i = 0; i < numbers.size(); ++i)
        if (site.stored || site.facets.part[i] != noNumber)
            sum += numbers[i] * site.facets.weight[i];
    return sum;
}

Result<Measured> enthalpyFlow(const MeasureRequest& request) {
    if (!request.reference)
        return fail(ErrorCode::WrongType, "an enthalpy flow is told above a reference temperature", {},
                    "Add the key \"reference\"");
    const auto& fields = request.fields();
    const auto site = dividedForProducts(request.site, fields.solved(), fields.index());
    const auto flux = readFacets(site, fields, "mass_flux", Component::Normal);
    const auto capacity = readFacets(site, fields, "heat_capacity", Component::Natural);
    const auto temperature = readFacets(site, fields, "temperature", Component::Natural);
    for (const auto* one : {&flux, &capacity, &temperature})
        if (!*one)
            return tl::unexpected(one->error());
    std::vector<double> carried(flux->size());
    for (std::size_t i = 0; i < carried.size(); ++i)
        carried[i] = (*flux)[i] * (*capacity)[i] *
                     ((*temperature)[i] - request.reference->at(site.faceOf.empty() ? i : site.faceOf[i]));
    Measured out{integralOf(site, carried), "W"};
    out.reference = request.reference->text;
    return out;
}

Result<Measured> reynolds(const MeasureRequest& request) {
    if (!(request.length && *request.length > 0))
        return fail(ErrorCode::WrongType, "a Reynolds number needs a length", {}, "Add the key \"length\"");
    std::size_t part = noNumber;
    for (const auto* places : {&request.site.facets, &request.site.points})
        for (const auto one : places->part)
            if (part == noNumber)
                part = one;
    if (request.site.kind == SiteKind::Volume && !request.site.regions.regions.empty())
        part = request.site.regions.regions.front();
    if (part == noNumber)
        return fail(ErrorCode::NotSupported, "no fluid lies here");
    const auto& fields = request.fields();
    const auto density = fields.field(part, "density");
    const auto viscosity = fields.field(part, "viscosity");
    if (!density || !viscosity)
        return tl::unexpected((density ? viscosity : density).error());
    if (!density->isConstant() || !viscosity->isConstant() || !(viscosity->constant > 0))
        return fail(ErrorCode::NotSupported, "density and viscosity are needed as one value each");
    double speed = request.speed.value_or(0);
    if (!request.speed) {
        const auto values = valuesAt(request.site, fields, "speed", Component::Natural);
        if (!values)
            return tl::unexpected(values.error());
        const auto mean = statisticOf(*values, "mean");
        if (!mean)
            return tl::unexpected(mean.error());
        speed = mean->value;
    }
    return Measured{density->constant * speed * *request.length / viscosity->constant, "1"};
}

} // namespace

Result<BulkReading> bulkTemperature(const Site& at, const PartFields& fields) {
    if (at.kind != SiteKind::Surface)
        return fail(ErrorCode::NotSupported, "a bulk temperature belongs to a surface that the fluid passes");
    const auto site = dividedForProducts(at, fields.solved(), fields.index());
    const auto flux = readFacets(site, fields, "mass_flux", Component::Normal);
    const auto temperature = readFacets(site, fields, "temperature", Component::Natural);
    if (!flux || !temperature)
        return tl::unexpected((flux ? temperature : flux).error());
    double mass = 0;
    double against = 0;
    double heat = 0;
    for (std::size_t i = 0; i < flux->size(); ++i) {
        if (!site.stored && site.facets.part[i] == noNumber)
            continue;
        const double flow = (*flux)[i] * site.facets.weight[i];
        mass += flow;
        against += std::abs(flow);
        heat += flow * (*temperature)[i];
    }
    against -= std::abs(mass);
    if (!(std::abs(mass) > 0) || against > 2e-6 * std::abs(mass))
        return fail(ErrorCode::NotSupported,
                    std::abs(mass) > 0 ? "the flow reverses within the surface, so that it has no bulk temperature"
                                       : "no mass flows through the surface");
    return BulkReading{heat / mass, mass};
}

Result<Measured> measureFlow(const MeasureRequest& request) {
    const auto& name = request.gauge.quantity;
    if (name == "reynolds_number")
        return reynolds(request);
    if (request.site.kind != SiteKind::Surface)
        return fail(ErrorCode::NotSupported, "a flow passes through a surface: name a boundary, a plane or a surface");
    if (name == "enthalpy_flow")
        return enthalpyFlow(request);
    const bool mass = name == "mass_flow";
    const auto flux = readFacets(request.site, request.fields(), mass ? "mass_flux" : "velocity", Component::Normal);
    if (!flux)
        return tl::unexpected(flux.error());
    return Measured{integralOf(request.site, *flux), mass ? "kg/s" : "m3/s"};
}

Result<Measured> measureLayer(const MeasureRequest& request) {
    if (request.site.kind != SiteKind::Line)
        return fail(ErrorCode::NotSupported, "a boundary layer is measured along a line from the wall");
    const bool thermal = request.options.of == "temperature";
    const auto numbers = readAt(request.site.points, request.fields(), thermal ? "temperature" : "speed",
                                Component::Natural);
    if (!numbers)
        return tl::unexpected(numbers.error());
    std::size_t first = 0;
    while (first < numbers->size() && !std::isfinite((*numbers)[first]))
        ++first;
    std::size_t last = numbers->size();
    while (last > first && !std::isfinite((*numbers)[last - 1]))
        --last;
    if (last < first + 2)
        return fail(ErrorCode::NotSupported, "the line has no values to follow");
    const double wall = thermal ? request.wall ? request.wall->kelvin : (*numbers)[first] : 0;
    const double free = request.options.free.value_or((*numbers)[last - 1]);
    if (std::abs(free - wall) <= 1e-12 * std::max(std::abs(free), std::abs(wall)))
        return fail(ErrorCode::NotSupported,
                    "the value at the wall is that of the free stream, so that no layer is seen");
    const auto& s = request.site.s;
    double before = ((*numbers)[first] - wall) / (free - wall);
    for (std::size_t i = first + 1; i < last; ++i) {
        const double here = ((*numbers)[i] - wall) / (free - wall);
        if (!std::isfinite(here))
            return fail(ErrorCode::NotSupported, "the line leaves the mesh before the layer ends");
        if (here >= request.options.share && before < request.options.share) {
            const double share = (request.options.share - before) / (here - before);
            Measured out{s[i - 1] + share * (s[i] - s[i - 1]) - s[first], "m"};
            return out;
        }
        before = here;
    }
    return fail(ErrorCode::NotSupported,
                fmt::format("the profile never reaches {:g} of its free value along the line", request.options.share));
}

} // namespace pyro
