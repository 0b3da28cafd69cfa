#include "core/quantities/field_quantity.h"

#include "core/quantities/gauge_quantity.h"
#include "core/thermal/minus.h"
#include "core/thermal/site_values.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace pyro {
namespace {

Component componentOf(const std::string& name) {
    if (name == "normal")
        return Component::Normal;
    return name == "magnitude" ? Component::Magnitude : componentNamed(name);
}

// Weights by the mass that passes; only where it all goes one way.
Result<Values> weightedByMassFlow(const MeasureRequest& request, const std::string& quantity, Component component) {
    if (request.site.kind != SiteKind::Surface)
        return fail(ErrorCode::NotSupported, "a mean weighted by mass flow needs a surface");
    const auto site = dividedForProducts(request.site, request.fields().solved(), request.fields().index());
    auto flux = readFacets(site, request.fields(), "mass_flux", Component::Normal);
    if (!flux)
        return tl::unexpected(flux.error());
    const auto numbers = readFacets(site, request.fields(), quantity, component);
    if (!numbers)
        return tl::unexpected(numbers.error());
    auto values = facetValues(site, *numbers);
    auto weights = facetValues(site, *flux);
    auto& piece = values.pieces.front();
    double forth = 0;
    double back = 0;
    for (std::size_t i = 0; i < piece.size(); ++i) {
        piece.ownWeight[i] *= weights.pieces.front().own[i];
        (piece.ownWeight[i] < 0 ? back : forth) += std::abs(piece.ownWeight[i]);
    }
    if (std::min(forth, back) > 1e-6 * std::max(forth, back))
        return fail(
            ErrorCode::NotSupported,
            fmt::format("the flow reverses: {:.3g} % of the mass goes against the rest, so that it is no weight",
                        100 * std::min(forth, back) / std::max(forth, back)),
            {}, "Choose a section where the flow goes one way, or weight by area");
    if (!(std::max(forth, back) > 0))
        return fail(ErrorCode::NotSupported, "no mass flows here, so that it is no weight");
    for (auto& weight : piece.ownWeight)
        weight = std::abs(weight);
    return values;
}

// Parts of the case that a line touches without finding the quantity there; empty where they all lack it, which is an
// error.
std::vector<std::uint32_t> partsLacking(const MeasureRequest& request) {
    std::set<std::uint32_t> touched(request.site.points.part.begin(), request.site.points.part.end());
    touched.erase(noNumber);
    std::vector<std::uint32_t> lacking;
    for (const auto part : touched)
        if (!request.fields().field(part, request.gauge.quantity, Location::Node))
            lacking.push_back(part);
    return lacking.size() < touched.size() ? lacking : std::vector<std::uint32_t>();
}

// As outside of the mesh: a profile has a gap there, a mean runs over the rest.
Result<Measured> measureWithGaps(const MeasureRequest& request, const std::vector<std::uint32_t>& lacking) {
    auto site = request.site;
    double gone = 0;
    double whole = 0;
    for (std::size_t i = 0; i < site.points.size(); ++i) {
        whole += site.points.part[i] == noNumber ? 0 : site.points.weight[i];
        if (std::ranges::find(lacking, site.points.part[i]) == lacking.end())
            continue;
        gone += site.points.weight[i];
        site.points.part[i] = noNumber;
    }
    if (whole > 0)
        site.extent *= 1 - gone / whole;
    auto measured = measureField({request.gauge, request.options, site, request.heat, request.reference, request.wall,
                                  request.length, request.speed, request.power, request.conductivity, request.minus});
    if (!measured)
        return measured;
    std::vector<std::string> names;
    names.reserve(lacking.size());
    for (const auto part : lacking)
        names.push_back(request.fields().solved().parts[part].name);
    measured->lacking = fmt::format("no {} in {}", request.gauge.quantity, fmt::join(names, ", "));
    if (measured->profile)
        for (std::size_t i = 0; i < site.points.size(); ++i) // the part is known all the same
            measured->profile->part[i] = request.site.points.part[i] == noNumber ? Profile::noPart
                                                                                 : request.site.points.part[i];
    return measured;
}

// Heat flux through a surface: the one quantity with a choice of methods.
Result<Measured> measureFlux(const MeasureRequest& request) {
    const auto heat = request.heat.through(request.site, request.method());
    if (!heat)
        return tl::unexpected(heat.error());
    const auto values = facetValues(request.site, heat->flux);
    const auto* statistic = statisticKind(request.statistic());
    auto measured = statistic != nullptr && statistic->ofSite != nullptr
                        ? statistic->ofSite(request, values)
                        : statisticMeasured(request, values, "W/m2", false);
    if (!measured)
        return measured;
    measured->method = heatMethodName(heat->method);
    const bool total = statistic == &integralStatistic;
    const bool mean = statistic == &meanStatistic && request.site.extent > 0;
    if (heat->method == HeatMethod::Gradient && (total || mean))
        if (const auto spread = request.heat.spread(request.site, request.method()))
            measured->spread = *spread / (total ? 1 : request.site.extent);
    if (heat->gradientTotal && total)
        measured->gradientValue = heat->gradientTotal;
    if (heat->gradientTotal && mean)
        measured->gradientValue = *heat->gradientTotal / request.site.extent;
    return measured;
}

// Through a surface by the best method at hand; along another direction, or at other places, the field itself.
Result<Measured> measureHeatFlux(const MeasureRequest& request) {
    const auto* statistic = statisticKind(request.statistic());
    const bool normal = request.gauge.component.empty() || request.gauge.component == "normal";
    const bool ownWay = statistic != nullptr && statistic->ofQuantity != nullptr;
    return request.site.kind == SiteKind::Surface && normal && !ownWay && request.minus == nullptr &&
                   request.options.weight != "mass_flow"
               ? measureFlux(request)
               : measureField(request);
}

} // namespace

