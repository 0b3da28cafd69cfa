// The definition of a measurement: where, what, how. It names parts and boundaries and outlives the case.
#pragma once

#include "core/units/written.h"

#include <string>

namespace pyro {

// The place as in the file; shapeOf (where_shape.h) reads it.
struct Where {
    Json written;
    bool operator==(const Where&) const = default;
};

struct Gauge {
    std::string id;
    Where where;
    std::string quantity;
    std::string statistic; // empty: the default of the support
    std::string unit;      // of the reading; empty: SI
    std::string component; // "x", "y", "z", "normal", "magnitude" or empty
    std::string formula;   // instead of where and quantity
    Json rest = Json::object();
    bool operator==(const Gauge&) const = default;
};

} // namespace pyro
