#include "core/report/chart_data.h"

#include "core/evaluate/gauge_evaluator.h"
#include "core/evaluate/over_steps.h"
#include "core/feedback/csv_rows.h"
#include "core/units/display.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace pyro {
namespace {

const GaugeReading* readingOf(const Readings* readings, const std::string& id) {
    if (readings == nullptr)
        return nullptr;
    const auto found = std::ranges::find(readings->gauges, id, &GaugeReading::id);
    return found == readings->gauges.end() ? nullptr : &*found;
}

// A unit as it stands on an axis.
std::string onAxis(const std::string& unit) {
    static constexpr std::array<std::pair<const char*, const char*>, 3> shown{
        {{"degC", "\u00b0C"}, {"degF", "\u00b0F"}, {"1", ""}}};
    for (const auto& [udunits, text] : shown)
        if (unit == udunits)
            return text;
    return unit;
}

std::string titled(const std::string& name, const std::string& unit) {
    return unit.empty() ? name : fmt::format("{}, {}", name, unit);
}

std::string spoken(std::string name) {
    std::ranges::replace(name, '_', ' ');
    if (!name.empty())
        name[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(name[0])));
    return name;
}

double interpolated(const Curve& curve, double x) {
    if (curve.x.size() < 2 || x < curve.x.front() || x > curve.x.back())
        return std::nan("");
    const auto to = std::clamp<std::size_t>(
        static_cast<std::size_t>(std::ranges::upper_bound(curve.x, x) - curve.x.begin()), 1, curve.x.size() - 1);
    const double span = curve.x[to] - curve.x[to - 1];
    return span > 0 ? curve.y[to - 1] + (x - curve.x[to - 1]) / span * (curve.y[to] - curve.y[to - 1]) : curve.y[to];
}

class ChartMaker {
public:
    ChartMaker(const ChartView& view, const Survey& survey, std::span<const ChartCase> cases)
        : m_view(view), m_survey(survey), m_cases(cases) {}

    ChartData run(const std::string& chosen) {
        auto ids = m_view.gauges;
        if (ids.empty() && !chosen.empty())
            ids.push_back(chosen);
        for (const auto& id : ids)
            for (const auto& one : m_cases)
                add(id, one, ids.size() > 1);
        scaleX();
        addReferences();
        if (m_view.difference)
            subtractFirst();
        name(ids);
        return std::move(m_out);
    }

private:
    void add(const std::string& id, const ChartCase& from, bool several) {
        const auto* now = readingOf(from.now.get(), id);
        const auto at = std::ranges::find(m_survey.gauges, id, &Gauge::id);
        if (at == m_survey.gauges.end()) {
            remark(fmt::format("there is no gauge \"{}\"", id));
            return;
        }
        Curve curve;
        curve.gauge = id;
        curve.title = m_cases.size() == 1 ? id : several ? fmt::format("{}, {}", id, from.name) : from.name;
        std::string unit;
        bool isTemperature = false;
        const bool profile = now != nullptr && now->profile;
        if (profile) {
            if (!placeOnX(*now->profile, from, curve))
                return;
            curve.y = now->profile->value;
            curve.distance = now->profile->s;
            curve.at = now->profile->at;
            unit = now->unit;
            isTemperature = now->isTemperature;
        } else if (from.steps.size() > 1) {
            const auto history = historyOf(static_cast<std::size_t>(at - m_survey.gauges.begin()), from.steps);
            curve.x = history.time;
            curve.y = history.value;
            unit = history.unit;
            isTemperature = history.isTemperature;
            m_timed = m_timed && history.timed;
        } else {
            if (now != nullptr && !now->read())
                remark(fmt::format("{} on {}: {}", id, from.name, now->why));
            return;
        }
        if (std::ranges::all_of(curve.y, [](double y) { return std::isnan(y); }))
            return;
        if (m_out.curves.empty()) {
            m_unit = unit;
            m_out.isHistory = !profile;
            if (profile && m_view.xOver.empty())
                markParts(*now->profile, curve.x, from.parts);
        }
        if (m_out.isHistory == profile)
            return remark(
                fmt::format("{} is {} and has no place on this axis", id, profile ? "a profile" : "a history"));
        for (auto& y : curve.y) {
            const auto converted = inUnit(y, unit, m_unit, isTemperature);
            if (!converted)
                return remark(fmt::format("{} is in {} and does not fit an axis in {}", id, unit, m_unit));
            y = *converted;
        }
        m_out.curves.push_back(std::move(curve));
    }

