#include "core/estimate/estimate.h"

#include "core/estimate/crossing.h"
#include "core/limits/judge.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace pyro {
namespace {

constexpr double mostShift = 1000; // K, beyond it no ambient is looked for
constexpr double mostPower = 1000; // times the case's

HeatCauses moved(HeatCauses causes, double shift, double power) {
    for (auto& [name, kelvin] : causes.temperatures)
        kelvin += shift;
    for (auto* heats : {&causes.produced, &causes.imposed})
        for (auto& [name, watt] : *heats)
            watt *= power;
    return causes;
}

// What is written of another case, besides what may differ.
bool sameBesides(CaseEntry a, CaseEntry b) {
    for (auto* entry : {&a, &b}) {
        entry->name = entry->file = entry->history = {};
        entry->ambient.reset();
        entry->series.reset();
        entry->rest = Json::object();
        for (auto& [name, note] : entry->parts)
            note.power.reset(), note.label = {};
        for (auto& [name, note] : entry->boundaries)
            note.temperature.reset(), note.label = {};
        std::erase_if(entry->parts, [](const auto& one) { return one.second == PartNote{}; });
        std::erase_if(entry->boundaries, [](const auto& one) { return one.second == BoundaryNote{}; });
    }
    return a == b;
}

// A constant temperature that something is told against moves with the environments.
void shiftReferences(Survey& survey, double shift) {
    for (auto& gauge : survey.gauges)
        if (const auto found = gauge.rest.find("reference");
            found != gauge.rest.end() && (found->is_string() || found->is_number()))
            if (const auto kelvin = parseTemperature(found->is_string() ? found->get<std::string>() : found->dump()))
                *found = kelvin->kelvin + shift;
    for (auto& limit : survey.limits)
        if (limit.above)
            limit.above->si += shift;
}

class Estimator {
public:
    Estimator(const Survey& survey, const CaseEntry& entry, const OpenedCase& opened, const Step& step,
              const Readings& readings, const EstimateTools& tools, Progress& progress)
        : m_survey(survey), m_entry(entry), m_step(step), m_readings(readings), m_tools(tools), m_progress(progress) {
        m_survey.estimate.reset();
        m_quantities = recognise(*opened.solved, entry.quantities).value_or(QuantityList{});
        m_cases.push_back({opened, m_quantities});
        m_causes.push_back(causesOf(*opened.solved, m_quantities, readings));
        m_names.push_back(entry.name);
    }

    Result<Estimate> run(const EstimateWish& wish) {
        Estimate out;
        out.from = m_readings.ambient;
        out.power = wish.power ? wish.power->si : 1;
        out.why = whyRefused(wish);
        if (!out.why.empty())
            return withoutLimits(std::move(out));
        m_shift = wish.ambient ? wish.ambient->si - *out.from : 0;
        m_power = out.power;
        if (out.from)
            out.ambient = *out.from + m_shift;
        const auto whyNoPower = prepareForPower();
        if (!whyNoPower.empty() && m_power != 1) {
            out.why = whyNoPower;
            out.whyNoPower = whyNoPower;
            return withoutLimits(std::move(out));
        }
        if (m_progress.cancelled())
            return fail(ErrorCode::Cancelled, "the estimate was cancelled", m_entry.name);
        out.whyNoPower = whyNoPower;
        fill(out, whyNoPower.empty());
        return out;
    }

private:
    std::string whyRefused(const EstimateWish& wish) const {
        if (!m_readings.nonlinear.empty())
            return fmt::format("temperatures are not in proportion to ambient and power: {}",
                               m_readings.nonlinear.front());
        if (!wish.ambient || m_readings.ambient)
            return {};
        const auto known = environmentsText();
        return known.empty()
                   ? "the ambient temperature of the case is not known; give it one"
                   : fmt::format(
                         "the environments have several temperatures ({}); give the case the one that is its ambient",
                         known);
    }

    Estimate withoutLimits(Estimate out) const {
        for (const auto& known : m_readings.limits) {
            EstimatedLimit one{known, {{}, out.why}, {{}, out.why}};
            one.reading.value.reset();
            one.reading.margin.reset();
            one.reading.relativeMargin.reset();
            one.reading.place.reset();
            one.reading.verdict = Verdict::Unknown;
            one.reading.why = out.why;
            out.limits.push_back(std::move(one));
        }
        if (out.whyNoPower.empty())
            out.whyNoPower = out.why;
        return out;
    }

