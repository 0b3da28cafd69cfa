#include "core/evaluate/evaluate.h"

#include "core/estimate/estimate.h"
#include "core/evaluate/gauge_evaluator.h"
#include "core/evaluate/given.h"
#include "core/evaluate/other_cases.h"
#include "core/evaluate/probe_places.h"
#include "core/evaluate/region_readings.h"
#include "core/evaluate/symmetry.h"
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

EstimateTools toolsOf(const StepContext& context) {
    auto plain = context;
    plain.checks = false;
    plain.before = nullptr;
    plain.otherCase = {};
    plain.otherAtTime = {};
    const auto evaluateOn = [plain](const Survey& survey, const CaseEntry& entry, const OpenedCase& opened,
                                    const Step& step, bool balances, Progress& progress) {
        auto own = plain;
        own.balances = balances;
        return evaluate(survey, entry, opened, step, progress, own);
    };
    return {evaluateOn, context.otherCase, context.changes};
}

// The step before on the same mesh, with what it needs to stay.
struct StepBefore {
    std::optional<QuantityList> quantities;
    std::optional<PartFields> fields;
};

// What all phases share: what is given, the heat of the case, and the readings that grow.
struct Evaluation {
    const Survey& survey;
    const CaseEntry& entry;
    const OpenedCase& opened;
    const Step& step;
    const StepContext& context;
    const QuantityList& quantities;
    const PartFields& fields;
    const CaseHeat& heat;
    const GivenEnvironments& given;
    Readings& readings;
};

Done readTemperatures(Evaluation& at, Progress& progress) {
    const auto& solved = *at.opened.solved;
    const auto* temperature = at.quantities.named("temperature");
    progress.report(0, "evaluating " + at.entry.name);
    const auto values = temperature == nullptr ? std::vector<RegionValue>()
                                               : readRegions(at.opened, *temperature, Component::Natural, progress);
    if (progress.cancelled()) // then not all regions were read
        return fail(ErrorCode::Cancelled, "the evaluation was cancelled", solved.file);
    for (std::size_t i = 0; i < solved.parts.size() + solved.boundaries.size(); ++i) {
        const bool boundary = i >= solved.parts.size();
        auto one = readRegion(at.opened, boundary, boundary ? i - solved.parts.size() : i,
                              values.empty() ? nullptr : &values[i]);
        (boundary ? at.readings.boundaries : at.readings.parts).push_back(std::move(one));
    }
    return {};
}

Done readGauges(Evaluation& at, Progress& progress) {
    GaugeEvaluator evaluator(at.survey.gauges, at.heat, readerOf(at.context), at.given, conductivitiesOf(at.survey),
                             at.entry.symmetryFactor());
    OtherCases others(at.survey, at.context, {at.entry, at.fields.solved(), at.fields.index()}, at.readings.time,
                      progress);
    evaluator.takeOthers([&others](const std::string& name) { return others.fields(name); });
    auto gauges = evaluator.readAll(progress);
    if (!gauges)
        return tl::unexpected(gauges.error());
    at.readings.gauges = std::move(*gauges);
    return {};
}

Done probeMeasured(Evaluation& at, Progress&) {
    const auto tables = at.context.measured ? *at.context.measured
                                            : measuredTablesOf(at.survey, at.entry, at.context.folder);
    for (const auto& table : tables) {
        const auto wish = std::ranges::find(at.survey.measured, table->id, &MeasuredWish::id);
        const auto within = wish != at.survey.measured.end() && wish->within ? std::optional(wish->within->si)
                                                                             : std::nullopt;
        at.readings.probes.push_back(probe(table, within, at.fields, at.readings.gauges));
    }
    return {};
}

Done readEnvironments(Evaluation& at, Progress&) {
    at.readings.environments = environmentsOf(at.heat, at.given,
                                              at.context.balances ? KnownFrom::Anything : KnownFrom::Written);
    for (auto& one : at.readings.environments) {
        if (one.heat)
            *one.heat *= at.readings.symmetry;
        one.area *= at.readings.symmetry;
    }
    at.readings.ambient = ambientOf(at.entry, at.readings.environments);
    return {};
}

Done readPowers(Evaluation& at, Progress&) {
    at.readings.powers = powersOf(at.fields, at.entry, at.readings);
    at.readings.nonlinear = nonlinearitiesOf(at.entry, at.fields);
    return {};
}

Done judgeLimits(Evaluation& at, Progress&) {
    for (const auto& limit : at.survey.limits) {
        at.readings.limits.push_back(judgeLimit(limit, at.readings, &at.fields));
        if (isOverSteps(at.survey, limit)) { // what the gauge tells on one step is not what the limit is about
            auto& judged = at.readings.limits.back();
            judged.value.reset();
            judged.margin.reset();
            judged.verdict = Verdict::Unknown;
            judged.why = fmt::format("\"{}\" is read over all steps, and judged with them", limit.target.name);
        }
    }
    return {};
}

Done balanceHeat(Evaluation& at, Progress& progress) {
    auto& readings = at.readings;
    auto balances = balancesOf(at.heat, progress);
    if (!balances)
        return tl::unexpected(balances.error());
    readings.balance = wholeBalance(at.heat, *balances, givenPowers(at.entry));
    if (readings.balance)
        toWhole(*readings.balance, readings.symmetry);
    toWhole(*balances, readings.symmetry);
    fillDifferences(*balances, readings.parts, readings.environments);
    readings.balances = std::make_shared<const Balances>(std::move(*balances));
    return {};
}

Done followSolver(Evaluation& at, Progress&) {
    if (at.context.solver)
        at.readings.monitored = monitoredIn(*(at.readings.history = at.context.solver));
    return {};
}

