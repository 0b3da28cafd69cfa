#include "app/pipeline/case_watch.h"

#include "core/case/solver_history.h"

namespace pyro {

CaseWatch::CaseWatch(QObject* parent) : QObject(parent) {
    m_timer.setInterval(1500);
    connect(&m_timer, &QTimer::timeout, this, &CaseWatch::look);
}

CaseWatch::~CaseWatch() { m_pool.waitForDone(); }

void CaseWatch::follow(const std::filesystem::path& caseFile, const std::filesystem::path& history) {
    m_timer.start();
    if (caseFile == m_case && history == m_history)
        return;
    m_case = caseFile;
    m_history = history;
    m_told.reset();
    look();
}

void CaseWatch::stop() {
    m_timer.stop();
    m_case.clear();
}

// The folder may lie on a slow network, so that it is listed outside of the window's thread.
void CaseWatch::look() {
    if (m_looking || m_case.empty())
        return;
    m_looking = true;
    m_pool.start([this, file = m_case, history = m_history] {
        std::vector<std::filesystem::path> further;
        if (!history.empty())
            further.push_back(history);
        else if (const auto beside = historyBeside(file))
            further.push_back(*beside);
        auto stamps = stampsOf(file, further);
        QMetaObject::invokeMethod(
            this, [this, file, stamps = std::move(stamps)]() mutable { take(file, std::move(stamps)); },
            Qt::QueuedConnection);
    });
}

void CaseWatch::take(const std::filesystem::path& caseFile, std::vector<FileStamp> stamps) {
    m_looking = false;
    ++m_looks;
    if (caseFile != m_case || m_told == stamps)
        return;
    m_told = std::move(stamps);
    emit written(caseFile, *m_told);
}

} // namespace pyro
