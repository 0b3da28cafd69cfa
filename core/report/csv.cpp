#include "core/report/csv.h"

#include "core/readings/estimate_reading.h"
#include "core/report/limit_text.h"
#include "core/survey/findings.h"
#include "core/thermal/limits.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

std::string exact(const std::optional<double>& value) { return value ? fmt::format("{:.12g}", *value) : ""; }

CsvRow verdictRow(const CaseEntry& entry, const std::string& step, const LimitReading& limit, TemperatureUnit unit) {
    const bool temperature = limit.isTemperature && limit.unit == "K";
    const auto shown = [&](const std::optional<double>& value) {
        return exact(value && temperature ? std::optional(toDisplay(Temperature{*value}, unit)) : value);
    };
    CsvRow row{entry.name,
               limit.step ? "worst: " + std::to_string(*limit.step) : step,
               std::string(targetKindName(limit.target.kind)),
               limit.target.name,
               targetName(entry, limit.target),
               shown(limit.value),
               shown(limit.limit),
               temperature ? std::string(udunitsName(unit)) : limit.unit,
               exact(limit.margin),
               exact(limit.required),
               limit.unit,
               std::string(verdictName(limit.verdict))};
    for (std::size_t axis = 0; axis < 3; ++axis)
        row.push_back(limit.place ? fmt::format("{:.9g}", limit.place->at[axis]) : "");
    row.emplace_back(limit.place ? locationName(limit.place->on) : "");
    row.push_back(limit.source);
    row.push_back(limit.why);
    row.emplace_back(limitFormName(limit.form));
    row.push_back(limit.kind);
    row.push_back(exact(limit.ambient));
    row.push_back(exact(limit.firstOver));
    row.push_back(exact(limit.durationOver));
    return row;
}

} // namespace

std::string verdictsCsv(const Survey& survey, const SurveyRun& run, TemperatureUnit unit) {
    std::string text = csvLine({"case",
                                "step",
                                "target",
                                "name",
                                "label",
                                "value",
                                "limit",
                                "unit",
                                "margin",
                                "required_margin",
                                "margin_unit",
                                "verdict",
                                "x_m",
                                "y_m",
                                "z_m",
                                "on",
                                "source",
                                "why",
                                "form",
                                "kind",
                                "ambient_K",
                                "first_over_s",
                                "duration_over_s"});
    for (const auto& one : run.cases) {
        const auto* entry = survey.caseNamed(one.name);
        for (const auto& step : one.steps)
            for (const auto at : byMargin(step.limits))
                text += csvLine(verdictRow(*entry, std::to_string(step.step), step.limits[at], unit));
        if (one.steps.size() < 2)
            continue;
        const auto worst = one.worstLimits();
        for (const auto at : byMargin(worst))
            text += csvLine(verdictRow(*entry, "worst", worst[at], unit));
    }
    return text;
}

std::string estimateCsv(const Survey& survey, const SurveyRun& run, TemperatureUnit unit) {
    std::string text;
    const auto shown = [&](const std::optional<double>& kelvin) {
        return exact(kelvin ? std::optional(toDisplay(Temperature{*kelvin}, unit)) : kelvin);
    };
    for (const auto& one : run.cases) {
        const auto estimate = one.steps.empty() ? nullptr : one.steps.back().estimate;
        if (!estimate)
            continue;
        if (text.empty())
            text = csvLine({"case", "ambient", "power", "target", "name", "label", "value", "limit", "unit", "margin",
                            "margin_unit", "verdict", "ambient_at_limit", "ambient_unit", "power_at_limit", "why"});
        const auto* entry = survey.caseNamed(one.name);
        for (const auto& [limit, ambient, power] : estimate->limits) {
            const auto row = verdictRow(*entry, {}, limit, unit);
            text += csvLine({one.name, shown(estimate->ambient), exact(estimate->power), row[2], row[3], row[4], row[5],
                             row[6], row[7], row[8], row[10], row[11], shown(ambient.value),
                             std::string(udunitsName(unit)), exact(power.value),
                             limit.verdict == Verdict::Unknown ? limit.why : power.why});
        }
    }
    return text;
}

std::string gaugesCsv(const SurveyRun& run) {
    std::string text = csvLine({"case", "step", "time_s", "gauge", "value", "unit", "x_m", "y_m", "z_m", "method",
                                "gradient_value", "outside", "reference", "spread", "why"});
    const auto add = [&](const std::string& name, const std::string& step, const std::string& time,
                         const GaugeReading& gauge) {
        CsvRow row{name, step, time, gauge.id, exact(gauge.value), gauge.unit};
        for (std::size_t axis = 0; axis < 3; ++axis)
            row.push_back(gauge.place ? fmt::format("{:.9g}", gauge.place->at[axis]) : "");
        row.insert(row.end(), {gauge.method, exact(gauge.gradientValue), exact(gauge.outside), gauge.reference,
                               exact(gauge.spread), gauge.why});
        text += csvLine(row);
    };
    for (const auto& one : run.cases) {
        for (const auto& step : one.steps)
            for (const auto& gauge : step.gauges)
                if (!gauge.profile)
                    add(one.name, std::to_string(step.step), exact(step.time), gauge);
        for (const auto& gauge : one.overSteps)
            add(one.name, "all", "", gauge);
    }
    return text;
}

std::string termsCsv(const SurveyRun& run) {
    std::string text = csvLine({"case", "step", "gauge", "term", "value", "unit", "origin"});
    for (const auto& one : run.cases)
        for (const auto& step : one.steps)
            for (const auto& gauge : step.gauges)
                if (gauge.derivation)
                    for (const auto& term : gauge.derivation->terms)
                        text += csvLine({one.name, std::to_string(step.step), gauge.id, term.name, exact(term.value),
                                         term.unit, term.origin});
    return text;
}

