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

const SurveyRun& Session::openRun() const {
    OpenRun key{{},
                survey().limits,
                survey().gauges,
                survey().compare,
                survey().grids,
                survey().measured,
                file().toStdString(),
                m_sweep.get()};
    for (const auto& entry : survey().cases) {
        const auto* state = stateOf(entry);
        key.readings.push_back(state == nullptr ? std::array<const void*, 4>{}
                                                : std::array<const void*, 4>{state->readings.get(),
                                                                             state->history.get(), state->worst.get(),
                                                                             state->error ? &*state->error : nullptr});
    }
    if (m_openRun && m_openRun->first == key)
        return m_openRun->second;
    SurveyRun run{key.file, {}};
    for (const auto& entry : survey().cases) {
        const auto* state = stateOf(entry);
        if (state == nullptr || !(state->readings || state->error))
            continue;
        CaseRun one{entry.name, pathOf(entry).string(), state->error, {}};
        if (state->readings && !state->error) {
            one.steps.push_back(*state->readings);
            one.steps.back().limits = state->verdicts(survey());
        }
        if (state->readings)
            one.measuredSteps = state->history ? measuredSteps(*state->history)
                                               : measuredSteps(std::span(state->readings.get(), 1));
        if (state->history)
            one.overSteps = readOverSteps(survey().gauges, *state->history);
        run.cases.push_back(std::move(one));
    }
    tellTogether(survey(), run);
    if (m_sweep)
        run.sweep = *m_sweep;
    m_openRun.emplace(std::move(key), std::move(run));
    return m_openRun->second;
}

std::vector<Check> Session::checks() const {
    const auto* entry = activeEntry();
    const auto* state = activeCase();
    if (entry == nullptr || state == nullptr || !state->readings)
        return {};
    const auto& cases = openRun().cases;
    const auto own = std::ranges::find(cases, entry->name, &CaseRun::name);
    return own == cases.end() || own->steps.empty() ? state->readings->checks : own->steps.back().checks;
}

std::vector<const CaseEntry*> Session::comparedCases() const {
    std::vector<const CaseEntry*> cases;
    const auto wish = survey().compare.value_or(CompareWish{});
    const auto add = [&](const CaseEntry* entry) {
        if (entry != nullptr && std::ranges::find(cases, entry) == cases.end())
            cases.push_back(entry);
    };
    if (survey().cases.empty())
        return cases;
    add(wish.baseline.empty() ? &survey().cases.front() : survey().caseNamed(wish.baseline));
    for (const auto& name : wish.of)
        add(survey().caseNamed(name));
    if (wish.of.empty())
        for (const auto& entry : survey().cases)
            add(&entry);
    return cases;
}

bool Session::verdictsOverSteps() const {
    const auto* state = activeCase();
    return state != nullptr && state->judgedOverSteps(survey());
}

// With what meshes of different fineness say of the case.
std::vector<LimitReading> Session::verdictsOf(const CaseEntry& entry, const CaseState& state) const {
    auto verdicts = state.verdicts(survey());
    if (!survey().grids.empty())
        addUncertainties(verdicts, openRun().grids, entry.name);
    return verdicts;
}

std::vector<LimitReading> Session::verdicts() const {
    const auto* state = activeCase();
    return state != nullptr ? verdictsOf(*activeEntry(), *state) : std::vector<LimitReading>();
}

std::vector<CaseVerdicts> Session::verdictsOfCases() const {
    std::vector<CaseVerdicts> all;
    for (const auto& entry : survey().cases)
        if (const auto* state = stateOf(entry); state != nullptr && (state->readings || state->error))
            all.push_back({entry.name, state->error ? std::vector<LimitReading>() : verdictsOf(entry, *state),
                           state->error ? state->error->what : std::string()});
    return all;
}

} // namespace pyro
