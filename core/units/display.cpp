#include "core/units/display.h"

#include <array>
#include <cctype>
#include <cmath>
#include <fmt/format.h>

namespace pyro {

std::string_view unitSymbol(TemperatureUnit unit) {
    switch (unit) {
    case TemperatureUnit::Celsius:
        return "\u00b0C";
    case TemperatureUnit::Kelvin:
        return "K";
    case TemperatureUnit::Fahrenheit:
        return "\u00b0F";
    }
    return "K";
}

std::string_view udunitsName(TemperatureUnit unit) {
    switch (unit) {
    case TemperatureUnit::Celsius:
        return "degC";
    case TemperatureUnit::Kelvin:
        return "K";
    case TemperatureUnit::Fahrenheit:
        return "degF";
    }
    return "K";
}

std::string_view differenceSymbol(TemperatureUnit unit) {
    return unit == TemperatureUnit::Fahrenheit ? "\u00b0F (difference)" : "K";
}

std::optional<TemperatureUnit> temperatureUnitFromName(std::string_view udunits) {
    for (const auto unit : {TemperatureUnit::Celsius, TemperatureUnit::Kelvin, TemperatureUnit::Fahrenheit})
        if (udunits == udunitsName(unit))
            return unit;
    return std::nullopt;
}

double toDisplay(Temperature temperature, TemperatureUnit unit) {
    switch (unit) {
    case TemperatureUnit::Celsius:
        return temperature.kelvin - 273.15;
    case TemperatureUnit::Kelvin:
        return temperature.kelvin;
    case TemperatureUnit::Fahrenheit:
        return temperature.kelvin * 1.8 - 459.67;
    }
    return temperature.kelvin;
}

double toDisplay(TemperatureDifference difference, TemperatureUnit unit) {
    return unit == TemperatureUnit::Fahrenheit ? difference.kelvin * 1.8 : difference.kelvin;
}

Temperature fromDisplay(double value, TemperatureUnit unit) {
    switch (unit) {
    case TemperatureUnit::Celsius:
        return {value + 273.15};
    case TemperatureUnit::Kelvin:
        return {value};
    case TemperatureUnit::Fahrenheit:
        return {(value + 459.67) / 1.8};
    }
    return {value};
}

std::string formatNumber(double value, int decimals) {
    if (!std::isfinite(value))
        return "unknown";
    const double half = 0.5 * std::pow(10.0, -decimals);
    if (value != 0 && std::abs(value) < half) {
        // Rounding noise of a subtraction in double is no reading of its own.
        return std::abs(value) < 1e-12 ? fmt::format("{:.{}f}", 0.0, decimals) : fmt::format("{:.2e}", value);
    }
    return fmt::format("{:.{}f}", value, decimals);
}

std::string formatTemperature(Temperature temperature, TemperatureUnit unit, int decimals) {
    return fmt::format("{} {}", formatNumber(toDisplay(temperature, unit), decimals), unitSymbol(unit));
}

std::string formatDifference(TemperatureDifference difference, TemperatureUnit unit, int decimals) {
    return fmt::format("{} {}", formatNumber(toDisplay(difference, unit), decimals), differenceSymbol(unit));
}

std::string unitText(std::string_view unit) {
    if (unit.starts_with("deg"))
        return "\u00b0" + std::string(unit.substr(3));
    static constexpr std::array<const char*, 10> raised{"\u2070", "\u00b9", "\u00b2", "\u00b3", "\u2074",
                                                        "\u2075", "\u2076", "\u2077", "\u2078", "\u2079"};
    std::string out;
    for (std::size_t i = 0; i < unit.size(); ++i) {
        const char c = unit[i];
        const bool afterLetter = i > 0 && (std::isalpha(static_cast<unsigned char>(unit[i - 1])) != 0 ||
                                           (unit[i - 1] == '-' && i > 1 &&
                                            std::isalpha(static_cast<unsigned char>(unit[i - 2])) != 0));
        if (afterLetter && std::isdigit(static_cast<unsigned char>(c)) != 0)
            out += raised[static_cast<std::size_t>(c - '0')];
        else if (afterLetter && c == '-')
            out += "\u207b";
        else if (c == '.' || c == '*')
            out += "\u00b7";
        else
            out += c;
    }
    return out;
}

std::string formatSi(double value, std::string_view unit) {
    if (!std::isfinite(value))
        return "unknown";
    return unit == "1" ? fmt::format("{:.4g}", value) : fmt::format("{:.4g} {}", value, unitText(unit));
}

std::string formatExtent(double si, int dimension) {
    struct Step {
        double least;
        double perUnit;
        const char* unit;
    };
    static const std::array<std::array<Step, 3>, 3> steps{
        {{{{1, 1, "m"}, {0.01, 1e2, "cm"}, {0, 1e3, "mm"}}},
         {{{0.1, 1, "m\u00b2"}, {1e-6, 1e4, "cm\u00b2"}, {0, 1e6, "mm\u00b2"}}},
         {{{1e-2, 1, "m\u00b3"}, {1e-8, 1e6, "cm\u00b3"}, {0, 1e9, "mm\u00b3"}}}}};
    if (!std::isfinite(si))
        return "unknown";
    for (const auto& step : steps[static_cast<std::size_t>(dimension - 1)])
        if (std::abs(si) >= step.least)
            return formatSi(si * step.perUnit, step.unit);
    return {};
}

std::string formatShare(double share) {
    if (share == 0 || share == 1)
        return share == 0 ? "0 %" : "100 %";
    if (share > 0 && share < 0.001)
        return "< 0.1 %";
    if (share < 1 && share > 0.999)
        return "> 99.9 %";
    return fmt::format("{:.1f} %", 100 * share);
}

} // namespace pyro
