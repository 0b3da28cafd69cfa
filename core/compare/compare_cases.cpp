#include "core/compare/compare_cases.h"

#include "core/limits/limit_form.h"
#include "core/units/display.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace pyro {
namespace {

const CaseOutcome* named(std::span<const CaseOutcome> outcomes, const std::string& name) {
    const auto found = std::ranges::find(outcomes, name, &CaseOutcome::name);
    return found == outcomes.end() ? nullptr : &*found;
}

std::optional<double> ambientOf(const CaseOutcome& outcome) {
    return outcome.readings != nullptr ? outcome.readings->ambient : std::nullopt;
}

// Differences and shares against the first of its cases. `scale`: of a difference in its unit; `zero`: what values are
// told from for a share, nothing where a share would say nothing.
void addDifferences(ComparedThing& thing, double scale, const std::optional<double>& zero) {
    const auto& base = thing.cases.front();
    for (auto& one : thing.cases) {
        if (!one.value || !base.value) {
            if (one.why.empty() && !base.value)
                one.why = "the baseline has no value";
            continue;
        }
        one.difference = scale * (*one.value - *base.value);
        if (const double size = zero ? std::abs(*base.value - *zero) : 0; size > 0)
            one.relative = (*one.value - *base.value) / size;
    }
}

// Of a temperature that is told in `unit`: on the rise above the baseline's ambient.
void addTemperatureDifferences(ComparedThing& thing, const std::optional<double>& ambient) {
    const auto toKelvin = conversion(thing.unit, "K");
    thing.differenceUnit = "K";
    if (ambient)
        thing.relativeTo = "rise above " + formatTemperature({*ambient}, TemperatureUnit::Celsius);
    const auto inverse = toKelvin->inverse();
    addDifferences(thing, toKelvin->scale, ambient ? std::optional(inverse(*ambient)) : std::nullopt);
}

void addAllDifferences(ComparedThing& thing, const CaseOutcome& baseline) {
    thing.differenceUnit = thing.unit;
    if (thing.isTemperature)
        addTemperatureDifferences(thing, ambientOf(baseline));
    else
        addDifferences(thing, 1, 0.0);
}

ComparedValue valueOf(const CaseOutcome& outcome) {
    ComparedValue value{outcome.name, {}, {}, {}};
    if (outcome.readings != nullptr)
        value.time = outcome.readings->time;
    value.why = outcome.readings != nullptr ? std::string()
                : outcome.why.empty()       ? std::string("it has not been evaluated")
                                            : outcome.why;
    return value;
}

ComparedThing comparedGauge(const std::string& id, std::span<const CaseOutcome* const> cases) {
    ComparedThing thing{.name = id, .unit = {}, .differenceUnit = {}, .cases = {}};
    for (const auto* one : cases)
        if (const auto* reading = gaugeOf(*one, id); reading != nullptr && reading->value) {
            thing.unit = reading->unit;
            thing.isTemperature = reading->isTemperature;
            break;
        }
    for (const auto* one : cases) {
        auto value = valueOf(*one);
        const auto* reading = gaugeOf(*one, id);
        if (reading != nullptr && reading->value && reading->unit == thing.unit)
            value.value = reading->value;
        else if (reading != nullptr)
            value.why = reading->profile ? "a profile, not one value"
                        : reading->value ? fmt::format("it is in {} here", reading->unit)
                                         : reading->why;
        thing.cases.push_back(std::move(value));
    }
    addAllDifferences(thing, *cases.front());
    return thing;
}

ComparedThing comparedLimit(std::size_t at, const Limit& limit, std::span<const CaseOutcome* const> cases) {
    ComparedThing thing{.name = limit.target.name, .unit = {}, .differenceUnit = {}, .limit = at, .cases = {}};
    for (const auto* one : cases) {
        auto value = valueOf(*one);
        if (at < one->limits.size()) {
            const auto& reading = one->limits[at];
            value.value = reading.value;
            value.margin = reading.margin;
            value.verdict = reading.verdict;
            value.time = reading.time ? reading.time : value.time;
            if (!reading.why.empty())
                value.why = reading.why;
            if (thing.unit.empty()) {
                thing.unit = reading.unit;
                thing.isTemperature = reading.isTemperature;
            }
        } else if (!value.why.empty()) {
            value.verdict = Verdict::Unknown;
        }
        thing.cases.push_back(std::move(value));
    }
    addAllDifferences(thing, *cases.front());
    return thing;
}

ComparedThing comparedPart(const std::string& part, std::span<const CaseOutcome* const> cases) {
    ComparedThing thing{.name = part, .unit = "K", .differenceUnit = "K", .isTemperature = true, .cases = {}};
    for (const auto* one : cases) {
        auto value = valueOf(*one);
        if (one->readings != nullptr) {
            const auto found = std::ranges::find(one->readings->parts, part, &RegionReading::name);
            if (found == one->readings->parts.end())
                value.why = "no part of this name";
            else if (found->max)
                value.value = found->max->kelvin;
            else
                value.why = found->why;
        }
        thing.cases.push_back(std::move(value));
    }
    addAllDifferences(thing, *cases.front());
    return thing;
}

std::vector<std::string> partsOf(std::span<const CaseOutcome* const> cases) {
    std::vector<std::string> names;
    for (const auto* one : cases)
        if (one->readings != nullptr)
            for (const auto& part : one->readings->parts)
                if (std::ranges::find(names, part.name) == names.end())
                    names.push_back(part.name);
    return names;
}

// What is said of the cases before they are compared.
void addRemarks(Comparison& out, std::span<const CaseOutcome* const> cases) {
    std::set<std::optional<double>> times;
    const auto names = [](const CaseOutcome& one) {
        std::set<std::string> all;
        if (one.readings != nullptr)
            for (const auto& part : one.readings->parts)
                all.insert(part.name);
        return all;
    };
    for (const auto* one : cases) {
        if (one->readings == nullptr)
            continue;
        times.insert(one->readings->time);
        const auto own = names(*one);
        if (one == cases.front() || own.empty())
            continue;
        const auto base = names(*cases.front());
        if (!base.empty() && std::ranges::none_of(own, [&](const auto& name) { return base.contains(name); }))
            out.remarks.push_back(fmt::format("{} has no part in common with {}", one->name, out.baseline));
    }
    if (times.size() > 1) {
        std::string told;
        for (const auto* one : cases)
            if (one->readings != nullptr)
                told += fmt::format("{}{} at {}", told.empty() ? "" : ", ", one->name,
                                    one->readings->time ? fmt::format("{:g} s", *one->readings->time) : "no time");
        out.remarks.push_back("the steps are of different times: " + told);
    }
}

// Whether a limit judges the very value that stands in another row.
bool isOwnValue(const Limit& limit) {
    return limit.form->isValue &&
           (limit.target.kind == TargetKind::Gauge || (limit.max && limit.target.kind == TargetKind::Part));
}

double shareLost(const ComparedThing& thing) { // of the margin, against the baseline's value
    double most = 0;
    const auto& base = thing.baseline();
    for (const auto& one : thing.cases)
        if (one.margin && base.margin && base.value) {
            const double size = std::max(std::abs(*base.margin), 1e-3 * std::abs(*base.value));
            most = std::max(most, size > 0 ? (*base.margin - *one.margin) / size : 0);
        }
    return most;
}
// How many steps worse the worst case is than the baseline.
int verdictLost(const ComparedThing& thing) {
    int most = 0;
    for (const auto& one : thing.cases) {
        if (!one.verdict || !thing.baseline().verdict)
            continue;
        int lost = 0;
        for (const auto step : {Verdict::Tight, Verdict::Unknown, Verdict::Over}) // each worse than the one before
            lost += worse(step, *one.verdict) == *one.verdict && step != *thing.baseline().verdict &&
                            worse(step, *thing.baseline().verdict) == step
                        ? 1
                        : 0;
        most = std::max(most, lost);
    }
    return most;
}
bool needsAttention(const ComparedThing& thing) {
    return std::ranges::any_of(thing.cases,
                               [](const ComparedValue& one) { return one.verdict && *one.verdict != Verdict::Within; });
}
double changeOf(const ComparedThing& thing) {
    double most = 0;
    for (const auto& one : thing.cases) {
        if (one.relative)
            most = std::max(most, std::abs(*one.relative));
        else if (one.difference && thing.isTemperature)
            most = std::max(most, std::abs(*one.difference) / 100);
    }
    return most;
}
double leastMargin(const ComparedThing& thing) {
    double least = std::numeric_limits<double>::infinity();
    for (const auto& one : thing.cases)
        if (one.margin)
            least = std::min(least, *one.margin);
    return least;
}

} // namespace

