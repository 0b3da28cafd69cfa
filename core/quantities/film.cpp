// Film coefficients and the numbers made of them.
#include "core/field/vector_algebra.h"
#include "core/quantities/gauge_quantity.h"
#include "core/statistics/statistic_measured.h"
#include "core/thermal/site_values.h"
#include "core/thermal/wall_line.h"

#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

struct FilmScale {
    double factor = 1; // from a film coefficient to the number asked for
    std::string unit = "W/(m2.K)";
    bool local = false; // times the distance from the start of the line
};

std::size_t partBehind(const Site& site, const PartFields& fields) {
    if (!site.wall.empty())
        return fields.index().boundaries[site.wall.front()].part[0];
    for (const auto part : site.facets.part)
        if (part != noNumber)
            return part;
    return noNumber;
}

Result<double> constantOf(const PartFields& fields, std::size_t part, const char* name) {
    if (part == noNumber)
        return fail(ErrorCode::NotSupported, "no part lies behind this place");
    const auto field = fields.field(part, name);
    if (!field)
        return tl::unexpected(field.error());
    if (!field->isConstant())
        return fail(ErrorCode::NotSupported,
                    fmt::format("the {} of \"{}\" varies; give one value by the key \"conductivity\"", name,
                                fields.solved().parts[part].name));
    return field->constant;
}

Result<double> conductivityFor(const MeasureRequest& request, bool fluid) {
    if (request.conductivity)
        return *request.conductivity;
    const auto part = partBehind(request.site, request.fields());
    if (part != noNumber && request.fields().isFluid(part) == fluid)
        return constantOf(request.fields(), part, "conductivity");
    return fail(ErrorCode::NotSupported,
                fmt::format("the part behind this place is no {}, so that its conductivity is not the one meant",
                            fluid ? "fluid" : "solid"),
                {}, "Give it by the key \"conductivity\"");
}

Result<FilmScale> ofStanton(const MeasureRequest& request) {
    const auto part = partBehind(request.site, request.fields());
    const auto density = constantOf(request.fields(), part, "density");
    const auto capacity = constantOf(request.fields(), part, "heat_capacity");
    if (!density || !capacity)
        return tl::unexpected((density ? capacity : density).error());
    if (!(request.speed && *request.speed > 0))
        return fail(ErrorCode::WrongType, "a Stanton number needs the speed of the flow", {}, "Add the key \"speed\"");
    return FilmScale{1 / (*density * *capacity * *request.speed), "1"};
}

// Length over the conductivity of the fluid or of the solid; `needs`: "a Biot number".
Result<FilmScale> byConductivity(const MeasureRequest& request, const char* needs, bool fluid) {
    if (request.options.localLength && request.site.kind != SiteKind::Line)
        return fail(ErrorCode::NotSupported, "a local length is the distance from the start of a line", {},
                    "Give a length in the key \"length\", or read it along a line");
    if (!request.options.localLength && !(request.length && *request.length > 0))
        return fail(ErrorCode::WrongType, fmt::format("{} needs a length", needs), {},
                    "Add the key \"length\": one with its unit, or local");
    const auto conductivity = conductivityFor(request, fluid);
    if (!conductivity)
        return tl::unexpected(conductivity.error());
    if (request.options.localLength)
        return FilmScale{1 / *conductivity, "1", true};
    return FilmScale{*request.length / *conductivity, "1"};
}

tl::unexpected<Error> sameTemperature(double kelvin) {
    return fail(
        ErrorCode::NotSupported,
        fmt::format("the wall has the reference temperature, {:.6g} K, so that no coefficient follows", kelvin));
}

// h is positive when heat goes from hot to cold on either side of a wall: a fluid's own
// boundary counts heat out of the fluid.
double sideSign(const MeasureRequest& request) {
    const auto part = partBehind(request.site, request.fields());
    return part != noNumber && request.fields().isFluid(part) ? -1 : 1;
}

// Along a line on a wall, or at a point of it.
Result<Measured> alongWall(const MeasureRequest& request, const FilmScale& scale) {
    const auto wall = wallLine(request.site, request.heat, request.method());
    if (!wall)
        return tl::unexpected(wall.error());
    std::vector<double> numbers;
    for (std::size_t i = 0; i < wall->flux.size(); ++i) {
        const double difference = wall->kelvin[i] - request.reference->at(i);
        numbers.push_back(difference != 0 ? scale.factor * (scale.local ? request.site.s[i] : 1) * sideSign(request) *
                                                wall->flux[i] / difference
                                          : std::nan(""));
    }
    if (std::ranges::all_of(numbers, [](double number) { return !std::isfinite(number); }))
        return sameTemperature(request.reference->kelvin);
    if (request.site.kind == SiteKind::Spot || statisticKind(request.statistic()) != &profileStatistic) {
        ValuePiece piece; // the wall is met everywhere, also where the line itself leaves the mesh by a hair
        piece.own = numbers;
        piece.ownWeight = request.site.points.weight;
        piece.placeOf = [&site = request.site](std::uint64_t at) {
            return Place{site.points.at[at], Location::Node, at, 0};
        };
        Values values;
        values.pieces.push_back(std::move(piece));
        auto measured = statisticMeasured(request, values, scale.unit, false);
        if (measured)
            measured->method = heatMethodName(wall->method);
        return measured;
    }
    auto measured = profileMeasured(request, std::move(numbers), scale.unit, false);
    if (measured)
        measured->method = heatMethodName(wall->method);
    return measured;
}

