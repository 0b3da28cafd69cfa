// Fields over one part, stored or derived from what is stored and from its material: all in the part's own nodes or
// cells.
#pragma once

#include "core/gauge/support.h"

#include <memory>

namespace pyro {

// What the survey says of a part; nothing where it says nothing. SI.
struct PartProperties {
    std::optional<double> conductivity;
    std::optional<double> density;
    std::optional<double> heatCapacity;
    std::optional<double> viscosity; // dynamic
    std::optional<double> power;     // W, dissipated in the whole part
    std::optional<bool> fluid = {};  // as noted; nothing: by its velocity, see isFluidPart
};

// One number per node or cell, or the same number everywhere.
struct PartField {
    Location on = Location::Node;
    int components = 1;
    RealView values;                                 // empty for a constant
    double constant = 0;                             // SI
    Affine toSi;                                     // of the values
    std::shared_ptr<const std::vector<double>> made; // what `values` point into when they are derived

    bool isConstant() const { return values.empty(); }
    double at(std::size_t place, std::size_t component = 0) const { // SI
        return isConstant() ? constant : toSi(values[place * static_cast<std::size_t>(components) + component]);
    }
    // Of a conductivity: along an axis, the same for all of them unless it is given along x, y and z.
    double along(std::size_t place, std::size_t axis) const { return at(place, components == 3 ? axis : 0); }
    // Along a direction of unit length, for the heat that a gradient in this direction drives there.
    double along(std::size_t place, const Point& direction) const {
        double sum = 0;
        for (std::size_t axis = 0; axis < 3; ++axis)
            sum += direction[axis] * direction[axis] * along(place, axis);
        return sum;
    }
};

// A part is what it is noted as; without a note a fluid where a velocity is stored that is not zero throughout, as
// solvers of conjugate heat transfer store it in their solids.
bool isFluidPart(const Region& part, const QuantityList& quantities, std::optional<bool> noted);

// Derived fields are kept once made. Thread-safe. Everything given must outlive it.
class PartFields {
public:
    PartFields(const Case& solved, const CaseIndex& index, const QuantityList& quantities,
               std::vector<PartProperties> properties);
    ~PartFields();

    // Stored under this name, else by material (conductivity, density, heat_capacity, viscosity), by power
    // (heat_source) or derived: temperature_gradient; heat_flux, -k grad T; speed; mass_flux, density times velocity.
    // `wanted`: where a gradient is told, in cells or at nodes. Errors say in one sentence what is missing.
    Result<PartField> field(std::size_t part, const std::string& name, Location wanted = Location::Cell) const;
    // Only what the case itself stores.
    std::optional<PartField> stored(std::size_t part, const std::string& name) const;
    // The temperature stored on nodes or on cells, kelvin; nothing when it is not stored there.
    std::optional<PartField> temperatureOn(std::size_t part, Location on) const;

    const PartProperties& properties(std::size_t part) const { return m_properties[part]; }
    const Case& solved() const { return m_case; }
    const CaseIndex& index() const { return m_index; }
    const QuantityList& quantities() const { return m_quantities; }
    bool isFluid(std::size_t part) const;

private:
    struct Kept;
    Result<PartField> make(std::size_t part, const std::string& name, Location wanted) const;
    Result<PartField> gradient(std::size_t part, Location wanted) const;
    Result<PartField> conductedFlux(std::size_t part, Location wanted) const;
    Result<PartField> massFlux(std::size_t part) const;
    Result<PartField> speed(std::size_t part) const;
    Result<PartField> source(std::size_t part) const;
    Result<PartField> property(std::size_t part, const std::string& name, const std::optional<double>& value) const;

    const Case& m_case;
    const CaseIndex& m_index;
    const QuantityList& m_quantities;
    std::vector<PartProperties> m_properties;
    std::unique_ptr<Kept> m_kept;
};

// SI unit and number of components of a stored or derived quantity; nothing for a name that is neither.
struct QuantityKind {
    std::string siUnit;
    int components = 1;
    bool isTemperature = false;
};
std::optional<QuantityKind> kindOf(const QuantityList& quantities, const std::string& name);

} // namespace pyro
