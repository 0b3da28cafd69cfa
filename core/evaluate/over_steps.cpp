#include "core/evaluate/over_steps.h"

#include "core/evaluate/gauge_evaluator.h"

#include "core/gauge/formula.h"
#include "core/limits/judge.h"
#include "core/quantities/gauge_keys.h"
#include "core/statistics/statistic_kind.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace pyro {
namespace {

Result<HistoryValue> overSteps(const History& history, const std::string& statistic) {
    const bool none = statistic.empty() || statistic == "history" || statistic == profileStatistic.name;
    const auto* kind = none ? &meanStatistic : statisticKind(statistic);
    if (kind != nullptr && kind->ofHistory != nullptr)
        return kind->ofHistory(history);
    std::vector<std::string_view> known;
    for (const auto* one : statisticKinds())
        if (one->ofHistory != nullptr)
            known.push_back(one->name);
    return fail(ErrorCode::NotSupported, fmt::format("over the steps there is no statistic \"{}\"", statistic), {},
                fmt::format("Use one of {}", fmt::join(known, ", ")));
}

Result<HistoryValue> tellOne(const Gauge& gauge, const History& history) {
    if (history.value.size() < 2)
        return fail(ErrorCode::NotSupported, "the case has one step only");
    if (gauge.rest.contains("over"))
        return overSteps(history, gauge.statistic);
    if (!history.timed)
        return fail(ErrorCode::NotSupported, "the steps of the case have no times");
    const auto time = statisticKind(gauge.statistic)->time(gauge, history);
    return time ? Result<HistoryValue>(HistoryValue{*time, "s"}) : tl::unexpected(time.error());
}

// Gauges over the steps and what formulas make of them.
class OverSteps {
public:
    OverSteps(const std::vector<Gauge>& gauges, const std::vector<Readings>& steps)
        : m_gauges(gauges), m_steps(steps) {}

    GaugeReading reading(std::size_t at) { return m_gauges[at].formula.empty() ? readOne(at) : readFormula(at); }

private:
    GaugeReading readOne(std::size_t at) const {
        const auto& gauge = m_gauges[at];
        GaugeReading reading;
        reading.id = gauge.id;
        const auto history = historyOf(at, m_steps);
        const auto gap = std::ranges::find_if(history.value, [](double value) { return std::isnan(value); });
        if (history.value.empty() || gap != history.value.end()) {
            const auto step = static_cast<std::size_t>(gap - history.value.begin());
            reading.why = history.value.empty() ? "no step could be read"
                                                : fmt::format("step {} could not be read: {}", m_steps[step].step,
                                                              m_steps[step].gauges[at].why);
        } else if (const auto told = tellOne(gauge, history)) {
            // A duration has its own unit, whatever the gauge's is.
            const bool asGauge = told->unit == history.unit;
            reading.unit = told->unit;
            reading.value = told->value;
            reading.isTemperature = told->isTemperature;
            if (told->step)
                reading.place = m_steps[*told->step].gauges[at].place;
            if (!asGauge && !gauge.unit.empty() && sameDimension(told->unit, gauge.unit))
                if (const auto converted = inUnit(told->value, told->unit, gauge.unit, false)) {
                    reading.value = *converted;
                    reading.unit = gauge.unit;
                }
        } else {
            reading.why = told.error().what;
        }
        return reading;
    }

    GaugeReading readFormula(std::size_t at) {
        const auto& gauge = m_gauges[at];
        GaugeReading reading;
        reading.id = gauge.id;
        if (std::ranges::find(m_open, at) != m_open.end()) {
            reading.why = fmt::format("\"{}\" depends on itself", gauge.id);
            return reading;
        }
        m_open.push_back(at);
        const auto result = evaluateFormula(gauge.formula, [this](const std::string& id) { return named(id); });
        m_open.pop_back();
        if (!result) {
            reading.why = result.error().text();
            return reading;
        }
        const auto siUnit = result->unit.text();
        const auto value = inUnit(result->si, siUnit, gauge.unit, result->isTemperature);
        if (!value || !std::isfinite(*value)) {
            reading.why = value ? "the result is not a finite number" : value.error().what;
            return reading;
        }
        reading.value = *value;
        reading.unit = gauge.unit.empty() ? siUnit : gauge.unit;
        reading.isTemperature = result->isTemperature;
        return reading;
    }

    // Of a gauge over the steps; of another one where all steps agree, as on an area or a constant.
    tl::expected<FormulaValue, std::string> named(const std::string& id) {
        const auto found = std::ranges::find(m_gauges, id, &Gauge::id);
        if (found == m_gauges.end())
            return tl::unexpected(fmt::format("there is no gauge \"{}\"", id));
        const auto at = static_cast<std::size_t>(found - m_gauges.begin());
        double value;
        std::string unit;
        bool isTemperature = false;
        if (readsOverSteps(m_gauges, *found)) {
            const auto told = reading(at);
            if (!told.value)
                return tl::unexpected(fmt::format("\"{}\" cannot be read: {}", id, told.why));
            value = *told.value;
            unit = told.unit;
            isTemperature = told.isTemperature;
        } else {
            const auto history = historyOf(at, m_steps);
            if (history.value.empty() || std::ranges::any_of(history.value, [](double one) { return std::isnan(one); }))
                return tl::unexpected(fmt::format("\"{}\" cannot be read on every step", id));
            const auto [low, high] = std::ranges::minmax(history.value);
            if (high - low > 1e-12 * std::max(std::abs(low), std::abs(high)))
                return tl::unexpected(fmt::format("\"{}\" has a value of its own on each step; read it over the steps "
                                                  "as well, for example their maximum",
                                                  id));
            value = history.value.front();
            unit = history.unit;
            isTemperature = history.isTemperature;
        }
        auto product = UnitProduct::of(unit);
        const auto toSi = product ? conversion(unit, product->text()) : Result<Affine>(tl::unexpected(product.error()));
        if (!toSi)
            return tl::unexpected(toSi.error().what);
        return FormulaValue{isTemperature ? (*toSi)(value) : toSi->difference(value), std::move(*product),
                            isTemperature};
    }

