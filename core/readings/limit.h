// The definition of a limit: what is allowed, the margin required, and who says so.
#pragma once

#include "core/feedback/error.h"
#include "core/units/temperature.h"
#include "core/units/written.h"

#include <optional>
#include <string_view>

namespace pyro {

enum class TargetKind { Part, Boundary, Gauge };
std::string_view targetKindName(TargetKind kind);

struct LimitTarget {
    TargetKind kind = TargetKind::Part;
    std::string name;
    bool operator==(const LimitTarget&) const = default;
};

// The written bound of a limit; for temperatures of parts and boundaries in kelvin, for other forms in their SI unit.
// What is held against a gauge keeps its number until the gauge's unit is known.
using Bound = Written<double>;

// What is held against the bounds.
enum class LimitForm {
    Value,      // the extreme temperature of a part or boundary, the value of a gauge
    Rise,       // the same above an ambient, K
    Gradient,   // the largest temperature gradient within a part, K/m
    Difference, // of a gauge to another one, K or the gauge's unit
    ShareAbove, // of the volume of a part, or of the area of a boundary, above a level; 1
    // of the time of all steps, that the hottest place of a part or boundary, or a gauge, is above a level; s
    DurationAbove,
};
std::string_view limitFormKey(
    LimitForm form); // in the file: "", "rise", "gradient", "difference", "share_above", "duration_above"
std::string_view limitFormName(LimitForm form); // for people: "temperature", "rise above ambient", ...

struct Limit {
    LimitTarget target;
    LimitForm form = LimitForm::Value;
    std::optional<Bound> level; // of ShareAbove and DurationAbove, as the bounds of Value are written
    std::optional<Bound> above; // ambient of Rise, K; nothing: that of `than`, else of the case
    std::string than;           // gauge: of Rise the ambient, of Difference the other one
    std::optional<Bound> max;
    std::optional<Bound> min;
    std::optional<Bound> margin; // required, in the unit of the bounds, as a difference
    std::string source;
    std::string kind; // free: "junction", "case", "touch"
    Json rest = Json::object();
    bool operator==(const Limit&) const = default;
};

// SI unit of the bounds: "K", "1", "s", "K/m"; empty where it is the gauge's.
std::string_view boundUnit(const Limit& limit);
// The text of a bound or of a margin with its SI value. Errors: WrongUnit, Syntax.
Result<double> parseBound(const Limit& limit, const std::string& text);
Result<double> parseMargin(const Limit& limit, const std::string& text);
Result<double> parseLevel(const Limit& limit, const std::string& text);

} // namespace pyro
