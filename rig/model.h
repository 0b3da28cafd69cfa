// rig: the small stand-in for a solver that ships with Pyrometer. Steady and transient heat conduction by finite
// volumes on a graded rectilinear grid, with channels in which a coolant carries heat away. Its input is JSON;
// docs/rig.md describes it.
#pragma once

#include "core/feedback/error.h"

#include <array>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace pyro::rig {

using Vec = std::array<double, 3>; // along x, y, z

struct Material {
    std::string name;
    Vec conductivity;        // W/(m.K)
    double density = 0;      // kg/m3; needed for transients, as is
    double heatCapacity = 0; // J/(kg.K)
};

// From a uniform temperature on, in equal steps.
struct Transient {
    double start;    // K
    double duration; // s
    double step;     // s
    int every = 1;   // how many steps lie between two that are written; the start is written too
};

// Later boxes cut into earlier ones. Boxes of one part name make one part.
struct Box {
    std::string part;
    std::size_t material; // position in Model::materials
    Vec from;             // m
    Vec to;
    double power = 0;  // W, spread evenly over what is left of the box
    double source = 0; // W/m3, besides the power
};

enum class Side { XMinus, XPlus, YMinus, YPlus, ZMinus, ZPlus, Any };

// Outer faces with that outward side whose centre lies within from..to (bounds included).
struct FaceChoice {
    Side side = Side::Any;
    Vec from;
    Vec to;
};

struct Environment {
    std::string boundary;
    double temperature; // K
    // surface resistance, m2.K/W; 0: the surface itself has that temperature; infinite: radiation only
    double resistance;
    std::vector<FaceChoice> faces;
    // A temperature that changes: times (s, ascending) and temperatures (K), linear in between, the ends go on. Empty:
    // constant.
    std::vector<std::array<double, 2>> course;
    double temperatureAt(double time) const;
    double emissivity = 0; // of the surface, which radiates to the environment's temperature besides
};

// A resistance between the faces in which two parts touch.
struct Contact {
    std::array<std::string, 2> parts;
    double resistance; // m2.K/W
};

// Halve all cells until the heat flow changes by no more than a share, ISO 10211, annex A.
struct Refinement {
    double change = 0.01;   // of the heat flow through the environments, on halving
    double balance = 1e-4;  // most of it that may be left over
    double mostCells = 4e6; // no grid beyond this is tried
};

// A part whose material flows, at a constant rate, from one opening to another. The boundaries of its openings and of
// the wall it wets are written with the case; an empty wall name leaves the wall out.
struct Channel {
    std::string part;
    double flow;             // m3/s
    double inletTemperature; // K
    // m2.K/W between the wall and the coolant, 1 / film coefficient; 0: half a cell of coolant
    double resistance = 0;
    std::string inlet;
    std::vector<FaceChoice> inletFaces;
    std::string outlet;
    std::vector<FaceChoice> outletFaces;
    std::string wall;
};

// Grid lines of one axis: at all faces of boxes, in between at most `spacing` apart, from `fine` growing by
// `growth` away from every face.
struct AxisRule {
    double spacing; // m
    double fine;    // m; equal to spacing: no grading
    double growth = 1.3;
};

struct Model {
    std::string title;
    std::array<AxisRule, 3> axes;
    std::vector<Material> materials;
    std::vector<Box> boxes;
    std::vector<Environment> environments; // of several that choose a face, the first has it
    std::vector<Channel> channels;
    std::vector<Contact> contacts;
    std::optional<Transient> transient; // nothing: steady
    std::optional<Refinement> refinement;

    // Boundaries are numbered: the environments, then the inlet, outlet and wall of every channel.
    std::size_t boundaries() const { return environments.size() + 3 * channels.size(); }
    std::size_t inletOf(std::size_t channel) const { return environments.size() + 3 * channel; }
    const std::string& boundaryName(std::size_t boundary) const;
    double contactOf(const std::string& a, const std::string& b) const; // m2.K/W between two parts, 0 for none
};

// Whether an outer face with that centre (m) and side, in the order of Side, is among the chosen.
bool chooses(const std::vector<FaceChoice>& faces, const Vec& centre, std::size_t side);

// Errors: as loadSurvey, `where` names the key.
Result<Model> loadModel(const std::filesystem::path& file);
Result<Model> modelFromText(const std::string& json, const std::string& where);

} // namespace pyro::rig
