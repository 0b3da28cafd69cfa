#include "core/quantities/flow_state.h"

#include "core/statistics/statistic_kind.h"
#include "core/thermal/site_values.h"

namespace pyro {

Result<std::size_t> fluidHere(const MeasureRequest& request) {
    for (const auto* places : {&request.site.facets, &request.site.points})
        for (const auto one : places->part)
            if (one != noNumber)
                return std::size_t{one};
    if (request.site.kind == SiteKind::Volume && !request.site.regions.regions.empty())
        return request.site.regions.regions.front();
    return fail(ErrorCode::NotSupported, "no fluid lies here");
}

Result<double> speedHere(const MeasureRequest& request) {
    if (request.speed)
        return *request.speed;
    const auto values = valuesAt(request.site, request.fields(), "speed", Component::Natural);
    if (!values)
        return tl::unexpected(values.error());
    const auto mean = statisticOf(*values, "mean");
    return mean ? Result<double>(mean->value) : tl::unexpected(mean.error());
}

} // namespace pyro
