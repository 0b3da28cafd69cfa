// The definition of a measurement: where, what, how. It names parts and boundaries and outlives the case.
#pragma once

#include "core/units/written.h"

#include <vector>

namespace pyro {

struct Where {
    enum class Kind { Parts, Boundaries, AllParts, Other };
    Kind kind = Kind::Other;
    std::vector<std::string> names;
    Json written; // as in the file
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