    // The distance along the line, a coordinate, or the values of another profile at the same places.
    bool placeOnX(const Profile& profile, const ChartCase& from, Curve& curve) {
        if (!m_view.xOver.empty()) {
            const auto* over = readingOf(from.now.get(), m_view.xOver);
            if (over == nullptr || !over->profile || over->profile->value.size() != profile.value.size()) {
                remark(fmt::format("{} on {} is drawn over {}, which is no profile along the same line", curve.gauge,
                                   from.name, m_view.xOver));
                return false;
            }
            curve.x = over->profile->value;
            m_overUnit = over->unit;
            return true;
        }
        const auto axis = std::string_view("xyz").find(m_view.xAxis.empty() ? ' ' : m_view.xAxis[0]);
        for (std::size_t i = 0; i < profile.s.size(); ++i)
            curve.x.push_back(1e3 * (axis == std::string_view::npos ? profile.s[i] : profile.at[i][axis]));
        return true;
    }

    void markParts(const Profile& profile, const std::vector<double>& x, const std::vector<std::string>& parts) {
        for (std::size_t i = 1; i < profile.part.size(); ++i)
            if (profile.part[i] != profile.part[i - 1])
                m_out.marks.emplace_back(0.5 * (x[i] + x[i - 1]),
                                         profile.part[i] < parts.size() ? parts[profile.part[i]] : "outside");
    }

    void scaleX() {
        if (!m_out.isHistory) {
            m_xTitle = !m_view.xOver.empty()  ? titled(m_view.xOver, onAxis(m_overUnit))
                       : m_view.xAxis.empty() ? std::string("Distance, mm")
                                              : m_view.xAxis + ", mm";
            if (m_view.xScale.empty() || !m_view.xOver.empty())
                return;
            const auto* over = m_cases.empty() ? nullptr : readingOf(m_cases[0].now.get(), m_view.xScale);
            const auto metres = over != nullptr && over->value
                                    ? inUnit(*over->value, over->unit, "m", false)
                                    : Result<double>(fail(ErrorCode::NotSupported, "it has no value"));
            if (!metres || !(*metres > 0))
                return remark(fmt::format("distances are not divided by {}: {}", m_view.xScale,
                                          metres ? "it is not positive" : metres.error().what));
            for (auto& curve : m_out.curves)
                for (auto& x : curve.x)
                    x /= 1e3 * *metres;
            for (auto& mark : m_out.marks)
                mark.first /= 1e3 * *metres;
            m_xTitle = fmt::format("{} over {}", m_view.xAxis.empty() ? "Distance" : m_view.xAxis, m_view.xScale);
            return;
        }
        double reach = 0;
        for (const auto& curve : m_out.curves)
            reach = std::max(reach, curve.x.empty() ? 0.0 : curve.x.back());
        const double unit = reach > 4 * 3600 ? 3600 : reach > 600 ? 60 : 1;
        m_xTitle = !m_timed ? "Step" : unit == 3600 ? "Time, h" : unit == 60 ? "Time, min" : "Time, s";
        for (auto& curve : m_out.curves)
            for (auto& x : curve.x)
                x /= m_timed ? unit : 1;
    }

    void addReferences() {
        for (const auto& reference : m_view.references) {
            const auto* facts = correlationNamed(reference.correlation);
            if (facts == nullptr) {
                remark(fmt::format("the reference curve \"{}\" is not known", reference.correlation));
                continue;
            }
            if (m_out.curves.empty() || m_out.isHistory)
                continue;
            const bool nusselt = sameDimension(m_unit, "1");
            const auto toAxis = nusselt ? Affine{} : conversion("W/(m2.K)", m_unit).value_or(Affine{0, 0});
            if (toAxis.scale == 0) {
                remark(fmt::format("{} tells film coefficients, which do not fit an axis in {}", facts->title, m_unit));
                continue;
            }
            addReference(reference, *facts, nusselt, toAxis);
        }
    }

