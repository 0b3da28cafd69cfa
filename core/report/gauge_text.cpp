#include "core/report/gauge_text.h"

#include "core/units/unit.h"

#include <fmt/format.h>

namespace pyro {

std::string gaugeText(const GaugeReading& gauge, const ReaderUnits& unit) {
    if (gauge.profile)
        return fmt::format("a profile of {} points", gauge.profile->value.size());
    if (!gauge.value)
        return gauge.why.empty() ? "unknown" : "unknown: " + gauge.why;
    if (gauge.isTemperature)
        return formatTemperature({(*conversion(gauge.unit, "K"))(*gauge.value)}, unit);
    return formatSi(*gauge.value, gauge.unit, unit);
}

} // namespace pyro
