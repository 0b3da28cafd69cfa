// Several cases as one subject: what differs from the baseline, and how far meshes have values off.
#include "core/limits/limit_form.h"
#include "core/report/limit_text.h"
#include "core/report/shown/shown_table.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

std::string signedText(double value, const std::string& text) { return value > 0 ? "+" + text : text; }

// In the unit that the form of a limit is told in: shares in per cent.
std::string inUnitOfForm(double value, const ComparedThing& thing, std::string_view shownIn) {
    return fmt::format("{:.3g} {}", conversion(thing.unit, shownIn)->difference(value), shownIn);
}

std::string levelText(const ComparedThing& thing, const std::optional<double>& value, const ReaderUnits& unit,
                      std::string_view shownIn) {
    if (!value)
        return "unknown";
    if (!shownIn.empty())
        return inUnitOfForm(*value, thing, shownIn);
    if (thing.isTemperature)
        return formatTemperature({(*conversion(thing.unit, "K"))(*value)}, unit);
    return formatSi(*value, thing.unit, unit);
}

// Equal but for what rounding leaves: 1e-9 of the baseline's value, of a temperature in kelvin.
bool isRounding(const ComparedThing& thing, double difference) {
    const auto& base = thing.baseline().value;
    const double size = !base ? 0 : thing.isTemperature ? (*conversion(thing.unit, "K"))(*base) : *base;
    return std::abs(difference) <= 1e-9 * std::abs(size);
}

std::string differenceText(const ComparedThing& thing, const std::optional<double>& difference, const ReaderUnits& unit,
                           std::string_view shownIn) {
    if (!difference)
        return {};
    if (isRounding(thing, *difference))
        return "0";
    if (!shownIn.empty())
        return signedText(*difference, inUnitOfForm(*difference, thing, shownIn));
    return signedText(*difference, thing.isTemperature ? formatDifference({*difference}, unit)
                                                       : formatSi(*difference, thing.differenceUnit, unit));
}

std::string percentText(const std::optional<double>& share) {
    if (!share)
        return {};
    return *share == 0 ? "0 %" : signedText(*share, formatNumber(100 * *share) + " %");
}

// "over", or "over, was tight" where it is another than the baseline's.
std::string verdictText(const ComparedThing* limit, const std::string& caseName) {
    const auto* one = limit == nullptr ? nullptr : limit->of(caseName);
    if (one == nullptr || !one->verdict)
        return {};
    const auto& base = limit->baseline();
    std::string text(verdictName(*one->verdict));
    if (base.verdict && *base.verdict != *one->verdict)
        text += ", was " + std::string(verdictName(*base.verdict));
    return text;
}

} // namespace

std::string comparedName(const Survey& survey, const Comparison& comparison, const ComparedRow& row) {
    const auto* entry = survey.caseNamed(comparison.baseline);
    const auto& thing = thingOf(comparison, row);
    switch (row.kind) {
    case ComparedRow::Kind::Part:
        return (entry != nullptr ? shownName(*entry, thing.name) : thing.name) + ", max";
    case ComparedRow::Kind::Gauge:
        return thing.name;
    case ComparedRow::Kind::Limit:
        break;
    }
    const auto& limit = survey.limits[row.limit];
    const auto words = limitWords(limit);
    const auto name = entry != nullptr ? targetName(*entry, limit.target) : limit.target.name;
    return name + ", " + (words.empty() ? limit.min ? "least" : "limit" : words);
}

