// Gauges in the window: which one is chosen, their readings on all cases and over all steps.
#include "app/session/session.h"

#include "core/evaluate/over_steps.h"
#include "core/survey/gauge_edit.h"

#include <algorithm>

namespace pyro {

std::optional<std::size_t> Session::selectedGaugeAt() const {
    const auto found = std::ranges::find(m_survey.gauges, m_selectedGauge, &Gauge::id);
    return found == m_survey.gauges.end() ? std::nullopt : std::optional(static_cast<std::size_t>(found - m_survey.gauges.begin()));
}

std::string Session::selectedGauge() const { return selectedGaugeAt() ? m_selectedGauge : std::string(); }

void Session::selectGauge(const std::string& id) {
    if (id == m_selectedGauge)
        return;
    m_selectedGauge = id;
    m_marked.reset();
    emit changed(Change::Selection);
}

void Session::markPlace(const std::optional<Point>& place) {
    if (place == m_marked)
        return;
    m_marked = place;
    emit changed(Change::Marked);
}

void Session::addGauge(const Json& where) {
    Gauge gauge;
    gauge.where.written = where;
    const auto picture = seenPicture();
    gauge.quantity = picture ? picture->quantity.name : "temperature";
    if (gauge.quantity == "temperature")
        gauge.unit = udunitsName(view().unit);
    auto next = withGauge(m_survey, std::move(gauge));
    m_selectedGauge = next.gauges.back().id;
    edit("Add gauge " + QString::fromStdString(m_selectedGauge), std::move(next));
    emit changed(Change::Selection);
}

std::vector<ChartCase> Session::chartCases() const {
    std::vector<ChartCase> cases;
    const bool all = chartOf(m_survey).allCases;
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

ChartData Session::chart() const { return chartData(chartOf(m_survey), selectedGauge(), m_survey, chartCases()); }

SurveyRun Session::openRun() const {
    SurveyRun run{m_file.toStdString(), {}};
    for (const auto& entry : m_survey.cases)
        if (const auto* state = stateOf(entry); state != nullptr && state->readings) {
            CaseRun one{entry.name, pathOf(entry).string(), {}, {}};
            one.steps.push_back(*state->readings);
            if (state->history)
                one.overSteps = readOverSteps(m_survey.gauges, *state->history);
            run.cases.push_back(std::move(one));
        }
    return run;
}

// Histories are read in the stage Gauges only: every step of a series is opened for them.
void Session::readHistories() {
    if (view().stage != "Gauges" || m_survey.gauges.empty())
        return;
    for (const auto& entry : m_survey.cases) {
        const auto path = pathOf(entry);
        const auto found = m_cases.find(path);
        if (found == m_cases.end() || !found->second.opened || found->second.series.steps.size() < 2)
            continue;
        auto& state = found->second;
        CaseState::HistoryKey key{m_survey.gauges, m_survey.materials, entry};
        if (state.historyKey == key)
            continue;
        state.historyKey = key;
        Survey measured = m_survey;
        measured.cases = {entry};
        m_jobs.run<SurveyRun>(
            "Reading the gauges of " + QString::fromStdString(entry.name) + " on all steps", this,
            [measured, file = std::filesystem::path(m_file.toStdString())](Progress& progress) { return runSurvey(measured, file, {"", -1, {}}, progress); },
            [this, path, key, document = m_document](Result<SurveyRun> run) {
                if (document != m_document || m_cases[path].historyKey != key)
                    return;
                if (!run) {
                    m_cases[path].historyKey.reset();
                    return complain(run.error());
                }
                m_cases[path].history = std::make_shared<const std::vector<Readings>>(std::move(run->cases[0].steps));
                emit changed(Change::Readings);
            });
    }
}

} // namespace pyro
