#include "core/units/reader_units.h"

#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

struct InReadersUnit {
    double factor;
    std::string unit;
};

// Scales of temperature are none of these: a difference in K stays one.
std::optional<InReadersUnit> wantedFor(std::string_view unit, const ReaderUnits& units) {
    for (const auto& wanted : units.units)
        if (sameDimension(unit, wanted))
            if (const auto change = conversion(unit, wanted); change && (*change)(0) == 0)
                return InReadersUnit{change->difference(1), wanted};
    return std::nullopt;
}

std::string withComma(std::string text, bool comma) {
    if (comma)
        std::ranges::replace(text, '.', ',');
    return text;
}

std::string number(double value, const std::optional<int>& decimals, bool comma) {
    return withComma(decimals ? formatNumber(value, *decimals) : fmt::format("{:.4g}", value), comma);
}

} // namespace

ReaderUnits readerUnits(TemperatureUnit scale, const std::vector<std::string>& units) {
    ReaderUnits out(scale);
    for (const auto& unit : units)
        if (const auto own = temperatureUnitFromName(unit))
            out.temperature = *own;
        else
            out.units.push_back(unit);
    return out;
}

std::string formatTemperature(Temperature temperature, const ReaderUnits& units) {
    return withComma(formatTemperature(temperature, units.temperature, units.decimals.value_or(1)), units.comma);
}

std::string formatDifference(TemperatureDifference difference, const ReaderUnits& units, int decimals) {
    return withComma(formatDifference(difference, units.temperature, units.decimals.value_or(decimals)), units.comma);
}

std::string formatSi(double value, std::string_view unit, const ReaderUnits& units) {
    const auto wanted = wantedFor(unit, units);
    if (!std::isfinite(value))
        return formatSi(value, unit);
    const auto text = number(wanted ? value * wanted->factor : value, units.decimals, units.comma);
    const auto symbol = unitText(wanted ? wanted->unit : std::string(unit));
    return symbol == "1" ? text : text + " " + symbol;
}

ColumnUnit::ColumnUnit(std::string_view unit, const ReaderUnits& units, std::string_view per)
    : m_unit(unitText(unit) + std::string(per)), m_decimals(units.decimals), m_comma(units.comma) {
    if (const auto wanted = wantedFor(unit, units)) {
        m_unit = unitText(wanted->unit) + std::string(per);
        m_factor = wanted->factor;
    }
}

std::string ColumnUnit::title(const std::string& words) const { return words + ", " + m_unit; }
std::string ColumnUnit::text(double value) const { return number(m_factor * value, m_decimals, m_comma); }
std::string ColumnUnit::text(const std::optional<double>& value) const { return value ? text(*value) : std::string(); }

} // namespace pyro
