// Reads gauges of a survey on a case.
#pragma once

#include "core/gauge/gauge.h"
#include "core/gauge/support.h"

namespace pyro {

struct MeasuredGauge {
    double value;
    std::string unit;
    std::optional<Place> place;
};

// Mean (the default), min, max, range, integral and count on parts and boundaries; the extent as "area" or "volume".
// Errors say in one sentence why the gauge cannot be read.
Result<MeasuredGauge> readGauge(const Gauge& gauge, const Case& solved, const CaseIndex& index,
                                const QuantityList& quantities);

// The regions a `where` names. Errors: NameUnknown, NotSupported.
Result<Support> supportOf(const Where& where, const Case& solved);

// Why a statistic over these values cannot be told: how many are not finite, and where the first lies. Empty when
// it can.
std::string notFiniteReason(const Case& solved, const Support& support, const SupportReading& reading);

} // namespace pyro
