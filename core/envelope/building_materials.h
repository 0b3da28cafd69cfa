// Design conductivities to begin with; a survey's own materials come first.
#pragma once

#include <span>
#include <string_view>

namespace pyro {

struct BuildingMaterial {
    std::string_view name;
    double conductivity; // W/(m.K)
    double density;      // kg/m3; 0 where it says little
    double heatCapacity; // J/(kg.K); 0 likewise
    std::string_view source;
};

std::span<const BuildingMaterial> buildingMaterials();
const BuildingMaterial* buildingMaterial(std::string_view name);

} // namespace pyro
