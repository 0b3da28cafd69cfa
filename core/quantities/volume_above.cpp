#include "core/field/volume_above.h"
#include "core/quantities/gauge_quantity.h"

#include <fmt/format.h>

namespace pyro {
namespace {

Result<Measured> volumeAboveLevel(const MeasureRequest& request) {
    if (request.site.kind != SiteKind::Volume || !request.options.level)
        return fail(ErrorCode::WrongType, "a volume above a level needs a part and the key \"level\"");
    const auto* temperature = request.fields().quantities().named("temperature");
    if (temperature == nullptr)
        return fail(ErrorCode::NameUnknown, "the case has no temperature");
    double sum = 0;
    for (const auto part : request.site.regions.regions) {
        const auto& region = request.fields().solved().parts[part];
        const auto* array = region.find(temperature->array, temperature->on);
        if (array == nullptr)
            return fail(ErrorCode::NameUnknown, fmt::format("\"{}\" has no temperature", region.name));
        sum += volumeAbove(region, *array, request.fields().index().parts[part].cellMeasure,
                           temperature->toSi.inverse()(*request.options.level))
                   .volume;
    }
    return Measured{sum, "m3"};
}

} // namespace

constexpr GaugeQuantity volumeAboveQuantity{
    .name = "volume_above",
    .siUnit = "m3",
    .meaning = "volume that is hotter than a level",
    .place = PlaceNeed::Part,
    .field = "temperature",
    .keys = {"level"},
    .levelOf = "temperature",
    .addsUp = true,
    .measure = volumeAboveLevel,
};

} // namespace pyro
