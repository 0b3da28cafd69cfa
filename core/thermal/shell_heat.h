// Heat through every outer face of a part, the best way that its data allow, with the plain gradient's value beside it.
#pragma once

#include "core/thermal/nodal_heat.h"

#include <map>

namespace pyro {

enum class HeatMethod { Stored, Conservative, Gradient };
std::string_view heatMethodName(HeatMethod method); // "stored", "conservative", "gradient"

// The step before, for the heat that is stored in a changing field. Regions are those of the same mesh.
struct Transience {
    bool changes = false;              // the case has several times
    const PartFields* before = nullptr;
    double seconds = 0;
};

struct ShellHeat {
    HeatMethod method = HeatMethod::Gradient;
    std::vector<double> face;     // W out of the part, per face of its shell
    std::vector<double> corner;   // the same per corner of each face, as listed in the shell; of the conservative method
    std::vector<double> gradient; // W per face by the plain gradient
    std::string why;              // why the conservative method does not apply; empty when it does
};

// What lies beyond each outer face of one part, for two-point fluxes: a temperature on the face itself, or in the middle of
// the cell behind it with what resists on the way. One entry per face; NaN where nothing is known.
struct BeyondFaces {
    std::vector<double> kelvin;
    std::vector<double> resistance; // m2.K/W from the face to that temperature; 0 for one on the face
};

// Conductivity is needed for both methods. Conservative: nodal temperature by the weak form, each node's heat given to its
// faces in proportion to what the gradient lets pass there; for a temperature stored on cells the two-point flux to the
// boundary's or to the neighbouring part's own cell temperatures.
// Errors: what is missing. `beyond`: for a temperature stored on cells; null otherwise.
Result<ShellHeat> shellHeat(const PartFields& fields, std::size_t part, const Transience& transience, const BeyondFaces* beyond = nullptr);

// m2.K/W between the middle of the cell behind an outer face and the face; NaN where the conductivity is not known.
double halfCellResistance(const PartFields& fields, std::size_t part, std::uint32_t cell, const Point& faceCentre, const Point& normal);

// The shell's face of each boundary face; noNumber where no part's face matches.
std::vector<std::uint32_t> shellFacesOf(const Case& solved, const CaseIndex& index, std::size_t boundary);

// Area and integrals of the corners' shape functions over each outer face, as listed in the shell, m2.
struct ShellAreas {
    std::vector<double> face;
    std::vector<double> corner;
    std::vector<Point> normal; // unit, out of the part
    std::vector<Point> centre;
};
ShellAreas shellAreas(const Mesh& mesh, const ShellView& shell);

} // namespace pyro
