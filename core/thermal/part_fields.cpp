#include "core/thermal/part_fields.h"

#include "core/field/cells_to_nodes.h"
#include "core/field/gradient.h"
#include "core/field/recovered_gradient.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <mutex>

namespace pyro {
namespace {

PartField derived(Location on, int components, std::vector<double> values) {
    PartField out;
    out.on = on;
    out.components = components;
    out.made = std::make_shared<const std::vector<double>>(std::move(values));
    out.values = RealView(std::span<const double>(*out.made));
    return out;
}

PartField constantField(double value) {
    PartField out;
    out.constant = value;
    return out;
}

PartField from(const StoredArray& array, const Affine& toSi) {
    PartField out;
    out.on = array.on;
    out.components = array.components;
    out.values = array.values;
    out.toSi = toSi;
    return out;
}

// One field as seen where another is: cell values carried to nodes, node values to the middle of cells.
PartField moved(const Mesh& mesh, PartField field, Location to) {
    if (field.isConstant() || field.on == to)
        return field;
    const auto width = static_cast<std::size_t>(field.components);
    PartField out;
    if (to == Location::Node) {
        out = derived(to, field.components, cellsToNodes(mesh, field.values, width));
    } else {
        std::vector<double> values(width * mesh.cells());
        for (std::size_t cell = 0; cell < mesh.cells(); ++cell) {
            const auto nodes = mesh.cell(cell);
            for (const auto node : nodes)
                for (std::size_t i = 0; i < width; ++i)
                    values[width * cell + i] += field.values[width * node + i] / static_cast<double>(nodes.size());
        }
        out = derived(to, field.components, std::move(values));
    }
    out.toSi = field.toSi;
    return out;
}

tl::unexpected<Error> missing(const Region& part, const std::string& what, const std::string& remedy) {
    return fail(ErrorCode::NameUnknown, fmt::format("{} of \"{}\" is not known", what, part.name), part.name, remedy);
}

} // namespace

struct PartFields::Kept {
    std::recursive_mutex lock;
    std::map<std::tuple<std::size_t, std::string, Location>, Result<PartField>> fields;
};

bool isFluidPart(const Region& part, const QuantityList& quantities, std::optional<bool> noted) {
    if (noted)
        return *noted;
    const auto* velocity = quantities.named("velocity");
    if (velocity == nullptr)
        return false;
    return std::ranges::any_of(std::array{Location::Node, Location::Cell}, [&](Location on) {
        const auto* array = part.find(velocity->array, on);
        return array != nullptr && array->max > 0; // of the magnitude; NaN where nothing is finite
    });
}

PartFields::PartFields(const Case& solved, const CaseIndex& index, const QuantityList& quantities,
                       std::vector<PartProperties> properties)
    : m_case(solved), m_index(index), m_quantities(quantities), m_properties(std::move(properties)),
      m_kept(std::make_unique<Kept>()) {}
PartFields::~PartFields() = default;

std::optional<PartField> PartFields::stored(std::size_t part, const std::string& name) const {
    const auto* quantity = m_quantities.named(name);
    if (quantity == nullptr)
        return std::nullopt;
    const auto& region = m_case.parts[part];
    const auto* array = region.find(quantity->array, quantity->on);
    if (array == nullptr)
        array = region.find(quantity->array, quantity->on == Location::Node ? Location::Cell : Location::Node);
    return array != nullptr ? std::optional(from(*array, quantity->toSi)) : std::nullopt;
}

std::optional<PartField> PartFields::temperatureOn(std::size_t part, Location on) const {
    const auto* quantity = m_quantities.named("temperature");
    const auto* array = quantity != nullptr ? m_case.parts[part].find(quantity->array, on) : nullptr;
    return array != nullptr ? std::optional(from(*array, quantity->toSi)) : std::nullopt;
}

bool PartFields::isFluid(std::size_t part) const {
    return isFluidPart(m_case.parts[part], m_quantities, m_properties[part].fluid);
}

Result<PartField> PartFields::field(std::size_t part, const std::string& name, Location wanted) const {
    if (auto own = stored(part, name))
        return std::move(*own);
    const std::scoped_lock hold(m_kept->lock);
    const auto key = std::tuple(part, name, wanted);
    if (const auto found = m_kept->fields.find(key); found != m_kept->fields.end())
        return found->second;
    return m_kept->fields.emplace(key, make(part, name, wanted)).first->second;
}

Result<PartField> PartFields::make(std::size_t part, const std::string& name, Location wanted) const {
    const auto& given = m_properties[part];
    if (name == "conductivity")
        return property(part, name, given.conductivity);
    if (name == "density")
        return property(part, name, given.density);
    if (name == "heat_capacity")
        return property(part, "heat capacity", given.heatCapacity);
    if (name == "viscosity")
        return property(part, name, given.viscosity);
    if (name == "heat_source")
        return source(part);
    if (name == "temperature_gradient")
        return gradient(part, wanted);
    if (name == "heat_flux")
        return conductedFlux(part, wanted);
    if (name == "mass_flux")
        return massFlux(part);
    if (name == "speed")
        return speed(part);
    return fail(ErrorCode::NameUnknown, fmt::format("\"{}\" has no {}", m_case.parts[part].name, name),
                m_case.parts[part].name, "Export the quantity for this part as well");
}

Result<PartField> PartFields::property(std::size_t part, const std::string& name,
                                       const std::optional<double>& value) const {
    if (!value)
        return missing(m_case.parts[part], "the " + name,
                       "Give the part a material that has it, or store it as an array");
    return constantField(*value);
}

Result<PartField> PartFields::source(std::size_t part) const {
    const auto& power = m_properties[part].power;
    if (!power)
        return constantField(0);
    const double size = m_index.parts[part].size;
    if (!(size > 0))
        return fail(ErrorCode::NoCells, fmt::format("\"{}\" has no volume to dissipate in", m_case.parts[part].name),
                    m_case.parts[part].name);
    return constantField(*power / size);
}

Result<PartField> PartFields::gradient(std::size_t part, Location wanted) const {
    const auto& region = m_case.parts[part];
    auto temperature = stored(part, "temperature");
    if (!temperature)
        return missing(region, "the temperature", "Export it for this part as well");
    if (const auto nodal = temperatureOn(part, Location::Node))
        temperature = nodal;
    const auto nodal = moved(region.mesh, *temperature, Location::Node);
    const auto& index = m_index.parts[part];
    const auto slopes = wanted == Location::Cell
                            ? cellGradient(region, nodal.values)
                            : recoveredGradient(region, nodal.values, index.shell.nodes, index.cellMeasure);
    std::vector<double> values(slopes.begin(), slopes.end());
    for (auto& value : values)
        value *= nodal.toSi.scale;
    return derived(wanted, 3, std::move(values));
}

Result<PartField> PartFields::conductedFlux(std::size_t part, Location wanted) const {
    auto conductivity = field(part, "conductivity");
    if (!conductivity)
        return conductivity;
    auto slopes = field(part, "temperature_gradient", wanted);
    if (!slopes)
        return slopes;
    const auto local = moved(m_case.parts[part].mesh, *conductivity, wanted);
    std::vector<double> flux(slopes->values.size());
    for (std::size_t i = 0; i < flux.size(); ++i)
        flux[i] = -local.along(i / 3, i % 3) * slopes->values[i];
    return derived(wanted, 3, std::move(flux));
}

Result<PartField> PartFields::massFlux(std::size_t part) const {
    const auto velocity = stored(part, "velocity");
    if (!velocity || velocity->components != 3)
        return missing(m_case.parts[part], "the velocity", "Export it for this part as well");
    auto density = field(part, "density");
    if (!density)
        return density;
    const auto local = moved(m_case.parts[part].mesh, *density, velocity->on);
    std::vector<double> flux(velocity->values.size());
    for (std::size_t i = 0; i < flux.size(); ++i)
        flux[i] = local.at(i / 3) * velocity->toSi.scale * velocity->values[i];
    return derived(velocity->on, 3, std::move(flux));
}

Result<PartField> PartFields::speed(std::size_t part) const {
    const auto velocity = stored(part, "velocity");
    if (!velocity || velocity->components != 3)
        return missing(m_case.parts[part], "the velocity", "Export it for this part as well");
    std::vector<double> values(velocity->values.size() / 3);
    for (std::size_t i = 0; i < values.size(); ++i)
        values[i] = std::hypot(velocity->at(i, 0), velocity->at(i, 1), velocity->at(i, 2));
    return derived(velocity->on, 1, std::move(values));
}

std::optional<QuantityKind> kindOf(const QuantityList& quantities, const std::string& name) {
    static const std::map<std::string, QuantityKind> made{{"temperature_gradient", {"K/m", 3}},
                                                          {"heat_flux", {"W/m2", 3}},
                                                          {"heat_source", {"W/m3", 1}},
                                                          {"speed", {"m/s", 1}},
                                                          {"mass_flux", {"kg/(m2.s)", 3}},
                                                          {"conductivity", {"W/(m.K)", 1}},
                                                          {"density", {"kg/m3", 1}},
                                                          {"heat_capacity", {"J/(kg.K)", 1}},
                                                          {"viscosity", {"Pa.s", 1}}};
    if (const auto* quantity = quantities.named(name))
        return QuantityKind{quantity->siUnit, quantity->components,
                            name == "temperature" || (quantity->siUnit == "K" && quantity->toSi.offset != 0)};
    const auto found = made.find(name);
    return found != made.end() ? std::optional(found->second) : std::nullopt;
}

} // namespace pyro
