#include "core/gauge/accumulator.h"

#include <cmath>
#include <tuple>

namespace pyro {
namespace {

bool comesBefore(const Extremum& a, const Extremum& b) {
    return std::tie(a.region, a.number) < std::tie(b.region, b.number);
}

} // namespace

void Accumulator::Sum::add(double term) {
    const double sum = m_sum + term;
    m_rest += std::abs(m_sum) >= std::abs(term) ? (m_sum - sum) + term : (term - sum) + m_sum;
    m_sum = sum;
}

void Accumulator::add(double value, double weight, std::uint32_t region, std::uint64_t number) {
    ++m_count;
    const Extremum here{value, region, number};
    if (!std::isfinite(value)) {
        if (m_notFinite++ == 0 || comesBefore(here, m_firstNotFinite))
            m_firstNotFinite = here;
        return;
    }
    m_weight.add(weight);
    m_product.add(weight * value);
    if (value < m_min.value || (value == m_min.value && comesBefore(here, m_min)))
        m_min = here;
    if (value > m_max.value || (value == m_max.value && comesBefore(here, m_max)))
        m_max = here;
}

void Accumulator::merge(const Accumulator& other) {
    if (other.m_notFinite > 0 && (m_notFinite == 0 || comesBefore(other.m_firstNotFinite, m_firstNotFinite)))
        m_firstNotFinite = other.m_firstNotFinite;
    m_count += other.m_count;
    m_notFinite += other.m_notFinite;
    m_weight.merge(other.m_weight);
    m_product.merge(other.m_product);
    if (other.m_min.value < m_min.value || (other.m_min.value == m_min.value && comesBefore(other.m_min, m_min)))
        m_min = other.m_min;
    if (other.m_max.value > m_max.value || (other.m_max.value == m_max.value && comesBefore(other.m_max, m_max)))
        m_max = other.m_max;
}

} // namespace pyro
