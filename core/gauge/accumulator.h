// gauge: measurements on parts and boundaries. Every statistic is a mergeable reduction: pieces of a case may be
// added in any order by any number of threads or processes and merged.
#pragma once

#include <cstdint>
#include <limits>

namespace pyro {

struct Extremum {
    double value;
    std::uint32_t region; // position in the support's list
    std::uint64_t number; // node or cell within the region
};

// Weighted sum, extent and extremes of one support. Of equal extremes the first place is kept, whatever the order
// of merging. NaN and infinite values are counted and keep every statistic from being told.
class Accumulator {
public:
    void add(double value, double weight, std::uint32_t region, std::uint64_t number);
    void merge(const Accumulator& other);

    std::uint64_t count() const { return m_count; }
    std::uint64_t notFinite() const { return m_notFinite; }
    const Extremum& firstNotFinite() const { return m_firstNotFinite; }
    double extent() const { return m_weight.total(); } // sum of weights: m2 or m3
    double integral() const { return m_product.total(); }
    double mean() const { return integral() / extent(); } // NaN when there is no extent
    const Extremum& min() const { return m_min; }
    const Extremum& max() const { return m_max; }

private:
    // Sum with the rounding error carried along (Neumaier 1974).
    class Sum {
    public:
        void add(double term);
        void merge(const Sum& other) {
            add(other.m_sum);
            add(other.m_rest);
        }
        double total() const { return m_sum + m_rest; }

    private:
        double m_sum = 0;
        double m_rest = 0;
    };

    std::uint64_t m_count = 0;
    std::uint64_t m_notFinite = 0;
    Sum m_weight;
    Sum m_product;
    static constexpr std::uint32_t lastRegion = ~0U;
    static constexpr double infinity = std::numeric_limits<double>::infinity();
    Extremum m_min{infinity, lastRegion, 0};
    Extremum m_max{-infinity, lastRegion, 0};
    Extremum m_firstNotFinite{0, lastRegion, 0};
};

} // namespace pyro
