// The definition of a limit: what is allowed, the margin required, and who says so.
#pragma once

#include "core/limits/limit_form.h"
#include "core/units/temperature.h"
#include "core/units/written.h"

#include <optional>
#include <string_view>

namespace pyro {

// The written bound of a limit; for temperatures of parts and boundaries in kelvin, for other forms in their SI unit.
// What is held against a gauge keeps its number until the gauge's unit is known.
using Bound = Written<double>;

struct Limit {
    LimitTarget target;
    const LimitForm* form = &valueForm;
    std::optional<Bound> level; // as the bounds of a plain value are written
    std::optional<Bound> above; // ambient of a rise, K; nothing: that of `than`, else of the case
    std::string than;           // gauge: of a rise the ambient, of a difference the other one
    std::optional<Bound> max;
    std::optional<Bound> min;
    std::optional<Bound> margin; // required, in the unit of the bounds, as a difference
    std::string source;
    std::string kind; // free: "junction", "case", "touch"
    Json rest = Json::object();
    bool operator==(const Limit&) const = default;
};

// Whether it is a temperature on its scale: of a part or boundary, held against its bounds as it is.
bool isTemperatureLimit(const Limit& limit);
// SI unit of the bounds: "K", "1", "s", "K/m"; empty where it is the gauge's.
std::string_view boundUnit(const Limit& limit);
// The text of a bound or of a margin with its SI value. Errors: WrongUnit, Syntax.
Result<double> parseBound(const Limit& limit, const std::string& text);
Result<double> parseMargin(const Limit& limit, const std::string& text);
Result<double> parseLevel(const Limit& limit, const std::string& text);

} // namespace pyro
