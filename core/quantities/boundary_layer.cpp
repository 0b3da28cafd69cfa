#include "core/quantities/gauge_quantity.h"
#include "core/thermal/site_values.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

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
    const double end = request.options.number("share").value_or(0.99);
    double before = ((*numbers)[first] - wall) / (free - wall);
    for (std::size_t i = first + 1; i < last; ++i) {
        const double here = ((*numbers)[i] - wall) / (free - wall);
        if (!std::isfinite(here))
            return fail(ErrorCode::NotSupported, "the line leaves the mesh before the layer ends");
        if (here >= end && before < end) {
            const double share = (end - before) / (here - before);
            Measured out{s[i - 1] + share * (s[i] - s[i - 1]) - s[first], "m"};
            return out;
        }
        before = here;
    }
    return fail(ErrorCode::NotSupported,
                fmt::format("the profile never reaches {:g} of its free value along the line", end));
}

constexpr GaugeKey shareKey[]{{.key = "share",
                               .kind = GaugeKeyKind::Value,
                               .meaning = "of the free value, at which a boundary layer ends",
                               .label = "Share of free value",
                               .tip = "Where a boundary layer ends: 0.99"}};

} // namespace

constexpr GaugeQuantity boundaryLayerThicknessQuantity{
    .name = "boundary_layer_thickness",
    .siUnit = "m",
    .meaning = "where a profile from the wall reaches a share of its free value",
    .symbol = "delta",
    .group = QuantityGroup::Film,
    .place = PlaceNeed::Line,
    .keys = {"wall", "of", "free"},
    .ownKeys = shareKey,
    .measure = measureLayer,
};

} // namespace pyro
