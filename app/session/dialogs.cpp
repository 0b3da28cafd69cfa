#include "app/session/dialogs.h"

#include <QFileDialog>
#include <QInputDialog>
#include <QMessageBox>

namespace pyro::dialogs {
namespace {

QStringList nextFile; // one after the other
std::optional<QStringList> nextFiles;
std::optional<Answer> nextAnswer;
std::optional<int> nextNumber;
std::optional<QString> nextText;

} // namespace

void answerNextFile(const QString& file) { nextFile.append(file); }
void answerNextFiles(const QStringList& files) { nextFiles = files; }
void answerNextQuestion(Answer answer) { nextAnswer = answer; }
void answerNextNumber(int number) { nextNumber = number; }

std::optional<int> askNumber(QWidget* parent, const QString& title, const QString& label, int proposal, int least,
                             int most) {
    if (nextNumber)
        return std::exchange(nextNumber, std::nullopt);
    bool taken = false;
    const int number = QInputDialog::getInt(parent, title, label, proposal, least, most, 1, &taken);
    return taken ? std::optional(number) : std::nullopt;
}

void answerNextText(const QString& text) { nextText = text; }

std::optional<QString> askText(QWidget* parent, const QString& title, const QString& label, const QString& proposal) {
    if (nextText)
        return std::exchange(nextText, std::nullopt);
    bool taken = false;
    const auto text = QInputDialog::getText(parent, title, label, QLineEdit::Normal, proposal, &taken);
    return taken ? std::optional(text) : std::nullopt;
}

QString openFile(QWidget* parent, const QString& title, const QString& filter) {
    if (!nextFile.isEmpty())
        return nextFile.takeFirst();
    return QFileDialog::getOpenFileName(parent, title, {}, filter);
}

QString openFolder(QWidget* parent, const QString& title) {
    if (!nextFile.isEmpty())
        return nextFile.takeFirst();
    return QFileDialog::getExistingDirectory(parent, title);
}

QStringList openFiles(QWidget* parent, const QString& title, const QString& filter) {
    if (nextFiles)
        return *std::exchange(nextFiles, std::nullopt);
    if (!nextFile.isEmpty())
        return {nextFile.takeFirst()};
    return QFileDialog::getOpenFileNames(parent, title, {}, filter);
}

QString saveFile(QWidget* parent, const QString& title, const QString& proposal, const QString& filter) {
    if (!nextFile.isEmpty())
        return nextFile.takeFirst();
    return QFileDialog::getSaveFileName(parent, title, proposal, filter);
}

Answer askToSave(QWidget* parent, const QString& document) {
    if (nextAnswer)
        return *std::exchange(nextAnswer, std::nullopt);
    QMessageBox box(QMessageBox::Question, "Unsaved changes",
                    QString("The survey \"%1\" has changes that are not saved.").arg(document),
                    QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, parent);
    box.setInformativeText("Save them before going on?");
    switch (box.exec()) {
    case QMessageBox::Save:
        return Answer::Save;
    case QMessageBox::Discard:
        return Answer::Discard;
    default:
        return Answer::Cancel;
    }
}

} // namespace pyro::dialogs
