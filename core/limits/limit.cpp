#include "core/limits/limit.h"

#include "core/units/unit.h"

#include <fmt/format.h>

namespace pyro {
namespace {

Result<double> kelvin(const std::string& text) {
    const auto temperature = parseTemperature(text);
    return temperature ? Result<double>(temperature->kelvin) : tl::unexpected(temperature.error());
}

// A number whose unit is that of a gauge, converted once that is known.
Result<double> numberOf(const std::string& text) {
    const auto number = splitMeasured(text);
    return number ? Result<double>(number->value) : tl::unexpected(number.error());
}

Result<double> differenceOf(const Limit& limit, const std::string& text) {
    const auto unit = boundUnit(limit);
    if (unit.empty())
        return numberOf(text);
    if (unit != "K")
        return parseMeasured(text, unit);
    const auto difference = parseDifference(text);
    return difference ? Result<double>(difference->kelvin) : tl::unexpected(difference.error());
}

} // namespace

bool isTemperatureLimit(const Limit& limit) { return limit.form->isValue && limit.target.kind != TargetKind::Gauge; }

std::string_view boundUnit(const Limit& limit) {
    return limit.form->isValue && limit.target.kind == TargetKind::Gauge ? "" : limit.form->unit;
}

Result<double> parseBound(const Limit& limit, const std::string& text) {
    return isTemperatureLimit(limit) ? kelvin(text) : differenceOf(limit, text);
}

Result<double> parseMargin(const Limit& limit, const std::string& text) { return differenceOf(limit, text); }

Result<double> parseLevel(const Limit& limit, const std::string& text) {
    return limit.target.kind == TargetKind::Gauge ? numberOf(text) : kelvin(text);
}

} // namespace pyro
