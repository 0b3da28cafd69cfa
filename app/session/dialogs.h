// The one place where modal dialogs are opened, so that tests can answer in advance.
#pragma once

#include <QStringList>
#include <optional>

class QWidget;

namespace pyro::dialogs {

QString openFile(QWidget* parent, const QString& title, const QString& filter);
QString openFolder(QWidget* parent, const QString& title);
QStringList openFiles(QWidget* parent, const QString& title, const QString& filter);
QString saveFile(QWidget* parent, const QString& title, const QString& proposal, const QString& filter);

std::optional<int> askNumber(QWidget* parent, const QString& title, const QString& label, int proposal, int least,
                             int most);

// Nothing when it was cancelled.
std::optional<QString> askText(QWidget* parent, const QString& title, const QString& label, const QString& proposal);

enum class Answer { Save, Discard, Cancel };
Answer askToSave(QWidget* parent, const QString& document);

// For tests: the next dialog of each sort gives this answer and is not shown; those for a file one after the other.
void answerNextFile(const QString& file);
void answerNextFiles(const QStringList& files);
void answerNextQuestion(Answer answer);
void answerNextNumber(int number);
void answerNextText(const QString& text);

} // namespace pyro::dialogs
