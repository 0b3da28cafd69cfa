#include "app/ledger/ledger.h"

#include "app/ledger/gauge_page.h"
#include "app/ledger/limits_page.h"
#include "app/ledger/trust_page.h"
#include "app/stages/field/section_card.h"
#include "app/theme/theme.h"
#include "core/envelope/material_library.h"
#include "core/survey/edit.h"
#include "core/survey/typed_unit.h"
#include "core/units/millimetres.h"
#include "render/text.h"

#include <QApplication>
#include <QButtonGroup>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QSplitter>
#include <QVBoxLayout>
#include <fmt/format.h>
#include <numeric>

namespace pyro {
namespace {

QString placeText(const std::optional<Place>& place) {
    if (!place)
        return {};
    return q(fmt::format("{:.1f}  {:.1f}  {:.1f} mm", millimetres(place->at[0], 0.1), millimetres(place->at[1], 0.1),
                         millimetres(place->at[2], 0.1)));
}

QString written(const std::optional<Written<double>>& value) { return value ? q(value->text) : QString(); }

} // namespace

LedgerPage::LedgerPage(const QString& title, QWidget* parent)
    : QWidget(parent), m_title(new QLabel(title)), m_head(new QHBoxLayout), m_tables(new QStackedWidget) {
    m_title->setObjectName("ledgerTitle");
    m_head->setContentsMargins(16, 6, 12, 2);
    m_head->setSpacing(2);
    m_head->addWidget(m_title);
    m_head->addStretch();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addLayout(m_head);
    layout->addWidget(m_tables, 1);
    connect(m_tables, &QStackedWidget::currentChanged, this, &LedgerPage::tableShown);
}

void LedgerPage::setTitle(const QString& title) { m_title->setText(title); }

RowTable* LedgerPage::addTable(const QString& name, const QString& tab) { return addTableBeside(name, tab, nullptr); }

RowTable* LedgerPage::addTableBeside(const QString& name, const QString& tab, QWidget* beside) {
    auto* model = new RowTable(this);
    auto* view = makeTable(model, name, this);
    QWidget* page = view;
    if (beside != nullptr) {
        auto* split = new QSplitter(Qt::Horizontal, this);
        split->setHandleWidth(1);
        split->setChildrenCollapsible(false);
        split->addWidget(view);
        split->addWidget(beside);
        split->setStretchFactor(0, 3);
        split->setStretchFactor(1, 2);
        page = split;
    }
    const int at = m_tables->addWidget(page);
    if (!tab.isEmpty()) {
        auto* button = new QPushButton(tab, this);
        button->setObjectName("link");
        button->setAccessibleName(name + "Tab");
        button->setCheckable(true);
        button->setAutoExclusive(true);
        button->setChecked(at == 0);
        m_head->insertWidget(1 + m_tabs++, button);
        connect(button, &QPushButton::clicked, m_tables, [this, at] { m_tables->setCurrentIndex(at); });
    }
    return model;
}

void LedgerPage::showTable(const QString& name) {
    for (int at = 0; at < m_tables->count(); ++at)
        if (m_tables->widget(at) == view(name) || m_tables->widget(at)->isAncestorOf(view(name)))
            m_tables->setCurrentIndex(at);
    for (auto* tab : findChildren<QPushButton*>("link"))
        if (tab->accessibleName() == name + "Tab")
            tab->setChecked(true);
}

QTableView* LedgerPage::view(const QString& name) const { return findChild<QTableView*>(name); }

QPushButton* LedgerPage::addLink(const QString& name, const QString& text) {
    auto* button = new QPushButton(text, this);
    button->setObjectName("link");
    button->setAccessibleName(name);
    m_head->addWidget(button);
    return button;
}

void LedgerPage::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->position().y() < m_tables->y())
        emit foldRequested();
}

void LedgerPage::addTool(QWidget* tool) { m_head->addWidget(tool); }

