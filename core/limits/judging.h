// What the forms of limits share in judging.
#pragma once

#include "core/case/case.h"
#include "core/limits/limit.h"
#include "core/readings/readings.h"

namespace pyro {

// A value at its highest and at its lowest; the same twice where there is only one.
struct Extremes {
    double high = 0;
    double low = 0;
    std::optional<Place> highest = {};
    std::optional<Place> lowest = {};
};

// Holds the value against the bounds and fills the reading; with both a maximum and a minimum the one with the smaller
// margin decides. `gaugeUnit`: of the value, where the bounds follow a gauge; empty: bounds are SI. Errors: values that
// are not finite, bounds that contradict each other or whose unit does not fit.
Done compare(const Limit& limit, const Extremes& value, const std::string& gaugeUnit, LimitReading& reading);

// The temperatures of a part or boundary in kelvin, or a gauge's value in `reading.unit`, which is set to it. Errors:
// why there is none.
Result<Extremes> extremesOf(const Limit& limit, const Readings& readings, LimitReading& reading);

tl::unexpected<Error> noRegion(const Limit& limit);
const RegionReading* regionOf(const Limit& limit, const Readings& readings);     // null: the case has none
const GaugeReading* gaugeNamed(const std::string& id, const Readings& readings); // null: there is none
tl::unexpected<Error> noGaugeValue(const std::string& id, const GaugeReading* gauge);
// Of a temperature gauge whose unit may be another one. Errors: WrongUnit.
Result<double> kelvinOf(const GaugeReading& gauge);
std::optional<std::size_t> positionOf(const std::vector<Region>& regions, const std::string& name);

} // namespace pyro
