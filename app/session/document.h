// The survey that is open: its file, what of it is saved, and every change as an undo step.
#pragma once

#include "app/session/gesture.h"
#include "core/survey/survey_origin.h"

#include <QObject>
#include <QUndoStack>
#include <filesystem>

namespace pyro {

class Document : public QObject {
    Q_OBJECT
public:
    const Survey& survey() const { return m_survey; }
    QString file() const { return m_file; } // absolute; empty: it has none yet
    std::filesystem::path folder() const { return std::filesystem::path(m_file.toStdString()).parent_path(); }
    QString displayName() const;
    // Who wrote the file. A newer program: its file is not written over, saveAs needs another name.
    const SurveyOrigin& origin() const { return m_origin; }
    bool isReadOnly() const { return m_origin.isNewer(); }
    QUndoStack& undoStack() { return m_undo; }
    const QUndoStack& undoStack() const { return m_undo; }
    // Whether it differs from its file in more than what is looked at: stage, case, step, camera, the part that stands
    // alone.
    bool hasUnsavedChanges() const;

    // An undo step; edits of one gesture, one right after the other, become one. What does not change is none.
    void edit(const QString& what, Survey next, Gesture gesture = {});
    void editView(const QString& what, const ViewState& next, Gesture gesture = {});
    // Where the camera stands, which stage and step are shown: saved, but no undo step, and nothing is told.
    void look(const ViewState& view) { m_survey.view = view; }

    void replace(Survey survey, const QString& file, SurveyOrigin origin = {});
    // Work that was not saved, as it was left; `file` may be empty.
    void restoreUnsaved(Survey survey, const QString& file);
    Done open(const QString& file); // errors as loadSurvey; what was open then stays
    // An older file is copied before it is written over for the first time (keptCopy). Errors: WriteFailed;
    // WrongVersion where a newer program's file would be written over. Nothing is written then.
    Done saveAs(const QString& file);
    QString keptCopy() const { return m_keptCopy; } // made by the last saveAs; empty: none was due

    std::filesystem::path pathOf(const CaseEntry& entry) const;
    // As the survey names a file: relative, once it has a file itself.
    std::string storedPath(const std::filesystem::path& file) const;

signals:
    void closing(); // another one comes
    void replaced();
    // `viewOnly`: no case is to be evaluated anew.
    void edited(const pyro::Survey& before, bool viewOnly);
    void saved();

private:
    class Command;
    void apply(const Survey& survey);
    Done keepWhatStands(const QString& file);

    Survey m_survey;
    Survey m_saved; // as it stands in the file
    QString m_file;
    SurveyOrigin m_origin;
    QString m_keptCopy;
    QUndoStack m_undo;
};

} // namespace pyro
