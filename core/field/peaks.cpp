#include "core/field/peaks.h"

#include "core/field/face_lookup.h"
#include "core/field/mesh_edges.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>
#include <numeric>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>
#include <unordered_map>

namespace pyro {
namespace {

constexpr std::uint32_t none = ~0U;
constexpr std::size_t chunk = std::size_t{1} << 14;

std::uint32_t load(const std::uint32_t& value) {
    return std::atomic_ref(const_cast<std::uint32_t&>(value)).load(std::memory_order_relaxed);
}
void store(std::uint32_t& to, std::uint32_t value) { std::atomic_ref(to).store(value, std::memory_order_relaxed); }

std::uint32_t found(std::vector<std::uint32_t>& parent, std::uint32_t at) {
    while (parent[at] != at) {
        parent[at] = parent[parent[at]];
        at = parent[at];
    }
    return at;
}

} // namespace

PeakField::PeakField(std::vector<PeakPart> parts, const std::vector<PeakJoin>& joins, double sign)
    : m_parts(std::move(parts)), m_sign(sign) {
    m_first.push_back(0);
    for (const auto& part : m_parts)
        m_first.push_back(m_first.back() + static_cast<std::uint32_t>(part.size()));
    m_values.resize(m_first.back());
    std::atomic<std::uint64_t> bad{0};
    for (std::size_t part = 0; part < m_parts.size(); ++part)
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, m_parts[part].size(), chunk), [&](const auto& range) {
            std::uint64_t count = 0;
            for (auto i = range.begin(); i != range.end(); ++i) {
                const double value = m_sign * m_parts[part].values[i];
                m_values[m_first[part] + i] = value;
                count += std::isfinite(value) ? 0 : 1;
            }
            bad += count;
        });
    m_leftOut = bad;
    climb(joins);
    findRoots();
    findSaddles(joins);
    pair();
}

PeakVertex PeakField::local(std::uint32_t vertex) const {
    const auto part = static_cast<std::uint32_t>(std::ranges::upper_bound(m_first, vertex) - m_first.begin() - 1);
    return {part, vertex - m_first[part]};
}

// use(a, b) for neighbours within a part. Cells of one node: each with the highest of them, which connects the same.
template <class Use>
void PeakField::forNeighbours(Use use) const {
    for (std::size_t part = 0; part < m_parts.size(); ++part) {
        const auto& mesh = *m_parts[part].mesh;
        const auto first = m_first[part];
        if (m_parts[part].on == Location::Node) {
            tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.cells(), chunk), [&](const auto& range) {
                for (auto cell = range.begin(); cell != range.end(); ++cell)
                    forEdges(mesh.type(cell), mesh.cell(cell),
                             [&](std::uint32_t a, std::uint32_t b) { use(first + a, first + b); });
            });
            continue;
        }
        std::vector<std::uint32_t> best(mesh.nodes(), none);
        const auto offer = [&](std::uint32_t node, std::uint32_t cell) {
            std::atomic_ref slot(best[node]);
            for (auto known = slot.load(std::memory_order_relaxed);
                 known == none || higher(first + cell, first + known);)
                if (slot.compare_exchange_weak(known, cell, std::memory_order_relaxed))
                    return;
        };
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.cells(), chunk), [&](const auto& range) {
            for (auto cell = range.begin(); cell != range.end(); ++cell)
                if (std::isfinite(at(first + cell)))
                    for (const auto node : mesh.cell(cell))
                        offer(node, static_cast<std::uint32_t>(cell));
        });
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.cells(), chunk), [&](const auto& range) {
            for (auto cell = range.begin(); cell != range.end(); ++cell)
                for (const auto node : mesh.cell(cell))
                    if (best[node] != none && best[node] != cell)
                        use(first + static_cast<std::uint32_t>(cell), first + best[node]);
        });
    }
}

// Any higher neighbour leads to a maximum that is reached without coming down, so the first one that is met will do.
void PeakField::climb(const std::vector<PeakJoin>& joins) {
    m_up.assign(m_values.size(), none);
    const auto link = [this](std::uint32_t a, std::uint32_t b) {
        if (load(m_up[a]) != none && load(m_up[b]) != none)
            return;
        if (!std::isfinite(at(a)) || !std::isfinite(at(b)))
            return;
        const auto low = higher(a, b) ? b : a;
        if (load(m_up[low]) == none)
            store(m_up[low], low == a ? b : a);
    };
    forNeighbours(link);
    for (const auto& [a, b] : joins)
        link(global(a), global(b));
}

