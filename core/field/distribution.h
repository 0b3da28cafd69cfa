// The volume-weighted distribution of a quantity, as it stands on the heat strip.
#pragma once

#include <cstddef>
#include <vector>

namespace pyro {

// Extent (m3 or m2) per value class between `low` and `high`, both ends included. Mergeable when the ends and the
// number of classes agree.
class Distribution {
public:
    Distribution() = default;
    Distribution(double low, double high, std::size_t classes);

    void add(double value, double weight); // values beyond the ends go to the end classes; NaN is left out
    void merge(const Distribution& other);

    double low() const { return m_low; }
    double high() const { return m_high; }
    double total() const;
    // Share of the extent below or above a value, 0..1; within a class by linear interpolation. Exactly 0 only if
    // nothing lies there.
    double shareBelow(double value) const;
    double shareAbove(double value) const;
    // The value that the hottest `share` of the extent lies above; for 0.1 the "hottest tenth".
    double valueWithShareAbove(double share) const;
    // Extent per class over [from, to] in `classes` steps, for drawing.
    std::vector<double> rebinned(double from, double to, std::size_t classes) const;
    bool empty() const { return total() <= 0; }

private:
    double below(double value) const; // extent

    double m_low = 0;
    double m_high = 0;
    std::vector<double> m_extent;
};

} // namespace pyro
