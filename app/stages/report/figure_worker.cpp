#include "app/stages/report/figure_worker.h"

#include "core/case/series_watch.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr std::size_t mostKept = 120;

// Everything that changes the picture.
std::string keyOf(const FigureWish& wish) {
    auto block = wish.block;
    block.title.clear();
    block.off = false;
    auto key = KeyValue<ReportBlock>::write(block).dump() + wish.caseName +
               fmt::format(" {} {}", wish.step.value_or(-1), wish.folder.string());
    for (const auto& viewpoint : wish.viewpoints)
        key += KeyValue<ViewState>::write(viewpoint.view).dump() + viewpoint.name;
    for (const auto& entry : wish.survey->cases)
        key += KeyValue<CaseEntry>::write(entry).dump();
    for (const auto& [name, readings] : wish.readings)
        key += fmt::format("{} {} ", name, static_cast<const void*>(readings.get()));
    for (const auto& [name, step] : wish.steps)
        key += fmt::format("{} {} ", name, step);
    for (const auto& limit : wish.survey->limits) // named on the scale
        key += KeyValue<Limit>::write(limit).dump();
    return key + wish.survey->title;
}

std::string keyOf(const CaseRun& run) {
    std::string key = run.file;
    for (const auto& stamp : stampsOf(run.file))
        key += fmt::format(" {} {}", stamp.size, stamp.changed.time_since_epoch().count());
    return key;
}

} // namespace

class FigureWorker::Stop final : public Progress {
public:
    explicit Stop(const FigureWorker& worker) : m_worker(worker) {}
    void report(double, std::string_view) override {}
    bool cancelled() const override {
        const std::scoped_lock lock(m_worker.m_mutex);
        return m_worker.m_stop;
    }

private:
    const FigureWorker& m_worker;
};

FigureWorker::FigureWorker(QObject* parent) : QObject(parent), m_thread([this] { run(); }) {}

FigureWorker::~FigureWorker() {
    {
        const std::scoped_lock lock(m_mutex);
        m_stop = true;
    }
    m_wake.notify_all();
    m_done.notify_all();
    m_thread.join();
}

void FigureWorker::run() {
    m_drawer = std::make_unique<FigureDrawer>();
    while (true) {
        Order order;
        {
            std::unique_lock lock(m_mutex);
            m_wake.wait(lock, [this] { return m_stop || !m_orders.empty(); });
            if (m_stop)
                break;
            order = std::move(m_orders.front());
            m_orders.pop_front();
        }
        order.make();
        {
            const std::scoped_lock lock(m_mutex);
            m_ordered.erase(order.key);
        }
        m_done.notify_all();
        emit ready();
    }
    m_drawer.reset(); // its context belongs to this thread
}

// What someone waits for comes first, also where it was ordered before.
void FigureWorker::order(const std::string& key, std::function<void()> make, bool awaited) {
    if (!m_ordered.insert(key).second) {
        const auto waiting = std::ranges::find(m_orders, key, &Order::key);
        if (waiting != m_orders.end())
            waiting->isAwaited = waiting->isAwaited || awaited;
        return;
    }
    Order made{key, std::move(make), awaited};
    if (awaited)
        m_orders.push_front(std::move(made));
    else
        m_orders.push_back(std::move(made));
    m_wake.notify_all();
}

void FigureWorker::dropOvertaken() {
    const std::scoped_lock lock(m_mutex);
    std::erase_if(m_orders, [this](const Order& one) {
        const bool overtaken = !one.isAwaited && !m_asked.contains(one.key);
        if (overtaken)
            m_ordered.erase(one.key);
        return overtaken;
    });
    m_asked.clear();
}

void FigureWorker::orderFigure(const std::string& key, const FigureWish& wish, bool awaited) {
    order(
        key,
        [this, key, wish] {
            Stop stop(*this);
            auto made = m_drawer->draw(wish, stop);
            const std::scoped_lock lock(m_mutex);
            if (m_figures.size() > mostKept)
                m_figures.clear();
            m_figures[key] = made ? std::move(*made) : withoutPicture(made.error().what);
        },
        awaited);
}

void FigureWorker::orderSum(const std::string& key, const CaseRun& run, bool awaited) {
    order(
        key,
        [this, key, run] {
            auto sum = checkSumOf(run);
            const std::scoped_lock lock(m_mutex);
            m_sums[key] = std::move(sum);
        },
        awaited);
}

ReportPicture FigureWorker::figure(const FigureWish& wish) {
    const auto key = keyOf(wish);
    const std::scoped_lock lock(m_mutex);
    m_asked.insert(key);
    if (const auto made = m_figures.find(key); made != m_figures.end())
        return made->second;
    orderFigure(key, wish, false);
    auto place = withoutPicture("being drawn");
    const auto size = figureSize(wish.block);
    place.width = size.width();
    place.height = size.height();
    return place;
}

std::string FigureWorker::checkSum(const CaseRun& run) {
    const auto key = keyOf(run);
    const std::scoped_lock lock(m_mutex);
    m_asked.insert(key);
    if (const auto made = m_sums.find(key); made != m_sums.end())
        return made->second;
    CaseRun files{run.name, run.file, {}, {}};
    orderSum(key, files, false);
    return "being computed";
}

template <class Made>
Made FigureWorker::waited(const std::map<std::string, Made>& made, const std::string& key, Made otherwise,
                          Progress& progress) {
    std::unique_lock lock(m_mutex);
    while (!m_stop && !progress.cancelled() && !made.contains(key))
        m_done.wait_for(lock, std::chrono::milliseconds(50));
    const auto found = made.find(key);
    return found == made.end() ? otherwise : found->second;
}

ReportPicture FigureWorker::awaited(const FigureWish& wish, Progress& progress) {
    const auto key = keyOf(wish);
    {
        const std::scoped_lock lock(m_mutex);
        if (!m_figures.contains(key))
            orderFigure(key, wish, true);
    }
    return waited(m_figures, key, withoutPicture("cancelled"), progress);
}

std::string FigureWorker::awaitedCheckSum(const CaseRun& run, Progress& progress) {
    const auto key = keyOf(run);
    {
        const std::scoped_lock lock(m_mutex);
        if (!m_sums.contains(key))
            orderSum(key, {run.name, run.file, {}, {}}, true);
    }
    return waited(m_sums, key, std::string("unknown: cancelled"), progress);
}

bool FigureWorker::isBusy() const {
    const std::scoped_lock lock(m_mutex);
    return !m_ordered.empty();
}

} // namespace pyro
