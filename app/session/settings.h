// What belongs to the user and not to a survey.
#pragma once

#include <QByteArray>
#include <QStringList>

namespace pyro::settings {

QStringList recentSurveys(); // newest first, only those that still exist
void addRecentSurvey(const QString& file);
QByteArray windowGeometry();
void setWindowGeometry(const QByteArray& geometry);

} // namespace pyro::settings
