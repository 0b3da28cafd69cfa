// The local maxima of a field on the mesh graph with their prominence: how far one has to come down from a peak to get
// to a higher one. Superlevel-set persistence; source: H. Edelsbrunner and J. Harer, Computational Topology, 2010,
// chapter VII.
#pragma once

#include "core/case/case.h"

#include <array>
#include <optional>
#include <vector>

namespace pyro {

// One part's stored values: of one component, on nodes (neighbours along edges) or on cells (neighbours share a node).
struct PeakPart {
    const Mesh* mesh = nullptr;
    RealView values;
    Location on = Location::Node;
    std::size_t size() const { return on == Location::Node ? mesh->nodes() : mesh->cells(); }
};

struct PeakVertex {
    std::uint32_t part;   // position in the list of parts
    std::uint32_t number; // node or cell
    bool operator==(const PeakVertex&) const = default;
};

struct Peak {
    PeakVertex top;   // of a plateau the one first in the file
    double value = 0; // stored
    // Value minus the highest saddle to a higher peak; of the highest, minus the lowest value; of another that no way
    // leads from, minus the lowest that is reached from it.
    double prominence = 0;
    std::optional<PeakVertex> saddle; // its place; nothing for the highest
};

// Vertices of different parts that touch, as neighbours.
using PeakJoin = std::array<PeakVertex, 2>;

class PeakField {
public:
    // `sign` -1: minima, as peaks of the negated field (value is still as stored). Values that are not finite are left
    // out. Of equal values the one first in the file is the higher. Parts must outlive it. On all cores.
    PeakField(std::vector<PeakPart> parts, const std::vector<PeakJoin>& joins, double sign = 1);

    // Those with at least this prominence, by falling prominence.
    std::vector<Peak> peaks(double least) const;

    // For each of these peaks the sum of `share` (per part and vertex) over the region around it that lies within
    // `drop` of it: what is connected to it above value - drop.
    std::vector<double> regionSizes(std::span<const Peak> peaks, double drop,
                                    const std::vector<std::span<const double>>& share) const;

    // For each of these peaks the vertex of its plateau that is nearest to the plateau's centroid (unweighted, m); the
    // top itself where it is none.
    std::vector<PeakVertex> centres(std::span<const Peak> peaks) const;

    std::uint64_t leftOut() const { return m_leftOut; } // values that are not finite

private:
    struct Saddle {
        std::uint32_t a, b; // numbers of roots
        std::uint32_t at;   // the lower end
        double height;
    };
    std::uint32_t componentAbove(double level, std::uint32_t vertex, std::vector<std::uint32_t>& parent) const;
    void climb(const std::vector<PeakJoin>& joins);
    void findRoots();
    void findSaddles(const std::vector<PeakJoin>& joins);
    void pair();
    template <class Use>
    void forNeighbours(Use use) const; // on all cores
    double at(std::size_t vertex) const { return m_values[vertex]; }
    bool higher(std::uint32_t a, std::uint32_t b) const { return at(a) > at(b) || (at(a) == at(b) && a < b); }
    std::uint32_t global(const PeakVertex& vertex) const { return m_first[vertex.part] + vertex.number; }
    PeakVertex local(std::uint32_t vertex) const;

    std::vector<PeakPart> m_parts;
    std::vector<std::uint32_t> m_first; // of each part, and the end
    std::vector<double> m_values;       // signed
    std::vector<std::uint32_t> m_up;    // a higher neighbour, then the root, then its number
    std::vector<std::uint32_t> m_roots; // vertices that have no higher neighbour; those without a value among them
    std::vector<Saddle> m_saddles;      // one per pair of roots that touch, falling
    std::vector<Peak> m_peaks;          // all, by falling prominence
    double m_sign;
    std::uint64_t m_leftOut = 0;
};

} // namespace pyro
