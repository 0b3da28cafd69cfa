// The warm and the cold side of a detail, and the heat flow between them.
#pragma once

#include "core/envelope/transmittance.h"
#include "core/feedback/mistake.h"

#include <algorithm>
#include <array>

namespace pyro {

[[noreturn]] inline void cannot(const std::string& what, const std::string& remedy = {}) {
    throw Mistake{{ErrorCode::NotSupported, what, {}, remedy}};
}

inline const Json* keyIn(const Json& json, const char* key) {
    const auto found = json.find(key);
    return found == json.end() ? nullptr : &*found;
}

std::string inCelsius(double kelvin);

// Environments of one temperature, taken together.
struct Side {
    std::vector<Environment> all;
    double temperature() const { return all.front().temperature; }
    double resistance() const { return all.front().resistance; }
    bool has(std::size_t boundary) const {
        return std::ranges::find(all, boundary, &Environment::boundary) != all.end();
    }
    double area() const {
        double sum = 0;
        for (const auto& one : all)
            sum += one.area;
        return sum;
    }
    std::string name() const; // "room wall and room floor"
};

struct Between {
    Side inside;
    Side outside;
    double flow = 0; // W from inside to outside
    double difference() const { return inside.temperature() - outside.temperature(); }
    double coupling() const { return flow / difference(); } // W/K
    std::string text() const;
};

// Of one gauge. All of it throws Mistake.
class Sides {
public:
    Sides(const Gauge& gauge, const EnvelopeTools& tools) : m_gauge(gauge), m_tools(tools), m_heat(tools.heat) {}

    // The two sides that are named, else all known environments by their two temperatures, the warmer ones as the
    // inside.
    std::array<Side, 2> pair() const;
    // The heat flow between two sides. With more environments it can be told where all others are as warm as one of the
    // two.
    Between between() const;

private:
    Environment environment(const std::string& name) const;
    Side sideOf(const Json& names) const;
    void checkSteady() const;

    const Gauge& m_gauge;
    const EnvelopeTools& m_tools;
    const CaseHeat& m_heat;
};

} // namespace pyro
