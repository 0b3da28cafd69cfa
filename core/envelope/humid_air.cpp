#include "core/envelope/humid_air.h"

#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr double zeroCelsius = 273.15;
constexpr double pressureAtZero = 610.5; // Pa

} // namespace

double saturationPressure(double kelvin) {
    const double celsius = kelvin - zeroCelsius;
    return celsius >= 0 ? pressureAtZero * std::exp(17.269 * celsius / (237.3 + celsius))
                        : pressureAtZero * std::exp(21.875 * celsius / (265.5 + celsius));
}

Result<double> saturationTemperature(double pascal) {
    if (!(pascal > 0) || !std::isfinite(pascal))
        return fail(ErrorCode::WrongType, fmt::format("a vapour pressure of {:g} Pa has no dew point", pascal),
                    "humidity");
    const double ratio = std::log(pascal / pressureAtZero);
    return zeroCelsius +
           (pascal >= pressureAtZero ? 237.3 * ratio / (17.269 - ratio) : 265.5 * ratio / (21.875 - ratio));
}

Result<double> dewPoint(double kelvin, double humidity) {
    return lowestSurfaceTemperature(kelvin, humidity, condensationHumidity);
}

Result<double> lowestSurfaceTemperature(double kelvin, double humidity, double onSurface) {
    if (!(humidity > 0 && humidity <= 1))
        return fail(ErrorCode::WrongType,
                    fmt::format("a relative humidity of {:g} % lies outside of 0 to 100 %", 100 * humidity), "humidity",
                    "Give it like \"50 %\"");
    if (!(onSurface > 0 && onSurface <= 1))
        return fail(ErrorCode::WrongType,
                    fmt::format("a humidity on the surface of {:g} % lies outside of 0 to 100 %", 100 * onSurface),
                    "surface_humidity");
    return saturationTemperature(humidity / onSurface * saturationPressure(kelvin));
}

} // namespace pyro
