// How values are written for people: chosen temperature unit, decimals, never a misleading zero.
#pragma once

#include "core/units/temperature.h"

#include <optional>
#include <string>
#include <string_view>

namespace pyro {

enum class TemperatureUnit { Celsius, Kelvin, Fahrenheit };

std::string_view unitSymbol(TemperatureUnit unit);       // "°C", "K", "°F"
std::string_view udunitsName(TemperatureUnit unit);      // "degC", "K", "degF"
std::string_view differenceSymbol(TemperatureUnit unit); // "K", "K", "°F (difference)"
std::optional<TemperatureUnit> temperatureUnitFromName(std::string_view udunits);

double toDisplay(Temperature temperature, TemperatureUnit unit);
double toDisplay(TemperatureDifference difference, TemperatureUnit unit);
Temperature fromDisplay(double value, TemperatureUnit unit);

// A number with `decimals` places. A value that would read as zero without being zero keeps three
// significant digits instead; not-a-number reads "unknown". ASCII minus.
std::string formatNumber(double value, int decimals = 1);
std::string formatTemperature(Temperature temperature, TemperatureUnit unit, int decimals = 1);         // with unit
std::string formatDifference(TemperatureDifference difference, TemperatureUnit unit, int decimals = 1); // with unit
// A unit in UDUNITS spelling as it reads: "W/(m2.K)" -> "W/(m²·K)", "degC" -> "°C". Where one types, the spelling stays
// ASCII.
std::string unitText(std::string_view unit);
// Power, flow and other SI values: four significant digits and the unit.
std::string formatSi(double value, std::string_view unit);
// A volume (dimension 3), area (2) or length (1) in SI, in the unit in which it reads well: "0.017 m³", "12.4 cm²".
std::string formatExtent(double si, int dimension);
// A share in percent; between 0 and 0.1 % it reads "< 0.1 %", never "0 %".
std::string formatShare(double share);

} // namespace pyro
