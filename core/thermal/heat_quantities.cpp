// Resistances, heat contents, balances of parts and volumes above a level.
#include "core/field/volume_above.h"
#include "core/thermal/balances.h"
#include "core/thermal/measure.h"
#include "core/thermal/site_values.h"

#include <cmath>
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

Result<Measured> heatBalance(const MeasureRequest& request) {
    if (request.site.kind != SiteKind::Volume)
        return fail(ErrorCode::NotSupported, "a balance is drawn over parts");
    const auto statistic = request.gauge.statistic.empty() ? "remainder" : request.gauge.statistic;
    double sum = 0;
    std::string method;
    for (const auto part : request.site.regions.regions) {
        const auto balance = partBalance(request.heat, part);
        const auto value = statistic == "in"         ? balance.in
                           : statistic == "out"      ? balance.out
                           : statistic == "produced" ? balance.produced
                           : statistic == "stored"   ? balance.stored
                                                     : balance.remainder();
        if (statistic != "in" && statistic != "out" && statistic != "produced" && statistic != "stored" &&
            statistic != "remainder")
            return fail(ErrorCode::NotSupported, fmt::format("a balance has no statistic \"{}\"", statistic), {},
                        "Use in, out, produced, stored or remainder");
        if (!value)
            return fail(ErrorCode::NotSupported, balance.why);
        sum += *value;
        method = balance.method;
    }
    Measured out{sum, "W"};
    out.method = method;
    return out;
}

Result<Measured> massBalance(const MeasureRequest& request) {
    if (request.site.kind != SiteKind::Volume)
        return fail(ErrorCode::NotSupported, "a balance is drawn over parts");
    const auto statistic = request.gauge.statistic.empty() ? "remainder" : request.gauge.statistic;
    double in = 0;
    double out = 0;
    for (const auto part : request.site.regions.regions) {
        const auto flow = massThrough(request.heat.fields(), part);
        if (!flow)
            return tl::unexpected(flow.error());
        in += flow->in;
        out += flow->out;
    }
    if (statistic != "in" && statistic != "out" && statistic != "remainder")
        return fail(ErrorCode::NotSupported, fmt::format("a mass balance has no statistic \"{}\"", statistic), {},
                    "Use in, out or remainder");
    return Measured{statistic == "in" ? in : statistic == "out" ? out : in - out, "kg/s"};
}

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

Result<Measured> measureHeat(const MeasureRequest& request) {
    const auto& name = request.gauge.quantity;
    if (name == "thermal_resistance")
        return resistance(request);
    if (name == "heat_content")
        return content(request);
    if (name == "heat_balance")
        return heatBalance(request);
    if (name == "mass_balance")
        return massBalance(request);
    return volumeAboveLevel(request);
}

} // namespace pyro
