// Heat through every outer face of a part, the best way that its data allow, with the plain gradient's value beside it.
#pragma once

#include "core/thermal/nodal_heat.h"

#include <map>

namespace pyro {

enum class HeatMethod { Stored, Conservative, Film, Gradient };
std::string_view heatMethodName(HeatMethod method); // "stored", "conservative", "film", "gradient"

// The step before, for the heat that is stored in a changing field. Regions are those of the same mesh.
struct Transience {
    bool changes = false; // the case has several times
    const PartFields* before = nullptr;
    double seconds = 0;
};

struct ShellHeat {
    HeatMethod method = HeatMethod::Gradient;
    std::vector<double> face; // W out of the part, per face of its shell
    // the same per corner of each face, as listed in the shell; of the conservative method
    std::vector<double> corner;
    std::vector<double> gradient;    // W per face by the plain gradient
    std::vector<std::uint8_t> plain; // by two points: 1 for faces that keep what the gradient says; else empty
    std::string why;                 // why the conservative method does not apply; empty when it does
};

// What lies beyond each outer face of one part, for two-point fluxes: a temperature on the face itself, or in the
// middle of the cell behind it with what resists on the way. One entry per face; NaN where nothing is known.
struct BeyondFaces {
    std::vector<double> kelvin;
    std::vector<double> resistance; // m2.K/W from the face to that temperature; 0 for one on the face
};

// Conductivity is needed for both methods. Conservative: nodal temperature by the weak form, each node's heat given to
// its faces in proportion to what the gradient lets pass there; for a temperature stored on cells the two-point flux to
// the boundary's or to the neighbouring part's own cell temperatures. Errors: what is missing. `beyond`: for a
// temperature stored on cells; null otherwise.
Result<ShellHeat> shellHeat(const PartFields& fields, std::size_t part, const Transience& transience,
                            const BeyondFaces* beyond = nullptr);

// W that the weak form leaves over at the nodes behind some faces of the shell, those of their cells that lie on no
// face that heat may pass: 0 for the solution of the discrete equations. `open`: 1 for such faces. Nothing where the
// conservative method does not apply to nodes, or no such node is there.
std::optional<double> heatLeftBehind(const PartFields& fields, std::size_t part, const Transience& transience,
                                     std::span<const std::uint32_t> faces, std::span<const std::uint8_t> open);

// m2.K/W between the middle of the cell behind an outer face and the face; NaN where the conductivity is not known.
double halfCellResistance(const PartFields& fields, std::size_t part, std::uint32_t cell, const Point& faceCentre,
                          const Point& normal);

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