const ComparedValue* ComparedThing::of(const std::string& caseName) const {
    const auto found = std::ranges::find(cases, caseName, &ComparedValue::caseName);
    return found == cases.end() ? nullptr : &*found;
}

std::optional<Comparison> compareCases(const Survey& survey, std::span<const CaseOutcome> outcomes) {
    if (!survey.compare && outcomes.size() < 2)
        return std::nullopt;
    Comparison out;
    const auto wish = survey.compare.value_or(CompareWish{});
    out.baseline = !wish.baseline.empty() ? wish.baseline : outcomes.empty() ? std::string() : outcomes.front().name;
    const auto* base = named(outcomes, out.baseline);
    if (base == nullptr) {
        out.why = out.baseline.empty() ? "the survey has no cases"
                                       : fmt::format("the baseline \"{}\" is not there", out.baseline);
        return out;
    }
    std::vector<const CaseOutcome*> cases{base};
    for (const auto& name : wish.of) {
        const auto* one = named(outcomes, name);
        if (one == nullptr)
            out.remarks.push_back(fmt::format("\"{}\" is not there", name));
        else if (std::ranges::find(cases, one) == cases.end())
            cases.push_back(one);
    }
    if (wish.of.empty())
        for (const auto& one : outcomes)
            if (&one != base)
                cases.push_back(&one);
    for (const auto* one : cases)
        out.cases.push_back(one->name);
    addRemarks(out, cases);
    for (const auto& gauge : survey.gauges)
        out.gauges.push_back(comparedGauge(gauge.id, cases));
    for (std::size_t i = 0; i < survey.limits.size(); ++i)
        out.limits.push_back(comparedLimit(i, survey.limits[i], cases));
    for (const auto& part : partsOf(cases))
        out.parts.push_back(comparedPart(part, cases));
    return out;
}