Result<Measured> overSurface(const MeasureRequest& request, const FilmScale& scale) {
    const auto heat = request.heat.through(request.site, request.method());
    if (!heat)
        return tl::unexpected(heat.error());
    const auto temperature = readFacets(request.site, request.fields(), "temperature", Component::Natural);
    if (!temperature)
        return tl::unexpected(temperature.error());
    const double sign = sideSign(request) * scale.factor;
    const bool mean = statisticKind(request.statistic()) == &meanStatistic;
    Result<Measured> measured = fail(ErrorCode::NotSupported, "");
    if (mean && !request.options.meanOfLocal) {
        double area = 0;
        double difference = 0;
        for (std::size_t i = 0; i < temperature->size(); ++i) {
            area += request.site.facets.weight[i];
            difference += request.site.facets.weight[i] * ((*temperature)[i] - request.reference->at(i));
        }
        if (std::abs(difference) <= 1e-9 * area * request.reference->kelvin)
            return sameTemperature(request.reference->kelvin);
        measured = Measured{sign * heat->total / difference, scale.unit};
        if (const auto spread = heat->method == HeatMethod::Gradient
                                    ? request.heat.spread(request.site, request.method())
                                    : std::nullopt)
            measured->spread = std::abs(scale.factor * *spread / difference);
        if (heat->gradientTotal)
            measured->gradientValue = sign * *heat->gradientTotal / difference;
    } else {
        std::vector<double> local;
        for (std::size_t i = 0; i < temperature->size(); ++i) {
            const double difference = (*temperature)[i] - request.reference->at(i);
            if (difference == 0)
                return sameTemperature(request.reference->at(i));
            local.push_back(sign * heat->flux[i] / difference);
        }
        measured = statisticMeasured(request, facetValues(request.site, local), scale.unit, false);
    }
    if (measured)
        measured->method = heatMethodName(heat->method);
    return measured;
}

// `scaleOf`: what is made of the film coefficient.
Result<Measured> measureFilm(const MeasureRequest& request, Result<FilmScale> (*scaleOf)(const MeasureRequest&)) {
    if (!request.reference)
        return fail(ErrorCode::WrongType, "a film coefficient is worth nothing without its reference temperature", {},
                    "Add the key \"reference\": a temperature, a gauge, a bulk or a distance");
    const auto scale = scaleOf(request);
    if (!scale)
        return tl::unexpected(scale.error());
    const bool line = request.site.kind == SiteKind::Line || request.site.kind == SiteKind::Spot;
    if (line && request.site.wall.empty())
        return fail(ErrorCode::WrongType, "a film coefficient on a line or at a point needs the wall that it lies on",
                    {}, "Add \"boundary\" to where");
    if (!line && request.site.kind != SiteKind::Surface)
        return fail(ErrorCode::NotSupported, "a film coefficient belongs to a wall: name a boundary or an interface");
    auto measured = line ? alongWall(request, *scale) : overSurface(request, *scale);
    if (measured)
        measured->reference = request.reference->text;
    return measured;
}

} // namespace

constexpr GaugeQuantity filmCoefficientQuantity{
    .name = "film_coefficient",
    .siUnit = "W/(m2.K)",
    .meaning = "heat flux over the temperature difference to a reference",
    .symbol = "h",
    .group = QuantityGroup::Film,
    .place = PlaceNeed::Wall,
    .field = "temperature",
    .keys = {"reference", "method", "mean_of"},
    .measure =
        [](const MeasureRequest& request) {
            return measureFilm(request, [](const MeasureRequest&) { return Result<FilmScale>(FilmScale{}); });
        },
};

constexpr GaugeQuantity nusseltNumberQuantity{
    .name = "nusselt_number",
    .siUnit = "1",
    .meaning = "film coefficient times length over the fluid's conductivity",
    .symbol = "Nu",
    .group = QuantityGroup::Film,
    .place = PlaceNeed::Wall,
    .field = "temperature",
    .keys = {"reference", "method", "mean_of", "length", "conductivity"},
    .measure =
        [](const MeasureRequest& request) {
            return measureFilm(request,
                               [](const MeasureRequest& one) { return byConductivity(one, "a Nusselt number", true); });
        },
};

constexpr GaugeQuantity biotNumberQuantity{
    .name = "biot_number",
    .siUnit = "1",
    .meaning = "film coefficient times length over the solid's conductivity",
    .symbol = "Bi",
    .group = QuantityGroup::Film,
    .place = PlaceNeed::Wall,
    .field = "temperature",
    .keys = {"reference", "method", "mean_of", "length", "conductivity"},
    .measure =
        [](const MeasureRequest& request) {
            return measureFilm(request,
                               [](const MeasureRequest& one) { return byConductivity(one, "a Biot number", false); });
        },
};

constexpr GaugeQuantity stantonNumberQuantity{
    .name = "stanton_number",
    .siUnit = "1",
    .meaning = "film coefficient over density, heat capacity and speed",
    .symbol = "St",
    .group = QuantityGroup::Film,
    .place = PlaceNeed::Wall,
    .field = "temperature",
    .keys = {"reference", "method", "mean_of", "speed"},
    .measure = [](const MeasureRequest& request) { return measureFilm(request, ofStanton); },
};

} // namespace pyro
