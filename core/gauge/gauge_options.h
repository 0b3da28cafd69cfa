// What the keys of a gauge beyond where, quantity and statistic say; gauge_keys.h of core/quantities reads them.
#pragma once

#include "core/gauge/gauge.h"

#include <functional>
#include <map>
#include <optional>
#include <variant>
#include <vector>

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

// A temperature that a gauge refers to, found on a case.
struct FoundTemperature {
    double kelvin = 0;         // its mean where it varies
    std::vector<double> local; // per facet, or per point of a line; empty where it is one and the same
    std::string text;          // "20 degC", "bulk of outlet, 51.3 degC"
    double at(std::size_t place) const { return local.empty() ? kelvin : local[place]; }
};

// What a key says that a quantity or statistic describes by itself (`ownKeys`). The evaluation finds what GivenValue
// and TemperatureOf name before a quantity is measured: there they are a double in SI and a FoundTemperature.
using OwnValue = std::variant<bool, double, std::string, GivenValue, TemperatureOf, FoundTemperature, Json>;

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
    std::string minus;                      // case whose field is subtracted
    std::string weight;                     // "", "area", "volume", "length", "mass_flow", "none"
    std::string method;                     // "", "stored", "conservative", "film", "gradient"
    std::string of = "temperature";         // or "velocity"
    std::string over;                       // "" or "steps"
    // over steps: the statistic that each step tells; empty: the default of the place
    std::string space;
    bool meanOfLocal = false;

    std::map<std::string, OwnValue, std::less<>> own; // by key; of those that are written
    // Nothing, empty and null for a key that is not written.
    std::optional<double> number(std::string_view key) const { return copyOf<double>(key); }
    bool flag(std::string_view key) const { return copyOf<bool>(key).value_or(false); }
    std::string word(std::string_view key) const { return copyOf<std::string>(key).value_or(std::string()); }
    const FoundTemperature* temperature(std::string_view key) const { return find<FoundTemperature>(key); }
    const Json* list(std::string_view key) const { return find<Json>(key); }

private:
    template <class T>
    const T* find(std::string_view key) const {
        const auto found = own.find(key);
        return found == own.end() ? nullptr : std::get_if<T>(&found->second);
    }
    template <class T>
    std::optional<T> copyOf(std::string_view key) const {
        const auto* found = find<T>(key);
        return found == nullptr ? std::nullopt : std::optional<T>(*found);
    }
};

} // namespace pyro
