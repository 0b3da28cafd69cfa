#include "core/trust/settling_fit.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace pyro {
namespace {

constexpr std::size_t fewest = 8;
constexpr double lastPart = 0.3; // of the span along which the values run
constexpr int swingsOfOscillation = 4;

struct Series {
    std::vector<double> at;
    std::vector<double> value;
    std::size_t size() const { return at.size(); }
    Series from(double start) const {
        const auto first = std::ranges::lower_bound(at, start) - at.begin();
        return {{at.begin() + first, at.end()}, {value.begin() + first, value.end()}};
    }
};

struct Line {
    double start = 0; // at the first place
    double slope = 0;
};

Line fitted(const Series& series) {
    double meanAt = 0;
    double meanValue = 0;
    const auto count = static_cast<double>(series.size());
    for (std::size_t i = 0; i < series.size(); ++i) {
        meanAt += series.at[i] / count;
        meanValue += series.value[i] / count;
    }
    double across = 0;
    double along = 0;
    for (std::size_t i = 0; i < series.size(); ++i) {
        across += (series.at[i] - meanAt) * (series.value[i] - meanValue);
        along += (series.at[i] - meanAt) * (series.at[i] - meanAt);
    }
    const double slope = along > 0 ? across / along : 0;
    return {meanValue + slope * (series.at.front() - meanAt), slope};
}

// How often what is left above and below the line changes its sign; smaller than `hair` it counts for nothing.
int swings(const std::vector<double>& off, double hair) {
    int count = 0;
    int last = 0;
    for (const double one : off) {
        const int side = one > hair ? 1 : one < -hair ? -1 : 0;
        count += last != 0 && side != 0 && side != last ? 1 : 0;
        last = side != 0 ? side : last;
    }
    return count;
}

double meanBetween(const Series& series, double from, double to) {
    double sum = 0;
    double count = 0;
    for (std::size_t i = 0; i < series.size(); ++i)
        if (series.at[i] >= from && series.at[i] <= to) {
            sum += series.value[i];
            ++count;
        }
    return count > 0 ? sum / count : std::nan("");
}

// Of values that fall by decades; returns whether these are such.
bool toLogarithms(Series& series) {
    constexpr double decades = 1000;
    const auto [low, high] = std::ranges::minmax_element(series.value);
    if (!(*low > 0) || *high / *low < decades)
        return false;
    for (auto& value : series.value)
        value = std::log10(value);
    return true;
}

// Means of an exponential over equal spans are in geometric progression; so is what is left of the way.
std::optional<double> exponentialEnd(const Series& series) {
    const double start = (series.at.front() + series.at.back()) / 2;
    const double third = (series.at.back() - start) / 3;
    const double a = meanBetween(series, start, start + third);
    const double b = meanBetween(series, start + third, start + 2 * third);
    const double c = meanBetween(series, start + 2 * third, series.at.back());
    const double first = b - a;
    const double second = c - b;
    if (!std::isfinite(first + second) || first == 0 || second / first <= 0 || second / first >= 0.98)
        return std::nullopt;
    return c + second * (second / first) / (1 - second / first);
}

} // namespace

Settling settlingOf(std::span<const double> at, std::span<const double> values, double tolerance, double floor) {
    Settling out;
    Series series;
    for (std::size_t i = 0; i < std::min(at.size(), values.size()); ++i)
        if (std::isfinite(at[i]) && std::isfinite(values[i])) {
            series.at.push_back(at[i]);
            series.value.push_back(values[i]);
        }
    if (series.size() < fewest || !(series.at.back() > series.at.front()))
        return out;
    out.logarithmic = toLogarithms(series);
    const auto [low, high] = std::ranges::minmax_element(series.value);
    out.allowed = std::max(tolerance * (*high - *low), out.logarithmic ? 0 : floor);
    const auto last = series.from(series.at.back() - lastPart * (series.at.back() - series.at.front()));
    if (last.size() < fewest / 2)
        return out;
    const auto line = fitted(last);
    out.drift = line.slope * (last.at.back() - last.at.front());
    std::vector<double> off;
    for (std::size_t i = 0; i < last.size(); ++i)
        off.push_back(last.value[i] - line.start - line.slope * (last.at[i] - last.at.front()));
    const auto [least, most] = std::ranges::minmax_element(off);
    out.oscillation = *most - *least;
    const bool swinging = swings(off, out.oscillation / 20) >= swingsOfOscillation;
    const bool drifts = std::abs(out.drift) > out.allowed;
    if (out.oscillation > out.allowed && (swinging || !drifts))
        out.state = SettlingState::Oscillating;
    else
        out.state = drifts ? SettlingState::Drifting : SettlingState::Settled;
    if (swinging || out.state == SettlingState::Settled)
        out.expected = meanBetween(last, last.at.front(), last.at.back());
    if (out.state == SettlingState::Drifting || (out.state == SettlingState::Settled && !swinging && out.drift != 0))
        if (const auto end = exponentialEnd(series); end || out.state == SettlingState::Drifting)
            out.expected = end;
    if (out.logarithmic && out.expected)
        out.expected = std::pow(10, *out.expected);
    return out;
}

std::vector<MonitoredValue> monitoredIn(const SolverHistory& history) {
    std::vector<MonitoredValue> all;
    for (const auto& column : history.columns) {
        MonitoredValue one{column.title, 0, {}, settlingOf(history.at, column.values)};
        for (const double value : column.values)
            if (std::isfinite(value)) {
                ++one.count;
                one.last = value;
            }
        all.push_back(std::move(one));
    }
    return all;
}

} // namespace pyro