// What another thread has written meanwhile is further up on the same way.
void PeakField::findRoots() {
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, m_up.size(), chunk), [&](const auto& range) {
        for (auto vertex = range.begin(); vertex != range.end(); ++vertex) {
            auto root = static_cast<std::uint32_t>(vertex);
            for (auto next = load(m_up[root]); next != none && next != root; next = load(m_up[root]))
                root = next;
            for (auto on = static_cast<std::uint32_t>(vertex); on != root;) {
                const auto next = load(m_up[on]);
                store(m_up[on], root);
                on = next;
            }
        }
    });
    std::vector<std::uint32_t> number(m_up.size());
    for (std::uint32_t vertex = 0; vertex < m_up.size(); ++vertex)
        if (m_up[vertex] == none || m_up[vertex] == vertex) {
            m_up[vertex] = vertex;
            number[vertex] = static_cast<std::uint32_t>(m_roots.size());
            m_roots.push_back(vertex);
        }
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, m_up.size(), chunk), [&](const auto& range) {
        for (auto vertex = range.begin(); vertex != range.end(); ++vertex)
            m_up[vertex] = number[m_up[vertex]];
    });
}

void PeakField::findSaddles(const std::vector<PeakJoin>& joins) {
    using Known = std::unordered_map<std::uint64_t, Saddle>;
    const auto keep = [this](Known& known, const Saddle& saddle) {
        const auto [place, fresh] = known.emplace(std::uint64_t{saddle.a} << 32 | saddle.b, saddle);
        if (!fresh && higher(saddle.at, place->second.at))
            place->second = saddle;
    };
    tbb::enumerable_thread_specific<Known> threads;
    const auto touch = [&](std::uint32_t a, std::uint32_t b) {
        const auto [low, high] = std::minmax(m_up[a], m_up[b]);
        if (low == high || !std::isfinite(at(a)) || !std::isfinite(at(b)))
            return;
        const auto lower = higher(a, b) ? b : a;
        keep(threads.local(), {low, high, lower, at(lower)});
    };
    forNeighbours(touch);
    for (const auto& [a, b] : joins)
        touch(global(a), global(b));
    Known all;
    for (const auto& known : threads)
        for (const auto& [key, saddle] : known)
            keep(all, saddle);
    for (const auto& [key, saddle] : all)
        m_saddles.push_back(saddle);
    std::ranges::sort(m_saddles, [this](const Saddle& a, const Saddle& b) {
        return a.at != b.at ? higher(a.at, b.at) : std::pair(a.a, a.b) < std::pair(b.a, b.b);
    });
}

// Roots joined by falling saddles: the lower peak of the two ends there.
void PeakField::pair() {
    std::vector<double> lowest(m_roots.size(), std::numeric_limits<double>::max()); // that leads up to each root
    for (std::size_t vertex = 0; vertex < m_up.size(); ++vertex)
        if (std::isfinite(m_values[vertex]))
            lowest[m_up[vertex]] = std::min(lowest[m_up[vertex]], m_values[vertex]);
    std::vector<std::uint32_t> parent(m_roots.size());
    std::iota(parent.begin(), parent.end(), 0U);
    std::vector<std::uint32_t> top(parent); // the highest root of a set
    std::vector<Peak> all(m_roots.size());
    std::vector<bool> ended(m_roots.size(), false);
    for (std::size_t i = 0; i < all.size(); ++i)
        all[i] = {local(m_roots[i]), m_sign * at(m_roots[i]), 0, std::nullopt};
    for (const auto& saddle : m_saddles) {
        const auto a = found(parent, saddle.a);
        const auto b = found(parent, saddle.b);
        if (a == b)
            continue;
        const bool first = higher(m_roots[top[a]], m_roots[top[b]]);
        const auto stays = first ? a : b;
        const auto ends = top[first ? b : a];
        all[ends].prominence = at(m_roots[ends]) - saddle.height;
        all[ends].saddle = local(saddle.at);
        ended[ends] = true;
        lowest[stays] = std::min(lowest[a], lowest[b]);
        parent[first ? b : a] = stays;
    }
    std::size_t highest = 0;
    double lowestOfAll = std::numeric_limits<double>::max();
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (higher(m_roots[i], m_roots[highest]) || !std::isfinite(at(m_roots[highest])))
            highest = i;
        lowestOfAll = std::min(lowestOfAll, lowest[i]);
    }
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (!std::isfinite(at(m_roots[i])))
            continue;
        if (!ended[i])
            all[i].prominence = at(m_roots[i]) -
                                (i == highest ? lowestOfAll : lowest[found(parent, static_cast<std::uint32_t>(i))]);
        m_peaks.push_back(all[i]);
    }
    std::ranges::stable_sort(m_peaks, [](const Peak& a, const Peak& b) { return a.prominence > b.prominence; });
}

