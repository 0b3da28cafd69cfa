#include "app/stages/field/deformed_card.h"

#include "core/units/display.h"
#include "core/units/unit.h"
#include "render/text.h"

#include <QFormLayout>
#include <fmt/format.h>

namespace pyro {

DeformedCard::DeformedCard(Session& session, QWidget* parent) : FoldCard(parent), m_session(session) {
    m_facts = new QLabel;
    m_shown = new Switch("deformedSwitch");
    m_shown->setToolTip("Outer faces moved by a displacement field, of this case or another one on the same mesh");
    layOut("Deformed shape", m_facts, m_shown, buildEditor());
    connect(m_shown, &Switch::clicked, this, [this](bool on) {
        edit(on ? "Show deformed shape" : "Hide deformed shape", [&](DeformedView& view) {
            view.shown = on;
            if (m_field->currentIndex() < 0 && m_field->count() > 0)
                m_field->setCurrentIndex(0);
            if (m_field->currentIndex() >= 0) {
                view.caseName = m_field->currentData().toString().toStdString();
                view.quantity = m_field->currentData(Qt::UserRole + 1).toString().toStdString();
            }
        });
    });
    refresh();
}

QWidget* DeformedCard::buildEditor() {
    auto* editor = new QWidget;
    auto* form = new QFormLayout(editor);
    form->setContentsMargins(0, 0, 0, 4);
    form->setSpacing(6);
    m_field = new QComboBox;
    m_field->setObjectName("deformedField");
    m_factor = new QLineEdit;
    m_factor->setObjectName("deformedFactor");
    m_factor->setPlaceholderText("Fits the model");
    m_factor->setFocusPolicy(Qt::ClickFocus);
    m_ghost = new QCheckBox("Edges of the undeformed shape");
    m_ghost->setObjectName("deformedGhost");
    m_moving = new QCheckBox("Swing between both shapes");
    m_moving->setObjectName("deformedMoving");
    form->addRow("Field", m_field);
    form->addRow("Factor", m_factor);
    form->addRow(m_ghost);
    form->addRow(m_moving);
    connect(m_field, &QComboBox::activated, this, [this](int at) {
        edit("Displacement field", [&](DeformedView& view) {
            view.caseName = m_field->itemData(at).toString().toStdString();
            view.quantity = m_field->itemData(at, Qt::UserRole + 1).toString().toStdString();
        });
    });
    connect(m_factor, &QLineEdit::editingFinished, this, &DeformedCard::readFactor);
    connect(m_ghost, &QCheckBox::clicked, this,
            [this](bool on) { edit("Undeformed edges", [on](DeformedView& view) { view.ghost = on; }); });
    connect(m_moving, &QCheckBox::clicked, this,
            [this](bool on) { edit("Swing", [on](DeformedView& view) { view.moving = on; }); });
    return editor;
}

void DeformedCard::edit(const QString& what, const std::function<void(DeformedView&)>& change) {
    auto next = m_session.view();
    change(next.field.deformed);
    m_session.editView(what, next);
}

void DeformedCard::readFactor() {
    const auto typed = typedNumbers(m_factor->text());
    const bool fits = typed && typed->empty();
    if (fits || (typed && typed->size() == 1))
        edit("Factor of the deformation",
             [&](DeformedView& view) { view.factor = fits ? std::optional<double>() : std::optional(typed->front()); });
    else
        m_session.complain({ErrorCode::Syntax, "the factor of the deformation is a number",
                            m_factor->text().toStdString(),
                            "Type for example 100, or leave it empty to fit the model"});
    refresh();
}

// Every vector of lengths, of the case on display and of the others.
void DeformedCard::fillFields() {
    const QSignalBlocker quiet(m_field);
    m_field->clear();
    const auto* active = m_session.activeEntry();
    for (const auto& entry : m_session.survey().cases) {
        const auto* state = m_session.stateOf(entry);
        if (state == nullptr || !state->opened)
            continue;
        for (const auto& quantity : state->quantities.quantities) {
            if (quantity.components != 3 || quantity.on != Location::Node || !sameDimension(quantity.siUnit, "m"))
                continue;
            const bool own = active == &entry;
            m_field->addItem(q(own ? quantity.name : quantity.name + " of " + entry.name).replace('_', ' '),
                             own ? QString() : q(entry.name));
            m_field->setItemData(m_field->count() - 1, q(quantity.name), Qt::UserRole + 1);
        }
    }
    const auto& view = m_session.view().field.deformed;
    m_field->setCurrentIndex(-1);
    for (int at = 0; at < m_field->count(); ++at)
        if (m_field->itemData(at).toString() == q(view.caseName) &&
            m_field->itemData(at, Qt::UserRole + 1).toString() == q(view.quantity))
            m_field->setCurrentIndex(at);
}

void DeformedCard::refresh() {
    fillFields();
    const auto& view = m_session.view().field.deformed;
    setVisible(m_field->count() > 0 || view.shown);
    m_shown->setChecked(view.shown);
    const auto made = m_session.extras().deformed();
    if (!view.shown)
        m_facts->setText("by a displacement field");
    else if (!made)
        m_facts->setText("being made\u2026");
    else if (!made->why.empty())
        m_facts->setText(q(made->why));
    else
        m_facts->setText(
            q(fmt::format("{:.3g} times, largest {}{}", made->factor, formatSi(1e3 * made->largest, "mm"),
                          made->unmoved.empty() ? "" : fmt::format("; {} parts stand still", made->unmoved.size()))));
    m_ghost->setChecked(view.ghost);
    m_moving->setChecked(view.moving);
    if (!m_factor->hasFocus())
        m_factor->setText(view.factor ? q(fmt::format("{:g}", *view.factor)) : QString());
}

} // namespace pyro
