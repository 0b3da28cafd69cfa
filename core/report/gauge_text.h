// How the value of a gauge is written, the same in report and templates.
#pragma once

#include "core/readings/readings.h"
#include "core/units/reader_units.h"

namespace pyro {

// "96.3 degC", "12.4 W", or "unknown: why"; a profile as its number of points.
std::string gaugeText(const GaugeReading& gauge, const ReaderUnits& unit);

} // namespace pyro
