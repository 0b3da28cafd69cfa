// Volume, mass and enthalpy through surfaces.
#include "core/quantities/gauge_quantity.h"
#include "core/statistics/statistic_kind.h"
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

tl::unexpected<Error> noSurface() {
    return fail(ErrorCode::NotSupported, "a flow passes through a surface: name a boundary, a plane or a surface");
}

// The integral of what passes, along the normals.
Result<Measured> passed(const MeasureRequest& request, const char* flux, const char* unit) {
    if (request.site.kind != SiteKind::Surface)
        return noSurface();
    const auto numbers = readFacets(request.site, request.fields(), flux, Component::Normal);
    if (!numbers)
        return tl::unexpected(numbers.error());
    return Measured{integralOf(request.site, *numbers), unit};
}

Result<Measured> enthalpyFlow(const MeasureRequest& request) {
    if (request.site.kind != SiteKind::Surface)
        return noSurface();
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

} // namespace

constexpr GaugeQuantity volumeFlowQuantity{
    .name = "volume_flow",
    .siUnit = "m3/s",
    .meaning = "volume through a surface along its normal",
    .symbol = "V",
    .group = QuantityGroup::Flow,
    .place = PlaceNeed::Surface,
    .field = "velocity",
    .addsUp = true,
    .measure = [](const MeasureRequest& request) { return passed(request, "velocity", "m3/s"); },
};

constexpr GaugeQuantity massFlowQuantity{
    .name = "mass_flow",
    .siUnit = "kg/s",
    .meaning = "mass through a surface along its normal",
    .symbol = "m",
    .group = QuantityGroup::Flow,
    .place = PlaceNeed::Surface,
    .field = "velocity",
    .addsUp = true,
    .measure = [](const MeasureRequest& request) { return passed(request, "mass_flux", "kg/s"); },
};

constexpr GaugeQuantity enthalpyFlowQuantity{
    .name = "enthalpy_flow",
    .siUnit = "W",
    .meaning = "mass flow times heat capacity times temperature above a reference",
    .group = QuantityGroup::Flow,
    .place = PlaceNeed::Surface,
    .field = "velocity",
    .keys = {"reference"},
    .addsUp = true,
    .measure = enthalpyFlow,
};

} // namespace pyro
