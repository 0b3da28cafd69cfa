// The environments that the boundaries of a case face.
#pragma once

#include "core/readings/readings.h"
#include "core/thermal/case_heat.h"

namespace pyro {

// The survey's word wins, then the arrays environment_temperature and surface_resistance of the boundary's faces, then
// what the faces themselves tell: with a surface resistance R, surface temperature = environment + R x flux out of the
// part, a straight line through all faces (least squares, weighted by area). Errors: NotSupported with the reason why
// it stays unknown, as for adiabatic faces.
Result<Environment> environmentOf(const CaseHeat& heat, std::size_t boundary, const GivenEnvironment& given);

// Those that are known. Written: by the survey or the case alone, for which no heat flow has to be computed, nor is it
// told.
enum class KnownFrom { Written, Anything };
std::vector<Environment> environmentsOf(const CaseHeat& heat, const GivenEnvironments& given,
                                        KnownFrom from = KnownFrom::Anything);

} // namespace pyro
