// Statistics and profiles as readings of a gauge, with their unit.
#pragma once

#include "core/statistics/statistic_kind.h"

namespace pyro {

// The statistic asked for over values in `siUnit` (empty: not known). Errors: as statisticOf.
Result<Measured> statisticMeasured(const MeasureRequest& request, const Values& values, const std::string& siUnit,
                                   bool isTemperature);
// One number for each point of the line that is measured along.
Result<Measured> profileMeasured(const MeasureRequest& request, std::vector<double> numbers, const std::string& siUnit,
                                 bool isTemperature);

} // namespace pyro