std::string hotspotsCsv(const SurveyRun& run) {
    std::string text = csvLine({"case", "step", "gauge", "number", "value", "unit", "part", "x_m", "y_m", "z_m", "on",
                                "prominence", "size", "nearest_m", "heat_source_W_per_m3", "heat_flux_W_per_m2"});
    for (const auto& one : run.cases)
        for (const auto& step : one.steps)
            for (const auto& gauge : step.gauges)
                for (std::size_t i = 0; gauge.derivation && i < gauge.derivation->spots.size(); ++i) {
                    const auto& spot = gauge.derivation->spots[i];
                    CsvRow row{
                        one.name,   std::to_string(step.step), gauge.id, std::to_string(i + 1), exact(spot.value),
                        gauge.unit, step.parts[spot.part].name};
                    for (const double at : spot.at)
                        row.push_back(fmt::format("{:.9g}", at));
                    row.insert(row.end(), {std::string(locationName(spot.on)), exact(spot.prominence), exact(spot.size),
                                           exact(spot.nearest), exact(spot.source), exact(spot.flux)});
                    text += csvLine(row);
                }
    return text;
}

std::string profilesCsv(const SurveyRun& run) {
    std::string text = csvLine({"case", "step", "gauge", "s_m", "x_m", "y_m", "z_m", "value", "unit"});
    for (const auto& one : run.cases)
        for (const auto& step : one.steps)
            for (const auto& gauge : step.gauges)
                for (std::size_t i = 0; gauge.profile && i < gauge.profile->s.size(); ++i) {
                    const auto& profile = *gauge.profile;
                    CsvRow row{one.name, std::to_string(step.step), gauge.id, exact(profile.s[i])};
                    for (const double x : profile.at[i])
                        row.push_back(fmt::format("{:.9g}", x));
                    row.push_back(std::isfinite(profile.value[i]) ? exact(profile.value[i]) : "");
                    row.push_back(gauge.unit);
                    text += csvLine(row);
                }
    return text;
}

std::string balancesCsv(const SurveyRun& run) {
    std::string text = csvLine({"case", "step", "part", "boundary", "in_W", "out_W", "produced_W", "stored_W",
                                "carried_W", "remainder_W", "method", "gradient_out_W", "mass_flow_kg_per_s",
                                "volume_flow_m3_per_s", "bulk_temperature_K", "enthalpy_flow_W", "why"});
    for (const auto& one : run.cases)
        for (const auto& step : one.steps) {
            if (!step.balances)
                continue;
            for (const auto& part : step.balances->parts)
                text += csvLine({one.name, std::to_string(step.step), part.part, "", exact(part.in), exact(part.out),
                                 exact(part.produced), exact(part.stored), exact(part.carried), exact(part.remainder()),
                                 part.method, "", "", "", "", "", part.why});
            for (const auto& flow : step.balances->boundaries)
                text += csvLine({one.name, std::to_string(step.step), "", flow.boundary, "", exact(flow.heat), "", "",
                                 "", "", flow.method, exact(flow.gradientHeat), exact(flow.mass), exact(flow.volume),
                                 exact(flow.bulk ? std::optional(flow.bulk->kelvin) : std::nullopt),
                                 exact(flow.enthalpy), flow.why});
        }
    return text;
}

std::string powersCsv(const SurveyRun& run) {
    std::string text = csvLine(
        {"case", "step", "part", "given_W", "found_W", "thermal_resistance_K_per_W", "ambient_K"});
    for (const auto& one : run.cases)
        for (const auto& step : one.steps)
            for (const auto& power : step.powers)
                text += csvLine({one.name, std::to_string(step.step), power.part, exact(power.given),
                                 exact(power.found), exact(power.resistance), exact(step.ambient)});
    return text;
}

std::string checksCsv(const SurveyRun& run) {
    std::string text = csvLine(
        {"case", "step", "check", "title", "state", "found", "wanted", "part", "x_m", "y_m", "z_m", "meaning"});
    for (const auto& one : run.cases)
        for (const auto& step : one.steps)
            for (const auto& check : step.checks) {
                CsvRow row{one.name,
                           std::to_string(step.step),
                           check.key,
                           check.title,
                           std::string(checkStateName(check.state)),
                           check.figure,
                           check.threshold,
                           check.part};
                for (std::size_t axis = 0; axis < 3; ++axis)
                    row.push_back(check.at ? fmt::format("{:.9g}", (*check.at)[axis]) : "");
                row.push_back(check.meaning);
                text += csvLine(row);
            }
    return text;
}

std::string findingsCsv(const Survey& survey) {
    std::string text = csvLine(
        {"finding", "severity", "state", "case", "step", "part", "x_m", "y_m", "z_m", "check", "text"});
    std::size_t number = 0;
    for (const auto& [finding, position] : findingsOf(survey)) {
        CsvRow row{std::to_string(++number), std::string(severityName(finding.severity)),       finding.state,
                   finding.caseName,         finding.step ? std::to_string(*finding.step) : "", finding.part};
        for (std::size_t axis = 0; axis < 3; ++axis)
            row.push_back(finding.at ? fmt::format("{:.9g}", (*finding.at)[axis]) : "");
        row.push_back(finding.check);
        row.push_back(finding.text);
        text += csvLine(row);
    }
    return text;
}

} // namespace pyro
