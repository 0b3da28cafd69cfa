// Long work of the core on the thread pool, with progress and cancel, its result handed back to the window's thread.
#pragma once

#include "core/feedback/error.h"
#include "core/feedback/progress.h"

#include <QObject>
#include <QPointer>
#include <QThreadPool>
#include <atomic>
#include <functional>
#include <memory>

namespace pyro {

class JobProgress;

class JobList : public QObject {
    Q_OBJECT
public:
    explicit JobList(QObject* parent = nullptr);
    // Cancels everything and waits for the threads.
    ~JobList() override;

    // Runs `work` in the pool and then, if `context` still lives, `done` in this thread. A cancelled job still
    // calls `done`, with ErrorCode::Cancelled. Setting what is returned cancels it.
    template <class T>
    std::shared_ptr<std::atomic<bool>> run(const QString& title, QObject* context,
                                           std::function<Result<T>(Progress&)> work,
                                           std::function<void(Result<T>)> done);

    int running() const { return static_cast<int>(m_running.size()); }
    QString title() const; // of the oldest running job
    double share() const;  // 0..1
    void cancelAll();

signals:
    void changed();

private:
    friend class JobProgress;
    class Manners;
    struct Running {
        int id;
        QString title;
        QString what;
        double share;
        std::shared_ptr<std::atomic<bool>> cancel;
    };
    std::shared_ptr<std::atomic<bool>> begin(const QString& title, int& id);
    void end(int id);
    void note(int id, double share, const QString& what);

    std::unique_ptr<Manners> m_manners;
    QThreadPool m_pool;
    std::vector<Running> m_running;
    int m_lastId = 0;
};

// Hands progress to the window's thread, at most some thirty times a second.
class JobProgress final : public Progress {
public:
    JobProgress(JobList* list, int id, std::shared_ptr<std::atomic<bool>> cancel)
        : m_list(list), m_id(id), m_cancel(std::move(cancel)) {}
    void report(double share, std::string_view what) override;
    bool cancelled() const override { return m_cancel->load(); }

private:
    QPointer<JobList> m_list;
    int m_id;
    std::shared_ptr<std::atomic<bool>> m_cancel;
    qint64 m_lastMilliseconds = 0;
};

template <class T>
std::shared_ptr<std::atomic<bool>> JobList::run(const QString& title, QObject* context,
                                                std::function<Result<T>(Progress&)> work,
                                                std::function<void(Result<T>)> done) {
    int id = 0;
    auto cancel = begin(title, id);
    m_pool.start(
        [this, id, cancel, context = QPointer<QObject>(context), work = std::move(work), done = std::move(done)] {
            JobProgress progress(this, id, cancel);
            auto result = std::make_shared<Result<T>>(work(progress));
            QMetaObject::invokeMethod(
                this,
                [this, id, context, result, done] {
                    end(id);
                    if (context)
                        done(std::move(*result));
                },
                Qt::QueuedConnection);
        });
    return cancel;
}

} // namespace pyro