Comparison comparedAlone(const Comparison& comparison, const std::string& caseName) {
    auto out = comparison;
    const auto keep = [&](const std::string& name) { return name == comparison.baseline || name == caseName; };
    std::erase_if(out.cases, [&](const std::string& name) { return !keep(name); });
    for (auto* things : {&out.gauges, &out.limits, &out.parts})
        for (auto& thing : *things)
            std::erase_if(thing.cases, [&](const ComparedValue& one) { return !keep(one.caseName); });
    return out;
}

const ComparedThing& thingOf(const Comparison& comparison, const ComparedRow& row) {
    return (row.kind == ComparedRow::Kind::Part    ? comparison.parts
            : row.kind == ComparedRow::Kind::Gauge ? comparison.gauges
                                                   : comparison.limits)[row.at];
}

std::vector<ComparedRow> comparedRows(const Survey& survey, const Comparison& comparison, CompareOrder order) {
    std::vector<ComparedRow> rows;
    for (std::size_t i = 0; i < comparison.parts.size(); ++i)
        rows.push_back({ComparedRow::Kind::Part, i});
    for (std::size_t i = 0; i < comparison.gauges.size(); ++i)
        rows.push_back({ComparedRow::Kind::Gauge, i});
    for (std::size_t i = 0; i < comparison.limits.size(); ++i) {
        const auto& limit = survey.limits[i];
        const auto same = std::ranges::find_if(rows, [&](const ComparedRow& row) {
            const bool kind = row.kind == (limit.target.kind == TargetKind::Part ? ComparedRow::Kind::Part
                                                                                 : ComparedRow::Kind::Gauge);
            return kind && row.limit == ComparedThing::noLimit && thingOf(comparison, row).name == limit.target.name;
        });
        if (isOwnValue(limit) && same != rows.end())
            same->limit = i;
        else
            rows.push_back({ComparedRow::Kind::Limit, i, i});
    }
    const auto judged = [&](const ComparedRow& row) {
        return row.limit == ComparedThing::noLimit ? nullptr : &comparison.limits[row.limit];
    };
    const auto keys = [&](const ComparedRow& row) -> std::array<double, 4> {
        const auto* limit = judged(row);
        const double change = changeOf(thingOf(comparison, row));
        switch (order) {
        case CompareOrder::Worse:
            return {limit != nullptr ? -verdictLost(*limit) : 0.0, limit != nullptr ? -shareLost(*limit) : 0.0,
                    limit != nullptr && needsAttention(*limit) ? 0.0 : 1.0, -change};
        case CompareOrder::Changed:
            return {-change, 0, 0, 0};
        case CompareOrder::Margin:
            return {limit != nullptr ? leastMargin(*limit) : std::numeric_limits<double>::infinity(), -change, 0, 0};
        case CompareOrder::AsDefined:
            break;
        }
        return {};
    };
    std::ranges::stable_sort(rows, {}, keys);
    return rows;
}

} // namespace pyro