std::size_t meshesOf(const Survey& survey, const CaseEntry& entry) {
    std::size_t most = 1;
    for (const auto& study : survey.grids)
        if (std::ranges::find(study.cases, entry.name) != study.cases.end())
            most = std::max(most, study.cases.size());
    return most;
}

Done askChecks(Evaluation& at, Progress& progress) {
    auto checks = checksOf({at.heat, at.readings, givenPowers(at.entry), labelsIn(at.entry), at.entry.symmetry,
                            symmetricIn(at.entry), at.context.solver.get(), &at.survey.limits,
                            meshesOf(at.survey, at.entry)},
                           progress);
    if (!checks)
        return tl::unexpected(checks.error());
    at.readings.checks = std::move(*checks);
    return {};
}

Done estimateLimits(Evaluation& at, Progress& progress) {
    auto estimate = estimateOf(at.survey, at.entry, at.opened, at.step, at.readings, toolsOf(at.context), progress);
    if (!estimate)
        return tl::unexpected(estimate.error());
    at.readings.estimate = std::make_shared<const Estimate>(std::move(*estimate));
    return {};
}

Done noteWhatIsMissing(Evaluation& at, Progress&) {
    auto& remarks = at.readings.remarks;
    for (const auto& [key, value] : at.survey.rest.items())
        if (!key.starts_with("$") && !key.starts_with("_"))
            remarks.push_back({Severity::Note, "unknown-key",
                               fmt::format("the survey's key \"{}\" is not known here; it is kept as it is", key),
                               key});
    if (at.survey.limits.empty())
        remarks.push_back({Severity::Note, "no-limits", "no limits are defined, so nothing is judged", at.entry.name});
    return {};
}

// One part of an evaluation. A phase reads what the phases before it have filled, and fills members of its own.
struct Phase {
    std::string_view needs; // of the readings, beside what is given
    std::string_view fills;
    Done (*run)(Evaluation& at, Progress& progress);
    double until; // share of the whole work
    bool (*wanted)(const Evaluation& at) = [](const Evaluation&) { return true; };
};

bool wantsBalances(const Evaluation& at) { return at.context.balances; }

constexpr Phase phases[]{
    {"", "parts, boundaries", readTemperatures, 0.3},
    {"", "gauges", readGauges, 0.7},
    {"gauges", "probes", probeMeasured, 0.7, [](const Evaluation& at) { return !at.survey.measured.empty(); }},
    {"", "environments, ambient", readEnvironments, 0.7},
    {"parts, ambient", "powers, nonlinear", readPowers, 0.7},
    {"parts, boundaries, gauges, ambient", "limits", judgeLimits, 0.7},
    {"parts, environments", "balances, balance", balanceHeat, 0.9, wantsBalances},
    {"", "history, monitored", followSolver, 0.9, wantsBalances},
    {"parts, boundaries, gauges, environments, powers, limits, balances, balance, history, monitored", "checks",
     askChecks, 1.0, [](const Evaluation& at) { return at.context.balances && at.context.checks; }},
    {"parts, boundaries, gauges, environments, ambient, powers, nonlinear, limits, balances, balance", "estimate",
     estimateLimits, 1.0, [](const Evaluation& at) { return at.context.balances && at.survey.estimate.has_value(); }},
    {"", "remarks", noteWhatIsMissing, 1.0},
};

constexpr bool lists(std::string_view words, std::string_view word) {
    while (!words.empty()) {
        const auto end = std::min(words.find(", "), words.size());
        if (words.substr(0, end) == word)
            return true;
        words.remove_prefix(std::min(end + 2, words.size()));
    }
    return false;
}

// Whether every phase comes after those that fill what it needs.
constexpr bool inOrder() {
    for (std::size_t i = 0; i < std::size(phases); ++i) {
        auto needs = phases[i].needs;
        while (!needs.empty()) {
            const auto end = std::min(needs.find(", "), needs.size());
            bool filled = false;
            for (std::size_t before = 0; before < i; ++before)
                filled = filled || lists(phases[before].fills, needs.substr(0, end));
            if (!filled)
                return false;
            needs.remove_prefix(std::min(end + 2, needs.size()));
        }
    }
    return true;
}
static_assert(inOrder());

Done runPhases(Evaluation& at, Progress& progress) {
    double from = 0;
    for (const auto& phase : phases) {
        SubProgress own(progress, from, phase.until);
        from = phase.until;
        if (!phase.wanted(at))
            continue;
        if (auto done = phase.run(at, own); !done)
            return done;
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "the evaluation was cancelled", at.opened.solved->file);
    }
    return {};
}

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
        readings.remarks.insert(readings.remarks.end(), remarks->begin(), remarks->end());

    const auto properties = propertiesOf(survey, entry, solved);
    const PartFields fields(solved, *opened.index, *quantities, properties);
    StepBefore before;
    Transience transience;
    transience.changes = context.changes;
    if (context.before != nullptr && context.before->index == opened.index && context.sinceBefore > 0)
        if (auto recognised = recognise(*context.before->solved, entry.quantities)) {
            before.quantities = std::move(*recognised);
            before.fields.emplace(*context.before->solved, *opened.index, *before.quantities, properties);
            transience.before = &*before.fields;
            transience.seconds = context.sinceBefore;
        }
    const auto given = environmentsIn(entry);
    const CaseHeat heat(fields, transience, given);
    Evaluation at{survey, entry, opened, step, context, *quantities, fields, heat, given, readings};
    if (auto done = runPhases(at, progress); !done)
        return tl::unexpected(done.error());
    return readings;
}

} // namespace pyro
