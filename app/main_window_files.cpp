// What the window opens and writes: surveys, cases, tables, pictures, the report.
#include "app/main_window.h"

#include "app/pipeline/demo_solver.h"
#include "app/session/dialogs.h"
#include "app/session/folder_dialog.h"
#include "app/session/settings.h"
#include "app/stages/start_page.h"
#include "app/startup/instance.h"
#include "core/case/case_endings.h"
#include "core/survey/edit.h"
#include "core/survey/survey_file.h"
#include "render/text.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QMimeData>
#include <algorithm>

namespace pyro {
namespace {
const char* const surveyFilter = "Surveys (*.survey.json)";

// All kinds of cases, and a table of steps.
QString caseFilter() {
    QStringList patterns;
    for (const auto ending : caseEndings)
        patterns << "*" + q(std::string(ending));
    return "Cases (" + patterns.join(' ') + " *.pvd *.csv)";
}

} // namespace

void MainWindow::offerUnsaved() {
    m_left = Journal::leftBehind();
    m_unsaved->setVisible(m_left.has_value());
    if (m_left)
        m_unsavedText->setText(
            QString("Work on %1 was not saved when Pyrometer ended (%2).")
                .arg(m_left->survey.isEmpty() ? QString("an untitled survey") : QFileInfo(m_left->survey).fileName(),
                     QLocale::c().toString(m_left->when, "d MMMM, HH:mm:ss")));
}

void MainWindow::restoreUnsaved() {
    if (!m_left || !mayLeave())
        return;
    m_session.restoreUnsaved(m_left->content, m_left->survey);
    Journal::discard(*m_left); // this run keeps one of its own from now on
    showStage(q(m_session.view().stage));
    offerUnsaved();
}

void MainWindow::discardUnsaved() {
    if (m_left)
        Journal::discard(*m_left);
    offerUnsaved();
}

void MainWindow::findCaseFile() {
    const auto* entry = m_session.activeEntry();
    if (entry == nullptr)
        return;
    if (const auto file = dialogs::openFile(
            this, QString("Where is %1?").arg(q(std::filesystem::path(entry->file).filename().string())), caseFilter());
        !file.isEmpty())
        m_session.findCase(entry->name, file);
}

bool MainWindow::mayLeave() {
    if (!m_session.hasUnsavedChanges())
        return true;
    switch (dialogs::askToSave(this, m_session.displayName())) {
    case dialogs::Answer::Save:
        return save();
    case dialogs::Answer::Discard:
        return true;
    case dialogs::Answer::Cancel:
        return false;
    }
    return false;
}

void MainWindow::open(const QString& file) {
    if (QFileInfo(file).isDir())
        return openFolder(file);
    if (!file.endsWith(".json")) {
        m_session.openCase(file);
        return;
    }
    if (Instance::showElsewhere(file) || !mayLeave())
        return;
    keepThumbnail();
    m_message->hide();
    if (auto opened = m_session.openSurvey(file); !opened)
        return showMessage(opened.error());
    showStage(q(m_session.view().stage));
    tellOrigin();
}

void MainWindow::tellOrigin() {
    const auto& origin = m_session.document().origin();
    if (!origin.isNewer()) {
        if (origin.isOlder() && !origin.program.empty())
            advise("Written by " + q(origin.writtenBy()) + "; a copy is kept before it is saved for the first time");
        return;
    }
    showMessage({ErrorCode::WrongVersion,
                 "the survey was written by " + origin.writtenBy() + "; it is open read-only" + origin.unknownText(),
                 m_session.file().toStdString(),
                 "Verdicts may miss what is not known. Save it under another name to change it"});
}

void MainWindow::openDemo(const QString& name) {
    m_session.jobs().run<std::string>(
        "Solving the demo " + name, this,
        [name = name.toStdString()](Progress& progress) { return solvedDemo(name, progress); },
        [this](Result<std::string> survey) {
            if (survey)
                open(q(*survey));
            else
                m_session.complain(survey.error());
        });
}

bool MainWindow::hasOpen(const QString& file) const {
    std::error_code ignored;
    const auto wanted = std::filesystem::weakly_canonical(file.toStdString(), ignored);
    return (!m_session.file().isEmpty() &&
            wanted == std::filesystem::weakly_canonical(m_session.file().toStdString(), ignored)) ||
           std::ranges::any_of(m_session.survey().cases,
                               [&](const CaseEntry& one) { return m_session.pathOf(one) == wanted; });
}

void MainWindow::showOpen(const QString& file) {
    std::error_code ignored;
    const auto wanted = std::filesystem::weakly_canonical(file.toStdString(), ignored);
    for (const auto& one : m_session.survey().cases)
        if (m_session.pathOf(one) == wanted) {
            auto view = m_session.view();
            view.caseName = one.name;
            m_session.editView("Choose case", view);
        }
}

void MainWindow::comeToFront() {
    setWindowState(windowState() & ~Qt::WindowMinimized);
    show();
    raise();
    activateWindow();
    QApplication::alert(this); // where the desktop does not let a window come by itself
}

void MainWindow::chooseSurvey() {
    if (const auto file = dialogs::openFile(this, "Open survey", surveyFilter); !file.isEmpty())
        open(file);
}

void MainWindow::chooseCase() {
    for (const auto& file : dialogs::openFiles(this, "Open cases", caseFilter()))
        m_session.openCase(file);
}

void MainWindow::chooseFolder() {
    if (const auto folder = dialogs::openFolder(this, "Open folder"); !folder.isEmpty())
        openFolder(folder);
}

void MainWindow::openFolder(const QString& folder) {
    const auto cases = casesIn(folder.toStdString());
    if (!cases)
        return showMessage(cases.error());
    auto* dialog = new FolderDialog(folder, *cases, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this, dialog] {
        for (const auto& file : dialog->chosen())
            m_session.openCase(file);
    });
    dialog->open();
}

