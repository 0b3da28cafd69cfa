// Published film coefficients to hold a chart against: each with its source and the range it holds in.
#pragma once

#include "core/feedback/error.h"

#include <optional>
#include <span>

namespace pyro {

enum class Correlation {
    PlateLaminarLocal,
    PlateLaminarMean,
    PlateTurbulentLocal,
    PlateTurbulentMean,
    TubeLaminarFlux,
    TubeLaminarWall,
    TubeTurbulent,
    Cylinder,
    Sphere,
    VerticalPlate
};

// SI. What a correlation does not use may stay 0.
struct FlowConditions {
    double speed = 0; // m/s, of the free stream or the mean in a tube
    // m: tube, cylinder or sphere diameter, height of a vertical plate; along a plate the place itself
    double length = 0;
    double conductivity = 0; // W/(m.K), of the fluid
    double viscosity = 0;    // m2/s, kinematic
    double prandtl = 0;
    double expansion = 0;  // 1/K, thermal expansion
    double difference = 0; // K, wall to fluid
    bool operator==(const FlowConditions&) const = default;
};

struct CorrelationFacts {
    Correlation correlation;
    std::string_view key;   // as in the survey: "plate_laminar_local"
    std::string_view title; // for people
    std::string_view formula;
    std::string_view source;
    std::string_view range; // where it holds
    bool alongPlace;        // varies with the distance from the leading edge
};
std::span<const CorrelationFacts> correlations();
const CorrelationFacts* correlationNamed(std::string_view key);
bool uses(Correlation correlation, double FlowConditions::*condition);

// Dry air and water at 20 degC and 1 bar: handbook, from memory.
struct ReferenceFluid {
    std::string_view name;
    double conductivity; // W/(m.K)
    double viscosity;    // m2/s
    double prandtl;
    double expansion; // 1/K
};
std::span<const ReferenceFluid> referenceFluids();

struct CorrelationValue {
    double nusselt = 0;
    double filmCoefficient = 0; // W/(m2.K)
    std::string outside;        // why the conditions lie outside of its range; empty within
};
// `at`: m from the leading edge, for plates; others take `length`. Errors: WrongType for a condition that is missing.
Result<CorrelationValue> correlate(Correlation correlation, const FlowConditions& conditions, double at);

} // namespace pyro
