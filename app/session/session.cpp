#include "app/session/session.h"

#include "app/session/settings.h"
#include "core/evaluate/known_history.h"
#include "core/survey/survey_file.h"

#include <QFileInfo>
#include <QUndoCommand>

namespace pyro {

// Undo and redo are the same swap of whole surveys; a survey is small.
class SurveyCommand final : public QUndoCommand {
public:
    SurveyCommand(Session& session, const QString& what, Survey next, int mergeKey)
        : QUndoCommand(what), m_session(session), m_before(session.m_survey), m_after(std::move(next)),
          m_key(mergeKey) {}

    void redo() override { m_session.apply(m_after); }
    void undo() override { m_session.apply(m_before); }
    int id() const override { return m_key; }
    bool mergeWith(const QUndoCommand* other) override {
        m_after = static_cast<const SurveyCommand*>(other)->m_after;
        setObsolete(m_after == m_before);
        return true;
    }

private:
    Session& m_session;
    Survey m_before;
    Survey m_after;
    int m_key;
};

namespace {

bool sameBesidesView(Survey a, const Survey& b) {
    a.view = b.view;
    return a == b;
}

} // namespace

Session::Session(QObject* parent) : QObject(parent) {
    connect(&m_watch, &CaseWatch::written, this, &Session::lookForSteps);
}

QString Session::displayName() const {
    if (!m_survey.title.empty())
        return QString::fromStdString(m_survey.title);
    return m_file.isEmpty() ? "Untitled survey" : QFileInfo(m_file).fileName();
}

void Session::edit(const QString& what, Survey next, int mergeKey) {
    if (!(next == m_survey))
        m_undo.push(new SurveyCommand(*this, what, std::move(next), mergeKey));
}

void Session::editOrComplain(const QString& what, Result<Survey> next) {
    if (next)
        edit(what, std::move(*next));
    else
        complain(next.error());
}

void Session::editView(const QString& what, const ViewState& next, int mergeKey) {
    if (!(next == view()) || mergeKey >= 0) // a gesture may end where it began
        edit(what, withView(m_survey, next), mergeKey);
}

void Session::setCamera(const CameraState& camera) {
    auto view = this->view();
    view.camera = camera;
    m_survey = withView(std::move(m_survey), view);
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
    m_survey = withView(std::move(m_survey), view);
    emit changed(Change::View);
    if (stage != "Gauges" && stage != "Trust" && stage != "Limits")
        return;
    if (stage == "Gauges" && selectedGauge().empty() && !m_survey.gauges.empty())
        selectGauge(m_survey.gauges.front().id);
    wantBalances();
    m_balancesWanted = false; // the stage asks for them
    readHistories();
}

void Session::wantBalances() {
    m_balancesWanted = true;
    for (const auto& entry : m_survey.cases)
        if (const auto* state = stateOf(entry); state != nullptr && state->readings && !state->readings->balances)
            evaluateCase(entry);
}

// The camera, the stage and the step stay as they are now: undoing an edit is no reason to jump about.
void Session::apply(const Survey& survey) {
    const auto now = view();
    const bool viewOnly = sameBesidesView(survey, m_survey);
    const auto gauge = selectedGaugeAt();
    const bool sameGauges = survey.gauges.size() == m_survey.gauges.size();
    m_survey = survey;
    if (gauge && sameGauges) // the chosen gauge stays so under another name
        m_selectedGauge = m_survey.gauges[*gauge].id;
    auto next = view();
    next.camera = now.camera;
    next.stage = now.stage;
    next.step = next.caseName == now.caseName ? now.step : next.step;
    m_survey = withView(std::move(m_survey), next);
    updateSections();
    emit changed(viewOnly ? Changes(Change::View) : Change::Survey | Change::View);
    refresh();
    if (!viewOnly)
        for (const auto& entry : m_survey.cases)
            evaluateCase(entry);
}

void Session::replace(Survey survey, const QString& file) {
    ++m_document;
    m_jobs.cancelAll();
    m_cases.clear();
    m_selectedPart.clear();
    m_selectedSection.reset();
    m_selectedGauge.clear();
    m_selectedLimit.reset();
    m_marked.reset();
    m_watch.stop();
    m_survey = std::move(survey);
    m_saved = m_survey;
    m_file = file;
    m_undo.clear();
    updateSections();
    emit changed(Change::Survey | Change::View | Change::Cases | Change::Readings | Change::Picture |
                 Change::Selection);
    refresh();
}

void Session::newSurvey() { replace({}, {}); }

void Session::restoreUnsaved(Survey survey, const QString& file) {
    replace(std::move(survey), file);
    auto saved = file.isEmpty() ? Result<Survey>(Survey{}) : loadSurvey(file.toStdString());
    m_saved = saved ? std::move(*saved) : Survey{};
    emit changed(Change::Survey);
}

namespace {

// What of a view is only looked at.
ViewState withoutLooks(ViewState view) {
    view.stage.clear();
    view.caseName.clear();
    view.step.reset();
    view.camera.reset();
    view.isolated.reset();
    return view;
}

} // namespace

bool Session::hasUnsavedChanges() const {
    return !(m_survey == m_saved) &&
           !(withoutLooks(viewOf(m_survey)) == withoutLooks(viewOf(m_saved)) && sameBesidesView(m_survey, m_saved));
}

Done Session::openSurvey(const QString& file) {
    auto loaded = loadSurvey(file.toStdString());
    if (!loaded)
        return tl::unexpected(loaded.error());
    replace(std::move(*loaded), QFileInfo(file).absoluteFilePath());
    settings::addRecentFile(file);
    return {};
}

Done Session::saveAs(const QString& file) {
    const auto full = QFileInfo(file).absoluteFilePath();
    Survey moved = m_survey;
    const std::filesystem::path folder = std::filesystem::path(full.toStdString()).parent_path();
    if (full != m_file)
        for (auto& entry : moved.cases) {
            if (!entry.history.empty())
                entry.history = historyFile(entry, std::filesystem::path(m_file.toStdString()).parent_path(), {})
                                    ->lexically_proximate(folder)
                                    .string();
            entry.file = pathOf(entry).lexically_relative(folder).string();
        }
    if (auto saved = saveSurvey(moved, full.toStdString()); !saved)
        return saved;
    m_survey = std::move(moved);
    m_saved = m_survey;
    m_file = full;
    m_undo.setClean();
    settings::addRecentFile(full);
    emit changed(Change::Survey);
    return {};
}

std::filesystem::path Session::pathOf(const CaseEntry& entry) const {
    std::error_code ignored;
    return std::filesystem::weakly_canonical(
        std::filesystem::absolute(caseFile(entry, std::filesystem::path(m_file.toStdString()))), ignored);
}

Session::CaseKey Session::keyOf(const CaseEntry& entry) const { return entry.name + "\n" + pathOf(entry).string(); }

const CaseEntry* Session::activeEntry() const {
    const auto* chosen = m_survey.caseNamed(view().caseName);
    return chosen != nullptr || m_survey.cases.empty() ? chosen : &m_survey.cases.front();
}

const CaseState* Session::stateOf(const CaseEntry& entry) const {
    const auto found = m_cases.find(keyOf(entry));
    return found == m_cases.end() ? nullptr : &found->second;
}

const CaseState* Session::activeCase() const {
    const auto* entry = activeEntry();
    return entry == nullptr ? nullptr : stateOf(*entry);
}

std::optional<std::size_t> Session::selectedSection() const {
    return m_selectedSection && *m_selectedSection < view().field.sections.size() ? m_selectedSection : std::nullopt;
}

void Session::selectSection(std::optional<std::size_t> section) {
    if (section == m_selectedSection)
        return;
    m_selectedSection = section;
    emit changed(Change::Selection);
}

void Session::restore(const Viewpoint& viewpoint) {
    const auto next = restored(viewpoint, view());
    editView("Viewpoint " + QString::fromStdString(viewpoint.name), next);
    if (next.camera)
        moveCamera(*next.camera);
}

void Session::selectPart(const std::string& part) {
    if (part == m_selectedPart)
        return;
    m_selectedPart = part;
    emit changed(Change::Selection);
}

void Session::selectBoundary(const std::string& boundary) {
    if (boundary == m_selectedBoundary)
        return;
    m_selectedBoundary = boundary;
    emit changed(Change::Selection);
}

void Session::pointAtBoundary(const std::string& boundary) {
    if (boundary == m_pointedBoundary)
        return;
    m_pointedBoundary = boundary;
    emit changed(Change::Selection);
}

} // namespace pyro
