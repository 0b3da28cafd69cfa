#include "core/limits/judging.h"
#include "core/thermal/part_fields.h"

#include <cmath>

namespace pyro {
namespace {

Done judgeGradient(const Limit& limit, const JudgedStep& step, LimitReading& reading) {
    const auto* fields = step.fields;
    const auto part = fields != nullptr ? positionOf(fields->solved().parts, limit.target.name) : std::nullopt;
    if (!part)
        return noRegion(limit);
    const auto slope = fields->field(*part, "temperature_gradient", Location::Cell);
    if (!slope)
        return tl::unexpected(slope.error());
    double most = -1;
    std::size_t where = 0;
    for (std::size_t at = 0; 3 * at < slope->values.size(); ++at) {
        const double size = std::hypot(slope->at(at, 0), slope->at(at, 1), slope->at(at, 2));
        if (!(size <= most)) { // a NaN stays and is told
            most = size;
            where = at;
            if (std::isnan(size))
                break;
        }
    }
    reading.unit = std::string("K/m");
    const auto& mesh = fields->solved().parts[*part].mesh;
    const Place place{slope->on == Location::Cell ? mesh.cellCentre(where) : mesh.node(where), slope->on, where, *part};
    return compare(limit, {most, most, place, place}, {}, reading);
}

} // namespace

// The largest temperature gradient within a part.
constexpr LimitForm gradientForm{
    .key = "gradient",
    .name = "temperature gradient",
    .choice = "temperature gradient",
    .unit = "K/m",
    .ofBoundaries = false,
    .ofGauges = false,
    .maxExample = "5 K/mm",
    .marginExample = "0.5 K/mm",
    .words = [](const Limit&) { return std::string("temperature gradient"); },
    .judge = judgeGradient,
    .readsFields = true,
};

} // namespace pyro
