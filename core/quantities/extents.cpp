// How large a place is.
#include "core/quantities/gauge_quantity.h"

#include <fmt/format.h>

namespace pyro {
namespace {

// Of parts that are shells, all of one thickness: their area is that of the middle.
std::optional<double> thicknessOf(const MeasureRequest& request) {
    std::optional<double> common;
    for (const auto part : request.site.regions.regions) {
        const auto& here = request.fields().solved().parts[part].thickness;
        if (!here || (common && *common != *here))
            return std::nullopt;
        common = here;
    }
    return common;
}

tl::unexpected<Error> hasNone(const MeasureRequest& request) {
    return fail(ErrorCode::NotSupported, fmt::format("this place has no {}", request.gauge.quantity));
}

// Parts of a plane case and shells have one too.
Result<Measured> areaOf(const MeasureRequest& request) {
    const auto& site = request.site;
    if (site.kind == SiteKind::Surface)
        return Measured{site.extent, "m2"};
    if (site.kind != SiteKind::Volume)
        return hasNone(request);
    if (const auto& plane = request.fields().solved().plane)
        return Measured{site.extent / plane->depth, "m2"};
    if (const auto thickness = thicknessOf(request))
        return Measured{site.extent / *thickness, "m2"};
    return hasNone(request);
}

Result<Measured> volumeOf(const MeasureRequest& request) {
    return request.site.kind == SiteKind::Volume ? Result<Measured>(Measured{request.site.extent, "m3"})
                                                 : hasNone(request);
}

// Boundaries of a plane case have one too.
Result<Measured> lengthOf(const MeasureRequest& request) {
    const auto& site = request.site;
    if (site.kind == SiteKind::Line)
        return Measured{site.extent, "m"};
    if (const auto& plane = request.fields().solved().plane; plane && site.kind == SiteKind::Surface)
        return Measured{site.extent / plane->depth, "m"};
    return hasNone(request);
}

Result<Measured> facesOf(const MeasureRequest& request) {
    if (request.site.kind != SiteKind::Surface)
        return fail(ErrorCode::NotSupported, "only a surface has faces");
    const auto count = request.site.faces > 0 ? request.site.faces : request.site.facets.size();
    return Measured{static_cast<double>(count), "1"};
}

} // namespace

constexpr GaugeQuantity areaQuantity{
    .name = "area",
    .siUnit = "m2",
    .meaning = "extent of a surface",
    .symbol = "A",
    .group = QuantityGroup::Extents,
    .place = PlaceNeed::Surface,
    .addsUp = true,
    .measure = areaOf,
};

constexpr GaugeQuantity volumeQuantity{
    .name = "volume",
    .siUnit = "m3",
    .meaning = "extent of a part",
    .group = QuantityGroup::Extents,
    .place = PlaceNeed::Part,
    .addsUp = true,
    .measure = volumeOf,
};

constexpr GaugeQuantity lengthQuantity{
    .name = "length",
    .siUnit = "m",
    .meaning = "extent of a line",
    .group = QuantityGroup::Extents,
    .place = PlaceNeed::Line,
    .measure = lengthOf,
};

constexpr GaugeQuantity facesQuantity{
    .name = "faces",
    .siUnit = "1",
    .meaning = "how many flat pieces a surface has",
    .group = QuantityGroup::Extents,
    .place = PlaceNeed::Surface,
    .measure = facesOf,
};

} // namespace pyro
