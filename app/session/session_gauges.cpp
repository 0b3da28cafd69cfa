// Gauges in the window: which one is chosen, their readings on all cases and over all steps.

#include "app/session/session.h"
#include "app/stages/stage.h"

#include "core/evaluate/known_history.h"
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

namespace {

std::vector<Limit> withFields(const std::vector<Limit>& limits) {
    return std::ranges::any_of(limits, [](const Limit& limit) { return limit.form->readsFields; })
               ? limits
               : std::vector<Limit>();
}

} // namespace

// Histories are read in the stages that need them only: every step of a series is opened for them.
void Session::readHistories() {
    const auto& stage = stageOf(*this);
    if (stage.needsHistories == nullptr || !stage.needsHistories(survey()))
        return;
    for (const auto& entry : survey().cases) {
        const auto key = keyOf(entry);
        const auto found = m_cases.find(key);
        if (found == m_cases.end() || !found->second.opened || found->second.series.steps.size() < 2)
            continue;
        if (stage.judgesSettling && historyFile(entry, m_document.folder(), pathOf(entry)))
            continue; // the solver's own history tells more than the steps
        auto& state = found->second;
        CaseState::HistoryKey history{survey().gauges, survey().materials, entry, withFields(survey().limits)};
        const bool same = state.historyKey == history;
        if (same && !state.historyGrows)
            continue;
        state.historyKey = history;
        state.historyGrows = false;
        Survey measured = survey();
        measured.cases = {entry};
        m_jobs.run<SurveyRun>(
            "Reading " + QString::fromStdString(entry.name) + " on all steps", this,
            [measured, file = std::filesystem::path(file().toStdString()),
             known = same ? state.history : nullptr](Progress& progress) {
                return runSurvey(measured, file, {"", -1, {}, false, known}, progress);
            },
            ifOpen([this, key, history](Result<SurveyRun> run) {
                if (m_cases[key].historyKey != history)
                    return;
                if (!run) {
                    m_cases[key].historyKey.reset();
                    return complain(run.error());
                }
                if (m_cases[key].history && m_cases[key].history->size() > run->cases[0].steps.size())
                    return; // of before new steps came
                m_cases[key].history = std::make_shared<const std::vector<Readings>>(std::move(run->cases[0].steps));
                judgeWorst();
                emit changed(Change::Readings);
                if (stageOf(*this).judgesSettling) // whether the steps have settled
                    for (const auto& one : survey().cases)
                        if (keyOf(one) == key)
                            evaluateCase(one);
            }));
    }
}

// From the steps as they were read, with the limits as they are now.
void Session::judgeWorst() {
    for (auto& [key, state] : m_cases) {
        state.worst.reset();
        if (!state.history || state.history->size() < 2 || !changesWithTime(state.series) || survey().limits.empty())
            continue;
        if (withFields(survey().limits).empty())
            state.worst = std::make_shared<const std::vector<LimitReading>>(
                worstLimitsAgain(survey(), readOverSteps(survey().gauges, *state.history), *state.history));
        else if (state.history->front().limits.size() == survey().limits.size())
            state.worst = std::make_shared<const std::vector<LimitReading>>(worstLimits(*state.history));
    }
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
