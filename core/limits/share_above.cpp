#include "core/field/volume_above.h"
#include "core/limits/judging.h"
#include "core/thermal/site_values.h"

#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

// Of a boundary the faces count whole by the mean of their nodes; of a part see volumeAbove.
Result<double> shareAboveLevel(const Limit& limit, const PartFields& fields) {
    const auto* quantity = fields.quantities().named("temperature");
    if (quantity == nullptr)
        return fail(ErrorCode::NotSupported, "the case has no temperature");
    const double level = (limit.level->si - quantity->toSi.offset) / quantity->toSi.scale;
    const auto& solved = fields.solved();
    if (limit.target.kind == TargetKind::Part) {
        const auto part = positionOf(solved.parts, limit.target.name);
        const auto* array = part ? solved.parts[*part].find(quantity->array, quantity->on) : nullptr;
        if (array == nullptr) {
            if (!part)
                return noRegion(limit);
            return fail(ErrorCode::NameUnknown, "the part has no temperature");
        }
        const auto above = volumeAbove(solved.parts[*part], *array, fields.index().parts[*part].cellMeasure, level);
        if (above.whole < fields.index().parts[*part].size * (1 - 1e-9))
            return fail(ErrorCode::NotSupported, "some of its values are not finite");
        return above.share();
    }
    const auto boundary = positionOf(solved.boundaries, limit.target.name);
    if (!boundary)
        return noRegion(limit);
    const auto site = siteOfBoundary(solved, fields.index(), *boundary);
    const auto kelvin = readFacets(site, fields, "temperature", Component::Natural);
    if (!kelvin)
        return tl::unexpected(kelvin.error());
    double above = 0;
    double whole = 0;
    for (std::size_t i = 0; i < kelvin->size(); ++i) {
        whole += site.facets.weight[i];
        above += (*kelvin)[i] > limit.level->si ? site.facets.weight[i] : 0;
        if (std::isnan((*kelvin)[i]))
            return fail(ErrorCode::NotSupported, "some of its values are not finite");
    }
    return whole > 0 ? above / whole : 0;
}

Done judgeShare(const Limit& limit, const JudgedStep& step, LimitReading& reading) {
    if (step.fields == nullptr || !limit.level)
        return fail(ErrorCode::NotSupported, "its share above a level is not known here");
    const auto share = shareAboveLevel(limit, *step.fields);
    if (!share)
        return tl::unexpected(share.error());
    reading.unit = std::string("1");
    const auto* region = regionOf(limit, step.readings);
    const auto hottest = region != nullptr ? region->hottest : std::nullopt;
    return compare(limit, {*share, *share, hottest, hottest}, {}, reading);
}

} // namespace

// Of the volume of a part, or of the area of a boundary, above a level.
constexpr LimitForm shareAboveForm{
    .key = "share_above",
    .name = "share above a level",
    .choice = "share above a level",
    .unit = "1",
    .ofGauges = false,
    .parameter = LimitParameter::Level,
    .shownIn = "%",
    .maxExample = "5 %",
    .marginExample = "1 %",
    .words = [](const Limit& limit) { return "share above " + (limit.level ? limit.level->text : std::string("?")); },
    .judge = judgeShare,
    .readsFields = true,
};

} // namespace pyro
