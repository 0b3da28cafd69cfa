// Stored and derived fields read with a statistic on a place.
#pragma once

#include "core/statistics/statistic_measured.h"

namespace pyro {

// The gauge's quantity on its place, whatever it is. Errors: NameUnknown for a quantity that the case has not;
// NotSupported for a component or statistic that does not fit.
Result<Measured> measureField(const MeasureRequest& request);

// One number for each point of a line; values hold none for the points outside of the mesh, which are NaN.
std::vector<double> alongLine(const Site& site, const Values& values);

} // namespace pyro
