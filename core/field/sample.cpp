#include "core/field/sample.h"

#include <algorithm>
#include <cmath>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

// Places sorted into the bins of a grid over their own box, and their steps of it, 32 766 along each axis.
class PlaceGrid {
public:
    // Along x, y, z; -1: below the box, the largest: above. Four numbers that the processor compares at once.
    using Steps = std::int16_t __attribute__((vector_size(8)));
    static constexpr std::int16_t last = 32766; // of the steps; one more is still a number

    explicit PlaceGrid(std::span<const Point> places) : m_sorted(places.size()), m_sortedSteps(places.size()) {
        m_low.fill(INFINITY);
        Point high;
        high.fill(-INFINITY);
        for (const auto& place : places)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                m_low[axis] = std::min(m_low[axis], place[axis]);
                high[axis] = std::max(high[axis], place[axis]);
            }
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const double hair =
                1e-9 * std::max({std::abs(m_low[axis]), std::abs(high[axis]), high[axis] - m_low[axis]}) + 1e-300;
            m_low[axis] -= hair;
            m_perMetre[axis] = above / (high[axis] + hair - m_low[axis]);
        }
        while (m_bits < 7 && (std::size_t{1} << (3 * (m_bits + 1))) < 8 * places.size())
            ++m_bits;
        m_shift = 15 - m_bits;
        m_begin.assign((std::size_t{1} << (3 * m_bits)) + 1, 0);
        RawVector<Steps> steps(places.size());
        for (std::size_t i = 0; i < places.size(); ++i) {
            steps[i] = stepsOf(places[i]);
            ++m_begin[binOf(steps[i]) + 1];
        }
        for (std::size_t bin = 1; bin < m_begin.size(); ++bin)
            m_begin[bin] += m_begin[bin - 1];
        auto next = m_begin;
        for (std::size_t i = 0; i < places.size(); ++i) {
            const auto to = next[binOf(steps[i])]++;
            m_sorted[to] = static_cast<std::uint32_t>(i);
            m_sortedSteps[to] = steps[i];
        }
    }

    Steps stepsOf(const Point& at) const {
        Steps steps{};
        for (std::size_t axis = 0; axis < 3; ++axis)
            steps[axis] = static_cast<std::int16_t>(
                std::min(std::max((at[axis] - m_low[axis]) * m_perMetre[axis], -1.0), above));
        return steps;
    }

    // use(place) for those from low to high, a step's reach to both sides.
    template <class Use>
    void forWithin(Steps low, Steps high, Use use) const {
        if (low[0] == last || low[1] == last || low[2] == last || high[0] < 0 || high[1] < 0 || high[2] < 0)
            return;
        constexpr Steps one{1, 1, 1, 0};
        constexpr Steps least{0, 0, 0, 0};
        constexpr Steps most{last - 1, last - 1, last - 1, 0};
        low = low > least ? low - one : least;
        high = high < most ? high + one : most;
        const auto from = low >> m_shift;
        const auto to = high >> m_shift;
        for (int k = from[2]; k <= to[2]; ++k)
            for (int j = from[1]; j <= to[1]; ++j) {
                const auto end = m_begin[binOf(to[0], j, k) + 1];
                for (auto at = m_begin[binOf(from[0], j, k)]; at < end; ++at) {
                    const auto out = (m_sortedSteps[at] < low) | (m_sortedSteps[at] > high);
                    if ((out[0] | out[1] | out[2]) == 0)
                        use(m_sorted[at]);
                }
            }
    }

    // Places in the order of their bins: neighbours follow each other.
    std::span<const std::uint32_t> sorted() const { return m_sorted; }

private:
    static constexpr double above = last;

    std::size_t binOf(const Steps& steps) const {
        const auto bin = steps >> m_shift;
        return binOf(bin[0], bin[1], bin[2]);
    }
    std::size_t binOf(int i, int j, int k) const { // at most 128 along each axis
        const int bin = i + ((j + (k << m_bits)) << m_bits);
        return static_cast<std::size_t>(bin);
    }

    Point m_low{};
    std::array<double, 3> m_perMetre{};
    int m_bits = 0;                      // bins along each axis: 2 to their power
    int m_shift = 0;                     // of steps, to bins
    std::vector<std::uint32_t> m_sorted; // places, bin after bin
    RawVector<Steps> m_sortedSteps;
    std::vector<std::uint32_t> m_begin; // per bin: first in m_sorted
};