std::vector<Peak> PeakField::peaks(double least) const {
    std::vector<Peak> out;
    for (const auto& peak : m_peaks)
        if (peak.prominence >= least)
            out.push_back(peak);
    return out;
}

// A vertex above the level belongs to a region when the peak it leads up to does: roots are joined there by saddles
// above it. Which root stands for what is connected above the level to a vertex; `parent` then leads every root there.
std::uint32_t PeakField::componentAbove(double level, std::uint32_t vertex, std::vector<std::uint32_t>& parent) const {
    parent.resize(m_roots.size());
    std::iota(parent.begin(), parent.end(), 0U);
    for (const auto& saddle : m_saddles) {
        if (saddle.height < level)
            break;
        parent[found(parent, saddle.a)] = found(parent, saddle.b);
    }
    return found(parent, m_up[vertex]);
}

std::vector<double> PeakField::regionSizes(std::span<const Peak> peaks, double drop,
                                           const std::vector<std::span<const double>>& share) const {
    std::vector<double> sizes;
    std::vector<std::uint32_t> parent;
    for (const auto& peak : peaks) {
        const double level = at(global(peak.top)) - drop;
        const auto own = componentAbove(level, global(peak.top), parent);
        double size = 0;
        for (std::size_t part = 0; part < m_parts.size(); ++part)
            for (std::size_t i = 0; i < share[part].size(); ++i)
                if (const auto vertex = m_first[part] + i;
                    m_values[vertex] >= level && found(parent, m_up[vertex]) == own)
                    size += share[part][i];
        sizes.push_back(size);
    }
    return sizes;
}

std::vector<PeakVertex> PeakField::centres(std::span<const Peak> peaks) const {
    std::unordered_map<double, std::vector<std::uint32_t>> level; // vertices of each height that a peak has
    for (const auto& peak : peaks)
        level.try_emplace(at(global(peak.top)));
    for (std::uint32_t vertex = 0; vertex < m_values.size(); ++vertex)
        if (const auto same = level.find(m_values[vertex]); same != level.end())
            same->second.push_back(vertex);
    const auto place = [&](std::uint32_t vertex) {
        const auto here = local(vertex);
        const auto& part = m_parts[here.part];
        return part.on == Location::Node ? part.mesh->node(here.number) : part.mesh->cellCentre(here.number);
    };
    std::vector<PeakVertex> centres;
    std::vector<std::uint32_t> parent;
    for (const auto& peak : peaks) {
        const auto top = global(peak.top);
        std::vector<std::uint32_t> plateau = level.at(at(top));
        if (plateau.size() > 1) {
            const auto own = componentAbove(at(top), top, parent);
            std::erase_if(plateau, [&](std::uint32_t vertex) { return found(parent, m_up[vertex]) != own; });
        }
        if (plateau.size() < 2) {
            centres.push_back(peak.top);
            continue;
        }
        Point centroid{};
        for (const auto vertex : plateau)
            for (std::size_t axis = 0; axis < 3; ++axis)
                centroid[axis] += place(vertex)[axis] / static_cast<double>(plateau.size());
        centres.push_back(local(*std::ranges::min_element(
            plateau, {}, [&](std::uint32_t vertex) { return squaredDistance(place(vertex), centroid); })));
    }
    return centres;
}

} // namespace pyro
