// Cases held against a baseline: every gauge, every limit and the highest temperature of every part.
#pragma once

#include "core/compare/case_outcome.h"
#include "core/survey/survey.h"

#include <span>

namespace pyro {

// One thing in one case. Differences are case minus baseline, of temperatures in kelvin.
struct ComparedValue {
    std::string caseName;
    std::optional<double> value;
    std::optional<double> difference;
    std::optional<double> relative; // difference over the baseline's size; of a temperature over its rise
    std::optional<double> margin = {};
    std::optional<Verdict> verdict = {}; // of limits
    std::optional<double> time = {};     // s, of the step
    std::string why = {};                // set where a value or the difference is missing
};

struct ComparedThing {
    std::string name; // id of a gauge, target of a limit, part
    std::string unit; // of the values
    std::string differenceUnit;
    bool isTemperature = false;
    std::string relativeTo = {};      // of a temperature: "rise above 22.0 °C"; empty: the baseline's value
    std::size_t limit = noLimit;      // of limits: position in the survey
    std::vector<ComparedValue> cases; // the baseline first
    static constexpr std::size_t noLimit = ~std::size_t{0};

    const ComparedValue* of(const std::string& caseName) const;
    const ComparedValue& baseline() const { return cases.front(); }
};

struct Comparison {
    std::string baseline;
    std::vector<std::string> cases; // that are compared, the baseline first
    std::vector<ComparedThing> gauges;
    std::vector<ComparedThing> limits;     // in the order of the survey; SI
    std::vector<ComparedThing> parts;      // their highest temperatures, K; the baseline's first, then what others add
    std::string why = {};                  // set when nothing can be compared
    std::vector<std::string> remarks = {}; // cases that are not there, steps of different times
};

// As the survey asks for; nothing where it does not and there is only one case. Cases of the wish that are not among
// the outcomes are told in the remarks.
std::optional<Comparison> compareCases(const Survey& survey, std::span<const CaseOutcome> outcomes);

// The same of the baseline and one other case alone.
Comparison comparedAlone(const Comparison& comparison, const std::string& caseName);

// By what changed for the worse first: a worse verdict, then the margin lost as a share of what is allowed, then what
// is not within its limit in every case, then what changed most as a share of the baseline, over all cases.
enum class CompareOrder { Worse, Changed, Margin, AsDefined };
struct ComparedRow {
    enum class Kind { Part, Gauge, Limit } kind = Kind::Part;
    std::size_t at = 0;                         // in the list of its kind
    std::size_t limit = ComparedThing::noLimit; // that judges the same value; its verdicts and margins belong here
};
// Every thing once: a limit on the highest temperature of a part or on the value of a gauge stands with that.
std::vector<ComparedRow> comparedRows(const Survey& survey, const Comparison& comparison, CompareOrder order);
const ComparedThing& thingOf(const Comparison& comparison, const ComparedRow& row);

} // namespace pyro
