// The tables of parts and boundaries.
#include "app/stages/cases/cases_page.h"

#include "app/stages/cases/written_text.h"
#include "core/envelope/material_library.h"
#include "core/survey/edit.h"
#include "core/survey/typed_unit.h"
#include "render/text.h"

#include <cmath>

#include <fmt/format.h>

namespace pyro {

void CasesPage::fillParts() {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->opened)
        return m_parts->reset(0, {{"Part", {}}});
    const auto entry = std::make_shared<CaseEntry>(*m_session.activeEntry());
    const auto opened = *state->opened;
    const auto name = [opened](int row) { return opened.solved->parts[static_cast<std::size_t>(row)].name; };
    const auto note = [entry, name](int row) {
        const auto found = entry->parts.find(name(row));
        return found == entry->parts.end() ? PartNote{} : found->second;
    };
    const auto setter = [this, entry, name](PartNoteField field, const char* what) {
        return [this, entry, name, field, what](int row, const QString& text) {
            m_session.editOrComplain(
                what, withPartField(m_session.survey(), entry->name, name(row), field, text.toStdString()));
        };
    };
    QStringList materials{""};
    for (const auto& [material, unused] : m_session.survey().materials)
        materials.append(q(material));
    for (const auto& one : materialLibrary())
        if (const auto known = q(std::string(one.name)); !materials.contains(known))
            materials.append(known);
    const auto isShell = [opened](const Region& part) {
        return part.thickness || (part.dimension == 2 && !opened.solved->plane);
    };
    const bool flat = std::ranges::all_of(
        opened.solved->parts, [&](const Region& part) { return opened.solved->extentOf(part, 0).dimension == 2; });
    const bool solid = std::ranges::all_of(
        opened.solved->parts, [&](const Region& part) { return opened.solved->extentOf(part, 0).dimension == 3; });
    const QString sizeHead = flat ? "Area" : solid ? "Volume" : "Size";
    std::vector<TableColumn> columns{
        {"Part", [name](int row) { return q(name(row)); }},
        {"Label", [note](int row) { return q(note(row).label); }, false, setter(PartNoteField::Label, "Label part")},
        {"Kind",
         [note](int row) { return q(note(row).kind); },
         false,
         setter(PartNoteField::Kind, "Kind of part"),
         {"", "solid", "fluid"},
         {},
         {},
         70},
        {"Material",
         [note](int row) { return q(note(row).material); },
         false,
         setter(PartNoteField::Material, "Material of part"),
         materials,
         {},
         {},
         110,
         true},
        {"Power",
         [note](int row) { return written(note(row).power); },
         true,
         setter(PartNoteField::Power, "Power of part"),
         {},
         {},
         {},
         70},
        {"Cells",
         [opened](int row) { return QString::number(opened.solved->parts[static_cast<std::size_t>(row)].fileCells); },
         true},
        {sizeHead,
         [opened](int row) {
             const auto at = static_cast<std::size_t>(row);
             return q(extentText(*opened.solved, opened.solved->parts[at], opened.index->parts[at].size));
         },
         true},
        {"Extent", [opened](int row) {
             const auto& box = opened.index->parts[static_cast<std::size_t>(row)].box;
             const auto depth = opened.solved->plane ? opened.solved->plane->axis() : std::nullopt;
             std::vector<std::string> sides; // along a plane case's depth there is none
             for (std::size_t axis = 0; axis < 3; ++axis)
                 if (depth != axis)
                     sides.push_back(fmt::format("{:.4g}", 1e3 * (box[2 * axis + 1] - box[2 * axis])));
             return q(fmt::format("{} mm", fmt::join(sides, " x ")));
         }}};
    if (std::ranges::any_of(opened.solved->parts, isShell))
        columns.insert(columns.begin() + 5, {"Thickness",
                                             [note](int row) { return written(note(row).thickness); },
                                             true,
                                             setter(PartNoteField::Thickness, "Thickness of part"),
                                             {},
                                             {},
                                             {},
                                             80,
                                             false,
                                             [](int) { return std::string("mm"); }});
    m_parts->reset(static_cast<int>(opened.solved->parts.size()), std::move(columns));
}