    void addReference(const ReferenceCurve& reference, const CorrelationFacts& facts, bool nusselt,
                      const Affine& toAxis) {
        Curve curve;
        curve.isReference = true;
        curve.title = std::string(facts.title);
        if (const auto same = std::ranges::count_if(
                m_out.curves, [&](const Curve& one) { return one.isReference && one.title.starts_with(facts.title); });
            same > 0)
            curve.title += fmt::format(" ({})", same + 1);
        std::string outside;
        const auto& along = m_out.curves.front();
        for (std::size_t i = 0; i < along.x.size(); ++i) {
            const double x = along.x[i];
            const double metres = along.distance[i];
            const auto value = correlate(facts.correlation, reference.conditions, metres - reference.start);
            if (!value && facts.alongPlace && metres - reference.start <= 0) {
                curve.x.push_back(x);
                curve.y.push_back(std::nan(""));
                continue;
            }
            if (!value)
                return remark(fmt::format("{}: {}", facts.title, value.error().what));
            curve.x.push_back(x);
            curve.y.push_back(toAxis(nusselt ? value->nusselt : value->filmCoefficient));
            if (outside.empty())
                outside = value->outside;
        }
        if (!outside.empty())
            remark(fmt::format("{} holds for {}; here {}", facts.title, facts.range, outside));
        m_out.curves.push_back(std::move(curve));
    }

    void subtractFirst() {
        if (m_out.curves.size() < 2)
            return;
        const auto first = m_out.curves.front();
        m_out.curves.erase(m_out.curves.begin());
        for (auto& curve : m_out.curves) {
            for (std::size_t i = 0; i < curve.x.size(); ++i)
                curve.y[i] -= interpolated(first, curve.x[i]);
            curve.title = fmt::format("{} \u2212 {}", curve.title, first.title);
        }
        m_difference = true;
    }

    void name(const std::vector<std::string>& ids) {
        std::string quantity;
        for (const auto& gauge : m_survey.gauges)
            if (!ids.empty() && gauge.id == ids.front())
                quantity = gauge.formula.empty() ? gauge.quantity : gauge.id;
        auto unit = onAxis(m_unit);
        if (m_difference && (m_unit == "degC" || m_unit == "K"))
            unit = std::string("K");
        m_out.xTitle = m_view.xTitle.empty() ? m_xTitle : m_view.xTitle;
        m_out.yTitle = m_view.yTitle.empty()
                           ? titled(m_difference ? fmt::format("Difference, {}", spoken(quantity)) : spoken(quantity),
                                    unit)
                           : m_view.yTitle;
        m_out.title = m_view.title.empty() ? fmt::format("{}", fmt::join(ids, ", ")) : m_view.title;
    }

    void remark(std::string text) {
        if (std::ranges::find(m_out.remarks, text) == m_out.remarks.end())
            m_out.remarks.push_back(std::move(text));
    }

    const ChartView& m_view;
    const Survey& m_survey;
    std::span<const ChartCase> m_cases;
    ChartData m_out;
    std::string m_unit;
    std::string m_xTitle;
    std::string m_overUnit; // of the profile on the x axis
    bool m_timed = true;
    bool m_difference = false;
};

} // namespace

ChartData chartData(const ChartView& view, const std::string& chosen, const Survey& survey,
                    std::span<const ChartCase> cases) {
    return ChartMaker(view, survey, cases).run(chosen);
}

ChartData historyChart(const SolverHistory& history, const std::vector<std::string>& titles, ChartView& view) {
    ChartData chart;
    chart.isHistory = true;
    chart.xTitle = history.along;
    chart.title = fmt::format("{}", fmt::join(titles, ", "));
    double low = std::numeric_limits<double>::infinity();
    double high = 0;
    for (const auto& column : history.columns) {
        if (std::ranges::find(titles, column.title) == titles.end())
            continue;
        Curve curve;
        curve.title = column.title;
        curve.x = history.at;
        curve.y = column.values;
        for (const double y : curve.y)
            if (std::isfinite(y)) {
                low = std::min(low, y);
                high = std::max(high, y);
            }
        chart.curves.push_back(std::move(curve));
    }
    constexpr double decades = 1000;
    view.logY = low > 0 && high >= decades * low;
    chart.yTitle = titles.size() == 1 ? titles.front() : std::string("monitored");
    return chart;
}

std::string chartCsv(const ChartData& chart) {
    std::string text = csvLine({"curve", chart.xTitle, chart.yTitle, "x_m", "y_m", "z_m"});
    for (const auto& curve : chart.curves)
        for (std::size_t i = 0; i < curve.x.size(); ++i) {
            CsvRow row{curve.title, fmt::format("{:.12g}", curve.x[i]),
                       std::isfinite(curve.y[i]) ? fmt::format("{:.12g}", curve.y[i]) : ""};
            for (std::size_t axis = 0; axis < 3; ++axis)
                row.push_back(i < curve.at.size() ? fmt::format("{:.9g}", curve.at[i][axis]) : "");
            text += csvLine(row);
        }
    return text;
}

} // namespace pyro
