#include "core/report/together_json.h"

#include "core/report/json_parts.h"

namespace pyro {
namespace {

Json comparedCases(const ComparedThing& thing) {
    auto cases = Json::array();
    for (const auto& one : thing.cases) {
        Json json{{"case", one.caseName},
                  {"value", number(one.value)},
                  {"difference", number(one.difference)},
                  {"relative", number(one.relative)}};
        if (one.verdict) {
            json["margin"] = number(one.margin);
            json["verdict"] = verdictName(*one.verdict);
        }
        if (one.time)
            json["time"] = *one.time;
        if (!one.why.empty())
            json["why"] = one.why;
        cases.push_back(std::move(json));
    }
    return cases;
}

Json comparedThing(const ComparedThing& thing, Json name) {
    name["unit"] = thing.unit;
    if (thing.differenceUnit != thing.unit)
        name["difference_unit"] = thing.differenceUnit;
    if (!thing.relativeTo.empty())
        name["relative_to"] = thing.relativeTo;
    name["cases"] = comparedCases(thing);
    return name;
}

Json comparisonToJson(const Comparison& comparison, const SurveyRun& run) {
    Json json{{"baseline", comparison.baseline},
              {"gauges", Json::array()},
              {"limits", Json::array()},
              {"parts", Json::array()}};
    for (const auto& thing : comparison.gauges)
        json["gauges"].push_back(comparedThing(thing, {{"id", thing.name}}));
    for (const auto& thing : comparison.limits) {
        Json name = Json::object();
        for (const auto& one : run.cases) // every case judges the same limits
            if (const auto limits = one.worstLimits(); thing.limit < limits.size()) {
                const auto& limit = limits[thing.limit];
                name["target"] = targetToJson(limit.target);
                name["kind"] = limit.kind;
                if (!limit.form->key.empty())
                    name["form"] = limit.form->key;
                break;
            }
        if (!name.contains("target"))
            name["target"] = thing.name;
        json["limits"].push_back(comparedThing(thing, std::move(name)));
    }
    for (const auto& thing : comparison.parts)
        json["parts"].push_back(comparedThing(thing, {{"part", thing.name}}));
    if (!comparison.why.empty())
        json["why"] = comparison.why;
    if (!comparison.remarks.empty())
        json["remarks"] = comparison.remarks;
    return json;
}

Json gridRowToJson(const GridRow& row, const GridStudy& study) {
    Json json = row.gauge.empty() ? Json{{"target", targetToJson(row.target)}} : Json{{"id", row.gauge}};
    json["unit"] = row.unit;
    json["cases"] = study.cases;
    json["values"] = Json::array();
    for (const auto& value : row.values)
        json["values"].push_back(number(value));
    if (!row.why.empty()) {
        json["why"] = row.why;
        return json;
    }
    json["order"] = number(row.found.order);
    json["extrapolated"] = number(row.found.extrapolated);
    json["approximate_error"] = number(row.found.approximateError);
    json["extrapolated_error"] = number(row.found.extrapolatedError);
    json["index"] = number(row.found.index);
    json["uncertainty"] = number(row.found.uncertainty);
    if (row.uncertaintyUnit != row.unit)
        json["uncertainty_unit"] = row.uncertaintyUnit;
    json["state"] = gridStateName(row.found.state);
    json["safety_factor"] = row.found.safety;
    if (!row.found.note.empty())
        json["note"] = row.found.note;
    return json;
}

Json measuredToJson(const MeasuredReading& reading, const std::string& caseName) {
    Json json{{"id", reading.id}, {"case", caseName}, {"unit", reading.unit}};
    if (reading.differenceUnit != reading.unit)
        json["difference_unit"] = reading.differenceUnit;
    json["points"] = Json::array();
    for (const auto& point : reading.points) {
        Json one{{"name", point.name}};
        if (point.at)
            one["at"] = *point.at;
        if (point.time)
            one["time"] = *point.time;
        one["measured"] = number(point.measured);
        one["simulated"] = number(point.simulated);
        one["deviation"] = number(point.deviation);
        one["uncertainty"] = number(point.uncertainty);
        one["normalised"] = number(point.normalised);
        if (point.distance)
            one["distance"] = *point.distance;
        if (!point.why.empty())
            one["why"] = point.why;
        json["points"].push_back(std::move(one));
    }
    for (const auto& region : reading.regions)
        json["regions"].push_back({{"part", region.part},
                                   {"pixels", region.pixels},
                                   {"measured", region.measured},
                                   {"simulated", region.simulated},
                                   {"highest_measured", region.highestMeasured},
                                   {"highest_simulated", region.highestSimulated}});
    if (reading.picture)
        json["picture"] = {{"columns", reading.picture->columns}, {"rows", reading.picture->rows}};
    json["count"] = reading.count;
    json["mean"] = number(reading.mean);
    json["rms"] = number(reading.rms);
    json["largest"] = number(reading.largest);
    json["within"] = number(reading.within);
    if (!reading.notes.empty())
        json["notes"] = reading.notes;
    if (!reading.why.empty())
        json["why"] = reading.why;
    return json;
}

Json surfaceToJson(const SweepReading::Surface& surface, const SweepReading& sweep) {
    Json json{{"value", surface.value}, {"unit", surface.unit}};
    if (!surface.why.empty()) {
        json["why"] = surface.why;
        return json;
    }
    json["form"] = surface.found.quadratic ? "quadratic" : "linear";
    json["terms"] = Json::array();
    for (const auto& term : surface.found.terms) {
        auto names = Json::array();
        for (const auto parameter : term.parameters)
            names.push_back(sweep.parameters[parameter].name);
        json["terms"].push_back({{"parameters", names}, {"coefficient", number(term.coefficient)}});
    }
    json["error_unit"] = surface.errorUnit;
    json["error"] = number(surface.found.error);
    json["effect"] = number(surface.found.effect);
    json["holds"] = surface.holds();
    return json;
}

void putAdvice(Json& json, const SweepReading& sweep) {
    json["surfaces"] = Json::array();
    for (const auto& surface : sweep.surfaces)
        json["surfaces"].push_back(surfaceToJson(surface, sweep));
    if (const auto& optimum = sweep.optimum) {
        json["optimum"] = optimum->why.empty()
                              ? Json{{"case", optimum->caseName.empty() ? Json() : Json(optimum->caseName)},
                                     {"parameters", optimum->parameters},
                                     {"least_margin", number(optimum->leastMargin)},
                                     {"unit", optimum->unit},
                                     {"of", optimum->limit},
                                     {"error", number(optimum->error)}}
                              : Json{{"why", optimum->why}};
    }
    if (const auto& next = sweep.next)
        json["next"] = {{"parameters", next->parameters},
                        {"nearest", next->nearest},
                        {"of", next->value},
                        {"error", number(next->error)},
                        {"unit", next->unit}};
}

Json sweepToJson(const SweepReading& sweep) {
    Json json{{"parameters", Json::array()},
              {"cases", Json::array()},
              {"best", sweep.best},
              {"sensitivities", Json::array()},
              {"crossings", Json::array()}};
    for (const auto& parameter : sweep.parameters)
        json["parameters"].push_back({{"name", parameter.name}, {"unit", parameter.unit}});
    for (const auto& one : sweep.cases) {
        Json entry{{"case", one.name},
                   {"file", one.file},
                   {"parameters", one.parameters},
                   {"verdict", verdictName(one.verdict())}};
        const auto* least = leastMargin(one);
        entry["least_margin"] = least != nullptr ? number(least->margin) : Json();
        if (least != nullptr) {
            entry["least_margin_unit"] = least->unit;
            entry["least_margin_of"] = targetToJson(least->target);
        }
        entry["gauges"] = Json::object();
        for (const auto& [id, value] : one.gauges)
            entry["gauges"][id] = {{"value", number(value.value)}, {"unit", value.unit}};
        if (!one.why.empty())
            entry["why"] = one.why;
        json["cases"].push_back(std::move(entry));
    }
    for (const auto& one : sweep.sensitivities)
        json["sensitivities"].push_back({{"gauge", one.gauge},
                                         {"parameter", one.parameter},
                                         {"slope", number(one.slope)},
                                         {"unit", one.unit},
                                         {"share", number(one.share)}});
    for (const auto& one : sweep.crossings) {
        Json crossing{{"limit", one.limit}};
        for (const auto& of : sweep.cases)
            if (one.limit < of.limits.size()) {
                crossing["target"] = targetToJson(of.limits[one.limit].target);
                break;
            }
        crossing["parameter"] = one.parameter;
        crossing["value"] = one.value;
        crossing["unit"] = one.unit;
        crossing["others"] = one.others;
        json["crossings"].push_back(std::move(crossing));
    }
    putAdvice(json, sweep);
    if (!sweep.remarks.empty())
        json["remarks"] = sweep.remarks;
    if (!sweep.why.empty())
        json["why"] = sweep.why;
    return json;
}

} // namespace

void putTogether(Json& json, const SurveyRun& run) {
    if (run.sweep)
        json["sweep"] = sweepToJson(*run.sweep);
    if (run.compare)
        json["compare"] = comparisonToJson(*run.compare, run);
    for (const auto& study : run.grids) {
        auto& all = json["grids"];
        if (all.is_null())
            all = Json::array();
        for (const auto& row : study.rows)
            all.push_back(gridRowToJson(row, study));
        if (!study.why.empty())
            all.push_back({{"cases", study.cases}, {"why", study.why}});
    }
    for (const auto& one : run.cases)
        for (const auto& reading : one.measured)
            json["measured"].push_back(measuredToJson(reading, one.name));
}

} // namespace pyro
