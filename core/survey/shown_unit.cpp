#include "core/survey/shown_unit.h"

#include <array>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr int significant = 4;

std::string withUnit(const std::string& number, const std::string& symbol) {
    return symbol.empty() || number == "unknown" ? number : number + " " + symbol;
}

} // namespace

double ShownUnit::of(double si) const {
    return m_temperature ? toDisplay(Temperature{si}, *m_temperature) : m_toSi.inverse()(si);
}

double ShownUnit::si(double shown) const {
    return m_temperature ? fromDisplay(shown, *m_temperature).kelvin : m_toSi(shown);
}

double ShownUnit::differenceOf(double si) const {
    return m_temperature ? toDisplay(TemperatureDifference{si}, *m_temperature) : m_toSi.inverse().difference(si);
}

std::string ShownUnit::number(double si, int moreDigits) const {
    const double shown = of(si);
    if (m_decimals)
        return formatNumber(shown, *m_decimals + moreDigits);
    return std::isfinite(shown) ? fmt::format("{:.{}g}", shown, significant + moreDigits) : std::string("unknown");
}

std::string ShownUnit::text(double si) const { return withUnit(number(si), unitText(m_symbol)); }

std::string ShownUnit::differenceText(double si) const {
    const double shown = differenceOf(si);
    return withUnit(m_decimals ? formatNumber(shown, *m_decimals) : fmt::format("{:.{}g}", shown, significant),
                    unitText(m_differenceSymbol));
}

ShownUnit shownUnit(const std::string& quantity, const std::string& siUnit, const ViewState& view) {
    if (quantity.ends_with(differenceEnding)) {
        auto unit = shownUnit(quantity.substr(0, quantity.size() - differenceEnding.size()), siUnit, view);
        unit.m_toSi = {1 / unit.differenceOf(1), 0};
        unit.m_temperature.reset();
        unit.m_symbol = unit.m_differenceSymbol;
        return unit;
    }
    ShownUnit unit;
    if (const auto decimals = view.decimals.find(quantity); decimals != view.decimals.end())
        unit.m_decimals = decimals->second;
    if (quantity == "temperature") {
        unit.m_temperature = view.unit;
        if (!unit.m_decimals)
            unit.m_decimals = 1;
        unit.m_symbol = unitSymbol(view.unit);
        unit.m_differenceSymbol = differenceSymbol(view.unit);
        return unit;
    }
    unit.m_symbol = siUnit;
    if (const auto chosen = view.units.find(quantity); chosen != view.units.end())
        if (const auto toSi = conversion(chosen->second, siUnit)) {
            unit.m_symbol = chosen->second;
            unit.m_toSi = *toSi;
        }
    unit.m_differenceSymbol = unit.m_symbol;
    return unit;
}

std::vector<std::string> unitChoices(const std::string& siUnit) {
    static const std::array<std::vector<std::string>, 9> groups{{
        {"m/s", "mm/s", "ft/min", "km/h"},
        {"W/m2", "kW/m2", "W/cm2", "Btu/(h.ft2)"},
        {"W/m3", "W/cm3", "Btu/(h.ft3)"},
        {"W", "mW", "kW", "Btu/h"},
        {"W/(m2.K)", "Btu/(h.ft2.degF)"},
        {"W/(m.K)", "Btu/(h.ft.degF)"},
        {"Pa", "kPa", "bar", "psi"},
        {"kg/s", "g/s", "lb/h"},
        {"m", "mm", "in"},
    }};
    for (const auto& group : groups)
        if (group.front() == siUnit)
            return group;
    return siUnit.empty() ? std::vector<std::string>() : std::vector{siUnit};
}

} // namespace pyro
