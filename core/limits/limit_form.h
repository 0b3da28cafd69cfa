// Forms of a limit: what is held against its bounds. Each is one file here and one line in list.inc: reading and
// writing the survey, the form in the window, tables and judgement go through that list.
#pragma once

#include "core/feedback/error.h"
#include "core/readings/history.h"
#include "core/readings/limit_reading.h"

#include <span>

namespace pyro {

struct Limit;
struct Readings;
class PartFields;

// What a form is given by beside its bounds, and how the survey's file writes it within the key of the form.
enum class LimitParameter {
    None,
    Ambient,    // "above": a temperature or a gauge; left out: the case's own
    OtherGauge, // "to"
    Level,      // "level", as the bounds of plain values are written
};

struct JudgedStep {
    const Readings& readings;
    const PartFields* fields; // may be null
};

struct LimitForm {
    std::string_view key;    // in the file; empty: no key of its own
    std::string_view name;   // for people, in tables
    std::string_view choice; // to choose from
    std::string_view unit;   // of the bounds, SI; empty: that of the gauge
    bool ofParts = true;
    bool ofBoundaries = true;
    bool ofGauges = true;
    LimitParameter parameter = LimitParameter::None;
    bool isValue = false; // of parts and boundaries: a temperature on its scale; of gauges: the value in its unit
    std::string_view shownIn = {}; // unit that people are told it in, where that is another one than SI: "%"
    std::string_view maxExample = {};
    std::string_view marginExample = {};
    // What stands for it in tables, with its parameter: "rise above 40 degC"; null: nothing needs to be said.
    std::string (*words)(const Limit& limit) = nullptr;

    // On one step: fills value, verdict, place. Null: one step cannot tell it. Errors: why it cannot be judged.
    Done (*judge)(const Limit& limit, const JudgedStep& step, LimitReading& reading) = nullptr;
    bool readsFields = false; // not from readings alone: judged anew only with the fields of every step
    // Over all steps, from what the target's hottest place, or the gauge, does over time; without gaps, with times.
    Done (*judgeHistory)(const Limit& limit, const History& history, LimitReading& reading) = nullptr;

    bool fits(TargetKind kind) const {
        return kind == TargetKind::Part ? ofParts : kind == TargetKind::Boundary ? ofBoundaries : ofGauges;
    }
};

#define LIMIT_FORM(name) extern const LimitForm name##Form;
#include "core/limits/list.inc"
#undef LIMIT_FORM

std::span<const LimitForm* const> limitForms();

} // namespace pyro
