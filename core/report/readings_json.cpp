#include "core/report/readings_json.h"

#include "core/readings/estimate_reading.h"
#include "core/report/json_parts.h"
#include "core/report/together_json.h"

namespace pyro {
namespace {

void putPlace(Json& json, const std::optional<Place>& place) {
    if (!place)
        return;
    json["at"] = place->at;
    json["on"] = locationName(place->on);
}

Json toJson(const GaugeReading& gauge) {
    Json json{{"id", gauge.id}, {"value", number(gauge.value)}, {"unit", gauge.unit}};
    putPlace(json, gauge.place);
    if (!gauge.method.empty())
        json["method"] = gauge.method;
    if (gauge.spread)
        json["spread"] = number(gauge.spread);
    if (gauge.gradientValue)
        json["gradient_value"] = number(gauge.gradientValue);
    if (gauge.outside)
        json["outside"] = *gauge.outside;
    if (!gauge.reference.empty())
        json["reference"] = gauge.reference;
    if (gauge.covered)
        json["covered"] = *gauge.covered;
    if (!gauge.lacking.empty())
        json["lacking"] = gauge.lacking;
    if (gauge.derivation && !gauge.derivation->terms.empty()) {
        json["terms"] = Json::array();
        for (const auto& term : gauge.derivation->terms)
            json["terms"].push_back(
                {{"name", term.name}, {"value", number(term.value)}, {"unit", term.unit}, {"origin", term.origin}});
        if (!gauge.derivation->lines.empty())
            json["elements_at"] = gauge.derivation->lines;
    }
    if (!gauge.read())
        json["why"] = gauge.why;
    return json;
}

Json profileToJson(const GaugeReading& gauge) {
    Json json{{"id", gauge.id},
              {"s", gauge.profile->s},
              {"value", Json::array()},
              {"unit", gauge.unit},
              {"share", gauge.profile->share}};
    for (const double value : gauge.profile->value)
        json["value"].push_back(number(value));
    if (!gauge.lacking.empty())
        json["lacking"] = gauge.lacking;
    return json;
}

Json hotspotsToJson(const GaugeReading& gauge, const Readings& readings) {
    Json json{{"id", gauge.id}, {"unit", gauge.unit}, {"spots", Json::array()}};
    for (const auto& spot : gauge.derivation->spots) {
        Json one{{"value", number(spot.value)},           {"at", spot.at},
                 {"on", locationName(spot.on)},           {"part", readings.parts[spot.part].name},
                 {"prominence", number(spot.prominence)}, {"size", spot.size}};
        if (spot.saddle)
            one["saddle"] = *spot.saddle;
        if (spot.nearest)
            one["nearest"] = *spot.nearest;
        if (spot.source)
            one["heat_source"] = number(spot.source);
        if (spot.flux)
            one["heat_flux"] = number(spot.flux);
        json["spots"].push_back(one);
    }
    return json;
}

// Balances of one step: what is not known is null, with the reason beside it.
Json toJson(const Balances& balances) {
    Json json{{"parts", Json::array()}, {"boundaries", Json::array()}};
    for (const auto& part : balances.parts) {
        Json one{{"part", part.part},
                 {"in", number(part.in)},
                 {"out", number(part.out)},
                 {"produced", number(part.produced)},
                 {"stored", number(part.stored)},
                 {"carried", number(part.carried)},
                 {"remainder", number(part.remainder())},
                 {"unit", "W"},
                 {"method", part.method}};
        if (!part.why.empty())
            one["why"] = part.why;
        json["parts"].push_back(one);
    }
    for (const auto& link : balances.links) {
        Json one{{"from", link.from},
                 {link.toBoundary ? "boundary" : "to", link.to},
                 {"heat", number(link.heat)},
                 {"unit", "W"},
                 {"area", link.area}};
        for (const auto& [key, value] : {std::pair{"carried", &link.carried},
                                         {"share", &link.share},
                                         {"difference", &link.difference},
                                         {"resistance", &link.resistance},
                                         {"leave", &link.leave},
                                         {"enter", &link.enter}})
            if (*value)
                one[key] = number(*value);
        json["links"].push_back(one);
    }
    for (const auto& boundary : balances.boundaries) {
        Json one{{"boundary", boundary.boundary}, {"heat", number(boundary.heat)}, {"method", boundary.method}};
        if (boundary.gradientHeat)
            one["gradient_heat"] = number(boundary.gradientHeat);
        if (boundary.mass)
            one["mass_flow"] = number(boundary.mass);
        if (boundary.volume)
            one["volume_flow"] = number(boundary.volume);
        if (boundary.bulk)
            one["bulk_temperature"] = boundary.bulk->kelvin;
        if (boundary.enthalpy)
            one["enthalpy_flow"] = number(boundary.enthalpy);
        if (!boundary.why.empty())
            one["why"] = boundary.why;
        json["boundaries"].push_back(one);
    }
    return json;
}

Json toJson(const MonitoredValue& one) {
    Json json{{"title", one.title},
              {"count", one.count},
              {"last", number(one.last)},
              {"state", settlingName(one.settling.state)},
              {"drift", number(one.settling.drift)},
              {"oscillation", number(one.settling.oscillation)}};
    if (one.settling.expected)
        json["expected"] = number(one.settling.expected);
    if (one.settling.logarithmic)
        json["logarithmic"] = true;
    return json;
}

Json toJson(const LimitReading& limit) {
    Json json = Json::object();
    if (limit.target.kind == TargetKind::Part)
        json["part"] = limit.target.name;
    json["target"] = targetToJson(limit.target);
    json["value"] = number(limit.value);
    json["limit"] = number(limit.limit);
    json["margin"] = number(limit.margin);
    json["unit"] = limit.unit;
    json["verdict"] = verdictName(limit.verdict);
    if (!limit.form->key.empty())
        json["form"] = limit.form->key;
    if (!limit.kind.empty())
        json["kind"] = limit.kind;
    if (limit.ambient)
        json["ambient"] = *limit.ambient;
    if (limit.uncertainty)
        json["uncertainty"] = *limit.uncertainty;
    if (limit.tightByMesh)
        json["tight_by"] = "mesh";
    if (limit.step)
        json["step"] = *limit.step;
    if (limit.firstOver)
        json["first_over"] = *limit.firstOver;
    if (limit.durationOver)
        json["duration_over"] = *limit.durationOver;
    putPlace(json, limit.place);
    if (limit.verdict == Verdict::Unknown)
        json["why"] = limit.why;
    return json;
}

Json toJson(const Readings& readings);
Json toJson(const CaseRun& run);

template <class Items>
Json listOf(const Items& items) {
    auto list = Json::array();
    for (const auto& item : items)
        list.push_back(toJson(item));
    return list;
}

Json planeToJson(const PlaneCase& plane) {
    return {{"normal", plane.normal}, {"depth", plane.depth}, {"per_metre", !plane.given}};
}

Json toJson(const Readings& readings) {
    Json json{{"index", readings.step}};
    if (readings.time)
        json["time"] = *readings.time;
    if (readings.ambient)
        json["ambient"] = *readings.ambient;
    if (readings.plane)
        json["plane"] = planeToJson(*readings.plane);
    if (readings.symmetry != 1)
        json["symmetry_factor"] = readings.symmetry;
    json["gauges"] = Json::array();
    json["profiles"] = Json::array();
    for (const auto& gauge : readings.gauges)
        if (gauge.profile)
            json["profiles"].push_back(profileToJson(gauge));
        else
            json["gauges"].push_back(toJson(gauge));
    for (const auto& gauge : readings.gauges)
        if (gauge.derivation && !gauge.derivation->spots.empty())
            json["hotspots"].push_back(hotspotsToJson(gauge, readings));
    for (const auto& power : readings.powers)
        json["powers"].push_back({{"part", power.part},
                                  {"given", number(power.given)},
                                  {"found", number(power.found)},
                                  {"resistance", number(power.resistance)}});
    for (const auto& one : readings.monitored)
        json["monitored"].push_back(toJson(one));
    for (const auto& check : readings.checks) {
        Json one{{"key", check.key},       {"title", check.title},         {"state", checkStateName(check.state)},
                 {"figure", check.figure}, {"threshold", check.threshold}, {"meaning", check.meaning}};
        if (!check.part.empty())
            one["part"] = check.part;
        if (check.at)
            one["at"] = *check.at;
        json["checks"].push_back(one);
    }
    if (const auto& balance = readings.balance)
        json["balance"] = {{"produced", number(balance->produced)},
                           {"leaving", number(balance->leaving)},
                           {"stored", number(balance->stored)},
                           {"remainder", number(balance->remainder())},
                           {"unit", "W"}};
    if (readings.balances)
        json["balances"] = toJson(*readings.balances);
    if (!readings.environments.empty())
        json["environments"] = Json::array();
    for (const auto& one : readings.environments)
        json["environments"].push_back({{"boundary", one.name},
                                        {"temperature", one.temperature},
                                        {"surface_resistance", number(one.resistance)},
                                        {"origin", one.origin},
                                        {"heat", number(one.heat)},
                                        {"area", one.area}});
    json["limits"] = listOf(readings.limits);
    return json;
}

// The level at which the first limit is met.
Json firstAtLimit(const Estimate& estimate, const std::optional<std::size_t>& limit, LevelAtLimit EstimatedLimit::*of,
                  const std::string& why) {
    if (!limit)
        return {{"value", nullptr}, {"why", why}};
    return {{"value", *(estimate.limits[*limit].*of).value},
            {"target", targetToJson(estimate.limits[*limit].reading.target)}};
}

Json toJson(const Estimate& estimate) {
    Json json{{"ambient", number(estimate.ambient)},
              {"power", estimate.power},
              {"verdict", verdictName(estimate.verdict())},
              {"from", estimate.basis},
              {"limits", Json::array()}};
    for (const auto& one : estimate.limits) {
        auto limit = toJson(one.reading);
        limit["ambient_at_limit"] = number(one.ambient.value);
        limit["power_at_limit"] = number(one.power.value);
        json["limits"].push_back(std::move(limit));
    }
    json["environments"] = Json::array();
    for (const auto& one : estimate.environments)
        json["environments"].push_back(
            {{"boundary", one.boundary}, {"from", one.from}, {"to", one.to}, {"ambient", one.isAmbient}});
    json["ambient_at_limit"] = firstAtLimit(estimate, estimate.firstByAmbient, &EstimatedLimit::ambient,
                                            estimate.why.empty() ? "no limit follows the ambient" : estimate.why);
    json["power_at_limit"] = firstAtLimit(estimate, estimate.firstByPower, &EstimatedLimit::power, estimate.whyNoPower);
    if (!estimate.why.empty())
        json["why"] = estimate.why;
    return json;
}

Json toJson(const CaseRun& run) {
    Json json{{"name", run.name}};
    if (run.error) {
        json["error"] = Json{{"code", codeName(run.error->code)}, {"text", run.error->text()}};
        if (run.steps.empty())
            return json;
    }
    json["steps"] = listOf(run.steps);
    if (!run.overSteps.empty())
        json["gauges"] = listOf(run.overSteps);
    json["limits"] = listOf(run.worstLimits());
    if (const auto settled = run.settledOverSteps(); !settled.empty())
        json["settled"] = listOf(settled);
    if (!run.steps.empty() && run.steps.back().estimate) // of the last step
        json["estimate"] = toJson(*run.steps.back().estimate);
    json["remarks"] = remarksToJson(run.remarks());
    return json;
}

Json regionToJson(const Case& solved, const Region& region, double size, std::array<double, 6> box) {
    if (const auto axis = solved.plane ? solved.plane->axis() : std::nullopt) // the depth is none of the file's
        box[2 * *axis + 1] = box[2 * *axis];
    return {{"name", region.name},
            {"cells", region.fileCells},
            {"nodes", solved.nodesOf(region)},
            {"extent", {{box[0], box[1]}, {box[2], box[3]}, {box[4], box[5]}}},
            {"size", solved.extentOf(region, size).value}};
}

} // namespace

Json remarksToJson(const Remarks& remarks) {
    auto list = Json::array();
    for (const auto& remark : remarks)
        list.push_back({{"severity", severityName(remark.severity)},
                        {"code", remark.code},
                        {"text", remark.text},
                        {"where", remark.where}});
    return list;
}

Json runToJson(const SurveyRun& run) {
    Json json{{"survey", run.surveyFile}, {"verdict", verdictName(run.verdict())}, {"cases", listOf(run.cases)}};
    putTogether(json, run);
    return json;
}

Json inspectionToJson(const Series& series, const OpenedCase& opened, const QuantityList& quantities) {
    const auto& solved = *opened.solved;
    Json json{{"file", solved.file}, {"steps", Json::array()}, {"parts", Json::array()}, {"boundaries", Json::array()}};
    if (solved.plane)
        json["plane"] = planeToJson(*solved.plane);
    for (const auto& one : series.steps) {
        const auto& step = one.step;
        Json entry{{"index", step.index}};
        if (const auto time = step.time ? step.time : series.steps.size() == 1 ? solved.time : std::nullopt)
            entry["time"] = *time;
        json["steps"].push_back(entry);
    }
    for (std::size_t i = 0; i < solved.parts.size(); ++i) {
        auto entry = regionToJson(solved, solved.parts[i], opened.index->parts[i].size, opened.index->parts[i].box);
        if (const auto& thickness = solved.parts[i].thickness)
            entry["thickness"] = *thickness;
        if (const int told = solved.extentOf(solved.parts[i], 0).dimension; told != 3) // its size is in m2
            entry["dimension"] = told;
        json["parts"].push_back(std::move(entry));
    }
    for (std::size_t i = 0; i < solved.boundaries.size(); ++i) {
        const auto& behind = opened.index->boundaries[i];
        auto entry = regionToJson(solved, solved.boundaries[i], behind.size, behind.box);
        if (!behind.part.empty() && behind.part[0] != noNumber)
            entry["part"] = solved.parts[behind.part[0]].name;
        entry["named_by"] = solved.boundaries[i].patchOf ? "edges" : "file";
        json["boundaries"].push_back(entry);
    }
    for (const auto& quantity : quantities.quantities)
        json["quantities"].push_back({{"name", quantity.name},
                                      {"array", quantity.array},
                                      {"unit", quantity.unit},
                                      {"on", locationName(quantity.on)},
                                      {"rank", quantity.components == 1   ? 0
                                               : quantity.components == 3 ? 1
                                                                          : 2},
                                      {"min", number(quantity.min)},
                                      {"max", number(quantity.max)}});
    if (!json.contains("quantities"))
        json["quantities"] = Json::array();
    Remarks remarks = solved.remarks;
    for (const auto* more : {&opened.index->remarks, &quantities.remarks})
        remarks.insert(remarks.end(), more->begin(), more->end());
    json["remarks"] = remarksToJson(remarks);
    return json;
}

} // namespace pyro
