#include "core/evaluate/evaluate.h"

#include "core/estimate/estimate.h"
#include "core/evaluate/gauge_evaluator.h"
#include "core/evaluate/region_readings.h"
#include "core/evaluate/symmetry.h"
#include "core/field/boundary_fit.h"
#include "core/field/boundary_patches.h"
#include "core/limits/judge.h"
#include "core/quantities/gauge_keys.h"
#include "core/survey/conductivities.h"
#include "core/survey/survey_file.h"
#include "core/thermal/whole_heat.h"
#include "core/trust/checks.h"
#include "core/trust/settling_fit.h"

#include <fmt/format.h>

namespace pyro {
namespace {

RegionReading readRegion(const OpenedCase& opened, bool boundary, std::size_t at, const RegionValue* value) {
    const auto& region = (boundary ? opened.solved->boundaries : opened.solved->parts)[at];
    const auto extent = opened.solved->extentOf(region, boundary ? opened.index->boundaries[at].size
                                                                 : opened.index->parts[at].size);
    RegionReading out{region.name, region.fileCells, region.mesh.nodes(), extent.value, {}, {}, {}, {}, {},
                      {},          extent.dimension};
    if (value == nullptr) {
        out.why = "the case has no temperature";
        return out;
    }
    const auto kelvin = [](const std::optional<double>& si) {
        return si ? std::optional(Temperature{*si}) : std::nullopt;
    };
    out.min = kelvin(value->min);
    out.mean = kelvin(value->mean);
    out.max = kelvin(value->max);
    out.hottest = value->highest;
    out.coldest = value->lowest;
    out.why = value->why;
    return out;
}

std::map<std::string, std::string> labelsIn(const CaseEntry& entry) {
    std::map<std::string, std::string> labels;
    for (const auto& [name, note] : entry.parts)
        if (!note.label.empty())
            labels.emplace(name, note.label);
    return labels;
}

std::vector<std::string> symmetricIn(const CaseEntry& entry) {
    std::vector<std::string> names;
    for (const auto& [name, note] : entry.boundaries)
        if (note.kind == "symmetry")
            names.push_back(name);
    return names;
}

std::map<std::string, double> givenPowers(const CaseEntry& entry) {
    std::map<std::string, double> powers;
    for (const auto& [name, note] : entry.parts)
        if (note.power)
            powers.emplace(name, note.power->si);
    return powers;
}

std::vector<PartProperties> propertiesOf(const Survey& survey, const CaseEntry& entry, const Case& solved) {
    std::vector<PartProperties> all;
    const auto si = [](const std::optional<Written<double>>& value) {
        return value ? std::optional(value->si) : std::nullopt;
    };
    for (const auto& part : solved.parts) {
        PartProperties properties;
        if (const auto note = entry.parts.find(part.name); note != entry.parts.end()) {
            if (note->second.power)
                properties.power = note->second.power->si / entry.symmetryFactor();
            if (!note->second.kind.empty())
                properties.fluid = note->second.kind == "fluid";
            if (const auto material = survey.materials.find(note->second.material);
                material != survey.materials.end()) {
                properties.conductivity = si(material->second.conductivity);
                properties.density = si(material->second.density);
                properties.heatCapacity = si(material->second.heatCapacity);
                properties.viscosity = si(material->second.viscosity);
            }
        }
        all.push_back(properties);
    }
    return all;
}

GivenEnvironments environmentsIn(const CaseEntry& entry) {
    GivenEnvironments given;
    for (const auto& [name, note] : entry.boundaries) {
        GivenEnvironment one;
        if (note.temperature)
            one.temperature = note.temperature->si;
        if (note.surfaceResistance)
            one.resistance = note.surfaceResistance->si;
        else if (note.filmCoefficient && note.filmCoefficient->si > 0)
            one.resistance = 1 / note.filmCoefficient->si;
        if (one.temperature || one.resistance)
            given.emplace(name, one);
    }
    return given;
}

SurfaceReader readerOf(const StepContext& context) {
    return [&context](const std::string& file) {
        NoProgress progress;
        return openCase(besideSurvey(file, context.folder), context.open, progress);
    };
}

bool isOverSteps(const Survey& survey, const Limit& limit) {
    return limit.target.kind == TargetKind::Gauge && std::ranges::any_of(survey.gauges, [&](const Gauge& gauge) {
               return gauge.id == limit.target.name && readsOverSteps(survey.gauges, gauge);
           });
}

void judge(const Survey& survey, const PartFields& fields, Readings& readings) {
    for (const auto& limit : survey.limits) {
        readings.limits.push_back(judgeLimit(limit, readings, &fields));
        if (isOverSteps(survey, limit)) { // what the gauge tells on one step is not what the limit is about
            auto& judged = readings.limits.back();
            judged.value.reset();
            judged.margin.reset();
            judged.verdict = Verdict::Unknown;
            judged.why = fmt::format("\"{}\" is read over all steps, and judged with them", limit.target.name);
        }
    }
}

std::optional<double> ambientOf(const CaseEntry& entry, const std::vector<Environment>& environments) {
    if (entry.ambient)
        return entry.ambient->si;
    if (environments.empty())
        return std::nullopt;
    const auto [low, high] = std::ranges::minmax_element(environments, {}, &Environment::temperature);
    return high->temperature - low->temperature < 0.01 ? std::optional(low->temperature) : std::nullopt;
}

// Given and found powers with the resistance that the hottest place of the part implies.
std::vector<PowerReading> powersOf(const PartFields& fields, const CaseEntry& entry, const Readings& readings) {
    const auto given = givenPowers(entry);
    std::vector<PowerReading> out;
    for (std::size_t part = 0; part < readings.parts.size(); ++part) {
        const auto& region = readings.parts[part];
        PowerReading one{region.name, {}, producedIn(fields, part), {}};
        if (one.found)
            *one.found *= entry.symmetryFactor();
        if (const auto power = given.find(region.name); power != given.end())
            one.given = power->second;
        const double watt = one.given ? *one.given : one.found.value_or(0);
        if (watt == 0)
            continue;
        if (readings.ambient && region.max)
            one.resistance = (region.max->kelvin - *readings.ambient) / watt;
        out.push_back(one);
    }
    return out;
}

// Declared in the survey, or seen in the case: radiative fluxes, conductivities that vary within a part.
std::vector<std::string> nonlinearitiesOf(const CaseEntry& entry, const PartFields& fields) {
    std::vector<std::string> out;
    for (const auto& why : entry.nonlinear)
        out.push_back(why == "radiation"    ? "the survey says that it radiates"
                      : why == "properties" ? "the survey says that its properties depend on temperature"
                                            : "the survey says that it is cooled by natural convection");
    const auto& solved = fields.solved();
    for (std::size_t boundary = 0; boundary < solved.boundaries.size(); ++boundary)
        if (const auto* radiative = fields.quantities().named("heat_flux_radiative"))
            if (const auto* array = solved.boundaries[boundary].find(radiative->array, radiative->on))
                for (std::size_t i = 0; i < array->values.size(); ++i)
                    if (array->values[i] != 0) {
                        out.push_back(fmt::format("\"{}\" radiates: the case stores a radiative flux there",
                                                  solved.boundaries[boundary].name));
                        break;
                    }
    for (std::size_t part = 0; part < solved.parts.size(); ++part) {
        const auto conductivity = fields.stored(part, "conductivity");
        if (!conductivity || conductivity->components != 1 || conductivity->values.empty())
            continue;
        double low = conductivity->values[0];
        double high = low;
        for (std::size_t i = 0; i < conductivity->values.size(); ++i) {
            low = std::min(low, conductivity->values[i]);
            high = std::max(high, conductivity->values[i]);
        }
        if (high - low > 1e-3 * std::abs(high))
            out.push_back(
                fmt::format("the conductivity of \"{}\" varies within it, as one that depends on temperature does",
                            solved.parts[part].name));
    }
    return out;
}

// Gauges, limits, balances and checks: what needs the fields of whole parts.
Done readHeat(const Survey& survey, const CaseEntry& entry, const OpenedCase& opened, const QuantityList& quantities,
              const StepContext& context, Readings& readings, Progress& progress) {
    const auto properties = propertiesOf(survey, entry, *opened.solved);
    const PartFields fields(*opened.solved, *opened.index, quantities, properties);
    std::optional<QuantityList> quantitiesBefore;
    std::optional<PartFields> before;
    Transience transience;
    transience.changes = context.changes;
    if (context.before != nullptr && context.before->index == opened.index && context.sinceBefore > 0) {
        if (auto recognised = recognise(*context.before->solved, entry.quantities)) {
            quantitiesBefore = std::move(*recognised);
            before.emplace(*context.before->solved, *opened.index, *quantitiesBefore, properties);
            transience.before = &*before;
            transience.seconds = context.sinceBefore;
        }
    }
    const auto environments = environmentsIn(entry);
    const CaseHeat heat(fields, transience, environments);
    GaugeEvaluator evaluator(survey.gauges, heat, readerOf(context), environments, conductivitiesOf(survey),
                             entry.symmetryFactor());
    SubProgress reading(progress, 0.3, 0.7);
    auto gauges = evaluator.readAll(reading);
    if (!gauges)
        return tl::unexpected(gauges.error());
    readings.gauges = std::move(*gauges);
    readings.environments = environmentsOf(heat, environments,
                                           context.balances ? KnownFrom::Anything : KnownFrom::Written);
    for (auto& one : readings.environments) {
        if (one.heat)
            *one.heat *= readings.symmetry;
        one.area *= readings.symmetry;
    }
    readings.ambient = ambientOf(entry, readings.environments);
    readings.powers = powersOf(fields, entry, readings);
    readings.nonlinear = nonlinearitiesOf(entry, fields);
    judge(survey, fields, readings);
    if (!context.balances)
        return {};
    SubProgress balancing(progress, 0.7, 0.9);
    auto balances = balancesOf(heat, balancing);
    if (!balances)
        return tl::unexpected(balances.error());
    readings.balance = wholeBalance(heat, *balances, givenPowers(entry));
    if (readings.balance)
        toWhole(*readings.balance, readings.symmetry);
    toWhole(*balances, readings.symmetry);
    fillDifferences(*balances, readings.parts, readings.environments);
    readings.balances = std::make_shared<const Balances>(std::move(*balances));
    if (context.solver)
        readings.monitored = monitoredIn(*(readings.history = context.solver));
    if (!context.checks)
        return {};
    SubProgress checking(progress, 0.9, 1.0);
    auto checks = checksOf({heat, readings, givenPowers(entry), labelsIn(entry), entry.symmetry, symmetricIn(entry),
                            context.solver.get(), &survey.limits},
                           checking);
    if (!checks)
        return tl::unexpected(checks.error());
    readings.checks = std::move(*checks);
    return {};
}

EstimateTools toolsOf(const StepContext& context) {
    auto plain = context;
    plain.checks = false;
    plain.before = nullptr;
    plain.otherCase = {};
    const auto evaluateOn = [plain](const Survey& survey, const CaseEntry& entry, const OpenedCase& opened,
                                    const Step& step, bool balances, Progress& progress) {
        auto own = plain;
        own.balances = balances;
        return evaluate(survey, entry, opened, step, progress, own);
    };
    return {evaluateOn, context.otherCase, context.changes};
}

void addRemarks(Remarks& to, const Remarks& from) { to.insert(to.end(), from.begin(), from.end()); }

} // namespace

Result<Readings> evaluate(const Survey& survey, const CaseEntry& entry, const OpenedCase& opened, const Step& step,
                          Progress& progress, const StepContext& context) {
    const auto quantities = recognise(*opened.solved, entry.quantities);
    if (!quantities)
        return tl::unexpected(quantities.error());
    const auto& solved = *opened.solved;
    Readings readings;
    readings.step = step.index;
    readings.plane = solved.plane;
    readings.symmetry = entry.symmetryFactor();
    readings.time = step.time ? step.time : solved.time;
    for (const auto* remarks : {&solved.remarks, &opened.index->remarks, &quantities->remarks})
        addRemarks(readings.remarks, *remarks);
    const auto* temperature = quantities->named("temperature");
    SubProgress reading(progress, 0.0, 0.3);
    reading.report(0, "evaluating " + entry.name);
    const auto values = temperature == nullptr ? std::vector<RegionValue>()
                                               : readRegions(opened, *temperature, Component::Natural, reading);
    if (progress.cancelled())
        return fail(ErrorCode::Cancelled, "the evaluation was cancelled", solved.file);
    for (std::size_t i = 0; i < solved.parts.size() + solved.boundaries.size(); ++i) {
        const bool boundary = i >= solved.parts.size();
        auto one = readRegion(opened, boundary, boundary ? i - solved.parts.size() : i,
                              values.empty() ? nullptr : &values[i]);
        (boundary ? readings.boundaries : readings.parts).push_back(std::move(one));
    }
    if (auto heat = readHeat(survey, entry, opened, *quantities, context, readings, progress); !heat)
        return tl::unexpected(heat.error());
    if (survey.estimate && context.balances) {
        auto estimate = estimateOf(survey, entry, opened, step, readings, toolsOf(context), progress);
        if (!estimate)
            return tl::unexpected(estimate.error());
        readings.estimate = std::make_shared<const Estimate>(std::move(*estimate));
    }
    for (const auto& [key, value] : survey.rest.items())
        if (!key.starts_with("$") && !key.starts_with("_"))
            readings.remarks.push_back(
                {Severity::Note, "unknown-key",
                 fmt::format("the survey's key \"{}\" is not known here; it is kept as it is", key), key});
    if (survey.limits.empty())
        readings.remarks.push_back(
            {Severity::Note, "no-limits", "no limits are defined, so nothing is judged", entry.name});
    return readings;
}

} // namespace pyro
