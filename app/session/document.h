// The survey that is open: its file, what of it is saved, and every change as an undo step.
#pragma once

#include "app/session/gesture.h"
#include "core/survey/survey.h"

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

    void replace(Survey survey, const QString& file);
    // Work that was not saved, as it was left; `file` may be empty.
    void restoreUnsaved(Survey survey, const QString& file);
    Done open(const QString& file); // errors as loadSurvey; what was open then stays
    Done saveAs(const QString& file);

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

    Survey m_survey;
    Survey m_saved; // as it stands in the file
    QString m_file;
    QUndoStack m_undo;
};

} // namespace pyro
