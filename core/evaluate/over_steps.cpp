#include "core/evaluate/over_steps.h"

#include "core/evaluate/gauge_evaluator.h"

#include "core/gauge/formula.h"
#include "core/gauge/gauge_keys.h"
#include "core/thermal/limits.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

struct Told {
    double value;
    std::string unit;
    bool isTemperature = false;
    std::optional<std::size_t> step = {}; // of an extreme
};

double valueAt(const History& history, double time) {
    const auto after = static_cast<std::size_t>(std::ranges::upper_bound(history.time, time) - history.time.begin());
    const auto to = std::clamp<std::size_t>(after, 1, history.time.size() - 1);
    const double share = (time - history.time[to - 1]) / (history.time[to] - history.time[to - 1]);
    return history.value[to - 1] + share * (history.value[to] - history.value[to - 1]);
}

Result<Told> reduced(const History& history, std::string name) {
    if (name.empty() || name == "history" || name == "profile")
        name = "mean";
    const auto low = std::ranges::min_element(history.value);
    const auto high = std::ranges::max_element(history.value);
    const auto step = [&](auto at) { return static_cast<std::size_t>(at - history.value.begin()); };
    if (name == "min")
        return Told{*low, history.unit, history.isTemperature, step(low)};
    if (name == "max")
        return Told{*high, history.unit, history.isTemperature, step(high)};
    if (name == "range")
        return Told{*high - *low, history.unit};
    double integral = 0;
    double squares = 0;
    const double whole = history.time.back() - history.time.front();
    const auto trapezoid = [&](auto of) {
        double sum = 0;
        for (std::size_t i = 1; i < history.time.size(); ++i)
            sum += (history.time[i] - history.time[i - 1]) * (of(history.value[i]) + of(history.value[i - 1])) / 2;
        return sum;
    };
    integral = trapezoid([](double value) { return value; });
    if (name == "integral") {
        const auto unit = UnitProduct::of(history.unit);
        const auto seconds = UnitProduct::of("s");
        if (!history.timed || !unit || !seconds)
            return fail(ErrorCode::NotSupported, "an integral over the steps needs their times");
        return Told{integral, (*unit * *seconds).text()};
    }
    const double mean = whole > 0 ? integral / whole : history.value.front();
    if (name == "mean")
        return Told{mean, history.unit, history.isTemperature};
    if (name == "deviation") {
        squares = trapezoid([mean](double value) { return (value - mean) * (value - mean); });
        return Told{whole > 0 ? std::sqrt(squares / whole) : 0, history.unit};
    }
    return fail(ErrorCode::NotSupported, fmt::format("over the steps there is no statistic \"{}\"", name), {},
                "Use mean, min, max, range, deviation or integral");
}

Result<double> levelOf(const Gauge& gauge, const History& history, const char* key) {
    const auto found = gauge.rest.find(key);
    if (found == gauge.rest.end())
        return fail(ErrorCode::WrongType, fmt::format("the {} is missing", key), key,
                    "Write it with its unit, for example 85 degC");
    const auto number = splitMeasured(found->is_string() ? found->get<std::string>() : found->dump());
    if (!number)
        return tl::unexpected(number.error());
    const auto si = UnitProduct::of(history.unit);
    if (!si)
        return tl::unexpected(si.error());
    // bare numbers are SI
    const auto converted = conversion(number->unit.empty() ? si->text() : number->unit, history.unit);
    if (!converted)
        return tl::unexpected(converted.error());
    return (*converted)(number->value);
}

// When the history first reaches the level from where it begins.
std::optional<double> crossing(const History& history, double level, bool upwardsOnly) {
    if (history.value.front() == level || (upwardsOnly && history.value.front() > level))
        return history.time.front();
    for (std::size_t i = 1; i < history.value.size(); ++i) {
        const double before = history.value[i - 1] - level;
        const double here = history.value[i] - level;
        if (here == 0 || (before < 0) != (here < 0)) {
            if (upwardsOnly && before > 0)
                continue;
            return history.time[i - 1] + (history.time[i] - history.time[i - 1]) * before / (before - here);
        }
    }
    return std::nullopt;
}

double durationAbove(const History& history, double level) {
    double sum = 0;
    for (std::size_t i = 1; i < history.value.size(); ++i) {
        const double span = history.time[i] - history.time[i - 1];
        const double a = history.value[i - 1] - level;
        const double b = history.value[i] - level;
        if (a > 0 && b > 0)
            sum += span;
        else if (a > 0 || b > 0)
            sum += span * std::max(a, b) / std::abs(a - b);
    }
    return sum;
}

