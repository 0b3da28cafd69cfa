#include "core/envelope/environments.h"

#include "core/thermal/site_values.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

// Area-weighted sums over the faces of a boundary.
struct FaceSums {
    double area = 0;
    double flux = 0; // mean, W/m2 out of the part
    double kelvin = 0;
    double fluxSpread = 0; // weighted squares about the means
    double kelvinSpread = 0;
    double together = 0;
};

FaceSums sumsOver(const Site& site, const std::vector<double>& flux, const std::vector<double>& kelvin) {
    FaceSums sums;
    const auto& weight = site.facets.weight;
    for (std::size_t i = 0; i < flux.size(); ++i) {
        sums.area += weight[i];
        sums.flux += weight[i] * flux[i];
        sums.kelvin += weight[i] * kelvin[i];
    }
    sums.flux /= sums.area;
    sums.kelvin /= sums.area;
    for (std::size_t i = 0; i < flux.size(); ++i) {
        sums.fluxSpread += weight[i] * (flux[i] - sums.flux) * (flux[i] - sums.flux);
        sums.kelvinSpread += weight[i] * (kelvin[i] - sums.kelvin) * (kelvin[i] - sums.kelvin);
        sums.together += weight[i] * (flux[i] - sums.flux) * (kelvin[i] - sums.kelvin);
    }
    return sums;
}

// The mean of an array on the faces of a boundary, which must be one value.
std::optional<double> uniform(const Region& boundary, const char* name) {
    const auto* array = boundary.find(name, Location::Cell);
    if (array == nullptr || array->components != 1 || array->notFinite > 0 ||
        array->max - array->min > 1e-9 * std::max(1.0, std::abs(array->max)))
        return std::nullopt;
    return array->max;
}

constexpr double leastSpread = 0.02; // of the flux against its mean: below, a line through the faces says nothing
constexpr double mostScatter = 0.02; // of the temperatures about that line

Result<Environment> unknown(const std::string& name, const std::string& why) {
    return fail(ErrorCode::NotSupported, fmt::format("the environment of \"{}\" is not known: {}", name, why), name,
                "Give the boundary its temperature and surface resistance in the stage Cases");
}

// From the straight line through all faces.
Result<Environment> fitted(Environment environment, const FaceSums& sums) {
    if (std::abs(sums.flux) * sums.area == 0)
        return unknown(environment.name, "no heat passes it");
    if (sums.fluxSpread < leastSpread * leastSpread * sums.flux * sums.flux * sums.area)
        return unknown(environment.name, "its flux is so even that temperature and resistance cannot be told apart");
    const double slope = sums.together / sums.fluxSpread;
    const double left = sums.kelvinSpread - slope * sums.together;
    if (!(slope >= 0) || left > mostScatter * mostScatter * sums.kelvinSpread)
        return unknown(environment.name, "its faces do not share one temperature and one resistance");
    environment.resistance = slope;
    environment.temperature = sums.kelvin - slope * sums.flux;
    environment.origin = "field";
    return environment;
}

// What survey and case say; without a resistance it is NaN. Nothing when neither knows the temperature.
std::optional<Environment> written(const CaseHeat& heat, std::size_t boundary, const GivenEnvironment& given) {
    const auto& region = heat.fields().solved().boundaries[boundary];
    const auto stored = given.temperature ? std::nullopt : uniform(region, "environment_temperature");
    if (!given.temperature && !stored)
        return std::nullopt;
    Environment out;
    out.boundary = boundary;
    out.name = region.name;
    out.area = heat.fields().index().boundaries[boundary].size;
    out.temperature = given.temperature ? *given.temperature : *stored;
    const auto resistance = given.resistance ? given.resistance : uniform(region, "surface_resistance");
    out.resistance = resistance.value_or(std::nan(""));
    out.origin = given.temperature ? "survey" : "case";
    return out;
}

} // namespace

Result<Environment> environmentOf(const CaseHeat& heat, std::size_t boundary, const GivenEnvironment& given) {
    const auto& fields = heat.fields();
    const auto through = heat.through(boundary);
    auto known = written(heat, boundary, given);
    if (known && through)
        known->heat = through->total;
    if (known && std::isfinite(known->resistance))
        return *known;
    const auto& name = fields.solved().boundaries[boundary].name;
    if (!through)
        return unknown(name, through.error().what);
    const auto site = siteOfBoundary(fields.solved(), fields.index(), boundary);
    const auto kelvin = readFacets(site, fields, "temperature", Component::Natural);
    if (!kelvin)
        return unknown(name, kelvin.error().what);
    const auto sums = sumsOver(site, through->flux, *kelvin);
    if (!known) {
        Environment out;
        out.boundary = boundary;
        out.name = name;
        out.area = fields.index().boundaries[boundary].size;
        out.heat = through->total;
        return fitted(std::move(out), sums);
    }
    if (sums.flux == 0)
        return unknown(name, "no heat passes it");
    known->resistance = (sums.kelvin - known->temperature) / sums.flux;
    if (std::abs(known->resistance) < 1e-9)
        known->resistance = 0;
    if (known->resistance < 0)
        return unknown(name, fmt::format("heat flows from the colder to the warmer side if it is at {:g} degC",
                                         known->temperature - 273.15));
    return *known;
}

std::vector<Environment> environmentsOf(const CaseHeat& heat, const GivenEnvironments& given, KnownFrom from) {
    std::vector<Environment> found;
    const auto& boundaries = heat.fields().solved().boundaries;
    for (std::size_t i = 0; i < boundaries.size(); ++i) {
        const auto note = given.find(boundaries[i].name);
        if (i >= heat.fields().solved().passable() && note == given.end())
            continue;
        const auto what = note == given.end() ? GivenEnvironment{} : note->second;
        if (from == KnownFrom::Anything) {
            if (auto one = environmentOf(heat, i, what))
                found.push_back(std::move(*one));
        } else if (auto one = written(heat, i, what))
            found.push_back(std::move(*one));
    }
    return found;
}

} // namespace pyro
