// Everything that one evaluation of a survey on one step of a case tells. Window, command line and report show
// these and compute nothing of their own.
#pragma once

#include "core/gauge/gauge_reading.h"
#include "core/thermal/limit.h"
#include "core/thermal/verdict.h"
#include "core/trust/check.h"
#include "core/trust/settling.h"

#include <algorithm>

namespace pyro {

struct LimitReading {
    LimitTarget target;
    LimitForm form = LimitForm::Value;
    std::string kind;
    std::optional<double> value;  // SI: kelvin for parts and boundaries
    std::optional<double> limit;  // the bound that decides
    std::optional<double> margin; // positive: below a maximum, above a minimum
    // as a share of what is required or allowed; by it limits of several units are ordered
    std::optional<double> relativeMargin = {};
    double required = 0;
    bool isMaximum = true;
    std::string unit = "K";
    bool isTemperature = true; // value and limit, which are then converted with their offset; margins never are
    Verdict verdict = Verdict::Unknown;
    std::optional<Place> place;
    std::string why; // set when the verdict is unknown
    std::string source;
    std::optional<double> ambient = {}; // K, that a rise is told above
    // Of the worst step when several were judged:
    std::optional<int> step = {};
    std::optional<double> time = {};         // s, of that step
    std::optional<double> firstOver = {};    // s, when the limit is first exceeded; linear between steps
    std::optional<double> durationOver = {}; // s, of all spans over the limit
};

// What is said of a part's power: as given, as found in the field, and what resists its heat.
struct PowerReading {
    std::string part;
    std::optional<double> given; // W
    std::optional<double> found; // W, integral of the source
    // K/W, of the hottest place above the ambient, per given power, else per the one found
    std::optional<double> resistance;
};

// What lies beyond a boundary: its temperature and what resists between it and the surface.
struct Environment {
    std::size_t boundary = 0; // position in Case::boundaries
    std::string name;
    double temperature = 0;          // K
    double resistance = 0;           // surface resistance, m2.K/W
    std::string origin;              // "survey", "case" or "field": recognised from temperature and flux of the faces
    std::optional<double> heat = {}; // W, out of the case
    double area = 0;                 // m2
};

// Temperature of one part or boundary, for lists and tables.
struct RegionReading {
    std::string name;
    std::uint64_t cells; // as in the file
    std::uint64_t nodes;
    double size; // m3; of surfaces and parts of a plane case m2, of its boundaries m
    std::optional<Temperature> min;
    std::optional<Temperature> mean; // volume or area weighted
    std::optional<Temperature> max;
    std::optional<Place> hottest;
    std::optional<Place> coldest;
    std::string why;   // set when there is no temperature
    int dimension = 3; // of `size`
};

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

struct Estimate;      // core/estimate/estimate_reading.h
struct SolverHistory; // core/trust/solver_history.h

struct Readings {
    int step;
    std::optional<PlaneCase> plane = {}; // of a case in two dimensions, with the depth that flows are told for
    double symmetry = 1;                 // how many times the case the whole is that flows, powers and chi are told for
    std::optional<double> time;
    std::vector<GaugeReading> gauges;
    std::vector<LimitReading> limits; // in the order of the survey
    std::vector<RegionReading> parts;
    std::vector<RegionReading> boundaries;
    std::vector<Environment> environments; // of the boundaries whose environment is known
    std::optional<double> ambient;         // K: of the survey, else the one temperature that all environments share
    std::vector<PowerReading> powers;      // of the parts with a power given or found
    // what keeps the temperatures from shifting with the ambient, one sentence each
    std::vector<std::string> nonlinear;
    std::shared_ptr<const Balances> balances;          // null when they were not asked for
    std::vector<Check> checks;                         // asked for together with the balances
    std::shared_ptr<const SolverHistory> history = {}; // that the solver left, or that of the steps
    std::vector<MonitoredValue> monitored;             // of the solver's history, where there is one
    // of the survey's other ambient and power, where it asks for one; with the balances
    std::shared_ptr<const Estimate> estimate;
    std::optional<BalanceReading> balance; // when fluxes on the boundaries and powers are known
    Remarks remarks;

    Verdict verdict() const; // of all limits together; Unknown when there are none
};

} // namespace pyro
