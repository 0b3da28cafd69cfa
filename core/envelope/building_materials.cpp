#include "core/envelope/building_materials.h"

#include <algorithm>
#include <array>

namespace pyro {
namespace {

constexpr std::string_view iso = "ISO 10456, table 3, not yet compared with the standard";
constexpr std::string_view iso10077 = "ISO 10077-2, annex A, not yet compared with the standard";
constexpr std::string_view declared = "typical declared value; take the product's own";

constexpr std::array<BuildingMaterial, 28> all{{
    {"concrete, medium density", 1.35, 2000, 1000, iso},
    {"concrete, high density", 2.00, 2400, 1000, iso},
    {"concrete, reinforced 1 %", 2.3, 2300, 1000, iso},
    {"concrete, reinforced 2 %", 2.5, 2400, 1000, iso},
    {"cement screed", 1.00, 1800, 1000, iso},
    {"lime sand render", 0.80, 1600, 1000, iso},
    {"gypsum plaster", 0.57, 1300, 1000, iso},
    {"gypsum plasterboard", 0.25, 900, 1000, iso},
    {"softwood", 0.13, 500, 1600, iso},
    {"hardwood", 0.18, 700, 1600, iso},
    {"plywood", 0.13, 500, 1600, iso},
    {"oriented strand board", 0.13, 650, 1700, iso},
    {"bitumen felt", 0.23, 1100, 1000, iso},
    {"soda lime glass", 1.00, 2500, 750, iso},
    {"aluminium alloy", 160, 2800, 880, iso},
    {"steel", 50, 7800, 450, iso},
    {"stainless steel, austenitic", 17, 7900, 500, iso},
    {"copper", 380, 8900, 380, iso},
    {"polyamide with glass fibre", 0.30, 1450, 1600, iso10077},
    {"PVC, rigid", 0.17, 1390, 900, iso10077},
    {"EPDM", 0.25, 1150, 1000, iso10077},
    {"neoprene", 0.23, 1240, 2140, iso},
    {"clay or silt", 1.5, 1500, 2100, "ISO 13370, table 7, not yet compared with the standard"},
    {"sand or gravel", 2.0, 2000, 1000, "ISO 13370, table 7, not yet compared with the standard"},
    {"mineral wool", 0.035, 40, 1030, declared},
    {"expanded polystyrene", 0.035, 20, 1450, declared},
    {"extruded polystyrene", 0.034, 33, 1450, declared},
    {"polyurethane foam", 0.025, 30, 1400, declared},
}};

} // namespace

std::span<const BuildingMaterial> buildingMaterials() { return all; }

const BuildingMaterial* buildingMaterial(std::string_view name) {
    const auto found = std::ranges::find(all, name, &BuildingMaterial::name);
    return found == all.end() ? nullptr : &*found;
}

} // namespace pyro
