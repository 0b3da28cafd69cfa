// One quantity with one statistic on one site: what a gauge without a formula tells.
#pragma once

#include "core/gauge/gauge_options.h"
#include "core/gauge/gauge_reading.h"
#include "core/gauge/values.h"
#include "core/thermal/case_heat.h"

namespace pyro {

// A temperature that a gauge refers to, found on this case.
struct FoundTemperature {
    double kelvin = 0;         // its mean where it varies
    std::vector<double> local; // per facet, or per point of a line; empty where it is one and the same
    std::string text;          // "20 degC", "bulk of outlet, 51.3 degC"
    double at(std::size_t place) const { return local.empty() ? kelvin : local[place]; }
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
    std::string lacking = {};              // as in GaugeReading
    std::shared_ptr<Profile> profile = {}; // instead of the value
    std::shared_ptr<const Derivation> derivation = {};
};

// Every quantity of FORMATS.md, section 2, that is read on one step of one case. Errors: one sentence why it cannot be
// read.
Result<Measured> measure(const MeasureRequest& request);

// The quantities that measure() knows beside the stored ones, with their SI unit; for lists to choose from.
struct MeasuredQuantity {
    std::string_view name;
    std::string_view siUnit;
    std::string_view meaning; // one line for people
};
std::span<const MeasuredQuantity> measuredQuantities();
// Of a quantity that is measured or known by name; empty: it is the solver's own.
std::string_view siUnitOf(std::string_view quantity);

// Mean weighted by the mass flow through a surface; the mass flows per facet come with it.
struct BulkReading {
    double kelvin = 0;
    double massFlow = 0; // kg/s along the normals
};
// Errors: no velocity or density; a flow that reverses within the surface.
Result<BulkReading> bulkTemperature(const Site& site, const PartFields& fields);

// The quantities of single rooms; called by measure().
Result<Measured> measureFilm(const MeasureRequest& request);  // film coefficient, Nusselt, Biot, Stanton numbers
Result<Measured> measureFlow(const MeasureRequest& request);  // volume, mass and enthalpy flow, Reynolds number
Result<Measured> measureLayer(const MeasureRequest& request); // boundary layer thickness
// local extremes of a stored quantity; the value is that of the first
Result<Measured> measureHotspots(const MeasureRequest& request);
// resistance, content, balances, volume above a level
Result<Measured> measureHeat(const MeasureRequest& request);
// A statistic over values, in `siUnit`; a profile where the statistic asks for one.
Result<Measured> statisticMeasured(const MeasureRequest& request, const Values& values, const std::string& siUnit,
                                   bool isTemperature);
Result<Measured> profileMeasured(const MeasureRequest& request, std::vector<double> numbers, const std::string& siUnit,
                                 bool isTemperature);

} // namespace pyro
