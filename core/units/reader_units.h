// How whoever reads a table or a page wants numbers written: units of their own and decimals.
#pragma once

#include "core/units/display.h"

#include <vector>

namespace pyro {

struct ReaderUnits {
    TemperatureUnit temperature = TemperatureUnit::Celsius;
    // In UDUNITS spelling: a value is written in the first of these that it converts to, else in SI.
    std::vector<std::string> units = {};
    std::optional<int> decimals = {}; // nothing: four significant digits, one decimal of temperatures

    ReaderUnits() = default;
    // NOLINTNEXTLINE(google-explicit-constructor): most readers choose the scale of temperatures only
    ReaderUnits(TemperatureUnit scale) : temperature(scale) {}
    bool comma = false; // in place of the decimal point
    bool operator==(const ReaderUnits&) const = default;
};

// The same with a scale of temperatures (degC, K, degF) taken out of its list of units.
ReaderUnits readerUnits(TemperatureUnit scale, const std::vector<std::string>& units);

std::string formatTemperature(Temperature temperature, const ReaderUnits& units); // with unit
std::string formatDifference(TemperatureDifference difference, const ReaderUnits& units, int decimals = 1);
// A value in `unit` with the unit that it is written in.
std::string formatSi(double value, std::string_view unit, const ReaderUnits& units);

// A column of numbers with their unit in its title: "Heat in, W".
class ColumnUnit {
public:
    // `per`: of values for each metre of depth, "/m"; they keep their unit otherwise.
    ColumnUnit(std::string_view unit, const ReaderUnits& units, std::string_view per = {});
    std::string title(const std::string& words) const;
    std::string text(double value) const;
    std::string text(const std::optional<double>& value) const; // empty for nothing

private:
    std::string m_unit;
    double m_factor = 1;
    std::optional<int> m_decimals;
    bool m_comma = false;
};

} // namespace pyro
