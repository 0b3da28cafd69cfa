// Draws the figures of a report in a thread of its own, one after the other, and keeps what it drew.
#pragma once

#include "render/report_figures.h"

#include <QObject>
#include <condition_variable>
#include <deque>
#include <future>
#include <set>
#include <thread>

namespace pyro {

class FigureWorker : public QObject {
    Q_OBJECT
public:
    explicit FigureWorker(QObject* parent = nullptr);
    ~FigureWorker() override; // cancels, and waits for the thread

    // What stands for it now: itself, the reason why there is none, or its place while it is drawn, which is then
    // begun.
    ReportPicture figure(const FigureWish& wish);
    // The same when it is there; for other threads. Waits until then or until `progress` is cancelled.
    ReportPicture awaited(const FigureWish& wish, Progress& progress);
    // Check sums of the files of a case, in words, in the same way.
    std::string checkSum(const CaseRun& run);
    std::string awaitedCheckSum(const CaseRun& run, Progress& progress);
    // What waits to be drawn and was not asked for since the last call is dropped: it has been overtaken.
    void dropOvertaken();
    bool isBusy() const;

signals:
    void ready(); // one more is there

private:
    struct Order {
        std::string key;
        std::function<void()> make; // in the thread
        bool isAwaited = false;
    };
    class Stop;
    void run();
    void order(const std::string& key, std::function<void()> make, bool awaited);
    void orderFigure(const std::string& key, const FigureWish& wish, bool awaited);
    void orderSum(const std::string& key, const CaseRun& run, bool awaited);
    template <class Made>
    Made waited(const std::map<std::string, Made>& made, const std::string& key, Made otherwise, Progress& progress);

    mutable std::mutex m_mutex;
    std::condition_variable m_wake;
    std::condition_variable m_done;
    std::deque<Order> m_orders;
    std::set<std::string> m_ordered; // keys that wait or are being made
    std::set<std::string> m_asked;   // since dropOvertaken()
    std::map<std::string, ReportPicture> m_figures;
    std::map<std::string, std::string> m_sums;
    bool m_stop = false;
    std::unique_ptr<FigureDrawer> m_drawer; // of the thread
    std::thread m_thread;                   // last: it uses everything before it
};

} // namespace pyro
