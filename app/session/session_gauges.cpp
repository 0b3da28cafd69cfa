// Gauges in the window: which one is chosen, their readings on all cases and over all steps.
#include "app/session/session.h"

#include "core/evaluate/known_history.h"
#include "core/evaluate/over_steps.h"
#include "core/survey/gauge_edit.h"
#include "core/trust/marked_cells.h"

#include <algorithm>

namespace pyro {

std::optional<std::size_t> Session::selectedGaugeAt() const {
    const auto found = std::ranges::find(m_survey.gauges, m_selectedGauge, &Gauge::id);
    return found == m_survey.gauges.end() ? std::nullopt
                                          : std::optional(static_cast<std::size_t>(found - m_survey.gauges.begin()));
}

std::string Session::selectedGauge() const { return selectedGaugeAt() ? m_selectedGauge : std::string(); }

void Session::selectGauge(const std::string& id) {
    if (id == m_selectedGauge)
        return;
    m_selectedGauge = id;
    m_marked.reset();
    m_spotFloor = 0;
    emit changed(Change::Selection);
}

void Session::markPlace(const std::optional<Point>& place) {
    if (place == m_marked)
        return;
    m_marked = place;
    emit changed(Change::Marked);
}

void Session::setSpotFloor(double least) {
    m_spotFloor = least;
    emit changed(Change::Marked);
}

void Session::markCells(const Check* check) {
    const auto* state = activeCase();
    auto edges = check != nullptr && check->cells && state != nullptr && state->opened
                     ? outlinesOf(*state->opened->solved, *check->cells, mostOutlined)
                     : std::vector<std::array<Point, 2>>();
    if (edges.empty() && m_markedEdges.empty())
        return;
    m_markedEdges = std::move(edges);
    emit changed(Change::Marked);
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
    auto next = withGauge(m_survey, std::move(gauge));
    m_selectedGauge = next.gauges.back().id;
    edit("Add gauge " + QString::fromStdString(m_selectedGauge), std::move(next));
    emit changed(Change::Selection);
}

void Session::addHeatThrough(const std::string& boundary) {
    Gauge gauge;
    gauge.where.written = {{"boundary", boundary}};
    gauge.quantity = "heat_flux";
    gauge.statistic = "integral";
    gauge.unit = "W";
    const auto same = std::ranges::find_if(m_survey.gauges, [&](const Gauge& one) {
        return one.where == gauge.where && one.quantity == gauge.quantity && one.statistic == gauge.statistic;
    });
    if (same != m_survey.gauges.end())
        return selectGauge(same->id);
    auto next = withGauge(m_survey, std::move(gauge));
    m_selectedGauge = next.gauges.back().id;
    edit("Add gauge " + QString::fromStdString(m_selectedGauge), std::move(next));
    emit changed(Change::Selection);
}

std::vector<ChartCase> Session::chartCases() const {
    std::vector<ChartCase> cases;
    const bool all = chartOf(m_survey, view().chart).allCases;
    for (const auto& entry : m_survey.cases) {
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
    return chartData(chartOf(m_survey, view().chart), selectedGauge(), m_survey, chartCases());
}

SurveyRun Session::openRun() const {
    SurveyRun run{m_file.toStdString(), {}};
    for (const auto& entry : m_survey.cases)
        if (const auto* state = stateOf(entry); state != nullptr && state->readings) {
            CaseRun one{entry.name, pathOf(entry).string(), {}, {}};
            one.steps.push_back(*state->readings);
            one.steps.back().limits = state->verdicts(m_survey);
            if (state->history)
                one.overSteps = readOverSteps(m_survey.gauges, *state->history);
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

// Histories are read in the stages Trust, Gauges and Limits only: every step of a series is opened for them.
void Session::readHistories() {
    const bool wanted = view().stage == "Trust" || (view().stage == "Gauges" && !m_survey.gauges.empty()) ||
                        (view().stage == "Limits" && !m_survey.limits.empty());
    if (!wanted)
        return;
    for (const auto& entry : m_survey.cases) {
        const auto key = keyOf(entry);
        const auto found = m_cases.find(key);
        if (found == m_cases.end() || !found->second.opened || found->second.series.steps.size() < 2)
            continue;
        if (view().stage == "Trust" &&
            historyFile(entry, std::filesystem::path(m_file.toStdString()).parent_path(), pathOf(entry)))
            continue; // the solver's own history tells more than the steps
        auto& state = found->second;
        CaseState::HistoryKey history{m_survey.gauges, m_survey.materials, entry, withFields(m_survey.limits)};
        const bool same = state.historyKey == history;
        if (same && !state.historyGrows)
            continue;
        state.historyKey = history;
        state.historyGrows = false;
        Survey measured = m_survey;
        measured.cases = {entry};
        m_jobs.run<SurveyRun>(
            "Reading " + QString::fromStdString(entry.name) + " on all steps", this,
            [measured, file = std::filesystem::path(m_file.toStdString()),
             known = same ? state.history : nullptr](Progress& progress) {
                return runSurvey(measured, file, {"", -1, {}, false, known}, progress);
            },
            [this, key, history, document = m_document](Result<SurveyRun> run) {
                if (document != m_document || m_cases[key].historyKey != history)
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
                if (view().stage == "Trust") // whether the steps have settled
                    for (const auto& one : m_survey.cases)
                        if (keyOf(one) == key)
                            evaluateCase(one);
            });
    }
}

// From the steps as they were read, with the limits as they are now.
void Session::judgeWorst() {
    for (auto& [key, state] : m_cases) {
        state.worst.reset();
        if (!state.history || state.history->size() < 2 || !changesWithTime(state.series) || m_survey.limits.empty())
            continue;
        if (withFields(m_survey.limits).empty())
            state.worst = std::make_shared<const std::vector<LimitReading>>(
                worstLimitsAgain(m_survey, readOverSteps(m_survey.gauges, *state.history), *state.history));
        else if (state.history->front().limits.size() == m_survey.limits.size())
            state.worst = std::make_shared<const std::vector<LimitReading>>(worstLimits(*state.history));
    }
}

bool Session::verdictsOverSteps() const {
    const auto* state = activeCase();
    return state != nullptr && state->judgedOverSteps(m_survey);
}

std::vector<LimitReading> Session::verdicts() const {
    const auto* state = activeCase();
    return state != nullptr ? state->verdicts(m_survey) : std::vector<LimitReading>();
}

std::vector<CaseVerdicts> Session::verdictsOfCases() const {
    std::vector<CaseVerdicts> all;
    for (const auto& entry : m_survey.cases)
        if (const auto* state = stateOf(entry); state != nullptr && (state->readings || state->error))
            all.push_back({entry.name, state->error ? std::vector<LimitReading>() : state->verdicts(m_survey),
                           state->error ? state->error->what : std::string()});
    return all;
}

std::optional<std::size_t> Session::selectedLimit() const {
    return m_selectedLimit && *m_selectedLimit < m_survey.limits.size() ? m_selectedLimit : std::nullopt;
}

void Session::selectLimit(std::optional<std::size_t> limit) {
    if (limit == m_selectedLimit)
        return;
    m_selectedLimit = limit;
    emit changed(Change::Selection);
}

} // namespace pyro
