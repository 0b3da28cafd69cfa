// Temperatures and speeds against a reference.
#include "core/quantities/field_quantity.h"
#include "core/quantities/gauge_quantity.h"
#include "core/thermal/site_values.h"

#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

// (value - from) / span of a field; 1 minus that where the complement is asked for.
Result<Measured> shareMeasured(const MeasureRequest& request, const std::string& field, double from, double span) {
    auto values = valuesAt(request.site, request.fields(), field, Component::Natural);
    if (!values)
        return tl::unexpected(values.error());
    const bool complement = request.options.flag("complement");
    for (auto& piece : values->pieces) {
        std::vector<double> numbers(piece.size());
        for (std::size_t i = 0; i < numbers.size(); ++i) {
            const double share = (piece.value(i) - from) / span;
            numbers[i] = complement ? 1 - share : share;
        }
        piece.own = std::move(numbers);
    }
    if (request.site.kind == SiteKind::Line && statisticKind(request.statistic()) == &profileStatistic)
        return profileMeasured(request, alongLine(request.site, *values), "1", false);
    return statisticMeasured(request, *values, "1", false);
}

Result<Measured> dimensionlessTemperature(const MeasureRequest& request) {
    if (!(request.reference && request.wall))
        return fail(ErrorCode::WrongType, "a dimensionless temperature needs the keys \"reference\" and \"wall\"");
    const double span = request.wall->kelvin - request.reference->kelvin;
    if (std::abs(span) < 1e-12 * request.wall->kelvin)
        return fail(ErrorCode::NotSupported,
                    fmt::format("wall and reference have the same temperature, {:g} K", request.wall->kelvin));
    auto measured = shareMeasured(request, "temperature", request.reference->kelvin, span);
    if (measured)
        measured->reference = fmt::format("{}; wall {}", request.reference->text, request.wall->text);
    return measured;
}

Result<Measured> dimensionlessSpeed(const MeasureRequest& request) {
    if (!(request.speed && *request.speed != 0))
        return fail(ErrorCode::WrongType, "a dimensionless speed needs the reference speed", {},
                    "Add the key \"speed\"");
    return shareMeasured(request, "speed", 0, *request.speed);
}

constexpr GaugeKey complementKey[]{{.key = "complement",
                                    .kind = GaugeKeyKind::Flag,
                                    .meaning = "1 minus a dimensionless temperature",
                                    .words = {"true"},
                                    .label = "Form",
                                    .unsaid = "(T - reference) / (wall - reference)",
                                    .shown = {"1 minus that"}}};

} // namespace

constexpr GaugeQuantity dimensionlessTemperatureQuantity{
    .name = "dimensionless_temperature",
    .siUnit = "1",
    .meaning = "(T - reference) / (wall - reference)",
    .symbol = "theta",
    .field = "temperature",
    .keys = {"reference", "wall"},
    .ownKeys = complementKey,
    .measure = dimensionlessTemperature,
};

constexpr GaugeQuantity dimensionlessSpeedQuantity{
    .name = "dimensionless_speed",
    .siUnit = "1",
    .meaning = "speed over a reference speed",
    .group = QuantityGroup::Flow,
    .field = "velocity",
    .keys = {"speed"},
    .measure = dimensionlessSpeed,
};

} // namespace pyro
