// What tables and pictures of measured data share when they are held against a simulation.
#pragma once

#include "core/compare/measured.h"
#include "core/units/unit.h"

#include <cmath>

namespace pyro {

struct Reckoning {
    const MeasuredTable& table;
    std::span<const ProbedStep> steps;
    double shift;   // K, added to what was measured
    Affine inverse; // from SI to the unit of the reading
    double scale;   // of differences
};

// The steps around a time; without one the last step.
struct StepsAround {
    std::size_t before = 0;
    std::size_t after = 0;
    double share = 0; // of the way to `after`
    std::string why;  // the steps do not reach it
};
StepsAround stepsAround(const std::optional<double>& time, std::span<const ProbedStep> steps);

// Bias, rms and the rest, one deviation after the other.
class Figures {
public:
    void add(double deviation, const std::optional<double>& normalised) {
        ++m_count;
        m_sum += deviation;
        m_squares += deviation * deviation;
        if (!m_largest || std::abs(deviation) > std::abs(*m_largest))
            m_largest = deviation;
        if (normalised) {
            ++m_normalised;
            m_within += std::abs(*normalised) <= 1 ? 1 : 0;
        }
    }
    void tell(MeasuredReading& out) const {
        out.count = m_count;
        if (m_count == 0)
            return;
        out.mean = m_sum / static_cast<double>(m_count);
        out.rms = std::sqrt(m_squares / static_cast<double>(m_count));
        out.largest = m_largest;
        if (m_normalised > 0)
            out.within = static_cast<double>(m_within) / static_cast<double>(m_normalised);
    }

private:
    double m_sum = 0;
    double m_squares = 0;
    std::size_t m_count = 0;
    std::size_t m_normalised = 0;
    std::size_t m_within = 0;
    std::optional<double> m_largest;
};

// The table's picture, pixel by pixel.
void reckonPicture(const Reckoning& with, MeasuredReading& out);

} // namespace pyro
