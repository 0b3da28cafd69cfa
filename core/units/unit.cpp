#include "core/units/unit.h"

#include "core/units/udunits.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <optional>

namespace pyro {
namespace {

std::string udunitsSpelling(std::string_view text) {
    std::string spelled(text);
    for (const auto& [sign, word] : {std::pair<std::string_view, std::string_view>{"\u00b0C", "degC"},
                                     {"\u00b0F", "degF"},
                                     {"\u00b7", "."},
                                     {"\u00b2", "2"},
                                     {"\u00b3", "3"}}) {
        for (auto at = spelled.find(sign); at != std::string::npos; at = spelled.find(sign))
            spelled.replace(at, sign.size(), word);
    }
    const auto first = spelled.find_first_not_of(" \t");
    const auto last = spelled.find_last_not_of(" \t");
    spelled = first == std::string::npos ? std::string() : spelled.substr(first, last - first + 1);
    return spelled == "deg" ? "degree" : spelled; // an angle
}

tl::unexpected<Error> unknownUnit(std::string_view text) {
    return fail(ErrorCode::WrongUnit, fmt::format("the unit \"{}\" is not known", text), {},
                "Write it in UDUNITS spelling, for example degC, W/(m.K) or J/(kg.K)");
}

// Nothing also between a unit and its reciprocal and for logarithmic units: the library converts those too, K/W to W/K.
std::optional<Affine> affineBetween(ut_unit* source, ut_unit* target) {
    const std::unique_ptr<cv_converter, void (*)(cv_converter*)> converter(ut_get_converter(source, target), cv_free);
    if (!converter)
        return std::nullopt;
    // A long lever keeps the rounding of the offset out of the scale.
    constexpr double lever = 1 << 20;
    const double offset = cv_convert_double(converter.get(), 0.0);
    const double end = cv_convert_double(converter.get(), lever);
    const double middle = cv_convert_double(converter.get(), lever / 2);
    const double largest = std::max(std::abs(offset), std::abs(end));
    if (!std::isfinite(largest) || std::abs(middle - (offset + end) / 2) > 1e-9 * largest)
        return std::nullopt;
    return Affine{(end - offset) / lever, offset};
}

} // namespace

std::mutex& udunits::lock() {
    static std::mutex lock;
    return lock;
}

ut_system* udunits::system() {
    static ut_system* system = [] {
        ut_set_error_message_handler(ut_ignore);
        return ut_read_xml(nullptr);
    }();
    return system;
}

udunits::Handle udunits::parse(std::string_view text) {
    return Handle(ut_parse(system(), udunitsSpelling(text).c_str(), UT_UTF8));
}

Result<Affine> conversion(std::string_view from, std::string_view to) {
    const std::scoped_lock hold(udunits::lock());
    const auto source = udunits::parse(from);
    if (!source)
        return unknownUnit(from);
    const auto target = udunits::parse(to);
    if (!target)
        return unknownUnit(to);
    const auto affine = affineBetween(source.get(), target.get());
    if (!affine)
        return fail(ErrorCode::WrongUnit, fmt::format("\"{}\" cannot be converted to \"{}\"", from, to), {},
                    fmt::format("Give a unit that measures the same as {}", to));
    return *affine;
}

bool isUnit(std::string_view text) {
    const std::scoped_lock hold(udunits::lock());
    return udunits::parse(text) != nullptr;
}

bool sameDimension(std::string_view a, std::string_view b) {
    const std::scoped_lock hold(udunits::lock());
    const auto first = udunits::parse(a);
    const auto second = udunits::parse(b);
    return first && second && affineBetween(first.get(), second.get());
}

Result<NumberWithUnit> splitMeasured(std::string_view text) {
    const auto begin = text.find_first_not_of(" \t");
    const auto trimmed = begin == std::string_view::npos ? std::string_view() : text.substr(begin);
    const auto digits = trimmed.starts_with('+') ? trimmed.substr(1) : trimmed;
    double value = 0;
    const auto [end, status] = std::from_chars(digits.data(), digits.data() + digits.size(), value);
    if (status != std::errc() || !std::isfinite(value))
        return fail(ErrorCode::Syntax, fmt::format("\"{}\" does not begin with a number", text), {},
                    "Write a number and a unit, for example \"12 W\"");
    const std::string_view rest(end, static_cast<std::size_t>(digits.data() + digits.size() - end));
    return NumberWithUnit{value, udunitsSpelling(rest)};
}

Result<double> parseMeasured(std::string_view text, std::string_view siUnit) {
    const auto number = splitMeasured(text);
    if (!number)
        return tl::unexpected(number.error());
    if (number->unit.empty())
        return number->value;
    const auto toSi = conversion(number->unit, siUnit);
    if (!toSi)
        return tl::unexpected(toSi.error());
    return (*toSi)(number->value);
}

Result<Temperature> parseTemperature(std::string_view text) {
    const auto kelvin = parseMeasured(text, "K");
    if (!kelvin)
        return tl::unexpected(kelvin.error());
    if (*kelvin < 0)
        return fail(ErrorCode::WrongType, fmt::format("\"{}\" lies below absolute zero", text), {},
                    "Check the number and its unit; a bare number is kelvin");
    return Temperature{*kelvin};
}

Result<double> parseShare(std::string_view text) {
    auto share = parseMeasured(text, "1");
    if (!share)
        return share;
    const auto bare = splitMeasured(text);
    if (*share < 0 || (*share > 10 && bare && bare->unit.empty()))
        return fail(ErrorCode::WrongUnit, fmt::format("\"{}\" is no share of the power", text), {},
                    "Write it in per cent, for example 80 %");
    return share;
}

Result<TemperatureDifference> parseDifference(std::string_view text) {
    const auto number = splitMeasured(text);
    if (!number)
        return tl::unexpected(number.error());
    if (number->unit.empty())
        return TemperatureDifference{number->value};
    const auto toKelvin = conversion(number->unit, "K");
    if (!toKelvin)
        return tl::unexpected(toKelvin.error());
    if (toKelvin->offset != 0)
        return fail(ErrorCode::WrongUnit,
                    fmt::format("\"{}\" is a temperature, but a temperature difference is needed", text), {},
                    fmt::format("Write the difference in kelvin: {:g} K", toKelvin->difference(number->value)));
    return TemperatureDifference{toKelvin->difference(number->value)};
}

} // namespace pyro
