// Integrals over the steps of a case.
#pragma once

#include "core/readings/history.h"

namespace pyro {

// Of `of(value)` over time, by trapezoids between the steps.
template <class Of>
double overTime(const History& history, Of of) {
    double sum = 0;
    for (std::size_t i = 1; i < history.time.size(); ++i)
        sum += (history.time[i] - history.time[i - 1]) * (of(history.value[i]) + of(history.value[i - 1])) / 2;
    return sum;
}

inline double spanOf(const History& history) { return history.time.back() - history.time.front(); }

// Weighted by time; of steps without a span the first.
inline double meanOverTime(const History& history) {
    const double whole = spanOf(history);
    return whole > 0 ? overTime(history, [](double value) { return value; }) / whole : history.value.front();
}

} // namespace pyro
