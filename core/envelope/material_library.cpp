#include "core/envelope/material_library.h"

#include "core/case/lower_case.h"

#include <algorithm>
#include <array>

namespace pyro {
namespace {

constexpr std::string_view iso = "ISO 10456, table 3, not yet compared with the standard";
constexpr std::string_view iso10077 = "ISO 10077-2, annex A, not yet compared with the standard";
constexpr std::string_view handbook = "handbook value at room temperature, from memory";
constexpr std::string_view declared = "typical declared value; take the product's own";

constexpr std::array<LibraryMaterial, 37> library{{
    {"concrete, medium density", 1.35, 2000, 1000, iso, "concrete"},
    {"concrete, high density", 2.00, 2400, 1000, iso, "concrete slab"},
    {"concrete, reinforced 1 %", 2.3, 2300, 1000, iso, ""},
    {"concrete, reinforced 2 %", 2.5, 2400, 1000, iso, ""},
    {"cement screed", 1.00, 1800, 1000, iso, ""},
    {"lime sand render", 0.80, 1600, 1000, iso, "render"},
    {"gypsum plaster", 0.57, 1300, 1000, iso, "plaster"},
    {"gypsum plasterboard", 0.25, 900, 1000, iso, "plasterboard drywall"},
    {"softwood", 0.13, 500, 1600, iso, "wood timber stud rafter"},
    {"hardwood", 0.18, 700, 1600, iso, ""},
    {"plywood", 0.13, 500, 1600, iso, "plywood"},
    {"oriented strand board", 0.13, 650, 1700, iso, ""},
    {"bitumen felt", 0.23, 1100, 1000, iso, ""},
    {"soda lime glass", 1.00, 2500, 750, iso, "glass pane glazing"},
    {"aluminium alloy", 160, 2800, 880, iso, "aluminium aluminum alu al fin fins heatsink sink housing"},
    {"steel", 50, 7800, 450, iso, "steel iron screw bolt frame"},
    {"stainless steel, austenitic", 17, 7900, 500, iso, "stainless inox"},
    {"copper", 380, 8900, 380, iso, "copper cu winding busbar trace"},
    {"polyamide with glass fibre", 0.30, 1450, 1600, iso10077, ""},
    {"PVC, rigid", 0.17, 1390, 900, iso10077, "pvc"},
    {"EPDM", 0.25, 1150, 1000, iso10077, "epdm seal gasket"},
    {"neoprene", 0.23, 1240, 2140, iso, ""},
    {"clay or silt", 1.5, 1500, 2100, "ISO 13370, table 7, not yet compared with the standard", ""},
    {"sand or gravel", 2.0, 2000, 1000, "ISO 13370, table 7, not yet compared with the standard", ""},
    {"mineral wool", 0.035, 40, 1030, declared, "wool insulation"},
    {"expanded polystyrene", 0.035, 20, 1450, declared, "eps polystyrene"},
    {"extruded polystyrene", 0.034, 33, 1450, declared, "xps"},
    {"polyurethane foam", 0.025, 30, 1400, declared, "pur foam"},
    {"brass", 120, 8400, 380, iso, "brass"},
    {"silicon", 148, 2330, 700, handbook, "silicon si die chip"},
    {"alumina", 25, 3900, 880, handbook, "alumina ceramic"},
    {"solder", 58, 7400, 220, handbook, "solder"},
    {"epoxy laminate", 0.3, 1850, 1100, handbook, "board pcb laminate"},
    {"epoxy", 0.20, 1200, 1400, iso, "epoxy mould mold encapsulant"},
    {"silicone", 0.35, 1200, 1000, iso, "silicone pad gel"},
    {"water", 0.60, 1000, 4190, iso, "water coolant"},
    {"air", 0.025, 1.23, 1008, iso, "air cavity"},
}};

bool isLetter(char c) { return c >= 'a' && c <= 'z'; }

// Short words count only as words of their own: "al" is no aluminium in "alarm".
bool occurs(const std::string& text, std::string_view word) {
    for (auto at = text.find(word); at != std::string::npos; at = text.find(word, at + 1)) {
        const bool begins = at == 0 || !isLetter(text[at - 1]);
        const bool ends = at + word.size() == text.size() || !isLetter(text[at + word.size()]);
        if ((begins && ends) || (word.size() > 3 && (begins || ends)))
            return true;
    }
    return false;
}

} // namespace

std::span<const LibraryMaterial> materialLibrary() { return library; }

const LibraryMaterial* libraryMaterial(std::string_view name) {
    const auto found = std::ranges::find(library, name, &LibraryMaterial::name);
    return found == library.end() ? nullptr : &*found;
}

std::vector<std::string> suggestedMaterials(std::string_view part) {
    const auto text = lowerCase(std::string(part));
    std::vector<std::pair<std::size_t, std::string>> found; // by the length of the word
    for (const auto& material : library) {
        std::size_t longest = 0;
        std::string_view words = material.words;
        while (!words.empty()) {
            const auto end = words.find(' ');
            if (const auto word = words.substr(0, end); occurs(text, word))
                longest = std::max(longest, word.size());
            words = end == std::string_view::npos ? std::string_view() : words.substr(end + 1);
        }
        if (longest > 0)
            found.emplace_back(longest, std::string(material.name));
    }
    std::ranges::stable_sort(found, [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<std::string> names;
    names.reserve(found.size());
    for (auto& [length, name] : found)
        names.push_back(std::move(name));
    return names;
}

} // namespace pyro
