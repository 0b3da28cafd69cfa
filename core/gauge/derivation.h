// How a derived reading came about: the terms it is the sum of, what of the mesh it relies on, or the hotspots it
// lists.
#pragma once

#include "core/case/case.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace pyro {

struct Term {
    std::string name; // "L2D", "U of roof"
    double value = 0; // as it enters the sum, with its sign; in `unit`
    std::string unit;
    std::string origin; // "0.3395 W/(m2.K) x 1.2 m: plaster 15 mm, brick 240 mm"
};

// A plane element through its thickness, from inside to outside: what a transmittance is of, or what a thermal bridge
// disturbs.
struct PlaneSection {
    struct Layer {
        std::string name;
        double thickness = 0;                    // m; 0 for a layer that is given by its resistance alone
        std::optional<double> conductivity = {}; // W/(m.K)
        double resistance = 0;                   // m2.K/W
    };
    std::string name; // "element 1"
    std::vector<Layer> layers;
    double inner = 0; // surface resistances, m2.K/W
    double outer = 0;
    double transmittance = 0; // W/(m2.K)
    std::string extent;       // "1.774 m (external)"; empty: of the element as such
};

// A local extreme that stands out of its surroundings.
struct Spot {
    double value = 0; // in the reading's unit
    Point at{};       // m, where it is stored
    Location on = Location::Node;
    std::size_t part = 0;          // position in Case::parts
    double prominence = 0;         // in the unit, as a difference: how far one comes down on the way to a higher one
    std::optional<Point> saddle;   // where that way is lowest; nothing for the highest
    double size = 0;               // m3 (m2) around it that lie within the gauge's drop of it
    std::optional<double> nearest; // m to the nearest other one of the list
    std::optional<double> source = {}; // W/m3, heat source where it lies
    std::optional<double> flux = {};   // W/m2, largest heat flux within the region that `size` tells of
};

struct Derivation {
    std::vector<Term> terms;
    std::vector<Spot> spots; // by falling prominence
    // through the plane elements that were found, from one surface to the other; m
    std::vector<std::array<Point, 2>> lines;
    std::vector<PlaneSection> elements = {}; // of the envelope
};

} // namespace pyro