void CasesPage::fillBoundaries() {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->opened)
        return m_boundaries->reset(0, {{"Boundary", {}}});
    const auto entry = std::make_shared<CaseEntry>(*m_session.activeEntry());
    const auto opened = *state->opened;
    const auto name = [opened](int row) { return opened.solved->boundaries[static_cast<std::size_t>(row)].name; };
    const auto note = [entry, name](int row) {
        const auto found = entry->boundaries.find(name(row));
        return found == entry->boundaries.end() ? BoundaryNote{} : found->second;
    };
    const auto setter = [this, entry, name](BoundaryField field, const char* what) {
        return [this, entry, name, field, what](int row, const QString& text) {
            m_session.editOrComplain(
                what, withBoundaryField(m_session.survey(), entry->name, name(row), field, text.toStdString()));
        };
    };
    const auto readings = state->readings;
    const auto unit = m_session.view().unit;
    const auto typed = [view = m_session.view()](BoundaryField field) {
        return [view, field](int) { return typedUnit(field, view); };
    };
    const auto environment = [readings, name](int row) -> std::optional<Environment> {
        if (!readings)
            return std::nullopt;
        const auto found = std::ranges::find(readings->environments, name(row), &Environment::name);
        return found == readings->environments.end() ? std::nullopt : std::optional(*found);
    };
    m_boundaries->reset(
        static_cast<int>(opened.solved->boundaries.size()),
        {{"Boundary", [name](int row) { return q(name(row)); }},
         {"Label", [note](int row) { return q(note(row).label); }, false,
          setter(BoundaryField::Label, "Label boundary")},
         {"Kind",
          [note](int row) { return q(note(row).kind); },
          false,
          setter(BoundaryField::Kind, "Kind of boundary"),
          {"", "wall", "inlet", "outlet", "symmetry"},
          {},
          {},
          90},
         {"Ambient temperature",
          [environment, note, unit](int row) {
              const auto found = environment(row);
              return found                   ? q(formatTemperature({found->temperature}, unit))
                     : note(row).temperature ? q(note(row).temperature->text)
                                             : QString();
          },
          true,
          setter(BoundaryField::Temperature, "Environment of boundary"),
          {},
          {},
          [note](int row) { return note(row).temperature ? q(note(row).temperature->text) : QString(); },
          110,
          false,
          typed(BoundaryField::Temperature)},
         {"Surface resistance, m\u00b2\u00b7K/W",
          [environment](int row) {
              const auto found = environment(row);
              return found && std::isfinite(found->resistance) ? q(fmt::format("{:.4g}", found->resistance))
                                                               : QString();
          },
          true,
          setter(BoundaryField::SurfaceResistance, "Surface resistance of boundary"),
          {},
          {},
          [note](int row) { return note(row).surfaceResistance ? q(note(row).surfaceResistance->text) : QString(); },
          100,
          false,
          typed(BoundaryField::SurfaceResistance)},
         {"Source",
          [environment](int row) {
              const auto found = environment(row);
              return found ? q(found->origin) : QString("unknown");
          }},
         {opened.solved->plane ? "Edges" : "Faces",
          [opened](int row) {
              return QString::number(opened.solved->boundaries[static_cast<std::size_t>(row)].fileCells);
          },
          true},
         {opened.solved->plane ? "Length" : "Area",
          [opened](int row) {
              return q(extentText(*opened.solved, opened.solved->boundaries[static_cast<std::size_t>(row)],
                                  opened.index->boundaries[static_cast<std::size_t>(row)].size));
          },
          true},
         {"Part", [opened, entry](int row) {
              std::set<std::string> owners;
              for (const auto part : opened.index->boundaries[static_cast<std::size_t>(row)].part)
                  owners.insert(part == noNumber ? "no part" : shownName(*entry, opened.solved->parts[part].name));
              return q(fmt::format("{}", fmt::join(owners, ", ")));
          }}});
}

} // namespace pyro
