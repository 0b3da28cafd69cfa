// Moist air at a surface: when water condenses and when mould can grow.
#pragma once

#include "core/feedback/error.h"

namespace pyro {

// Pa, over water from 0 degC on and over ice below. Source: ISO 13788, annex E (E.7, E.8).
double saturationPressure(double kelvin);
// Its inverse. Source: ISO 13788, annex E (E.9, E.10). Errors: WrongType for a pressure that is not positive.
Result<double> saturationTemperature(double pascal);

// Where air of this temperature (K) and relative humidity (0 to 1) condenses, K. Errors: WrongType for a humidity
// outside of 0 to 1.
Result<double> dewPoint(double kelvin, double humidity);

// The lowest temperature, K, of a surface on which the air's relative humidity stays at or below `onSurface`: 0.8
// against mould, 1 against condensation. Source: ISO 13788, 5.3. Errors: as dewPoint.
Result<double> lowestSurfaceTemperature(double kelvin, double humidity, double onSurface);

constexpr double mouldHumidity = 0.8;
constexpr double condensationHumidity = 1.0;

} // namespace pyro
