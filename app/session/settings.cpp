#include "app/session/settings.h"

#include <QFileInfo>
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

bool lowStrip() { return QSettings().value("lowStrip").toBool(); }
void setLowStrip(bool low) { QSettings().setValue("lowStrip", low); }

} // namespace pyro::settings
