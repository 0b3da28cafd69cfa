// Parsing and conversion of units by UDUNITS-2; values with units as the survey writes them ("110 degC").
#pragma once

#include "core/feedback/error.h"
#include "core/units/temperature.h"

#include <string>
#include <string_view>

namespace pyro {

// value_to = scale * value_from + offset
struct Affine {
    double scale = 1;
    double offset = 0;
    double operator()(double value) const { return scale * value + offset; }
    // For a difference of two values: the offset drops out.
    double difference(double value) const { return scale * value; }
    Affine inverse() const { return {1 / scale, -offset / scale}; }
};

// The conversion between two units in UDUNITS spelling; the degree sign is understood as well.
// Errors: WrongUnit when one is unknown or the two do not measure the same thing; the message names both.
Result<Affine> conversion(std::string_view from, std::string_view to);

bool isUnit(std::string_view text);
bool sameDimension(std::string_view a, std::string_view b);

struct NumberWithUnit {
    double value;
    std::string unit; // empty: a bare number
};
// "4186 J/(kg.K)" -> {4186, "J/(kg.K)"}. Errors: Syntax when no finite number leads the text.
Result<NumberWithUnit> splitMeasured(std::string_view text);

// A value in SI. `siUnit` is the SI unit expected, e.g. "W"; a bare number is taken as SI.
Result<double> parseMeasured(std::string_view text, std::string_view siUnit);
// "110 degC", "383 K", "230 degF"; a bare number is kelvin. Errors also when below absolute zero.
Result<Temperature> parseTemperature(std::string_view text);
// "10 K"; a bare number is kelvin. Refuses degC and degF, which name temperatures, not differences.
Result<TemperatureDifference> parseDifference(std::string_view text);

// "80 %" -> 0.8; a bare number is a share. Errors also when negative, or beyond 10 without unit ("80" is hardly meant
// as 80 times).
Result<double> parseShare(std::string_view text);

} // namespace pyro
