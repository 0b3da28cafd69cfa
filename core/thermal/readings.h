// Everything that one evaluation of a survey on one step of a case tells. Window, command line and report show
// these and compute nothing of their own.
#pragma once

#include "core/gauge/support.h"
#include "core/thermal/limit.h"
#include "core/thermal/verdict.h"

namespace pyro {

struct GaugeReading {
    std::string id;
    std::optional<double> value; // in `unit`
    std::string unit;
    std::optional<Place> place;  // of an extreme
    std::string why;             // set when there is no value
};

struct LimitReading {
    LimitTarget target;
    std::optional<double> value;  // SI: kelvin for parts and boundaries
    std::optional<double> limit;  // the bound that decides
    std::optional<double> margin; // positive: below a maximum, above a minimum
    double required = 0;
    bool isMaximum = true;
    std::string unit = "K";
    Verdict verdict = Verdict::Unknown;
    std::optional<Place> place;
    std::string why; // set when the verdict is unknown
    std::string source;
};

// Temperature of one part or boundary, for lists and tables.
struct RegionReading {
    std::string name;
    std::uint64_t cells; // as in the file
    std::uint64_t nodes;
    double size; // m3, for surfaces m2
    std::optional<Temperature> min;
    std::optional<Temperature> mean; // volume or area weighted
    std::optional<Temperature> max;
    std::optional<Place> hottest;
    std::optional<Place> coldest;
    std::string why; // set when there is no temperature
};

// Heat produced against heat leaving through all boundaries, W.
struct BalanceReading {
    double produced;
    double leaving;
    double remainder() const { return produced - leaving; }
};

struct Readings {
    int step;
    std::optional<double> time;
    std::vector<GaugeReading> gauges;
    std::vector<LimitReading> limits; // in the order of the survey
    std::vector<RegionReading> parts;
    std::vector<RegionReading> boundaries;
    std::optional<BalanceReading> balance; // when fluxes on the boundaries and powers are known
    Remarks remarks;

    Verdict verdict() const; // of all limits together; Unknown when there are none
};

} // namespace pyro
