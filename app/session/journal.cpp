#include "app/session/journal.h"

#include "core/survey/survey_file.h"

#include <QCoreApplication>
#include <QDir>
#include <QStandardPaths>
#include <QUuid>
#include <fstream>

namespace pyro {
namespace {

constexpr int delay = 400; // ms from a change to the file

QDir folder() { return {QStandardPaths::writableLocation(QStandardPaths::AppConfigLocation) + "/unsaved"}; }

std::optional<UnsavedWork> readJournal(const QString& file) {
    try {
        std::ifstream stream(file.toStdString());
        const auto json = Json::parse(stream);
        auto survey = surveyFromJson(json.at("survey"), file.toStdString());
        if (!survey)
            return std::nullopt;
        return UnsavedWork{file, QString::fromStdString(json.at("file").get<std::string>()),
                           QFileInfo(file).lastModified(), std::move(*survey)};
    } catch (const Json::exception&) {
        return std::nullopt;
    }
}

} // namespace

Journal::Journal(Session& session) : m_session(session) {
    m_timer.setSingleShot(true);
    m_timer.setInterval(delay);
    connect(&m_timer, &QTimer::timeout, this, &Journal::write);
    connect(&session, &Session::changed, this, [this](Changes what) {
        if (what & (Change::Survey | Change::View))
            look();
    });
}

void Journal::look() {
    if (m_session.hasUnsavedChanges()) {
        if (!m_timer.isActive()) // not begun anew with each change: a long drag is kept as well
            m_timer.start();
    } else
        forget();
}

void Journal::forget() {
    m_timer.stop();
    if (m_file.isEmpty())
        return;
    QFile::remove(m_file);
    m_lock.reset();
    m_file.clear();
}

void Journal::write() {
    if (!m_session.hasUnsavedChanges())
        return forget();
    const auto there = folder();
    if (m_file.isEmpty()) {
        const auto file = there.filePath(QUuid::createUuid().toString(QUuid::WithoutBraces) + ".json");
        auto lock = there.mkpath(".") ? std::make_unique<QLockFile>(file + ".lock") : nullptr;
        if (lock)
            lock->setStaleLockTime(0); // held for as long as the process lives
        if (lock && lock->tryLock(0)) {
            m_file = file;
            m_lock = std::move(lock);
        }
    }
    const Json json{{"file", m_session.file().toStdString()}, {"survey", surveyToJson(m_session.survey())}};
    const auto written = m_file.isEmpty()
                             ? Done(fail(ErrorCode::WriteFailed, "unsaved work cannot be kept",
                                         there.path().toStdString(), "Save often, or check permissions and free space"))
                             : writeFileAtomically(m_file.toStdString(), json.dump());
    if (!written && !std::exchange(m_complained, true))
        m_session.complain(written.error());
}

std::optional<UnsavedWork> Journal::leftBehind() {
    const auto files = folder().entryInfoList({"*.json"}, QDir::Files, QDir::Time);
    for (const auto& file : files) {
        QLockFile lock(file.filePath() + ".lock");
        lock.setStaleLockTime(0);
        if (!lock.tryLock(0)) // another window is alive
            continue;
        if (auto work = readJournal(file.filePath()))
            return work;
    }
    return std::nullopt;
}

void Journal::discard(const UnsavedWork& work) { QFile::remove(work.journal); }

} // namespace pyro
