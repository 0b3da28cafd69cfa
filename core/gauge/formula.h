// Named values computed from gauges, with their units checked.
#pragma once

#include "core/units/unit_product.h"

#include <array>
#include <functional>
#include <optional>
#include <vector>

namespace pyro {

// A value in a formula, in SI.
struct FormulaValue {
    double si = 0;
    UnitProduct unit;
    bool isTemperature = false; // on the absolute scale, kelvin; false for a temperature difference
};

// A mistake in a formula and the characters that it concerns.
struct FormulaMistake {
    std::string what;
    std::size_t from = 0;
    std::size_t to = 0;

    std::string text() const; // with the place, counted from 1
};
using FormulaResult = tl::expected<FormulaValue, FormulaMistake>;

// What a formula may ask for: the reading of another gauge, or the reason why there is none.
using FormulaLookup = std::function<tl::expected<FormulaValue, std::string>(const std::string& id)>;

// Plain algebra: ids, numbers, numbers with a quoted unit ("4186 'J/(kg.K)'"), + - * / ^ ( ), sqrt, abs, min, max, ln,
// exp. A literal in degC or degF is a temperature, one in K is a difference;
// temperature minus temperature is a difference; the sum of two temperatures is a mistake.
FormulaResult evaluateFormula(std::string_view text, const FormulaLookup& lookup);

// The ids that a formula names, in their order, each once; as far as it can be read.
std::vector<std::string> namesIn(std::string_view formula);

constexpr std::array<const char*, 6> formulaFunctions{"sqrt", "abs", "min", "max", "ln", "exp"};

} // namespace pyro
