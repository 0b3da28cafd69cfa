// What belongs to the user and not to a survey.
#pragma once

#include <QByteArray>
#include <QStringList>
#include <optional>

namespace pyro::settings {

QStringList recentFiles(); // surveys and cases, newest first, only those that still exist
void addRecentFile(const QString& file);
QStringList recentSurveys(); // of them
QByteArray windowGeometry();
void setWindowGeometry(const QByteArray& geometry);
// Of the tables below the viewport, px; nothing: never changed in this stage.
std::optional<int> ledgerHeight(const QString& stage);
// Whether the heat strip is drawn without the distribution.
bool lowStrip();
void setLowStrip(bool low);
void setLedgerHeight(const QString& stage, int height);

} // namespace pyro::settings
