#include "core/report/heat_flow_diagram.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr double smallest = 1e-3; // of the largest link
constexpr double gapShare = 0.35; // of a column's height, between its nodes
constexpr double nodeWidth = 0.014;
constexpr double leastHeight = 0.004;

class Builder {
public:
    Builder(const Readings& readings, const CaseEntry& entry) : m_readings(readings), m_entry(entry) {}

    HeatFlowDiagram build() {
        double largest = 0;
        for (const auto& link : m_readings.balances->links)
            largest = std::max(largest, std::abs(link.heat));
        for (const auto& link : m_readings.balances->links)
            if (std::abs(link.heat) >= smallest * largest && link.heat != 0)
                addBand(link);
            else
                m_map.leftOut += std::abs(link.heat);
        for (const auto& part : m_readings.balances->parts)
            if (part.carried && std::abs(*part.carried) >= smallest * largest)
                addCarried(part);
        std::ranges::stable_sort(m_map.bands, std::greater<>(), &HeatBand::heat);
        addUp();
        findColumns();
        place();
        stack();
        return std::move(m_map);
    }

private:
    std::size_t nodeOf(const std::string& name, bool boundary) {
        const auto found = std::ranges::find_if(
            m_map.nodes, [&](const HeatNode& one) { return one.name == name && one.isBoundary == boundary; });
        if (found != m_map.nodes.end())
            return static_cast<std::size_t>(found - m_map.nodes.begin());
        HeatNode node;
        node.name = name;
        node.label = boundary ? shownBoundary(m_entry, name) : shownName(m_entry, name);
        node.isBoundary = boundary;
        if (boundary) {
            const auto outside = std::ranges::find(m_readings.environments, name, &Environment::name);
            if (outside != m_readings.environments.end())
                node.temperature = outside->temperature;
        } else {
            const auto region = std::ranges::find(m_readings.parts, name, &RegionReading::name);
            if (region != m_readings.parts.end() && region->mean)
                node.temperature = region->mean->kelvin;
            if (region != m_readings.parts.end() && region->max)
                node.highest = region->max->kelvin;
            const auto balance = std::ranges::find(m_readings.balances->parts, name, &PartBalance::part);
            if (balance != m_readings.balances->parts.end()) {
                node.produced = balance->produced.value_or(0);
                node.stored = balance->stored.value_or(0);
            }
        }
        m_map.nodes.push_back(std::move(node));
        return m_map.nodes.size() - 1;
    }
    // Through a boundary heat may come in: then it leads from there.
    void addBand(const PartLink& link) {
        const auto from = nodeOf(link.from, false);
        const auto to = nodeOf(link.to, link.toBoundary);
        HeatBand band{from, to, std::abs(link.heat), link.difference, link.resistance, 0, 0, 0};
        if (link.heat < 0)
            std::swap(band.from, band.to);
        m_map.bands.push_back(band);
    }
    // What a flow takes along leaves at the rim as well.
    void addCarried(const PartBalance& part) {
        const auto from = nodeOf(part.part, false);
        HeatNode away;
        away.name = part.part;
        away.label = "With the flow of " + m_map.nodes[from].label;
        away.isBoundary = true;
        m_map.nodes.push_back(std::move(away));
        HeatBand band{from, m_map.nodes.size() - 1, std::abs(*part.carried), {}, {}, 0, 0, 0};
        if (*part.carried < 0)
            std::swap(band.from, band.to);
        m_map.bands.push_back(band);
    }
    void addUp() {
        for (std::size_t i = 0; i < m_map.nodes.size(); ++i) {
            double in = std::max(0.0, m_map.nodes[i].produced);
            double out = std::max(0.0, -m_map.nodes[i].produced) + std::max(0.0, m_map.nodes[i].stored);
            in += std::max(0.0, -m_map.nodes[i].stored);
            for (const auto& band : m_map.bands) {
                in += band.to == i ? band.heat : 0;
                out += band.from == i ? band.heat : 0;
            }
            m_map.nodes[i].through = std::max(in, out);
        }
    }
    // The longest way to a node, over bands; in a ring of heat, as a flow may drive it, no more rounds than there are
    // nodes.
    void findColumns() {
        m_column.assign(m_map.nodes.size(), 0);
        for (std::size_t round = 0; round < m_map.nodes.size(); ++round) {
            bool moved = false;
            for (const auto& band : m_map.bands)
                if (m_column[band.to] < m_column[band.from] + 1 &&
                    m_column[band.from] + 1 < static_cast<int>(m_map.nodes.size())) {
                    m_column[band.to] = m_column[band.from] + 1;
                    moved = true;
                }
            if (!moved)
                break;
        }
        // A ring climbs with every round: columns are numbered anew without the empty ones.
        std::vector<int> used = m_column;
        std::ranges::sort(used);
        used.erase(std::unique(used.begin(), used.end()), used.end());
        for (auto& column : m_column)
            column = static_cast<int>(std::ranges::lower_bound(used, column) - used.begin());
        m_map.columns = static_cast<int>(used.size());
        for (std::size_t i = 0; i < m_map.nodes.size(); ++i) // where heat leaves for good stands at the rim
            if (m_map.nodes[i].isBoundary &&
                std::ranges::none_of(m_map.bands, [&](const HeatBand& band) { return band.from == i; }))
                m_column[i] = m_map.columns - 1;
    }
    void place() {
        double most = 0;
        std::vector<double> sum(static_cast<std::size_t>(m_map.columns));
        std::vector<int> count(sum.size());
        for (std::size_t i = 0; i < m_map.nodes.size(); ++i) {
            sum[static_cast<std::size_t>(m_column[i])] += m_map.nodes[i].through;
            ++count[static_cast<std::size_t>(m_column[i])];
        }
        for (const double one : sum)
            most = std::max(most, one);
        m_scale = (1 - gapShare) / most;
        m_map.nodeWidth = nodeWidth;
        std::vector<double> next(sum.size());
        for (std::size_t column = 0; column < sum.size(); ++column)
            next[column] = std::max(0.0, 1 - m_scale * sum[column]) / (2 * std::max(1, count[column]));
        const auto gap = next;
        for (const auto i : byHeat()) {
            auto& node = m_map.nodes[i];
            const auto column = static_cast<std::size_t>(m_column[i]);
            node.height = std::max(leastHeight, m_scale * node.through);
            node.x = m_map.columns > 1 ? static_cast<double>(column) / (m_map.columns - 1) * (1 - nodeWidth) : 0;
            node.y = next[column];
            next[column] += m_scale * node.through + 2 * gap[column];
        }
    }
    // Order within the columns: each node about where what feeds it stands, those that nothing feeds by what passes
    // them.
    std::vector<std::size_t> byHeat() const {
        std::vector<std::size_t> order(m_map.nodes.size());
        for (std::size_t i = 0; i < order.size(); ++i)
            order[i] = i;
        std::vector<double> rank(order.size());
        std::ranges::stable_sort(order, {}, [&](std::size_t i) { return m_column[i]; });
        double position = 0;
        for (std::size_t begin = 0; begin < order.size();) {
            auto end = begin;
            while (end < order.size() && m_column[order[end]] == m_column[order[begin]])
                ++end;
            for (auto at = begin; at < end; ++at) {
                double weight = 0;
                double sum = 0;
                for (const auto& band : m_map.bands)
                    if (band.to == order[at] && m_column[band.from] < m_column[order[at]]) {
                        weight += band.heat;
                        sum += band.heat * rank[band.from];
                    }
                rank[order[at]] = weight > 0 ? sum / weight : -m_map.nodes[order[at]].through;
            }
            std::stable_sort(order.begin() + static_cast<std::ptrdiff_t>(begin),
                             order.begin() + static_cast<std::ptrdiff_t>(end),
                             [&](std::size_t a, std::size_t b) { return rank[a] < rank[b]; });
            for (auto at = begin; at < end; ++at)
                rank[order[at]] = position++;
            begin = end;
        }
        return order;
    }
    // Bands side by side at both ends, in the order in which their other ends stand.
    void stack() {
        for (std::size_t i = 0; i < m_map.nodes.size(); ++i) {
            std::vector<HeatBand*> out;
            std::vector<HeatBand*> in;
            for (auto& band : m_map.bands) {
                band.width = m_scale * band.heat;
                if (band.from == i)
                    out.push_back(&band);
                if (band.to == i)
                    in.push_back(&band);
            }
            std::ranges::stable_sort(out, {}, [&](const HeatBand* band) { return m_map.nodes[band->to].y; });
            std::ranges::stable_sort(in, {}, [&](const HeatBand* band) { return m_map.nodes[band->from].y; });
            double y = m_map.nodes[i].y;
            for (auto* band : out) {
                band->yFrom = y;
                y += band->width;
            }
            y = m_map.nodes[i].y;
            for (auto* band : in) {
                band->yTo = y;
                y += band->width;
            }
        }
    }

    const Readings& m_readings;
    const CaseEntry& m_entry;
    HeatFlowDiagram m_map;
    std::vector<int> m_column; // of each node
    double m_scale = 0;        // height per watt
};

} // namespace

Result<HeatFlowDiagram> heatFlowDiagram(const Readings& readings, const CaseEntry& entry) {
    if (!readings.balances)
        return fail(ErrorCode::NotSupported, "the balances of the parts are not known yet");
    if (std::ranges::none_of(readings.balances->links, [](const PartLink& link) { return link.heat != 0; }))
        return fail(ErrorCode::NotSupported, "no heat is known to go from one part to another", {},
                    "Conductivities and powers are needed, or a stored flux");
    return Builder(readings, entry).build();
}

} // namespace pyro
