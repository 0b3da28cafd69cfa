// envelope: thermal transmittances of plane elements and of the thermal bridges between them.
//
// This one is the plane element by itself: layers of uniform thickness between two environments, ISO 6946.
#pragma once

#include "core/feedback/error.h"

#include <optional>
#include <vector>

namespace pyro {

struct Layer {
    std::string name;
    double thickness = 0;             // m; 0 for a layer that is given by its resistance alone
    double conductivity = 0;          // W/(m.K)
    std::optional<double> given = {}; // m2.K/W, instead of thickness over conductivity; of an air layer
    double resistance() const { return given ? *given : thickness / conductivity; } // m2.K/W
};

// From inside to outside.
struct PlaneElement {
    std::vector<Layer> layers;
    double inner = 0.13; // surface resistances, m2.K/W
    double outer = 0.04;
};

// Errors: WrongType for a layer without a positive thickness and conductivity (or resistance), named by its number, and
// for negative surface resistances; NotSupported without any layer.
Done checkElement(const PlaneElement& element);

// Sum of all resistances, m2.K/W, and its reciprocal, W/(m2.K). Of a checked element. Source: ISO 6946, 6.7.1.1.
double totalResistance(const PlaneElement& element);
double transmittance(const PlaneElement& element);

// Inner surface, every plane between two layers, outer surface: layers + 1 temperatures, K, in a steady state.
std::vector<double> faceTemperatures(const PlaneElement& element, double inside, double outside);

// How far from the inner surface a steady state falls to a temperature (or rises to it, in a wall that is warmer
// outside), m; nothing when it stays on the inside's part of it. Layers that are given by their resistance alone have
// no depth.
std::optional<double> depthOfTemperature(const PlaneElement& element, double inside, double outside, double kelvin);

enum class HeatFlowDirection { Horizontal, Upwards, Downwards };
// m2.K/W. Source: ISO 6946, table 7 (horizontal: within 30 degrees of it), from memory.
double innerSurfaceResistance(HeatFlowDirection direction);
constexpr double outerSurfaceResistance = 0.04;

// Of an unventilated air layer between surfaces of high emissivity, m2.K/W; linear between the rows of the table.
// Source: ISO 6946, table 8, from memory. Errors: NotSupported for a thickness outside of 0 to 0.3 m.
Result<double> airLayerResistance(double thickness, HeatFlowDirection direction);

} // namespace pyro
