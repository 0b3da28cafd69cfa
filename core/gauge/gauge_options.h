// What the keys of a gauge beyond where, quantity and statistic say; gauge_keys.h of core/quantities reads them.
#pragma once

#include "core/gauge/gauge.h"

#include <optional>
#include <variant>

namespace pyro {

// A temperature that others are measured against.
struct ConstantTemperature {
    double kelvin;
};
struct GaugeTemperature {
    std::string id;
};
struct BulkTemperature { // mean weighted by mass flow, over a boundary or a section
    Json where;
};
struct FluidTemperature { // at this distance from the wall, along its normal
    double metres;
};
using TemperatureOf = std::variant<ConstantTemperature, GaugeTemperature, BulkTemperature, FluidTemperature>;

// A number given as a value with unit or as another gauge's reading.
struct GivenValue {
    std::variant<double, std::string> of; // SI, or a gauge's id
};

struct GaugeOptions {
    std::optional<TemperatureOf> reference;
    std::optional<TemperatureOf> wall;
    std::optional<GivenValue> length;       // m
    bool localLength = false;               // the distance from the start of the line instead, as "local"
    std::optional<GivenValue> speed;        // m/s
    std::optional<GivenValue> power;        // W, the key "per"
    std::optional<GivenValue> conductivity; // W/(m.K)
    std::optional<double> free;             // K or m/s: outside of a boundary layer
    std::optional<double> level;            // in the unit of the quantity, SI
    std::optional<double> prominence;       // of hotspots, in the unit of the quantity, as a difference
    std::optional<double> drop;             // of hotspots: how far below each its region reaches
    bool cold = false;                      // minima instead
    std::string weight;                     // "", "area", "volume", "length", "mass_flow", "none"
    std::string method;                     // "", "stored", "conservative", "film", "gradient"
    std::string of;                         // "temperature" or "velocity"
    std::string over;                       // "" or "steps"
    // over steps: the statistic that each step tells; empty: the default of the place
    std::string space;
    double share = 0.99; // of a boundary layer
    bool meanOfLocal = false;
    bool complement = false;
};

} // namespace pyro
