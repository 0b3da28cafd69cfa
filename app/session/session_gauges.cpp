// Gauges in the window: which one is chosen, their readings on all cases and over all steps.

#include "app/session/session.h"

#include "core/evaluate/over_steps.h"
#include "core/survey/gauge_edit.h"
#include "core/trust/marked_cells.h"

#include <algorithm>

namespace pyro {

void Session::markCells(const Check* check) {
    constexpr std::size_t mostOutlined = 1500;
    const auto* state = activeCase();
    m_selection.markEdges(check != nullptr && check->cells && state != nullptr && state->opened
                              ? outlinesOf(*state->opened->solved, *check->cells, mostOutlined)
                              : std::vector<std::array<Point, 2>>());
}

void Session::addGauge(const Json& where) {
    Gauge gauge;
    gauge.where.written = where;
    const auto picture = seenPicture();
    gauge.quantity = picture ? picture->quantity.name : "temperature";
    if (gauge.quantity == "temperature")
        gauge.unit = udunitsName(view().unit);
    else if (const auto shown = view().units.find(gauge.quantity); shown != view().units.end())
        gauge.unit = shown->second;
    auto next = withGauge(survey(), std::move(gauge));
    const auto id = next.gauges.back().id;
    m_selection.expectGauge(id);
    edit("Add gauge " + QString::fromStdString(id), std::move(next));
    emit changed(Change::Selection);
}

void Session::addHeatThrough(const std::string& boundary) {
    Gauge gauge;
    gauge.where.written = {{"boundary", boundary}};
    gauge.quantity = "heat_flux";
    gauge.statistic = "integral";
    gauge.unit = "W";
    const auto same = std::ranges::find_if(survey().gauges, [&](const Gauge& one) {
        return one.where == gauge.where && one.quantity == gauge.quantity && one.statistic == gauge.statistic;
    });
    if (same != survey().gauges.end())
        return m_selection.selectGauge(same->id);
    auto next = withGauge(survey(), std::move(gauge));
    const auto id = next.gauges.back().id;
    m_selection.expectGauge(id);
    edit("Add gauge " + QString::fromStdString(id), std::move(next));
    emit changed(Change::Selection);
}

std::vector<ChartCase> Session::chartCases() const {
    std::vector<ChartCase> cases;
    const bool all = chartOf(survey(), view().chart).allCases;
    for (const auto& entry : survey().cases) {
        const auto* state = stateOf(entry);
        if (state == nullptr || !state->opened || (!all && &entry != activeEntry()))
            continue;
        ChartCase one{entry.name, {}, state->readings, {}};
        for (const auto& part : state->opened->solved->parts)
            one.parts.push_back(shownName(entry, part.name));
        if (state->history)
            one.steps = *state->history;
        cases.push_back(std::move(one));
    }
    return cases;
}

ChartData Session::chart() const {
    return chartData(chartOf(survey(), view().chart), m_selection.selectedGauge(), survey(), chartCases());
}

SurveyRun Session::openRun() const {
    SurveyRun run{file().toStdString(), {}};
    for (const auto& entry : survey().cases)
        if (const auto* state = stateOf(entry); state != nullptr && state->readings) {
            CaseRun one{entry.name, pathOf(entry).string(), {}, {}};
            one.steps.push_back(*state->readings);
            one.steps.back().limits = state->verdicts(survey());
            if (state->history)
                one.overSteps = readOverSteps(survey().gauges, *state->history);
            run.cases.push_back(std::move(one));
        }
    return run;
}

bool Session::verdictsOverSteps() const {
    const auto* state = activeCase();
    return state != nullptr && state->judgedOverSteps(survey());
}

std::vector<LimitReading> Session::verdicts() const {
    const auto* state = activeCase();
    return state != nullptr ? state->verdicts(survey()) : std::vector<LimitReading>();
}

std::vector<CaseVerdicts> Session::verdictsOfCases() const {
    std::vector<CaseVerdicts> all;
    for (const auto& entry : survey().cases)
        if (const auto* state = stateOf(entry); state != nullptr && (state->readings || state->error))
            all.push_back({entry.name, state->error ? std::vector<LimitReading>() : state->verdicts(survey()),
                           state->error ? state->error->what : std::string()});
    return all;
}

} // namespace pyro
