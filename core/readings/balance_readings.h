// Where the heat goes: balances of the whole case and of its parts, what passes boundaries, what goes from part to
// part.
#pragma once

#include "core/units/temperature.h"

#include <algorithm>
#include <optional>
#include <string>
#include <vector>

namespace pyro {

// Heat produced against heat that leaves the case, W, and what it stores.
struct BalanceReading {
    double produced = 0;
    double leaving = 0;
    double entering = 0; // of what is conducted, by the boundaries through which heat comes in
    // parts whose own balance is not known; what goes over to them counts as leaving
    std::string without = {};
    std::optional<double> stored = 0; // nothing where the field changes and the step before is not at hand
    std::string whyNotStored = {};

    std::optional<double> remainder() const {
        return stored ? std::optional(produced - leaving - *stored) : std::nullopt;
    }
};

// Heat of one part, W: through its outer faces, produced within, stored. Nothing where it is not known.
struct PartBalance {
    std::string part;
    std::optional<double> in;  // through faces where heat comes in, positive
    std::optional<double> out; // through faces where heat leaves, positive
    std::optional<double> produced;
    std::optional<double> stored;  // growing heat content; 0 for a steady case
    std::optional<double> carried; // net enthalpy that flows out through its openings; 0 for a solid
    std::string method;            // of the heat through the faces
    std::string why;               // set when the remainder is not known

    std::optional<double> remainder() const;
    std::optional<double> share() const; // of the remainder in the larger of in and produced; 0..
};

// What passes one boundary, out of its part.
struct BoundaryFlow {
    std::string boundary;
    std::optional<double> heat;         // W
    std::optional<double> outer = {};   // W of it that leaves the case: not what goes from one part to another
    std::string method;                 // of the heat
    std::optional<double> gradientHeat; // W, by the plain gradient, beside a conservative value
    std::optional<double> mass;         // kg/s
    std::optional<double> volume;       // m3/s
    std::optional<Temperature> bulk;    // mean weighted by mass flow
    std::optional<double> enthalpy;     // W, mass flow times heat capacity times bulk temperature above 0 degC
    std::string why;                    // of what is missing
};

// Heat that goes from one part to another or out through a boundary; the sum over a part's links is what leaves it.
struct PartLink {
    std::string from;
    std::string to;
    bool toBoundary = false;
    double heat = 0; // W, conducted; positive: from the first to the second
    // W, of an opening: what the flow takes along above the temperature with which it enters the part
    std::optional<double> carried = {};
    double area = 0;                  // m2 in which they meet
    std::optional<double> share;      // of the heat that leaves `from`
    std::optional<double> difference; // K, between the mean temperatures, or to the environment
    std::optional<double> resistance; // K/W, difference over heat
    std::optional<double> leave = {}; // K, mean temperature of the face where the heat leaves `from`
    std::optional<double> enter = {}; // K, where it enters `to`; of a boundary its environment's temperature

    double leaving() const { return std::max(0.0, heat) + std::max(0.0, carried.value_or(0)); } // W, out of the first
};

struct Balances {
    std::vector<PartBalance> parts;
    std::vector<BoundaryFlow> boundaries;
    std::vector<PartLink> links; // by falling heat, each in the direction in which the heat goes
};

} // namespace pyro
