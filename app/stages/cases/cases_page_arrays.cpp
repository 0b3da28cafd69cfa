// The tables of quantities and materials.
#include "app/stages/cases/cases_page.h"

#include "app/stages/cases/written_text.h"
#include "core/survey/edit.h"
#include "render/text.h"

#include <fmt/format.h>

namespace pyro {

void CasesPage::fillQuantities() {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->opened)
        return m_quantities->reset(0, {{"Array", {}}});
    const auto entry = std::make_shared<CaseEntry>(*m_session.activeEntry());
    const auto list = std::make_shared<std::vector<Quantity>>(state->quantities.quantities);
    const auto at = [list](int row) -> const Quantity& { return (*list)[static_cast<std::size_t>(row)]; };
    QStringList roles{""};
    for (const auto& known : knownQuantities())
        roles.append(q(std::string(known.name)));
    const auto value = [view = m_session.view()](const Quantity& quantity, double si) {
        return q(shownUnit(quantity.name, quantity.siUnit, view).text(si));
    };
    const auto elsewhere = [this, at](int row) { // the other place this array is stored on, if there is one
        const auto other = at(row).on == Location::Node ? Location::Cell : Location::Node;
        const auto& parts = m_session.activeCase()->opened->solved->parts;
        const bool there = std::ranges::any_of(
            parts, [&](const Region& part) { return part.find(at(row).array, other) != nullptr; });
        return there ? std::optional(other) : std::nullopt;
    };
    m_quantities->reset(
        static_cast<int>(list->size()),
        {{"Array", [at](int row) { return q(at(row).array); }},
         {"Quantity",
          [at](int row) {
              return at(row).name == at(row).array && knownQuantity(at(row).name) == nullptr ? QString("as stored")
                                                                                             : q(at(row).name);
          },
          false,
          [this, entry, at](int row, const QString& role) {
              m_session.editOrComplain("Quantity of array",
                                       withQuantityRole(m_session.survey(), entry->name, at(row), role.toStdString()));
          },
          roles,
          {},
          [at](int row) { return knownQuantity(at(row).name) != nullptr ? q(at(row).name) : QString(); },
          120},
         {"Stored on",
          [at, elsewhere](int row) {
              const auto here = std::string(locationName(at(row).on)) + "s";
              return q(elsewhere(row) ? here + " (and " + std::string(locationName(*elsewhere(row))) + "s)" : here);
          },
          false,
          [this, entry, at](int row, const QString& on) {
              m_session.editOrComplain("Where values are stored",
                                       withQuantityLocation(m_session.survey(), entry->name, at(row),
                                                            on == "cells" ? Location::Cell : Location::Node));
          },
          {"nodes", "cells"},
          {},
          [at](int row) { return q(std::string(locationName(at(row).on)) + "s"); },
          120},
         {"Stored in",
          [at](int row) { return at(row).unit.empty() ? QString("unit unknown") : q(at(row).unit); },
          false,
          [this, entry, at](int row, const QString& text) {
              m_session.editOrComplain("Unit of array",
                                       withQuantityUnit(m_session.survey(), entry->name, at(row), text.toStdString()));
          },
          {},
          {},
          [at](int row) { return q(at(row).unit); },
          110},
         {"Rank",
          [at](int row) {
              return at(row).components == 1   ? QString("scalar")
                     : at(row).components == 3 ? QString("vector")
                                               : QString("%1 components").arg(at(row).components);
          }},
         {"Lowest", [at, value](int row) { return value(at(row), at(row).min); }, true},
         {"Highest", [at, value](int row) { return value(at(row), at(row).max); }, true},
         {"", [](int) { return QString(); }}});
}

void CasesPage::fillMaterials() {
    auto names = std::make_shared<std::vector<std::string>>();
    for (const auto& [name, unused] : m_session.survey().materials)
        names->push_back(name);
    const auto material = [this, names](int row) {
        const auto found = m_session.survey().materials.find((*names)[static_cast<std::size_t>(row)]);
        return found == m_session.survey().materials.end() ? Material{} : found->second;
    };
    const auto setter = [this, names](MaterialField field) {
        return [this, names, field](int row, const QString& text) {
            m_session.editOrComplain("Material",
                                     withMaterialField(m_session.survey(), (*names)[static_cast<std::size_t>(row)],
                                                       field, text.toStdString()));
        };
    };
    const auto typed = [](const char* unit) { return [unit](int) { return std::string(unit); }; };
    m_materials->reset(static_cast<int>(names->size()),
                       {{"Material", [names](int row) { return q((*names)[static_cast<std::size_t>(row)]); }, false,
                         [this, names](int row, const QString& text) {
                             m_session.editOrComplain("Rename material",
                                                      withMaterialName(m_session.survey(),
                                                                       (*names)[static_cast<std::size_t>(row)],
                                                                       text.toStdString()));
                         }},
                        {"Conductivity",
                         [material](int row) { return written(material(row).conductivity); },
                         true,
                         setter(MaterialField::Conductivity),
                         {},
                         {},
                         {},
                         120,
                         false,
                         typed("W/(m.K)")},
                        {"Density",
                         [material](int row) { return written(material(row).density); },
                         true,
                         setter(MaterialField::Density),
                         {},
                         {},
                         {},
                         110,
                         false,
                         typed("kg/m3")},
                        {"Heat capacity",
                         [material](int row) { return written(material(row).heatCapacity); },
                         true,
                         setter(MaterialField::HeatCapacity),
                         {},
                         {},
                         {},
                         130,
                         false,
                         typed("J/(kg.K)")},
                        {"Viscosity",
                         [material](int row) { return written(material(row).viscosity); },
                         true,
                         setter(MaterialField::Viscosity),
                         {},
                         {},
                         {},
                         110,
                         false,
                         typed("Pa.s")},
                        {"", [](int) { return QString(); }}});
}

} // namespace pyro
