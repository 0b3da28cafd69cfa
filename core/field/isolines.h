// Lines of equal value on a triangulated surface with values at its nodes.
#pragma once

#include <cstdint>
#include <span>
#include <vector>

namespace pyro {

// Levels at origin + k * spacing for all whole k; every `heavyEvery`-th is a heavy one. All in the unit of the values.
struct LevelRule {
    double origin = 0;
    double spacing = 1;        // > 0
    int heavyEvery = 5;        // < 1: none is heavy
    std::vector<double> marks; // single values, besides the spaced ones
    bool operator==(const LevelRule&) const = default;
};

struct Isoline {
    double value;
    bool heavy;
    bool mark;
    std::vector<float> points; // two ends of three coordinates per segment
};

struct SurfaceField {
    std::span<const float> points;           // 3 per node
    std::span<const std::int32_t> triangles; // 3 nodes each
    std::span<const float> values;           // per node; triangles with NaN carry no line
};

// A spacing of 1, 2 or 5 times a power of ten that divides the range into about `wanted` steps.
double niceSpacing(double low, double high, int wanted);

// Most lines that are drawn at a spacing; beyond that nothing could be told apart.
constexpr int mostIsolines = 400;

// By value, marks last. Empty when the spacing would give more than `mostIsolines`, or no level is met.
std::vector<Isoline> isolines(const SurfaceField& surface, const LevelRule& rule);

} // namespace pyro
