#include "core/survey/element_text.h"

#include "core/units/unit.h"

#include <fmt/format.h>

namespace pyro {
namespace {

std::string trimmed(const std::string& text) {
    const auto from = text.find_first_not_of(" \t");
    return from == std::string::npos ? std::string() : text.substr(from, text.find_last_not_of(" \t") - from + 1);
}

std::string written(const Json& value) { return value.is_string() ? value.get<std::string>() : value.dump(); }

// "0.34" -> "0.34 W/(m2.K)". Errors: Syntax, WrongUnit.
Result<std::string> withUnitOf(const std::string& text, const std::string& siUnit) {
    const auto number = splitMeasured(text);
    if (!number)
        return tl::unexpected(number.error());
    if (number->unit.empty())
        return text + " " + siUnit;
    if (!sameDimension(number->unit, siUnit))
        return fail(ErrorCode::WrongUnit, fmt::format("\"{}\" is not in {}", text, siUnit));
    return text;
}

Result<Json> elementOf(GaugeKeyKind kind, const std::string& text) {
    // The sign between the two factors stands alone: the x of "max" or of a unit does not.
    auto sign = text.find(" x ");
    std::size_t width = 3;
    if (sign == std::string::npos) {
        sign = text.find("\u00d7");
        width = 2;
    }
    if (sign == std::string::npos)
        return fail(ErrorCode::Syntax, fmt::format("\"{}\" has no \" x \" between its two factors", text), {},
                    "Write it like 0.34 W/(m2.K) x 1.2 m; 0.28 x 2 m");
    const bool plane = kind == GaugeKeyKind::PlaneElements;
    const auto first = withUnitOf(trimmed(text.substr(0, sign)), plane ? "W/(m2.K)" : "W/(m.K)");
    if (!first)
        return tl::unexpected(first.error());
    const auto extent = trimmed(text.substr(sign + width));
    const auto number = splitMeasured(extent);
    if (!number)
        return tl::unexpected(number.error());
    const bool area = plane && sameDimension(number->unit.empty() ? "m" : number->unit, "m2");
    const auto second = withUnitOf(extent, area ? "m2" : "m");
    if (!second)
        return tl::unexpected(second.error());
    return Json{{plane ? "transmittance" : "value", *first}, {area ? "area" : "length", *second}};
}

} // namespace

Result<Json> elementsOfText(GaugeKeyKind kind, const std::string& text) {
    auto elements = Json::array();
    for (std::size_t from = 0; from <= text.size();) {
        const auto end = std::min(text.find(';', from), text.size());
        if (const auto one = trimmed(text.substr(from, end - from)); !one.empty()) {
            auto element = one.front() == '{' ? Result<Json>(Json::parse(one, nullptr, false)) : elementOf(kind, one);
            if (element && element->is_discarded())
                return fail(ErrorCode::Syntax, fmt::format("\"{}\" is not written as JSON", one));
            if (!element)
                return element;
            elements.push_back(std::move(*element));
        }
        from = end + 1;
    }
    return elements;
}

std::string textOfElements(GaugeKeyKind kind, const Json& elements) {
    const char* first = kind == GaugeKeyKind::PlaneElements ? "transmittance" : "value";
    std::string text;
    for (const auto& element : elements.is_array() ? elements : Json::array()) {
        const bool plain = element.is_object() && element.size() == 2 && element.contains(first) &&
                           (element.contains("length") || element.contains("area"));
        text += text.empty() ? "" : "; ";
        text += plain ? fmt::format("{} x {}", written(element[first]),
                                    written(element[element.contains("area") ? "area" : "length"]))
                      : element.dump();
    }
    return text;
}

} // namespace pyro