ShownTable shownCompare(const Survey& survey, const Comparison& comparison, const std::vector<ComparedRow>& rows,
                        const ReaderUnits& unit) {
    ShownTable table{{{"What"}}, {}};
    for (const auto& name : comparison.cases) {
        table.columns.push_back({name, true});
        if (name != comparison.baseline)
            table.columns.insert(table.columns.end(), {{"Difference", true}, {"Per cent", true}});
        table.columns.push_back({"Verdict"});
    }
    for (const auto& row : rows) {
        const auto& thing = thingOf(comparison, row);
        const auto* limit = row.limit == ComparedThing::noLimit ? nullptr : &comparison.limits[row.limit];
        auto& cells = table.rows.emplace_back();
        cells.push_back(comparedName(survey, comparison, row));
        const auto shownIn = row.kind == ComparedRow::Kind::Limit ? survey.limits[row.limit].form->shownIn : "";
        for (const auto& one : thing.cases) {
            cells.push_back(levelText(thing, one.value, unit, shownIn));
            if (one.caseName != comparison.baseline) {
                cells.push_back(differenceText(thing, one.difference, unit, shownIn));
                cells.push_back(one.difference && isRounding(thing, *one.difference) ? "0 %"
                                                                                     : percentText(one.relative));
            }
            cells.push_back(verdictText(limit, one.caseName));
        }
    }
    return table;
}

ShownTable shownGrids(const Survey& survey, const GridStudy& study, const ReaderUnits& unit) {
    ShownTable table{{{"What"},
                      {"Finest mesh", true},
                      {"Extrapolated", true},
                      {"Uncertainty", true},
                      {"Index", true},
                      {"Order", true},
                      {"Convergence"},
                      {""}},
                     {}};
    const auto level = [&](const GridRow& row, const std::optional<double>& value) {
        if (!value)
            return std::string("unknown");
        return row.isTemperature ? formatTemperature({(*conversion(row.unit, "K"))(*value)}, unit)
                                 : formatSi(*value, row.unit, unit);
    };
    const auto* entry = survey.caseNamed(study.cases.empty() ? std::string() : study.cases.front());
    for (const auto& row : study.rows) {
        const auto name = !row.gauge.empty() ? row.gauge
                          : entry != nullptr ? targetName(*entry, row.target) + ", limit"
                                             : row.target.name;
        auto& cells = table.rows.emplace_back();
        cells = {name, level(row, row.values.empty() ? std::nullopt : row.values.front())};
        if (!row.why.empty()) {
            cells.insert(cells.end(), {"", "", "", "", "unknown", row.why});
            continue;
        }
        const auto& found = row.found;
        cells.push_back(level(row, found.extrapolated));
        cells.push_back(!found.uncertainty  ? "unknown"
                        : row.isTemperature ? "\u00b1 " + formatDifference({*found.uncertainty}, unit, 2)
                                            : "\u00b1 " + formatSi(*found.uncertainty, row.uncertaintyUnit, unit));
        cells.push_back(found.index ? formatShare(*found.index) : "");
        cells.push_back(found.order ? fmt::format("{:.2f}", *found.order) : "");
        cells.push_back(std::string(gridStateName(found.state)));
        cells.push_back(found.note);
    }
    return table;
}

ShownTable shownMeasured(const MeasuredReading& reading, const ReaderUnits& unit) {
    ShownTable table{{{"Name"},
                      {"Time, s", true},
                      {"Measured", true},
                      {"Simulated", true},
                      {"Deviation", true},
                      {"Uncertainty", true},
                      {"E_n", true},
                      {""}},
                     {}};
    const auto level = [&](const std::optional<double>& value) {
        if (!value)
            return std::string("unknown");
        return reading.isTemperature ? formatTemperature({(*conversion(reading.unit, "K"))(*value)}, unit)
                                     : formatSi(*value, reading.unit, unit);
    };
    const auto difference = [&](const std::optional<double>& value) {
        if (!value)
            return std::string();
        return reading.isTemperature ? formatDifference({*value}, unit)
                                     : formatSi(*value, reading.differenceUnit, unit);
    };
    for (const auto& region : reading.regions) {
        const double mean = region.simulated - region.measured;
        const double highest = region.highestSimulated - region.highestMeasured;
        table.rows.push_back({fmt::format("{}, mean of {} pixels", region.part, region.pixels), "",
                              level(region.measured), level(region.simulated), signedText(mean, difference(mean)), "",
                              "", ""});
        table.rows.push_back({region.part + ", highest", "", level(region.highestMeasured),
                              level(region.highestSimulated), signedText(highest, difference(highest)), "", "",
                              "not of the same pixel"});
    }
    for (const auto& point : reading.points) {
        auto about = point.why;
        if (about.empty() && point.distance)
            about = fmt::format("read on the nearest surface, {:.3g} mm away", 1e3 * *point.distance);
        table.rows.push_back({point.name, point.time ? fmt::format("{:g}", *point.time) : "", level(point.measured),
                              level(point.simulated),
                              point.deviation ? signedText(*point.deviation, difference(point.deviation)) : "unknown",
                              difference(point.uncertainty),
                              point.normalised ? fmt::format("{:.2f}", *point.normalised) : "", about});
    }
    return table;
}

