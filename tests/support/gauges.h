// Gauges read on a case by the one evaluation.
#pragma once

#include "core/evaluate/evaluate.h"

namespace pyro::test {

// `survey`: JSON of gauges, materials and, under "case", parts and boundaries of the one case's entry. Fails the test
// when it cannot be read or evaluated.
Readings readOn(const OpenedCase& opened, const Json& survey, const StepContext& context = {});
// One gauge alone.
GaugeReading readGauge(const OpenedCase& opened, const Json& gauge, Json survey = Json::object());

// Heat through a boundary, W, out of the part, where every part conducts 200 W/(m.K). Fails the test when it is not
// read.
double heatThrough(const OpenedCase& opened, const std::string& boundary);

} // namespace pyro::test