Ledger::Ledger(Session& session, QWidget* parent) : QStackedWidget(parent), m_session(session) {
    setObjectName("ledger");
    m_cases = new LedgerPage("", this);
    m_parts = m_cases->addTable("partsTable", "Parts");
    m_boundaries = m_cases->addTable("boundariesTable", "Boundaries");
    m_quantities = m_cases->addTable("quantitiesTable", "Quantities");
    m_materials = m_cases->addTable("materialsTable", "Materials");
    m_remarks = m_cases->addTable("remarksTable", "Remarks");
    connect(m_cases->addLink("newMaterial", "New material"), &QPushButton::clicked, this, [this] {
        m_session.edit("New material", withNewMaterial(m_session.survey()));
        m_cases->showTable("materialsTable");
    });
    m_field = new LedgerPage("Temperature of sections, parts and boundaries", this);
    m_readings = m_field->addTable("readingsTable");
    const auto copyLink = [](LedgerPage* page, RowTable* table) {
        QObject::connect(page->addLink("copyTable", "Copy"), &QPushButton::clicked, page,
                         [table] { QApplication::clipboard()->setText(asText(*table)); });
    };
    copyLink(m_field, m_readings);
    m_gauges = new GaugePage(session, this);
    m_trust = new TrustPage(session, this);
    m_limits = new LimitsPage(session, this);
    connect(m_limits, &LimitsPage::placeChosen, this, &Ledger::placeChosen);
    for (auto* page : findChildren<LedgerPage*>())
        connect(page, &LedgerPage::foldRequested, this, &Ledger::foldRequested);
    for (QWidget* page :
         {static_cast<QWidget*>(m_cases), static_cast<QWidget*>(m_field), static_cast<QWidget*>(m_gauges),
          static_cast<QWidget*>(m_trust), static_cast<QWidget*>(m_limits)})
        addWidget(page);
    connect(m_field->view("readingsTable")->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& row) {
                if (row.isValid())
                    chooseReading(static_cast<std::size_t>(row.row()));
            });
    for (auto* table : {m_parts, m_boundaries, m_quantities, m_materials}) {
        connect(table, &RowTable::pasteBegins, this, [this] { m_session.undoStack().beginMacro("Paste"); });
        connect(table, &RowTable::pasteEnds, this, [this] { m_session.undoStack().endMacro(); });
    }
    auto* faces = m_cases->view("boundariesTable");
    faces->setMouseTracking(true);
    faces->viewport()->installEventFilter(this);
    const auto nameAt = [this](const QModelIndex& index) {
        return index.isValid() ? m_boundaries->column(0).text(index.row()).toStdString() : std::string();
    };
    connect(faces, &QTableView::entered, this,
            [this, nameAt](const QModelIndex& index) { m_session.selection().pointAtBoundary(nameAt(index)); });
    connect(faces->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this, nameAt](const QModelIndex& row) {
                if (row.isValid())
                    m_session.selection().selectBoundary(nameAt(row));
            });
    connect(&session, &Session::changed, this, &Ledger::refresh);
    refresh(~Changes());
}

// The pointer left the table of boundaries: none is pointed at.
bool Ledger::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Leave)
        m_session.selection().pointAtBoundary({});
    return QStackedWidget::eventFilter(watched, event);
}

// The row of the face that was clicked in the viewport.
void Ledger::showSelectedBoundary() {
    const auto* state = m_session.activeCase();
    auto* faces = m_cases->view("boundariesTable");
    const auto found = state != nullptr && state->opened
                           ? state->opened->solved->boundaryNamed(m_session.selection().selectedBoundary())
                           : std::nullopt;
    const int row = found ? static_cast<int>(*found) : -1;
    if (row < 0)
        return faces->clearSelection();
    if (faces->currentIndex().row() == row && faces->selectionModel()->hasSelection())
        return;
    m_cases->showTable("boundariesTable");
    faces->selectRow(row);
    faces->scrollTo(m_boundaries->index(row, 0));
}

void Ledger::chooseReading(std::size_t row) {
    const auto* state = m_session.activeCase();
    if (row < m_sectionRows.size())
        m_session.selection().selectSection(m_sectionRows[row]);
    else if (state != nullptr && state->readings && row - m_sectionRows.size() < state->readings->parts.size())
        m_session.selection().selectPart(state->readings->parts[row - m_sectionRows.size()].name);
}

void Ledger::showStage(const Stage& stage) {
    setVisible(stage.ledgerPage != nullptr);
    setCurrentWidget(stage.ledgerPage != nullptr ? stage.ledgerPage(*this) : m_cases);
}

