// Looks at the files of a case that may still be computed, and says when something was written to them.
#pragma once

#include "core/case/series_watch.h"

#include <QObject>
#include <QThreadPool>
#include <QTimer>

namespace pyro {

class CaseWatch : public QObject {
    Q_OBJECT
public:
    explicit CaseWatch(QObject* parent = nullptr);
    ~CaseWatch() override; // waits for a look that is under way
    // Looks every second and a half at the case and its history; nothing happens when it is followed already.
    void follow(const std::filesystem::path& caseFile, const std::filesystem::path& history);
    void stop();
    // Tells the stamps once more when it looks next, changed or not.
    void again() { m_told.reset(); }
    void setInterval(int milliseconds) { m_timer.setInterval(milliseconds); }
    int looks() const { return m_looks; } // how often it has looked and seen the files

signals:
    // The stamps differ from those told last; once for each change.
    void written(const std::filesystem::path& caseFile, const std::vector<pyro::FileStamp>& stamps);

private:
    void look();
    void take(const std::filesystem::path& caseFile, std::vector<FileStamp> stamps);

    QTimer m_timer;
    QThreadPool m_pool;
    std::filesystem::path m_case;
    std::filesystem::path m_history; // named by the survey; empty: beside the case
    std::optional<std::vector<FileStamp>> m_told;
    bool m_looking = false;
    int m_looks = 0;
};

} // namespace pyro
