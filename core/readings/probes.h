// What one step tells at the places of measured data.
#pragma once

#include "core/case/case.h"

namespace pyro {

struct MeasuredTable; // core/compare/measured.h

struct ProbedPlace {
    std::optional<double> value;  // SI
    std::optional<Point> foundAt; // of a place beside the mesh: the nearest one of a surface
    std::string why;              // no value
};
struct Probes {
    std::shared_ptr<const MeasuredTable> table;
    std::vector<ProbedPlace> places; // as many as the table has
};

} // namespace pyro