    // Brings together what is needed to tell the power from the environments; why not otherwise.
    std::string prepareForPower() {
        if (m_tools.changes)
            return "the case changes with time: what its temperatures owe to the power and what to their start is not "
                   "known apart";
        const auto& own = m_causes[0];
        if (!own.lacking.empty())
            return own.lacking;
        if (surroundings())
            return {};
        if (own.temperatures.empty())
            return "neither the ambient temperature nor an environment of the case is known";
        if (own.produced.empty() && own.imposed.empty())
            return "no power of the case is known";
        for (const auto& entry : m_survey.cases) {
            if (entry.name == m_entry.name || !m_tools.otherCase || m_progress.cancelled())
                continue;
            if (takeOther(entry) && weights(0, 0.5))
                return {};
        }
        std::string others;
        for (const auto& why : m_whyNot)
            others += (others.empty() ? ": " : "; ") + why;
        return fmt::format("the environments have several temperatures ({}), and no other solved case on this mesh "
                           "tells the power apart from them{}",
                           environmentsText(), others);
    }

    // The one temperature of all surroundings, K. Where no environment is known the written ambient is taken for it.
    std::optional<double> surroundings() const {
        const auto& known = m_causes[0];
        if (known.temperatures.empty())
            return m_readings.ambient;
        return known.haveOneTemperature() ? std::optional(known.temperatures.begin()->second) : std::nullopt;
    }

    std::string environmentsText() const {
        std::string text;
        for (const auto& [boundary, kelvin] : m_causes[0].temperatures)
            text += fmt::format("{}{} {:.4g} degC", text.empty() ? "" : ", ", boundary, kelvin - 273.15);
        return text;
    }

    bool takeOther(const CaseEntry& entry) {
        const auto leave = [&](const std::string& why) {
            m_whyNot.push_back(entry.name + " " + why);
            return false;
        };
        if (!sameBesides(m_entry, entry))
            return leave("has other properties or film coefficients");
        auto opened = m_tools.otherCase(entry, m_progress);
        if (!opened)
            return leave("could not be used: " + opened.error().what);
        auto quantities = recognise(*opened->solved, entry.quantities);
        if (!quantities)
            return leave("could not be used: " + quantities.error().what);
        SolvedCase other{std::move(*opened), std::move(*quantities)};
        if (const auto can = addable(m_cases[0], other); !can)
            return leave("cannot be added: " + can.error().what);
        auto plain = m_survey;
        plain.gauges.clear();
        plain.limits.clear();
        const auto readings = m_tools.evaluate(plain, entry, other.opened, {}, true, m_progress);
        if (!readings)
            return leave("could not be used: " + readings.error().what);
        auto causes = causesOf(*other.opened.solved, other.quantities, *readings);
        if (!causes.lacking.empty())
            return leave("could not be used: " + causes.lacking);
        m_cases.push_back(std::move(other));
        m_causes.push_back(std::move(causes));
        m_names.push_back(entry.name);
        return true;
    }

    // Of the state with all environments warmer by `shift` and `power` times the heat.
    std::optional<Weights> weights(double shift, double power) const {
        if (power == 1) {
            Weights plain{std::vector<double>(m_cases.size(), 0), shift};
            plain.ofCases[0] = 1;
            return plain;
        }
        if (const auto around = surroundings()) {
            Weights alone{std::vector<double>(m_cases.size(), 0), shift + (1 - power) * *around};
            alone.ofCases[0] = power;
            return alone;
        }
        auto found = weightsFor(m_causes, moved(m_causes[0], shift, power));
        if (found)
            found->ofCases.resize(m_cases.size(), 0);
        return found;
    }

    // The limits at another state, of one alone when `only` is set.
    std::vector<LimitReading> readAt(double shift, double power, std::optional<std::size_t> only = {}) const {
        const auto found = weights(shift, power);
        if (!found)
            return {};
        const auto field = combined(m_cases, *found);
        auto survey = m_survey;
        shiftReferences(survey, shift);
        if (only) {
            const auto limit = survey.limits[*only];
            if (limit.target.kind != TargetKind::Gauge && limit.than.empty())
                survey.gauges.clear();
            survey.limits = {limit};
        }
        auto entry = m_entry;
        if (const auto* temperature = m_quantities.named("temperature")) // not guessed anew from other values
            entry.quantities["temperature"].unit = temperature->unit;
        if (entry.ambient)
            entry.ambient->si += shift;
        for (auto& [name, note] : entry.parts)
            if (note.power)
                note.power->si *= power;
        for (auto& [name, note] : entry.boundaries)
            if (note.temperature)
                note.temperature->si += shift;
        NoProgress quiet;
        auto readings = m_tools.evaluate(survey, entry, field, m_step, false, quiet);
        return readings ? readings->limits : std::vector<LimitReading>();
    }

    std::optional<double> marginAt(std::size_t limit, double shift, double power) {
        const std::pair key{shift, power};
        const auto known = m_known.find(key);
        if (known != m_known.end())
            return known->second[limit].margin;
        const auto read = readAt(shift, power, limit);
        return read.size() == 1 ? read[0].margin : std::nullopt;
    }
    void readAll(double shift, double power) {
        auto read = readAt(shift, power);
        if (read.size() == m_survey.limits.size())
            m_known[{shift, power}] = std::move(read);
    }

