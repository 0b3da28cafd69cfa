// Design values of materials to begin with; a survey's own materials come first.
#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace pyro {

struct LibraryMaterial {
    std::string_view name;
    double conductivity; // W/(m.K)
    double density;      // kg/m3; 0 where it says little
    double heatCapacity; // J/(kg.K); 0 likewise
    std::string_view source;
    std::string_view words; // that occur in the names of parts made of it, lower case, separated by blanks
};

std::span<const LibraryMaterial> materialLibrary();
const LibraryMaterial* libraryMaterial(std::string_view name); // null when there is none
// Those whose words occur in a part's name, the longest word first.
std::vector<std::string> suggestedMaterials(std::string_view part);

} // namespace pyro