std::string measuredText(const MeasuredReading& reading, const ReaderUnits& unit) {
    if (!reading.why.empty())
        return reading.why;
    if (!reading.rms)
        return "nothing could be held against the simulation";
    const auto difference = [&](double value) {
        return reading.isTemperature ? formatDifference({value}, unit) : formatSi(value, reading.differenceUnit, unit);
    };
    const auto all = reading.picture ? reading.picture->columns * reading.picture->rows : reading.points.size();
    const auto largest = std::ranges::find(reading.points, reading.largest, &MeasuredPoint::deviation);
    auto text = fmt::format("{} of {} {}: bias {}, rms {}, largest {} ({})", reading.count, all,
                            reading.picture ? "pixels" : "values", difference(*reading.mean), difference(*reading.rms),
                            difference(*reading.largest), largest->name);
    if (reading.within)
        text += fmt::format("; {} within their uncertainty", formatShare(*reading.within));
    return text;
}

std::string shownParameter(const SweepPlan::Parameter& parameter, double value, const ReaderUnits& unit) {
    return parameter.unit.empty() ? fmt::format("{:.4g}", value) : formatSi(value, parameter.unit, unit);
}

ShownTable shownSweep(const Survey& survey, const SweepReading& sweep, const ReaderUnits& unit) {
    ShownTable table{{{"Case"}}, {}};
    for (const auto& parameter : sweep.parameters)
        table.columns.push_back({parameter.name, true});
    table.columns.insert(table.columns.end(), {{"Verdict"}, {"Least margin", true}, {"Of"}});
    for (const auto& gauge : survey.gauges)
        table.columns.push_back({gauge.id, true});
    table.columns.push_back({""});
    for (const auto& one : sweep.cases) {
        auto& row = table.rows.emplace_back();
        row.push_back(one.name);
        for (const auto& parameter : sweep.parameters) {
            const auto found = one.parameters.find(parameter.name);
            row.push_back(found == one.parameters.end() ? "unknown" : shownParameter(parameter, found->second, unit));
        }
        const auto* least = leastMargin(one);
        row.emplace_back(verdictName(one.verdict()));
        row.push_back(least == nullptr ? "unknown" : limitDifference(*least, least->margin, unit));
        row.push_back(least == nullptr ? "" : least->target.name);
        for (const auto& gauge : survey.gauges) {
            const auto found = one.gauges.find(gauge.id);
            if (found == one.gauges.end() || !found->second.value)
                row.emplace_back("unknown");
            else
                row.push_back(
                    found->second.isTemperature
                        ? formatTemperature({(*conversion(found->second.unit, "K"))(*found->second.value)}, unit)
                        : formatSi(*found->second.value, found->second.unit, unit));
        }
        row.push_back(one.why);
    }
    return table;
}

