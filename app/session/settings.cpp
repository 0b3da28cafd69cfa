#include "app/session/settings.h"

#include <QFileInfo>
#include <QLocale>
#include <QRegularExpression>
#include <QSettings>

namespace pyro::settings {
namespace {

// One table of all keys.
constexpr const char* recentKey = "recent-surveys"; // and cases
constexpr const char* geometryKey = "window-geometry";
constexpr const char* ledgerKey = "ledger-height/"; // and the stage
constexpr int mostRecent = 20;

} // namespace

QStringList recentFiles() {
    QStringList there;
    for (const auto& file : QSettings().value(recentKey).toStringList())
        if (QFileInfo::exists(file))
            there.append(file);
    return there;
}

QStringList recentSurveys() { return recentFiles().filter(QRegularExpression("\\.json$")); }

void addRecentFile(const QString& file) {
    auto list = recentFiles();
    const auto full = QFileInfo(file).absoluteFilePath();
    list.removeAll(full);
    list.prepend(full);
    while (list.size() > mostRecent)
        list.removeLast();
    QSettings().setValue(recentKey, list);
}

QByteArray windowGeometry() { return QSettings().value(geometryKey).toByteArray(); }
void setWindowGeometry(const QByteArray& geometry) { QSettings().setValue(geometryKey, geometry); }

std::optional<int> ledgerHeight(const QString& stage) {
    bool read = false;
    const int height = QSettings().value(ledgerKey + stage).toInt(&read);
    return read ? std::optional(height) : std::nullopt;
}
void setLedgerHeight(const QString& stage, int height) { QSettings().setValue(ledgerKey + stage, height); }

TemperatureUnit temperatureUnit() {
    const auto chosen = QSettings().value("temperature-unit").toString().toStdString();
    for (const auto unit : {TemperatureUnit::Celsius, TemperatureUnit::Kelvin, TemperatureUnit::Fahrenheit})
        if (chosen == udunitsName(unit))
            return unit;
    return QLocale::system().measurementSystem() == QLocale::ImperialUSSystem ? TemperatureUnit::Fahrenheit
                                                                              : TemperatureUnit::Celsius;
}
void setTemperatureUnit(TemperatureUnit unit) {
    QSettings().setValue("temperature-unit", QString::fromStdString(std::string(udunitsName(unit))));
}
bool decimalComma() { return QLocale::system().decimalPoint() == ","; }

bool lowStrip() { return QSettings().value("lowStrip").toBool(); }
void setLowStrip(bool low) { QSettings().setValue("lowStrip", low); }

} // namespace pyro::settings
