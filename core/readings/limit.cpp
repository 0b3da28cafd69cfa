#include "core/readings/limit.h"

#include "core/units/unit.h"

#include <array>
#include <fmt/format.h>

namespace pyro {
namespace {

struct FormWords {
    LimitForm form;
    std::string_view key;
    std::string_view name;
    std::string_view unit;
};
constexpr std::array<FormWords, 6> forms{{{LimitForm::Value, "", "temperature", "K"},
                                          {LimitForm::Rise, "rise", "rise above ambient", "K"},
                                          {LimitForm::Gradient, "gradient", "temperature gradient", "K/m"},
                                          {LimitForm::Difference, "difference", "difference", ""},
                                          {LimitForm::ShareAbove, "share_above", "share above a level", "1"},
                                          {LimitForm::DurationAbove, "duration_above", "time above a level", "s"}}};

const FormWords& wordsOf(LimitForm form) {
    for (const auto& one : forms)
        if (one.form == form)
            return one;
    return forms.front();
}

bool isAbsoluteTemperature(const Limit& limit) {
    return limit.form == LimitForm::Value && limit.target.kind != TargetKind::Gauge;
}

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

std::string_view targetKindName(TargetKind kind) {
    switch (kind) {
    case TargetKind::Part:
        return "part";
    case TargetKind::Boundary:
        return "boundary";
    case TargetKind::Gauge:
        return "gauge";
    }
    return "part";
}

std::string_view limitFormKey(LimitForm form) { return wordsOf(form).key; }
std::string_view limitFormName(LimitForm form) { return wordsOf(form).name; }

std::string_view boundUnit(const Limit& limit) {
    if (limit.form == LimitForm::Value && limit.target.kind == TargetKind::Gauge)
        return "";
    return wordsOf(limit.form).unit;
}

Result<double> parseBound(const Limit& limit, const std::string& text) {
    return isAbsoluteTemperature(limit) ? kelvin(text) : differenceOf(limit, text);
}

Result<double> parseMargin(const Limit& limit, const std::string& text) { return differenceOf(limit, text); }

Result<double> parseLevel(const Limit& limit, const std::string& text) {
    return limit.target.kind == TargetKind::Gauge ? numberOf(text) : kelvin(text);
}

} // namespace pyro