namespace {

std::string shownCombination(const SweepReading& sweep, const std::map<std::string, double>& parameters,
                             const ReaderUnits& unit) {
    std::string words;
    for (const auto& parameter : sweep.parameters)
        if (const auto found = parameters.find(parameter.name); found != parameters.end())
            words += fmt::format("{}{} {}", words.empty() ? "" : ", ", parameter.name,
                                 shownParameter(parameter, found->second, unit));
    return words;
}

// What the response surfaces tell between the cases that were computed.
void addAdvice(const SweepReading& sweep, const ReaderUnits& unit, std::vector<std::string>& out) {
    if (const auto& optimum = sweep.optimum) {
        if (!optimum->why.empty())
            out.push_back("no combination between the cases is advised: " + optimum->why);
        else if (optimum->caseName.empty())
            out.push_back(fmt::format(
                "{} by the response surfaces: {}; {} {} \u00b1 {}",
                optimum->leastMargin > 0 ? "best combination" : "no combination holds every limit; the nearest",
                shownCombination(sweep, optimum->parameters, unit), optimum->limit,
                formatSi(optimum->leastMargin, optimum->unit, unit), formatSi(optimum->error, optimum->unit, unit)));
        else
            out.push_back("between the cases the response surfaces tell of no better combination");
    }
    if (const auto& next = sweep.next)
        out.push_back(fmt::format("compute next: {}; around {} the others miss {} by {}",
                                  shownCombination(sweep, next->parameters, unit), next->nearest, next->value,
                                  formatSi(next->error, next->unit, unit)));
}

} // namespace

std::vector<std::string> sweepSentences(const Survey& survey, const SweepReading& sweep, const ReaderUnits& unit) {
    std::vector<std::string> out;
    if (!sweep.why.empty())
        return {sweep.why};
    const auto failed = std::ranges::count_if(sweep.cases, [](const SweepCase& one) { return !one.why.empty(); });
    out.push_back(fmt::format("{} cases, {} within all limits{}", sweep.cases.size(), sweep.best.size(),
                              failed > 0 ? fmt::format(", {} not evaluated", failed) : ""));
    if (!sweep.best.empty()) {
        const auto& best = *std::ranges::find(sweep.cases, sweep.best.front(), &SweepCase::name);
        const auto words = shownCombination(sweep, best.parameters, unit);
        const auto* least = leastMargin(best);
        out.push_back(
            fmt::format("best: {} ({}), {} left", best.name, words, limitDifference(*least, least->margin, unit)));
    }
    addAdvice(sweep, unit, out);
    for (const auto& one : sweep.crossings) {
        const auto others = one.others.empty() ? std::string() : " at " + shownCombination(sweep, one.others, unit);
        const auto& limit = survey.limits[one.limit];
        const auto words = limitWords(limit);
        out.push_back(fmt::format("{}{}: limit met at {} {}{}", limit.target.name, words.empty() ? "" : ", " + words,
                                  one.parameter, shownParameter({one.parameter, one.unit}, one.value, unit), others));
    }
    out.insert(out.end(), sweep.remarks.begin(), sweep.remarks.end());
    return out;
}

ShownTable shownSensitivities(const SweepReading& sweep, const ReaderUnits& unit) {
    ShownTable table{{{"Gauge"}, {"Parameter"}, {"Change per unit", true}, {"Share of variance", true}}, {}};
    for (const auto& one : sweep.sensitivities)
        table.rows.push_back(
            {one.gauge, one.parameter, formatSi(one.slope, one.unit, unit), fmt::format("{:.1f} %", 100 * one.share)});
    return table;
}

ShownTable shownSurfaces(const SweepReading& sweep, const ReaderUnits& unit) {
    ShownTable table{{{"Response"}, {"Surface"}, {"Error, one case left out", true}, {"Effect", true}, {""}}, {}};
    for (const auto& one : sweep.surfaces) {
        auto& row = table.rows.emplace_back();
        row = {one.value, one.why.empty() ? one.found.quadratic ? "quadratic" : "linear" : "none"};
        row.push_back(one.why.empty() ? formatSi(one.found.error, one.errorUnit, unit) : "");
        row.push_back(one.why.empty() ? formatSi(one.found.effect, one.errorUnit, unit) : "");
        row.push_back(!one.why.empty() ? one.why
                      : !one.holds()   ? "the error is as large as the effect: nothing is told by it"
                                       : "");
    }
    return table;
}

} // namespace pyro
