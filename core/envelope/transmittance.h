// The gauges of the building envelope: U, L, psi, chi, temperature factors, and what a component loses in all.
#pragma once

#include "core/envelope/environments.h"
#include "core/envelope/flanks.h"
#include "core/thermal/measure_request.h"

#include <functional>

namespace pyro {

struct NamedConductivity {
    std::string name;
    double conductivity; // W/(m.K)
};

struct EnvelopeTools {
    const CaseHeat& heat;
    GivenEnvironments given;
    std::vector<NamedConductivity> materials;                     // of the survey; the library comes after them
    std::function<Result<Measured>(const std::string& id)> gauge; // the reading of another gauge
};

// All of them. Signs: L, U, psi and chi are positive where heat goes from the warmer to the colder side. Errors: one
// sentence why it cannot be read: a field that is not steady, parts that produce heat, fewer than two environments,
// heat flows that do not balance, elements that are not found.

// Of the key `layers` (ISO 6946), else heat flow over area and temperature difference.
Result<Measured> measureTransmittance(const Gauge& gauge, const EnvelopeTools& tools);
// L: heat flow between two environments over their temperature difference; W/(m.K) for a model one cell deep.
Result<Measured> measureCoupling(const Gauge& gauge, const EnvelopeTools& tools);
// psi = L2D - sum(U l), ISO 10211, 10.
Result<Measured> measureLinearTransmittance(const Gauge& gauge, const EnvelopeTools& tools);
// chi = L3D - sum(U A) - sum(psi l), ISO 10211, 10.
Result<Measured> measurePointTransmittance(const Gauge& gauge, const EnvelopeTools& tools);
// Sum of U A + psi l + chi n over the key `sum`, ISO 13789, 6.
Result<Measured> measureTransmission(const Gauge& gauge, const EnvelopeTools& tools);
// (lowest surface temperature - outside) / (inside - outside), ISO 10211, 11; `statistic` max: the highest.
Result<Measured> measureTemperatureFactor(const Gauge& gauge, const EnvelopeTools& tools);
// ISO 13788, 5.3, of the keys air, humidity, surface_humidity, outside.
Result<Measured> measureRequiredTemperatureFactor(const Gauge& gauge, const EnvelopeTools& tools);
Result<Measured> measureDewPoint(const Gauge& gauge, const EnvelopeTools& tools);

// The element that the keys `layers` and `resistances` describe, checked. Errors: as checkElement; WrongUnit, Syntax.
Result<PlaneElement> elementOf(const Json& layers, const Json* resistances,
                               std::span<const NamedConductivity> materials);

} // namespace pyro
