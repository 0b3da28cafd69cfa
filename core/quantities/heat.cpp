// Thermal resistances and heat contents.
#include "core/quantities/gauge_quantity.h"
#include "core/statistics/statistic_measured.h"
#include "core/thermal/site_values.h"

#include <fmt/format.h>

namespace pyro {
namespace {

Result<double> powerOf(const MeasureRequest& request) {
    if (request.power)
        return *request.power;
    if (request.site.kind == SiteKind::Surface) {
        const auto heat = request.heat.through(request.site);
        if (!heat)
            return tl::unexpected(heat.error());
        return request.symmetry * heat->total;
    }
    double sum = 0;
    bool any = false;
    for (const auto part : request.site.regions.regions)
        if (const auto& power = request.fields().properties(part).power) {
            sum += request.symmetry * *power;
            any = true;
        }
    if (!any)
        return fail(ErrorCode::NotSupported, "no power is given that the resistance could be told for", {},
                    "Give the part a power, or the gauge the key \"per\"");
    return sum;
}

Result<Measured> resistance(const MeasureRequest& request) {
    if (!request.reference)
        return fail(ErrorCode::WrongType, "a thermal resistance needs its reference temperature", {},
                    "Add the key \"reference\"");
    const auto power = powerOf(request);
    if (!power)
        return tl::unexpected(power.error());
    if (*power == 0)
        return fail(ErrorCode::NotSupported, "the power is zero, so that no resistance follows");
    const auto values = valuesAt(request.site, request.fields(), "temperature", Component::Natural);
    if (!values)
        return tl::unexpected(values.error());
    auto measured = statisticMeasured(request, *values, "K", true);
    if (!measured)
        return measured;
    measured->value = (measured->value - request.reference->kelvin) / *power;
    measured->siUnit = "K/W";
    measured->isTemperature = false;
    measured->reference = fmt::format("{}, for {:.6g} W", request.reference->text, *power);
    return measured;
}

Result<Measured> content(const MeasureRequest& request) {
    if (!request.reference)
        return fail(ErrorCode::WrongType, "a heat content is told above a reference temperature", {},
                    "Add the key \"reference\"");
    if (request.site.kind != SiteKind::Volume)
        return fail(ErrorCode::NotSupported, "only parts hold heat");
    const auto& fields = request.fields();
    double sum = 0;
    for (const auto part : request.site.regions.regions) {
        const auto temperature = fields.field(part, "temperature");
        const auto density = fields.field(part, "density");
        const auto capacity = fields.field(part, "heat_capacity");
        for (const auto* one : {&temperature, &density, &capacity})
            if (!*one)
                return tl::unexpected(one->error());
        for (const auto* one : {&density, &capacity})
            if (!(*one)->isConstant() && (*one)->on != (*temperature).on)
                return fail(ErrorCode::NotSupported,
                            "temperature, density and heat capacity are stored on different places");
        const auto& index = fields.index().parts[part];
        const auto weight = temperature->on == Location::Node ? index.nodeShare : index.cellMeasure;
        for (std::size_t i = 0; i < weight.size(); ++i)
            sum += weight[i] * density->at(i) * capacity->at(i) * (temperature->at(i) - request.reference->kelvin);
    }
    Measured out{sum, "J"};
    out.reference = request.reference->text;
    return out;
}

} // namespace

constexpr GaugeQuantity thermalResistanceQuantity{
    .name = "thermal_resistance",
    .siUnit = "K/W",
    .meaning = "temperature above a reference per power",
    .symbol = "R",
    .field = "temperature",
    .keys = {"reference", "per"},
    .measure = resistance,
};

constexpr GaugeQuantity heatContentQuantity{
    .name = "heat_content",
    .siUnit = "J",
    .meaning = "heat above a reference temperature",
    .symbol = "E",
    .place = PlaceNeed::Part,
    .field = "temperature",
    .keys = {"reference"},
    .addsUp = true,
    .measure = content,
};

} // namespace pyro
