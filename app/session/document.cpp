#include "app/session/document.h"

#include "app/session/settings.h"
#include "core/evaluate/known_history.h"
#include "core/program/program.h"
#include "core/survey/survey_file.h"

#include <QFileInfo>
#include <QUndoCommand>

namespace pyro {

// Undo and redo are the same swap of whole surveys; a survey is small.
class Document::Command final : public QUndoCommand {
public:
    Command(Document& document, const QString& what, Survey next, Gesture gesture)
        : QUndoCommand(what), m_document(document), m_before(document.m_survey), m_after(std::move(next)),
          m_gesture(gesture) {}

    void redo() override { m_document.apply(m_after); }
    void undo() override { m_document.apply(m_before); }
    int id() const override { return m_gesture.isNone() ? -1 : static_cast<int>(m_gesture.kind); }
    bool mergeWith(const QUndoCommand* other) override {
        const auto* next = static_cast<const Command*>(other);
        if (!(next->m_gesture == m_gesture))
            return false;
        m_after = next->m_after;
        setObsolete(m_after == m_before);
        return true;
    }

private:
    Document& m_document;
    Survey m_before;
    Survey m_after;
    Gesture m_gesture;
};

namespace {

bool sameBesidesView(Survey a, const Survey& b) {
    a.view = b.view;
    return a == b;
}

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

QString Document::displayName() const {
    if (!m_survey.title.empty())
        return QString::fromStdString(m_survey.title);
    return m_file.isEmpty() ? "Untitled survey" : QFileInfo(m_file).fileName();
}

bool Document::hasUnsavedChanges() const {
    return !(m_survey == m_saved) &&
           !(withoutLooks(m_survey.view) == withoutLooks(m_saved.view) && sameBesidesView(m_survey, m_saved));
}

void Document::edit(const QString& what, Survey next, Gesture gesture) {
    if (!(next == m_survey))
        m_undo.push(new Command(*this, what, std::move(next), gesture));
}

void Document::editView(const QString& what, const ViewState& next, Gesture gesture) {
    if (!(next == m_survey.view) || !gesture.isNone()) // a gesture may end where it began
        edit(what, withView(m_survey, next), gesture);
}

// The camera, the stage and the step stay as they are now: undoing an edit is no reason to jump about.
void Document::apply(const Survey& survey) {
    const bool viewOnly = sameBesidesView(survey, m_survey);
    const auto before = std::exchange(m_survey, survey);
    m_survey.savedBy = before.savedBy; // what was saved meanwhile stays so
    auto& view = m_survey.view;
    view.camera = before.view.camera;
    view.stage = before.view.stage;
    if (view.caseName == before.view.caseName)
        view.step = before.view.step;
    emit edited(before, viewOnly);
}

void Document::replace(Survey survey, const QString& file, SurveyOrigin origin) {
    emit closing();
    m_origin = std::move(origin);
    m_keptCopy.clear();
    m_survey = std::move(survey);
    m_saved = m_survey;
    m_file = file;
    m_undo.clear();
    emit replaced();
}

void Document::restoreUnsaved(Survey survey, const QString& file) {
    auto kept = file.isEmpty() ? Result<OpenedSurvey>() : openSurvey(file.toStdString());
    replace(std::move(survey), file, kept ? kept->origin : SurveyOrigin());
    m_saved = kept ? std::move(kept->survey) : Survey{};
    emit saved();
}

Done Document::open(const QString& file) {
    auto opened = openSurvey(file.toStdString());
    if (!opened)
        return tl::unexpected(opened.error());
    replace(std::move(opened->survey), QFileInfo(file).absoluteFilePath(), std::move(opened->origin));
    settings::addRecentFile(file);
    return {};
}

// What is about to be written over was written by another version of the program.
Done Document::keepWhatStands(const QString& file) {
    m_keptCopy.clear();
    if (file != m_file || !QFileInfo::exists(file))
        return {};
    if (isReadOnly())
        return fail(ErrorCode::WrongVersion,
                    "the survey was written by " + m_origin.writtenBy() +
                        ", which this one does not know in full; it is not written over",
                    file.toStdString(), "Save it under another name (Save survey as...)");
    if (!m_origin.isOlder())
        return {};
    const auto copy = keepOlderSurvey(file.toStdString());
    if (!copy)
        return tl::unexpected(copy.error());
    m_keptCopy = QString::fromStdString(copy->string());
    return {};
}

Done Document::saveAs(const QString& file) {
    const auto full = QFileInfo(file).absoluteFilePath();
    if (auto kept = keepWhatStands(full); !kept)
        return kept;
    Survey moved = m_survey;
    const auto there = std::filesystem::path(full.toStdString()).parent_path();
    if (full != m_file)
        for (auto& entry : moved.cases) {
            if (!entry.history.empty())
                entry.history = historyFile(entry, folder(), {})->lexically_proximate(there).string();
            entry.file = pathOf(entry).lexically_relative(there).string();
        }
    moved.savedBy = programVersion();
    if (auto done = saveSurvey(moved, full.toStdString()); !done)
        return done;
    m_origin = {surveyVersion, moved.savedBy, {}};
    m_survey = std::move(moved);
    m_saved = m_survey;
    m_file = full;
    m_undo.setClean();
    settings::addRecentFile(full);
    emit saved();
    return {};
}

std::filesystem::path Document::pathOf(const CaseEntry& entry) const {
    std::error_code ignored;
    return std::filesystem::weakly_canonical(
        std::filesystem::absolute(caseFile(entry, std::filesystem::path(m_file.toStdString()))), ignored);
}

std::string Document::storedPath(const std::filesystem::path& file) const {
    return (m_file.isEmpty() ? file : file.lexically_relative(folder())).string();
}

} // namespace pyro