bool MainWindow::isEmpty() const { return m_session.survey().cases.empty() && m_session.file().isEmpty(); }

void MainWindow::keepThumbnail() {
    const auto* entry = m_session.activeEntry();
    if (entry == nullptr || m_session.activeCase() == nullptr || !m_session.activeCase()->picture ||
        m_picture != m_viewport)
        return;
    const auto picture = m_viewport->thumbnail({312, 192});
    for (const auto& file : {m_session.file(), q(m_session.pathOf(*entry).string())}) {
        if (file.isEmpty())
            continue;
        const auto to = StartPage::thumbnailOf(file);
        QDir().mkpath(QFileInfo(to).path());
        picture.save(to, "PNG"); // without one the page shows the kind of the file
    }
}

bool MainWindow::save() {
    if (m_session.file().isEmpty())
        return saveAs();
    return saveTo(m_session.file());
}

bool MainWindow::saveTo(const QString& file) {
    const auto saved = m_session.saveAs(file);
    if (!saved)
        showMessage(saved.error());
    else if (const auto kept = m_session.document().keptCopy(); !kept.isEmpty())
        advise("Saved; as it was before it is kept in " + QFileInfo(kept).fileName());
    return saved.has_value();
}

bool MainWindow::saveAs() {
    auto file = dialogs::saveFile(this, "Save survey", proposal(".survey.json"), surveyFilter);
    if (file.isEmpty())
        return false;
    if (!file.endsWith(".json"))
        file += ".survey.json";
    return saveTo(file);
}

QString MainWindow::proposal(const QString& ending) const {
    auto base = m_session.file().isEmpty() ? QString("survey") : m_session.file();
    base.remove(".survey.json");
    return base + ending;
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!mayLeave())
        return event->ignore();
    settings::setWindowGeometry(saveGeometry());
    keepThumbnail();
    m_journal.forget(); // saved, or given up
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    for (const auto& url : event->mimeData()->urls())
        if (url.isLocalFile())
            open(url.toLocalFile());
}

} // namespace pyro
