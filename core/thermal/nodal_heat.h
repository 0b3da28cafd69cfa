// Heat at the nodes of a part by the weak form of the energy equation: the conservative ("consistent flux") method.
#pragma once

#include "core/thermal/part_fields.h"

namespace pyro {

// What enters the energy equation of one part. Fields that do not apply are left out.
struct HeatTerms {
    PartField temperature;                      // nodal, K
    PartField conductivity;                     // W/(m.K)
    std::optional<PartField> source;            // W/m3
    std::optional<PartField> velocity;          // m/s, together with `capacity`
    std::optional<PartField> capacity;          // density times heat capacity, J/(m3.K)
    std::optional<PartField> temperatureBefore; // nodal; with `seconds` and `capacity`: backward difference in time
    double seconds = 0;
};

struct NodalHeat {
    // W, per node of the part; meaningful at nodes all of whose cells were looked at. At a node of a boundary: the heat
    // that leaves through it. At an inner node: what the equation leaves over, 0 for the solution of the discrete
    // equations.
    std::vector<double> leaving;
    std::vector<std::uint32_t> cells; // those looked at, rising
    std::vector<Point> gradient;      // K/m, mean over each of them
};

// For every node i: integral of s N_i - k grad T . grad N_i - rho c (u . grad T + dT/dt) N_i over the cells around it,
// by each cell's own shape functions and quadrature (Gresho, Lee, Sani 1987, "the consistent method for computing
// derived boundary quantities", from memory). `wanted`: nodes to be told, one flag per node; empty: all. Cells without
// volume are left out.
NodalHeat nodalHeat(const Region& part, const HeatTerms& terms, const std::vector<std::uint8_t>& wanted = {});

} // namespace pyro
