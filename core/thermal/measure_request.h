// One quantity with one statistic on one site: what is asked for, and what a gauge without a formula tells.
#pragma once

#include "core/field/placement.h"
#include "core/gauge/gauge_options.h"
#include "core/gauge/gauge_reading.h"
#include "core/gauge/values.h"
#include "core/thermal/case_heat.h"

namespace pyro {

// Fields of another case at the time of this one: of one step, or `share` of the way from one to the next.
struct OtherFields {
    std::string caseName;
    const PartFields* fields = nullptr;
    const PartFields* after = nullptr;
    double share = 0;
    std::string when; // "between 20 s and 40 s"; empty: of one step
    // Carries places of this case to those of the other; nothing where neither was moved.
    std::optional<Placement> placement = {};
};

struct MeasureRequest {
    const Gauge& gauge;
    const GaugeOptions& options;
    const Site& site; // with its facets where it is a surface
    const CaseHeat& heat;
    // What the options name, found:
    std::optional<FoundTemperature> reference;
    std::optional<FoundTemperature> wall;
    std::optional<double> length;       // m
    std::optional<double> speed;        // m/s
    std::optional<double> power;        // W
    std::optional<double> conductivity; // W/(m.K)
    const OtherFields* minus = nullptr; // subtracted where it is there
    double symmetry = 1;                // how many times the case the whole is that a power is told for

    const PartFields& fields() const { return heat.fields(); }
    std::string statistic() const;            // the gauge's, else the default of its site
    std::optional<HeatMethod> method() const; // the one asked for; nothing: the best at hand
};

// In SI; the evaluation turns it into the gauge's unit.
struct Measured {
    double value = 0;
    std::string siUnit;
    bool isTemperature = false;
    std::optional<Place> place = {};
    std::string method = {};
    std::optional<double> gradientValue = {};
    std::optional<double> spread = {}; // of a plain gradient, see GaugeReading
    std::string reference = {};
    std::optional<double> covered = {};    // of a difference of two cases, as in GaugeReading
    std::string lacking = {};              // as in GaugeReading
    std::shared_ptr<Profile> profile = {}; // instead of the value
    std::shared_ptr<const Derivation> derivation = {};
};

} // namespace pyro
