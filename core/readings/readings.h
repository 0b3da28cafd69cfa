// Everything that one evaluation of a survey on one step of a case tells. Window, command line and report show
// these and compute nothing of their own.
#pragma once

#include "core/gauge/gauge_reading.h"
#include "core/readings/balance_readings.h"
#include "core/readings/check.h"
#include "core/readings/limit_reading.h"
#include "core/readings/probes.h"
#include "core/readings/settling.h"

namespace pyro {

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

struct Estimate;      // core/readings/estimate_reading.h
struct SolverHistory; // core/case/solver_history.h

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
    std::vector<Probes> probes;            // one for each measured data of this case
    Remarks remarks;

    Verdict verdict() const; // of all limits together; Unknown when there are none
};

} // namespace pyro
