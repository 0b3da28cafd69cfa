#include "core/thermal/bulk_temperature.h"

#include "core/thermal/site_values.h"

#include <cmath>

namespace pyro {

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

} // namespace pyro
