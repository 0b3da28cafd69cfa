#include "core/field/distribution.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <numeric>

namespace pyro {

Distribution::Distribution(double low, double high, std::size_t classes)
    : m_low(low), m_high(high), m_extent(classes, 0.0) {
    assert(classes > 0 && low <= high);
}

void Distribution::add(double value, double weight) {
    if (std::isnan(value) || m_extent.empty())
        return;
    const double count = static_cast<double>(m_extent.size());
    const double at = m_high > m_low ? (value - m_low) / (m_high - m_low) * count : 0;
    m_extent[static_cast<std::size_t>(std::clamp(at, 0.0, count - 1))] += weight;
}

void Distribution::merge(const Distribution& other) {
    if (m_extent.empty()) {
        *this = other;
        return;
    }
    if (other.m_extent.empty())
        return;
    assert(other.m_extent.size() == m_extent.size() && other.m_low == m_low && other.m_high == m_high);
    for (std::size_t i = 0; i < m_extent.size(); ++i)
        m_extent[i] += other.m_extent[i];
}

double Distribution::total() const { return std::accumulate(m_extent.begin(), m_extent.end(), 0.0); }

double Distribution::below(double value) const {
    if (m_extent.empty() || value <= m_low)
        return 0;
    if (value >= m_high)
        return total();
    const double at = (value - m_low) / (m_high - m_low) * static_cast<double>(m_extent.size());
    const auto full = static_cast<std::size_t>(at);
    const double sum = std::accumulate(m_extent.begin(), m_extent.begin() + static_cast<std::ptrdiff_t>(full), 0.0);
    return sum + (at - static_cast<double>(full)) * m_extent[full];
}

double Distribution::shareBelow(double value) const {
    const double all = total();
    return all > 0 ? below(value) / all : 0;
}

double Distribution::shareAbove(double value) const {
    const double all = total();
    if (!(all > 0) || value >= m_high)
        return 0;
    return (all - below(value)) / all;
}

double Distribution::valueWithShareAbove(double share) const {
    const double wanted = share * total();
    double sum = 0;
    const double width = (m_high - m_low) / static_cast<double>(std::max<std::size_t>(m_extent.size(), 1));
    for (std::size_t i = m_extent.size(); i-- > 0;) {
        if (m_extent[i] > 0 && sum + m_extent[i] >= wanted)
            return m_low + width * (static_cast<double>(i) + 1 - (wanted - sum) / m_extent[i]);
        sum += m_extent[i];
    }
    return m_low;
}

std::vector<double> Distribution::rebinned(double from, double to, std::size_t classes) const {
    std::vector<double> out(classes, 0.0);
    if (m_high <= m_low) { // a constant field: one class holds everything
        const double at = to > from ? (m_low - from) / (to - from) * static_cast<double>(classes) : 0;
        if (at >= 0 && at <= static_cast<double>(classes))
            out[std::min(static_cast<std::size_t>(at), classes - 1)] = total();
        return out;
    }
    const double width = (to - from) / static_cast<double>(classes);
    for (std::size_t i = 0; i < classes; ++i)
        out[i] = below(from + width * static_cast<double>(i + 1)) - below(from + width * static_cast<double>(i));
    return out;
}

} // namespace pyro
