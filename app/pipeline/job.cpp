#include <tbb/task_scheduler_observer.h> // before Qt, which makes `emit` a macro

#include "app/pipeline/job.h"

#include <QDateTime>
#include <QThread>
#include <algorithm>
#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>

namespace pyro {

namespace {

// Work must not take the processor from the window, which draws in software on many machines. Per thread on Linux.
void stepBack() { ::setpriority(PRIO_PROCESS, static_cast<id_t>(::syscall(SYS_gettid)), 10); }

} // namespace

// The threads of the pool, and those among which the core divides its work.
class JobList::Manners final : public tbb::task_scheduler_observer {
public:
    explicit Manners(QThread* window) : m_window(window) { observe(true); }
    ~Manners() override { observe(false); }
    void on_scheduler_entry(bool) override {
        if (QThread::currentThread() != m_window)
            stepBack();
    }

private:
    QThread* m_window;
};

JobList::JobList(QObject* parent) : QObject(parent), m_manners(std::make_unique<Manners>(thread())) {
    m_pool.setMaxThreadCount(2);
}

JobList::~JobList() {
    cancelAll();
    m_pool.waitForDone();
}

std::shared_ptr<std::atomic<bool>> JobList::begin(const QString& title, int& id) {
    id = ++m_lastId;
    m_running.push_back({id, title, {}, 0, std::make_shared<std::atomic<bool>>(false)});
    emit changed();
    return m_running.back().cancel;
}

void JobList::end(int id) {
    std::erase_if(m_running, [id](const Running& job) { return job.id == id; });
    emit changed();
}

void JobList::note(int id, double share, const QString& what) {
    const auto job = std::ranges::find(m_running, id, &Running::id);
    if (job == m_running.end())
        return;
    job->share = std::max(job->share, share);
    job->what = what;
    emit changed();
}

QString JobList::title() const {
    if (m_running.empty())
        return {};
    const auto& job = m_running.front();
    return job.what.isEmpty() ? job.title : job.title + ": " + job.what;
}

double JobList::share() const { return m_running.empty() ? 0 : m_running.front().share; }

void JobList::cancelAll() {
    for (auto& job : m_running)
        job.cancel->store(true);
}

void JobProgress::report(double share, std::string_view what) {
    const auto now = QDateTime::currentMSecsSinceEpoch();
    if (now - m_lastMilliseconds < 33)
        return;
    m_lastMilliseconds = now;
    QMetaObject::invokeMethod(
        m_list,
        [list = m_list, id = m_id, share, text = QString::fromUtf8(what.data(), static_cast<qsizetype>(what.size()))] {
            if (list)
                list->note(id, share, text);
        },
        Qt::QueuedConnection);
}

} // namespace pyro