Result<double> finalValue(const Gauge& gauge, const History& history) {
    if (gauge.rest.contains("final"))
        return levelOf(gauge, history, "final");
    const double first = history.value.front();
    const double middle = valueAt(history, (history.time.front() + history.time.back()) / 2);
    const double last = history.value.back();
    const double bend = first + last - 2 * middle;
    if (std::abs(bend) < 1e-9 * std::max(std::abs(first - last), 1e-300) || (middle - first) * (last - middle) <= 0 ||
        std::abs(last - middle) >= std::abs(middle - first))
        return fail(ErrorCode::NotSupported,
                    "the history does not approach a final value, so that it has no time constant", {},
                    "Give the final value by the key \"final\"");
    return (first * last - middle * middle) / bend;
}

Result<double> timeConstant(const Gauge& gauge, const History& history) {
    const auto end = finalValue(gauge, history);
    if (!end)
        return tl::unexpected(end.error());
    const double span = history.value.front() - *end;
    double tt = 0;
    double ty = 0;
    for (std::size_t i = 1; i < history.value.size(); ++i) {
        const double left = (history.value[i] - *end) / span;
        const double t = history.time[i] - history.time.front();
        if (left < 0.02) // what is left of the approach is lost in rounding and in the end value's own error
            continue;
        tt += t * t;
        ty += t * std::log(left);
    }
    if (!(ty < 0))
        return fail(ErrorCode::NotSupported,
                    "the history does not approach its final value, so that it has no time constant");
    return -tt / ty;
}

Result<Told> tellOne(const Gauge& gauge, const History& history) {
    if (history.value.size() < 2)
        return fail(ErrorCode::NotSupported, "the case has one step only");
    if (gauge.rest.contains("over"))
        return reduced(history, gauge.statistic);
    if (!history.timed)
        return fail(ErrorCode::NotSupported, "the steps of the case have no times");
    if (gauge.statistic == "time_constant") {
        const auto tau = timeConstant(gauge, history);
        return tau ? Result<Told>(Told{*tau, "s"}) : tl::unexpected(tau.error());
    }
    const auto level = levelOf(gauge, history, "level");
    if (!level)
        return tl::unexpected(level.error());
    if (gauge.statistic == "duration_above")
        return Told{durationAbove(history, *level), "s"};
    const auto at = crossing(history, *level, gauge.statistic == "first_above");
    if (!at)
        return fail(ErrorCode::NotSupported, fmt::format("the level {:g} {} is not reached", *level, history.unit));
    return Told{*at, "s"};
}

} // namespace

History historyOf(std::size_t gauge, const std::vector<Readings>& steps) {
    History out;
    out.timed = std::ranges::all_of(steps, [](const Readings& step) { return step.time.has_value(); });
    for (const auto& step : steps) {
        if (gauge >= step.gauges.size())
            continue;
        const auto& reading = step.gauges[gauge];
        out.time.push_back(out.timed ? *step.time : step.step);
        out.value.push_back(reading.value.value_or(std::nan("")));
        if (reading.value) {
            out.unit = reading.unit;
            out.isTemperature = reading.isTemperature;
        }
    }
    return out;
}

namespace {

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
        double value = std::nan("");
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
            const auto [low, high] = std::ranges::minmax(history.value);
            if (history.value.empty() || std::isnan(low) || std::isnan(high))
                return tl::unexpected(fmt::format("\"{}\" cannot be read on every step", id));
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

// What a limit's duration counts: kelvin of a region's hottest place, or the gauge in its unit.
History heatOf(const Survey& survey, const Limit& limit, const std::vector<Readings>& steps) {
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

LimitReading judgeDuration(const Survey& survey, const Limit& limit, const std::vector<Readings>& steps) {
    auto unknown = [&](std::string why) {
        auto reading = judgeLimit(limit, {});
        reading.why = std::move(why);
        return reading;
    };
    const auto history = heatOf(survey, limit, steps);
    if (history.value.size() < 2 || !history.timed)
        return unknown("a duration needs several steps with times");
    if (std::ranges::any_of(history.value, [](double value) { return std::isnan(value); }))
        return unknown("some steps tell no value of it");
    double level = limit.level ? limit.level->si : 0;
    const auto si = UnitProduct::of(history.unit);
    if (const auto number = limit.level ? splitMeasured(limit.level->text) : tl::unexpected(Error{}); number && si) {
        // bare numbers are SI
        const auto converted = conversion(number->unit.empty() ? si->text() : number->unit, history.unit);
        if (!converted)
            return unknown(converted.error().what);
        level = (*converted)(number->value);
    }
    auto reading = judgeValue(limit, durationAbove(history, level), "s");
    reading.firstOver = crossing(history, level, true);
    return reading;
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
        if (limit.form == LimitForm::DurationAbove)
            judged = judgeDuration(survey, limit, steps);
        else if (isOverSteps(overSteps, limit))
            judged = judgeLimit(limit, together);
        if (judged)
            for (auto& step : steps)
                step.limits[i] = *judged;
    }
}

bool needsFields(const Limit& limit) {
    return limit.form == LimitForm::Gradient || limit.form == LimitForm::ShareAbove;
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
        if (worst[i].form == LimitForm::DurationAbove || worst[i].verdict != Verdict::Over)
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