// The cells against the places: of several that hold a place the lowest number is told, whatever the order in which
// threads come by.
class HolderSearch {
public:
    static constexpr std::uint32_t nowhere = ~0U;

    HolderSearch(const Region& part, std::span<const Point> places)
        : m_part(part), m_places(places), m_grid(places), m_steps(part.mesh.nodes()), m_holder(places.size()) {}

    std::vector<std::atomic<std::uint32_t>>& run() {
        for (auto& one : m_holder)
            one.store(nowhere, std::memory_order_relaxed);
        const auto& mesh = m_part.mesh;
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.nodes(), 1 << 14), [&](const auto& range) {
            for (auto node = range.begin(); node != range.end(); ++node)
                m_steps[node] = m_grid.stepsOf(mesh.node(node));
        });
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.cells(), 1 << 13), [&](const auto& range) {
            const CellShape* shape = nullptr;
            for (auto cell = range.begin(); cell != range.end(); ++cell) {
                if (shape == nullptr || shape->type != mesh.type(cell))
                    shape = cellShape(mesh.type(cell));
                if (shape->dimension == 3)
                    look(static_cast<std::uint32_t>(cell), isCurved(shape->type));
            }
        });
        return m_holder;
    }

private:
    void look(std::uint32_t cell, bool curved) {
        const auto ids = m_part.mesh.cell(cell);
        auto low = m_steps[ids[0]];
        auto high = low;
        for (std::size_t i = 1; i < ids.size(); ++i) {
            const auto step = m_steps[ids[i]];
            low = low < step ? low : step;
            high = high > step ? high : step;
        }
        if (curved) { // its faces reach beyond its nodes
            const auto reach = (high - low) / 4;
            const auto widest = std::max({reach[0], reach[1], reach[2]});
            for (int axis = 0; axis < 3; ++axis) {
                low[axis] = static_cast<std::int16_t>(std::max(low[axis] - widest, -1));
                high[axis] = static_cast<std::int16_t>(std::min<int>(high[axis] + widest, PlaceGrid::last));
            }
        }
        m_grid.forWithin(low, high, [&](std::uint32_t place) {
            auto before = m_holder[place].load(std::memory_order_relaxed);
            CellWeights weight;
            if (cell >= before || !CellFrame(m_part, cell).weightsAt(m_places[place], weight))
                return;
            while (cell < before && !m_holder[place].compare_exchange_weak(before, cell, std::memory_order_relaxed)) {
            }
        });
    }

    const Region& m_part;
    std::span<const Point> m_places;
    PlaceGrid m_grid;
    RawVector<PlaceGrid::Steps> m_steps; // per node
    std::vector<std::atomic<std::uint32_t>> m_holder;
};

} // namespace

std::vector<double> sampleAll(const Region& part, const PointLocator& locator, const RealView& values,
                              std::span<const Point> places) {
    std::vector<double> sampled(places.size(), std::nan(""));
    const PlaceGrid grid(places);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, places.size(), 256), [&](const auto& range) {
        for (auto i = range.begin(); i != range.end(); ++i) {
            const auto at = grid.sorted()[i];
            if (const auto place = locator.find(places[at]))
                sampled[at] = valueAt(part, *place, values);
        }
    });
    return sampled;
}

std::vector<double> sampleAll(const Region& part, const RealView& values, std::span<const Point> places) {
    HolderSearch search(part, places);
    const auto& holder = search.run();
    std::vector<double> sampled(places.size(), std::nan(""));
    tbb::parallel_for(std::size_t{0}, places.size(), [&](std::size_t i) {
        const auto cell = holder[i].load(std::memory_order_relaxed);
        if (cell == HolderSearch::nowhere)
            return;
        CellFrame frame(part, cell);
        CellPlace place{cell, {}, static_cast<std::uint16_t>(frame.nodes().size())};
        if (frame.weightsAt(places[i], place.weight))
            sampled[i] = valueAt(part, place, values);
    });
    return sampled;
}

std::vector<double> sampleCells(const Region& part, const RealView& values, std::span<const Point> places) {
    HolderSearch search(part, places);
    const auto& holder = search.run();
    std::vector<double> sampled(places.size(), std::nan(""));
    tbb::parallel_for(std::size_t{0}, places.size(), [&](std::size_t i) {
        const auto cell = holder[i].load(std::memory_order_relaxed);
        if (cell != HolderSearch::nowhere)
            sampled[i] = values[cell];
    });
    return sampled;
}

} // namespace pyro
