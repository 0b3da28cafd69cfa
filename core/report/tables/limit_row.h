// What the tables of judged limits share.
#pragma once

#include "core/report/tables/table.h"

namespace pyro {

// Value, allowed bound, their unit, margin; temperatures on the scale of `unit`, differences in kelvin.
struct LimitCells {
    Cell target, name, label, value, limit, unit, margin, marginUnit, verdict;
};
LimitCells limitCells(const CaseEntry& entry, const LimitReading& limit, TemperatureUnit unit);

} // namespace pyro