void Ledger::refresh(Changes what) {
    if (what & (Change::Cases | Change::Survey | Change::View | Change::Readings)) {
        fillParts();
        fillBoundaries();
        fillQuantities();
        fillMaterials();
        fillRemarks();
        fillField();
    }
    if (what & Change::Selection)
        showSelectedBoundary();
}

void Ledger::fillParts() {
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

void Ledger::fillBoundaries() {
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

void Ledger::fillQuantities() {
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

void Ledger::fillMaterials() {
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

void Ledger::fillRemarks() {
    const auto* state = m_session.activeCase();
    auto remarks = std::make_shared<Remarks>();
    if (state != nullptr)
        *remarks = state->series.remarks;
    if (state != nullptr && state->readings)
        remarks->insert(remarks->end(), state->readings->remarks.begin(), state->readings->remarks.end());
    if (state != nullptr && state->error)
        remarks->push_back({Severity::Serious, "error", state->error->text(), ""});
    const auto at = [remarks](int row) -> const Remark& { return (*remarks)[static_cast<std::size_t>(row)]; };
    m_remarks->reset(static_cast<int>(remarks->size()),
                     {{"Severity", [at](int row) { return q(std::string(severityName(at(row).severity))); }},
                      {"Remark", [at](int row) { return q(at(row).text); }},
                      {"Place", [at](int row) { return q(at(row).where); }}});
}

// Of the quantity on display; the picture carries its values.
void Ledger::fillField() {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->picture || !m_session.activeEntry())
        return m_readings->reset(0, {{"Place", {}}});
    struct Row {
        QString place;
        QString type;
        std::optional<double> min; // SI
        std::optional<double> mean;
        std::optional<double> max;
        QString at;
        QString note;
    };
    auto rows = std::make_shared<std::vector<Row>>();
    m_sectionRows.clear();
    for (std::size_t i = 0; i < m_session.sections().size(); ++i)
        if (const auto& section = m_session.sections()[i]; section.picture && section.view.shown) {
            m_sectionRows.push_back(i);
            const auto& cut = *section.picture;
            rows->push_back(
                {q(cut.name), "section", cut.min, cut.mean, cut.max, placeOfPlane(section.view.plane),
                 cut.empty() ? QString("misses the visible parts")
                             : q(formatExtent(cut.area, 2) +
                                 (cut.withValues < (1 - 1e-9) * cut.area
                                      ? fmt::format(", mean over the {} that have it", formatExtent(cut.withValues, 2))
                                      : ", linear within cells"))});
        }
    // What was made of faces that a file with boundaries leaves unnamed would hide those that it names.
    const auto told = std::min(state->picture->regions.size(),
                               state->opened->solved->parts.size() + state->opened->solved->passable());
    for (const auto& region : std::span(state->picture->regions).first(told))
        rows->push_back(
            {region.boundary ? q(region.name) : q(shownName(*m_session.activeEntry(), region.name)),
             region.boundary ? "boundary" : "part", region.min, region.mean, region.max, placeText(region.highest),
             !region.why.empty()
                 ? "no " + writtenName(state->picture->quantity, m_session.view().component).toLower() + " here"
             : region.highest ? q("stored on " + std::string(locationName(region.highest->on)) + "s")
                              : QString()});
    const auto at = [rows](int row) -> const Row& { return (*rows)[static_cast<std::size_t>(row)]; };
    const auto unit = m_session.unit();
    const auto number = [at, unit](std::optional<double> Row::*of) {
        return [at, unit, of](int row) { return at(row).*of ? q(unit.number(*(at(row).*of))) : QString("\u2013"); };
    };
    const auto symbol = " " + q(unitText(unit.symbol()));
    m_field->setTitle(writtenName(state->picture->quantity, m_session.view().component) +
                      " of sections, parts and boundaries");
    m_readings->reset(static_cast<int>(rows->size()), {{"Place", [at](int row) { return at(row).place; }},
                                                       {"Type", [at](int row) { return at(row).type; }},
                                                       {"Lowest" + symbol, number(&Row::min), true},
                                                       {"Mean" + symbol, number(&Row::mean), true},
                                                       {"Highest" + symbol, number(&Row::max), true},
                                                       {"Highest at x y z", [at](int row) { return at(row).at; }, true},
                                                       {"Note", [at](int row) { return at(row).note; }}});
}

} // namespace pyro
