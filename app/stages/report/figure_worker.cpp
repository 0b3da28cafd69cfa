#include "app/stages/report/figure_worker.h"

#include "core/case/series_watch.h"

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

void FigureWorker::order(const std::string& key, std::function<void()> make, bool first) {
    if (!m_ordered.insert(key).second)
        return;
    if (first)
        m_orders.push_front({key, std::move(make)});
    else
        m_orders.push_back({key, std::move(make)});
    m_wake.notify_all();
}

void FigureWorker::orderFigure(const std::string& key, const FigureWish& wish, bool first) {
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
        first);
}

void FigureWorker::orderSum(const std::string& key, const CaseRun& run, bool first) {
    order(
        key,
        [this, key, run] {
            auto sum = checkSumOf(run);
            const std::scoped_lock lock(m_mutex);
            m_sums[key] = std::move(sum);
        },
        first);
}

ReportPicture FigureWorker::figure(const FigureWish& wish) {
    const auto key = keyOf(wish);
    const std::scoped_lock lock(m_mutex);
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
    if (const auto made = m_sums.find(key); made != m_sums.end())
        return made->second;
    CaseRun files{run.name, run.file, {}, {}};
    orderSum(key, files, false);
    return "being computed";
}

bool FigureWorker::waitFor(const std::function<bool()>& isThere, Progress& progress) {
    std::unique_lock lock(m_mutex);
    while (!m_stop && !progress.cancelled() && !isThere())
        m_done.wait_for(lock, std::chrono::milliseconds(50));
    return isThere();
}

ReportPicture FigureWorker::awaited(const FigureWish& wish, Progress& progress) {
    const auto key = keyOf(wish);
    {
        const std::scoped_lock lock(m_mutex);
        if (!m_figures.contains(key))
            orderFigure(key, wish, true);
    }
    ReportPicture out = withoutPicture("cancelled");
    waitFor(
        [&] {
            const auto made = m_figures.find(key);
            if (made != m_figures.end())
                out = made->second;
            return made != m_figures.end();
        },
        progress);
    return out;
}

std::string FigureWorker::awaitedCheckSum(const CaseRun& run, Progress& progress) {
    const auto key = keyOf(run);
    {
        const std::scoped_lock lock(m_mutex);
        if (!m_sums.contains(key))
            orderSum(key, {run.name, run.file, {}, {}}, true);
    }
    std::string out = "unknown: cancelled";
    waitFor(
        [&] {
            const auto made = m_sums.find(key);
            if (made != m_sums.end())
                out = made->second;
            return made != m_sums.end();
        },
        progress);
    return out;
}

bool FigureWorker::isBusy() const {
    const std::scoped_lock lock(m_mutex);
    return !m_ordered.empty();
}

} // namespace pyro
