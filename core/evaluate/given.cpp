#include "core/evaluate/given.h"

namespace pyro {

std::map<std::string, std::string> labelsIn(const CaseEntry& entry) {
    std::map<std::string, std::string> labels;
    for (const auto& [name, note] : entry.parts)
        if (!note.label.empty())
            labels.emplace(name, note.label);
    return labels;
}

std::vector<std::string> symmetricIn(const CaseEntry& entry) {
    std::vector<std::string> names;
    for (const auto& [name, note] : entry.boundaries)
        if (note.kind == "symmetry")
            names.push_back(name);
    return names;
}

std::map<std::string, double> givenPowers(const CaseEntry& entry) {
    std::map<std::string, double> powers;
    for (const auto& [name, note] : entry.parts)
        if (note.power)
            powers.emplace(name, note.power->si);
    return powers;
}

std::vector<PartProperties> propertiesOf(const Survey& survey, const CaseEntry& entry, const Case& solved) {
    std::vector<PartProperties> all;
    const auto si = [](const std::optional<Written<double>>& value) {
        return value ? std::optional(value->si) : std::nullopt;
    };
    for (const auto& part : solved.parts) {
        PartProperties properties;
        if (const auto note = entry.parts.find(part.name); note != entry.parts.end()) {
            if (note->second.power)
                properties.power = note->second.power->si / entry.symmetryFactor();
            if (!note->second.kind.empty())
                properties.fluid = note->second.kind == "fluid";
            if (const auto material = survey.materials.find(note->second.material);
                material != survey.materials.end()) {
                properties.conductivity = si(material->second.conductivity);
                properties.density = si(material->second.density);
                properties.heatCapacity = si(material->second.heatCapacity);
                properties.viscosity = si(material->second.viscosity);
            }
        }
        all.push_back(properties);
    }
    return all;
}

GivenEnvironments environmentsIn(const CaseEntry& entry) {
    GivenEnvironments given;
    for (const auto& [name, note] : entry.boundaries) {
        GivenEnvironment one;
        if (note.temperature)
            one.temperature = note.temperature->si;
        if (note.surfaceResistance)
            one.resistance = note.surfaceResistance->si;
        else if (note.filmCoefficient && note.filmCoefficient->si > 0)
            one.resistance = 1 / note.filmCoefficient->si;
        if (one.temperature || one.resistance)
            given.emplace(name, one);
    }
    return given;
}

} // namespace pyro