    double powerStep() const { return 0.01 * std::max(m_power, 1.0); }

    LevelAtLimit ambientAt(std::size_t limit, const Estimate& out) {
        if (!out.from)
            return {{}, "the ambient temperature of the case is not known"};
        const CrossingSearch search{m_shift, 1, -*out.from, mostShift, 1e-5, out.limits[limit].reading.isMaximum};
        const auto found = crossing([&](double shift) { return marginAt(limit, shift, m_power); }, search);
        if (!found)
            return {{},
                    out.limits[limit].reading.value ? "it does not follow the ambient" : out.limits[limit].reading.why};
        return {*out.from + *found, {}};
    }
    LevelAtLimit powerAt(std::size_t limit, const Estimate& out) {
        const CrossingSearch search{m_power, powerStep(), 0, mostPower, 1e-7, out.limits[limit].reading.isMaximum};
        const auto found = crossing([&](double power) { return marginAt(limit, m_shift, power); }, search);
        if (found)
            return {*found, {}};
        if (!out.limits[limit].reading.value)
            return {{}, out.limits[limit].reading.why};
        return {{},
                out.limits[limit].reading.verdict == Verdict::Over ? "over with no power as well"
                                                                   : "it does not follow the power"};
    }

    void fill(Estimate& out, bool powerKnown) {
        for (const auto& [boundary, kelvin] : m_causes[0].temperatures)
            out.environments.push_back(
                {boundary, kelvin, kelvin + m_shift, out.from && std::abs(kelvin - *out.from) < 0.01});
        readAll(m_shift, m_power);
        readAll(m_shift + 1, m_power);
        if (powerKnown)
            readAll(m_shift, m_power + powerStep());
        const auto& read = m_known[{m_shift, m_power}];
        for (std::size_t i = 0; i < read.size(); ++i)
            out.limits.push_back({read[i], {}, {}});
        for (std::size_t i = 0; i < out.limits.size() && !m_progress.cancelled(); ++i) {
            auto& one = out.limits[i];
            m_progress.report(static_cast<double>(i) / static_cast<double>(out.limits.size()),
                              "estimating " + m_entry.name);
            one.ambient = ambientAt(i, out);
            one.power = powerKnown ? powerAt(i, out) : LevelAtLimit{{}, out.whyNoPower};
            if (!one.reading.isMaximum)
                continue;
            if (one.ambient.value &&
                (!out.firstByAmbient || *one.ambient.value < *out.limits[*out.firstByAmbient].ambient.value))
                out.firstByAmbient = i;
            if (one.power.value && (!out.firstByPower || *one.power.value < *out.limits[*out.firstByPower].power.value))
                out.firstByPower = i;
        }
        tellNoPower(out);
        const auto used = weights(m_shift, m_power == 1 ? 0.5 : m_power);
        for (std::size_t i = 0; i < m_names.size(); ++i)
            if (i == 0 || (powerKnown && used && std::abs(used->ofCases[i]) > 1e-12))
                out.basis.push_back(m_names[i]);
    }

    // A limit that is over without any power decides: no power is allowed.
    static void tellNoPower(Estimate& out) {
        if (!out.whyNoPower.empty())
            return;
        const auto never = std::ranges::find_if(out.limits, [](const EstimatedLimit& one) {
            return one.reading.verdict == Verdict::Over && !one.power.value;
        });
        if (never != out.limits.end()) {
            out.firstByPower.reset();
            out.whyNoPower = fmt::format("{} is over with no power as well", never->reading.target.name);
        } else if (!out.firstByPower)
            out.whyNoPower = "no limit is reached with more power";
    }

    Survey m_survey;
    const CaseEntry& m_entry;
    const Step& m_step;
    const Readings& m_readings;
    const EstimateTools& m_tools;
    Progress& m_progress;
    QuantityList m_quantities;
    double m_shift = 0;
    double m_power = 1;
    std::vector<SolvedCase> m_cases; // this one, then those that tell causes apart
    std::vector<HeatCauses> m_causes;
    std::vector<std::string> m_names;
    std::vector<std::string> m_whyNot; // other cases were taken
    std::map<std::pair<double, double>, std::vector<LimitReading>> m_known;
};

} // namespace

Result<Estimate> estimateOf(const Survey& survey, const CaseEntry& entry, const OpenedCase& opened, const Step& step,
                            const Readings& readings, const EstimateTools& tools, Progress& progress) {
    Estimator estimator(survey, entry, opened, step, readings, tools, progress);
    return estimator.run(survey.estimate.value_or(EstimateWish{}));
}

} // namespace pyro
