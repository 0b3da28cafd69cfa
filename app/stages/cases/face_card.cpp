#include "app/stages/cases/face_card.h"

#include "app/session/dialogs.h"
#include "app/theme/theme.h"
#include "core/envelope/material_library.h"
#include "core/feedback/counted.h"
#include "core/survey/edit.h"
#include "render/text.h"

#include <QCompleter>
#include <QFormLayout>
#include <QVBoxLayout>
#include <fmt/format.h>

namespace pyro {
namespace {

QWidget* rows(QVBoxLayout* in, QFormLayout*& form) {
    auto* widget = new QWidget;
    form = new QFormLayout(widget);
    form->setContentsMargins(0, 0, 0, 0);
    form->setSpacing(6);
    form->setLabelAlignment(Qt::AlignLeft);
    in->addWidget(widget);
    return widget;
}

} // namespace

FaceCard::FaceCard(Session& session, QWidget* parent) : QWidget(parent), m_session(session) {
    setObjectName("card");
    setAttribute(Qt::WA_StyledBackground);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 10, 12, 10);
    layout->setSpacing(6);
    QFormLayout* form = nullptr;
    m_partRows = rows(layout, form);
    m_partName = new QLabel;
    m_partName->setWordWrap(true);
    form->addRow("Part", m_partName);
    m_material = new QComboBox;
    m_material->setObjectName("faceMaterial");
    m_material->setEditable(true);
    // completed in place it would choose unasked
    m_material->completer()->setCompletionMode(QCompleter::PopupCompletion);
    m_material->setToolTip("Those of the survey, then those that the part's name suggests, then the library. Its "
                           "values stand under Materials.");
    form->addRow("Material", m_material);
    m_faceRows = rows(layout, form);
    m_faceName = new QLabel;
    m_faceName->setWordWrap(true);
    form->addRow("Boundary", m_faceName);
    m_faceFacts = new QLabel;
    m_faceFacts->setObjectName("hint");
    m_faceFacts->setWordWrap(true);
    form->addRow("", m_faceFacts);
    m_label = new QLineEdit;
    m_label->setObjectName("faceLabel");
    m_label->setPlaceholderText("What it is, for example inlet");
    form->addRow("Label", m_label);
    m_heat = new QPushButton("Heat flow through it");
    m_heat->setObjectName("faceHeat");
    m_heat->setAccessibleName("faceHeat");
    m_heat->setToolTip("Adds the heat flow through this boundary as a gauge");
    form->addRow("", m_heat);
    m_patchRow = new QWidget;
    auto* patch = new QHBoxLayout(m_patchRow);
    patch->setContentsMargins(0, 0, 0, 0);
    patch->setSpacing(6);
    const auto small = [&](const char* name, const QString& text, const QString& tip) {
        auto* made = new QPushButton(text);
        made->setObjectName("small");
        made->setAccessibleName(name);
        made->setToolTip(tip);
        patch->addWidget(made);
        return made;
    };
    m_divide = small("divideFace", "Divide\u2026", "At edges sharper than an angle");
    m_join = new QComboBox;
    m_join->setObjectName("joinFace");
    m_join->setToolTip("Makes this boundary and another one of the same part one boundary");
    patch->addWidget(m_join, 1);
    m_undivide = small("undivideFaces", "Undo all",
                       "Boundaries as the edges make them: takes every division and joining of this case back");
    form->addRow("", m_patchRow);
    connect(m_divide, &QPushButton::clicked, this, &FaceCard::divide);
    connect(m_join, &QComboBox::activated, this, [this](int at) {
        if (at > 0)
            join(m_join->itemData(at).toString());
    });
    connect(m_undivide, &QPushButton::clicked, this, [this] {
        if (const auto* entry = m_session.activeEntry())
            m_session.editOrComplain("Boundaries by their edges", withoutCutsAndJoins(m_session.survey(), entry->name));
    });
    const auto setMaterial = [this] {
        const auto* state = m_session.activeCase();
        const auto part = state != nullptr && state->opened ? chosenPart(*state->opened) : std::nullopt;
        const auto* entry = m_session.activeEntry();
        if (!part || entry == nullptr)
            return;
        const auto& name = state->opened->solved->parts[*part].name;
        const auto text = m_material->currentText().trimmed().toStdString();
        const auto note = entry->parts.find(name);
        if (text != (note == entry->parts.end() ? std::string() : note->second.material))
            m_session.editOrComplain("Material of part", withPartField(m_session.survey(), entry->name, name,
                                                                       PartNoteField::Material, text));
    };
    connect(m_material, &QComboBox::textActivated, this, setMaterial);
    connect(m_material->lineEdit(), &QLineEdit::editingFinished, this, setMaterial);
    connect(m_label, &QLineEdit::editingFinished, this, [this] {
        const auto* state = m_session.activeCase();
        const auto boundary = state != nullptr && state->opened ? chosenBoundary(*state->opened) : std::nullopt;
        const auto* entry = m_session.activeEntry();
        if (boundary && entry != nullptr && m_label->isModified())
            m_session.editOrComplain("Label boundary",
                                     withBoundaryField(m_session.survey(), entry->name,
                                                       state->opened->solved->boundaries[*boundary].name,
                                                       BoundaryField::Label, m_label->text().trimmed().toStdString()));
    });
    connect(m_heat, &QPushButton::clicked, this,
            [this] { emit heatRequested(q(m_session.selection().selectedBoundary())); });
    session.listen(this, contents, &FaceCard::refresh);
    refresh();
}