    const std::vector<Gauge>& m_gauges;
    const std::vector<Readings>& m_steps;
    std::vector<std::size_t> m_open; // formulas being read
};

} // namespace

std::vector<GaugeReading> readOverSteps(const std::vector<Gauge>& gauges, const std::vector<Readings>& steps) {
    std::vector<GaugeReading> out;
    OverSteps over(gauges, steps);
    for (std::size_t i = 0; i < gauges.size(); ++i)
        if (readsOverSteps(gauges, gauges[i]))
            out.push_back(over.reading(i));
    return out;
}

namespace {

bool isOverSteps(const std::vector<GaugeReading>& overSteps, const Limit& limit) {
    return limit.target.kind == TargetKind::Gauge &&
           std::ranges::find(overSteps, limit.target.name, &GaugeReading::id) != overSteps.end();
}

// What a limit over time follows: kelvin of a region's hottest place, or the gauge in its unit.
History followed(const Survey& survey, const Limit& limit, const std::vector<Readings>& steps) {
    if (limit.target.kind == TargetKind::Gauge) {
        const auto gauge = std::ranges::find(survey.gauges, limit.target.name, &Gauge::id);
        return gauge == survey.gauges.end() ? History{}
                                            : historyOf(static_cast<std::size_t>(gauge - survey.gauges.begin()), steps);
    }
    History out;
    out.unit = "K";
    out.isTemperature = true;
    out.timed = std::ranges::all_of(steps, [](const Readings& step) { return step.time.has_value(); });
    for (const auto& step : steps) {
        const auto& regions = limit.target.kind == TargetKind::Part ? step.parts : step.boundaries;
        const auto found = std::ranges::find(regions, limit.target.name, &RegionReading::name);
        out.time.push_back(out.timed ? *step.time : step.step);
        out.value.push_back(found != regions.end() && found->max ? found->max->kelvin : std::nan(""));
    }
    return out;
}

// How far beyond its limit a reading is, over the steps that tell it.
History excessOf(std::size_t limit, const std::vector<Readings>& steps) {
    History out;
    for (const auto& step : steps)
        if (limit < step.limits.size() && step.limits[limit].margin && step.time) {
            out.time.push_back(*step.time);
            out.value.push_back(-*step.limits[limit].margin);
        }
    return out;
}

} // namespace

void judgeTogether(const Survey& survey, const std::vector<GaugeReading>& overSteps, std::vector<Readings>& steps) {
    Readings together;
    together.gauges = overSteps;
    for (std::size_t i = 0; i < survey.limits.size(); ++i) {
        const auto& limit = survey.limits[i];
        std::optional<LimitReading> judged;
        if (limit.form->judgeHistory != nullptr)
            judged = judgeHistory(limit, followed(survey, limit, steps));
        else if (isOverSteps(overSteps, limit))
            judged = judgeLimit(limit, together);
        if (judged)
            for (auto& step : steps)
                step.limits[i] = *judged;
    }
}

std::vector<LimitReading> worstLimitsAgain(const Survey& survey, const std::vector<GaugeReading>& overSteps,
                                           const std::vector<Readings>& steps) {
    std::vector<Readings> again;
    for (const auto& step : steps) {
        Readings one{};
        one.step = step.step;
        one.time = step.time;
        one.gauges = step.gauges;
        one.parts = step.parts;
        one.boundaries = step.boundaries;
        one.ambient = step.ambient;
        for (const auto& limit : survey.limits)
            one.limits.push_back(judgeLimit(limit, one));
        again.push_back(std::move(one));
    }
    judgeTogether(survey, overSteps, again);
    return worstLimits(again);
}

std::vector<LimitReading> worstLimits(const std::vector<Readings>& steps) {
    std::vector<LimitReading> worst;
    for (const auto& step : steps)
        for (std::size_t i = 0; i < step.limits.size(); ++i) {
            if (i < worst.size() && !isWorse(step.limits[i], worst[i]))
                continue;
            if (i >= worst.size())
                worst.push_back(step.limits[i]);
            else
                worst[i] = step.limits[i];
            worst[i].step = step.step;
            worst[i].time = step.time;
        }
    for (std::size_t i = 0; i < worst.size(); ++i) {
        if (worst[i].form->judgeHistory != nullptr || worst[i].verdict != Verdict::Over)
            continue;
        const auto excess = excessOf(i, steps);
        if (excess.value.size() < 2)
            continue;
        worst[i].firstOver = crossing(excess, 0, true);
        worst[i].durationOver = durationAbove(excess, 0);
    }
    return worst;
}

} // namespace pyro
