#include "core/report/tables/table.h"

namespace pyro {
namespace {

Cell siOf(const std::optional<Written<double>>& value) { return value ? Cell(value->si) : Cell(); }

// What each part is said to be made of, one row for each part of the survey's cases; left empty where it says nothing.
Table makeMaterials(const TableInput& input) {
    Table table{{"case", "part", "label", "material", "conductivity_W_per_m_K", "density_kg_per_m3",
                 "heat_capacity_J_per_kg_K", "viscosity_Pa_s", "power_W"},
                {}};
    for (const auto& one : input.run.cases) {
        const auto* entry = input.survey.caseNamed(one.name);
        for (const auto& part : one.steps.empty() ? std::vector<RegionReading>() : one.steps.front().parts) {
            const auto found = entry->parts.find(part.name);
            const auto note = found == entry->parts.end() ? PartNote{} : found->second;
            const auto known = input.survey.materials.find(note.material);
            const auto material = known == input.survey.materials.end() ? Material{} : known->second;
            table.row() = {one.name,
                           part.name,
                           shownName(*entry, part.name),
                           note.material,
                           siOf(material.conductivity),
                           siOf(material.density),
                           siOf(material.heatCapacity),
                           siOf(material.viscosity),
                           siOf(note.power)};
        }
    }
    return table;
}

} // namespace

constexpr TableKind materialsTable{.name = "materials", .title = "Materials", .make = makeMaterials};

} // namespace pyro