std::vector<double> alongLine(const Site& site, const Values& values) {
    std::vector<double> numbers(site.points.size(), std::nan(""));
    std::size_t next = 0;
    for (std::size_t i = 0; i < numbers.size(); ++i)
        if (site.points.part[i] != noNumber)
            numbers[i] = values.pieces[0].own[next++];
    return numbers;
}

// What is left of the field without that of the other case; of a temperature a difference.
Result<Measured> measureDifference(const MeasureRequest& request, Values values, const QuantityKind& kind,
                                   Component component) {
    const auto* statistic = statisticKind(request.statistic());
    if (statistic != nullptr && statistic->ofSite != nullptr)
        return fail(ErrorCode::NotSupported,
                    fmt::format("{} is not told of a difference of two cases", statistic->name));
    const bool profile = request.site.kind == SiteKind::Line && statistic == &profileStatistic;
    auto rest = lessOther(request, std::move(values), request.gauge.quantity, component, profile);
    if (!rest)
        return tl::unexpected(rest.error());
    auto measured = profile ? profileMeasured(request, alongLine(request.site, rest->values), kind.siUnit, false)
                            : statisticMeasured(request, rest->values, kind.siUnit, false);
    if (measured) {
        measured->covered = rest->covered;
        measured->reference = request.minus->caseName + (request.minus->when.empty() ? "" : " " + request.minus->when);
    }
    return measured;
}

Result<Measured> measureField(const MeasureRequest& request) {
    const auto& gauge = request.gauge;
    const auto* kindOfStatistic = statisticKind(request.statistic());
    if (kindOfStatistic != nullptr && kindOfStatistic->ofQuantity != nullptr && request.minus != nullptr &&
        kindOfStatistic != &hotspotsStatistic)
        return fail(ErrorCode::NotSupported,
                    fmt::format("{} are not told of a difference of two cases", kindOfStatistic->name));
    if (kindOfStatistic != nullptr && kindOfStatistic->ofQuantity != nullptr)
        return kindOfStatistic->ofQuantity(request);
    if (request.site.kind == SiteKind::Line)
        if (const auto lacking = partsLacking(request); !lacking.empty())
            return measureWithGaps(request, lacking);
    const auto kind = kindOf(request.fields().quantities(), gauge.quantity);
    if (!kind)
        return fail(ErrorCode::NameUnknown, fmt::format("the case has no quantity \"{}\"", gauge.quantity), {},
                    "Its array may be missing or have another name");
    const auto component = componentOf(gauge.component);
    if (const auto* stored = request.fields().quantities().named(gauge.quantity);
        stored != nullptr && isAlongAxes(*stored) && component != Component::X && component != Component::Y &&
        component != Component::Z)
        return fail(ErrorCode::NotSupported,
                    fmt::format("the {} is given along x, y and z and has no magnitude", gauge.quantity), {},
                    "Choose the component x, y or z");
    if (request.options.weight == "mass_flow" && request.minus != nullptr)
        return fail(ErrorCode::NotSupported, "a difference of two cases is not weighted by mass flow");
    if (request.options.weight == "mass_flow") {
        const auto values = weightedByMassFlow(request, gauge.quantity, component);
        return values ? statisticMeasured(request, *values, kind->siUnit, kind->isTemperature)
                      : tl::unexpected(values.error());
    }
    auto values = valuesAt(request.site, request.fields(), gauge.quantity, component);
    if (!values)
        return tl::unexpected(values.error());
    if (request.minus != nullptr)
        return measureDifference(request, std::move(*values), *kind, component);
    if (kindOfStatistic != nullptr && kindOfStatistic->ofSite != nullptr)
        return kindOfStatistic->ofSite(request, *values);
    if (request.site.kind == SiteKind::Line && kindOfStatistic == &profileStatistic)
        return profileMeasured(request, alongLine(request.site, *values), kind->siUnit, kind->isTemperature);
    return statisticMeasured(request, *values, kind->siUnit, kind->isTemperature);
}

constexpr GaugeQuantity heatFluxQuantity{
    .name = "heat_flux",
    .siUnit = "W/m2",
    .meaning = "stored, or conducted",
    .symbol = "q",
    .integralSymbol = "Q",
    .field = "temperature",
    .keys = {"method"},
    .byFacets = true,
    .measure = measureHeatFlux,
};

constexpr GaugeQuantity temperatureGradientQuantity{
    .name = "temperature_gradient",
    .siUnit = "K/m",
    .meaning = "slope of the temperature",
    .symbol = "grad_T",
    .field = "temperature",
};

constexpr GaugeQuantity speedQuantity{
    .name = "speed",
    .siUnit = "m/s",
    .meaning = "magnitude of the velocity",
    .symbol = "u",
    .group = QuantityGroup::Flow,
    .field = "velocity",
};

constexpr GaugeQuantity massFluxQuantity{
    .name = "mass_flux",
    .siUnit = "kg/(m2.s)",
    .meaning = "density times velocity",
    .group = QuantityGroup::Flow,
    .field = "velocity",
};

} // namespace pyro