std::optional<std::size_t> FaceCard::chosenBoundary(const OpenedCase& opened) const {
    return opened.solved->boundaryNamed(m_session.selection().selectedBoundary());
}

std::optional<std::size_t> FaceCard::chosenPart(const OpenedCase& opened) const {
    if (const auto part = opened.solved->partNamed(m_session.selection().selectedPart()))
        return part;
    if (const auto boundary = chosenBoundary(opened))
        for (const auto part : opened.index->boundaries[*boundary].part)
            if (part != noNumber)
                return part;
    return std::nullopt;
}

void FaceCard::refresh() {
    const auto* state = m_session.activeCase();
    const auto* entry = m_session.activeEntry();
    const bool open = state != nullptr && state->opened && entry != nullptr;
    const auto part = open ? chosenPart(*state->opened) : std::nullopt;
    const auto boundary = open ? chosenBoundary(*state->opened) : std::nullopt;
    setVisible(part || boundary);
    m_partRows->setVisible(part.has_value());
    m_faceRows->setVisible(boundary.has_value());
    if (part)
        refreshPart(*entry, *state->opened, *part);
    if (boundary)
        refreshBoundary(*entry, *state->opened, *boundary);
}

void FaceCard::divide() {
    const auto* entry = m_session.activeEntry();
    const auto angle = dialogs::askText(this, "Divide boundary", "At edges sharper than", "10 deg");
    if (entry != nullptr && angle)
        m_session.editOrComplain("Divide boundary", withBoundaryCut(m_session.survey(), entry->name,
                                                                    m_session.selection().selectedBoundary(),
                                                                    angle->trimmed().toStdString()));
}

// Under the label where the boundary has one, else under both names.
void FaceCard::join(const QString& with) {
    const auto* entry = m_session.activeEntry();
    if (entry == nullptr)
        return;
    const auto boundary = m_session.selection().selectedBoundary();
    const auto note = entry->boundaries.find(boundary);
    const auto name = note != entry->boundaries.end() && !note->second.label.empty()
                          ? note->second.label
                          : fmt::format("{} + {}", boundary, with.toStdString());
    auto next = withBoundariesJoined(m_session.survey(), entry->name, name, {boundary, with.toStdString()});
    const bool joined = next.has_value();
    m_session.editOrComplain("Join boundaries", std::move(next));
    if (joined)
        m_session.selection().selectBoundary(name);
}

void FaceCard::refreshPatch(const CaseEntry& entry, const OpenedCase& opened, std::size_t boundary) {
    const auto& boundaries = opened.solved->boundaries;
    m_patchRow->setVisible(boundaries[boundary].patchOf.has_value());
    if (!boundaries[boundary].patchOf)
        return;
    const QSignalBlocker quiet(m_join);
    m_join->clear();
    m_join->addItem("Join with");
    for (std::size_t i = 0; i < boundaries.size(); ++i)
        if (i != boundary && boundaries[i].patchOf && boundaries[i].patchOf->part == boundaries[boundary].patchOf->part)
            m_join->addItem(q(shownBoundary(entry, boundaries[i].name)), q(boundaries[i].name));
    m_join->setEnabled(m_join->count() > 1);
    m_undivide->setVisible(!entry.split.cuts.empty() || !entry.split.joins.empty());
}

void FaceCard::refreshPart(const CaseEntry& entry, const OpenedCase& opened, std::size_t part) {
    const auto& region = opened.solved->parts[part];
    m_partName->setText(q(shownName(entry, region.name)));
    if (m_material->hasFocus() || m_material->lineEdit()->hasFocus())
        return;
    const QSignalBlocker quiet(m_material);
    m_material->clear();
    m_material->addItem("");
    const auto add = [&](const std::string& name) {
        if (m_material->findText(q(name)) < 0)
            m_material->addItem(q(name));
    };
    for (const auto& [name, unused] : m_session.survey().materials)
        add(name);
    const auto suggested = suggestedMaterials(shownName(entry, region.name));
    for (const auto& name : suggested)
        add(name);
    m_material->lineEdit()->setPlaceholderText(suggested.empty() ? QString("Of what it is made")
                                                                 : q(suggested.front()) + "?");
    for (const auto& one : materialLibrary()) {
        add(std::string(one.name));
        m_material->setItemData(m_material->findText(q(std::string(one.name))),
                                q(fmt::format("{:g} W/(m\u00b7K); {}", one.conductivity, one.source)), Qt::ToolTipRole);
    }
    const auto note = entry.parts.find(region.name);
    m_material->setCurrentText(note == entry.parts.end() ? QString() : q(note->second.material));
}

void FaceCard::refreshBoundary(const CaseEntry& entry, const OpenedCase& opened, std::size_t boundary) {
    const auto& region = opened.solved->boundaries[boundary];
    m_faceName->setText(q(region.name));
    m_faceFacts->setText(
        q(fmt::format("{}, {}{}", extentText(*opened.solved, region, opened.index->boundaries[boundary].size),
                      counted(region.fileCells, opened.solved->plane ? "edge" : "face"),
                      region.patchOf ? "; made by its edges" : "; named in the file")));
    const auto note = entry.boundaries.find(region.name);
    refreshPatch(entry, opened, boundary);
    if (!m_label->hasFocus() || !m_label->isModified())
        m_label->setText(note == entry.boundaries.end() ? QString() : q(note->second.label));
}

} // namespace pyro
