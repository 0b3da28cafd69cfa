// What belongs to the user and not to a survey.
#pragma once

#include "core/units/display.h"

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
// That new surveys begin with: chosen last, else the one of the desktop's language and country.
TemperatureUnit temperatureUnit();
void setTemperatureUnit(TemperatureUnit unit);
// Whether numbers of reports are written with a comma there.
bool decimalComma();
void setLedgerHeight(const QString& stage, int height);

} // namespace pyro::settings
