#include "app/session/session.h"

#include "app/session/settings.h"
#include "app/stages/stage.h"

namespace pyro {

namespace {

Survey freshSurvey() {
    Survey survey;
    survey.view.unit = settings::temperatureUnit();
    if (settings::decimalComma())
        survey.report.decimal = "comma";
    return survey;
}

} // namespace

Session::Session(QObject* parent) : QObject(parent) {
    newSurvey();
    connect(&m_watch, &CaseWatch::written, this, &Session::lookForSteps);
    connect(&m_selection, &Selection::changed, this, &Session::changed);
    connect(&m_document, &Document::closing, this, &Session::close);
    connect(&m_document, &Document::replaced, this, &Session::showDocument);
    connect(&m_document, &Document::edited, this, &Session::followEdit);
    connect(&m_document, &Document::saved, this, [this] { emit changed(Change::Survey); });
}

void Session::newSurvey() { m_document.replace(freshSurvey(), {}); }

void Session::editOrComplain(const QString& what, Result<Survey> next) {
    if (next)
        edit(what, std::move(*next));
    else
        complain(next.error());
}

void Session::setCamera(const CameraState& camera) {
    auto view = this->view();
    view.camera = camera;
    m_document.look(view);
}

void Session::moveCamera(const CameraState& camera) {
    setCamera(camera);
    emit changed(Change::Camera);
}

void Session::setStage(const QString& stage) {
    auto view = this->view();
    if (view.stage == stage.toStdString())
        return;
    view.stage = stage.toStdString();
    m_document.look(view);
    emit changed(Change::View);
    const auto& shown = stageOf(*this);
    if (shown.showsCompared)
        refresh();
    if (shown.needsHistories == nullptr)
        return;
    if (shown.showsGauges && m_selection.selectedGauge().empty() && !survey().gauges.empty())
        m_selection.selectGauge(survey().gauges.front().id);
    wantBalances();
    m_balancesWanted = false; // the stage asks for them
    for (const auto& [key, pipeline] : m_cases)
        pipeline->readHistories();
}

void Session::wantBalances() {
    m_balancesWanted = true;
    for (const auto& [key, pipeline] : m_cases)
        if (const auto& readings = pipeline->state().readings; readings && !readings->balances)
            pipeline->evaluate();
}

void Session::followEdit(const Survey& before, bool viewOnly) {
    m_selection.follow(before);
    updateSections();
    emit changed(viewOnly ? Changes(Change::View) : Change::Survey | Change::View);
    refresh();
    if (!viewOnly)
        for (const auto& [key, pipeline] : m_cases)
            pipeline->evaluate();
}

void Session::close() {
    m_jobs.cancelAll();
    m_open = std::make_unique<QObject>();
    m_cases.clear();
    m_sweep.reset();
    m_sweepKey = {};
    m_selection.clear();
    m_watch.stop();
}

void Session::showDocument() {
    updateSections();
    emit changed(Change::Survey | Change::View | Change::Cases | Change::Readings | Change::Picture |
                 Change::Selection);
    refresh();
}

const CaseEntry* Session::activeEntry() const {
    const auto* chosen = survey().caseNamed(view().caseName);
    return chosen != nullptr || survey().cases.empty() ? chosen : &survey().cases.front();
}

const CaseState* Session::stateOf(const CaseEntry& entry) const {
    const auto* pipeline = pipelineOf(entry);
    return pipeline == nullptr ? nullptr : &pipeline->state();
}

const CaseState* Session::activeCase() const {
    const auto* entry = activeEntry();
    return entry == nullptr ? nullptr : stateOf(*entry);
}

void Session::restore(const Viewpoint& viewpoint, Gesture gesture) {
    auto next = restored(viewpoint, view());
    if (viewpoint.withCase && survey().caseNamed(next.caseName) == nullptr) {
        complain({ErrorCode::NameUnknown, "the case \"" + next.caseName + "\" of this viewpoint is not in the survey",
                  viewpoint.name, "It is seen on the case on display; keep it anew, or add the case"});
        next.caseName = view().caseName;
        next.step = view().step;
    }
    editView("Viewpoint " + QString::fromStdString(viewpoint.name), next, gesture);
    if (next.camera)
        moveCamera(*next.camera);
}

} // namespace pyro
