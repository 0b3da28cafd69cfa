#include "app/stages/field/arrow_card.h"

#include "render/text.h"

#include <QFormLayout>
#include <fmt/format.h>

namespace pyro {

ArrowCard::ArrowCard(Session& session, QWidget* parent) : FoldCard(parent), m_session(session) {
    m_facts = new QLabel;
    m_shown = new Switch("arrowSwitch");
    m_shown->setToolTip("Arrows of a flow or of the heat flux on sections and boundaries");
    layOut("Arrows", m_facts, m_shown, buildEditor());
    connect(m_shown, &Switch::clicked, this,
            [this](bool on) { edit(on ? "Show arrows" : "Hide arrows", [on](ArrowView& view) { view.shown = on; }); });
    refresh();
}

QWidget* ArrowCard::buildEditor() {
    auto* editor = new QWidget;
    auto* form = new QFormLayout(editor);
    form->setContentsMargins(0, 0, 0, 4);
    form->setSpacing(6);
    m_quantity = new QComboBox;
    m_quantity->setObjectName("arrowQuantity");
    m_spacing = new QLineEdit;
    m_spacing->setObjectName("arrowSpacing");
    m_spacing->setPlaceholderText("Fits the model");
    m_spacing->setFocusPolicy(Qt::ClickFocus);
    m_scaled = new QCheckBox("Length by magnitude");
    m_scaled->setObjectName("arrowScaled");
    m_sections = new QCheckBox("On all sections shown");
    m_sections->setObjectName("arrowSections");
    m_boundaries = new QListWidget;
    m_boundaries->setObjectName("arrowBoundaries");
    m_boundaries->setMaximumHeight(96);
    form->addRow("Vector", m_quantity);
    form->addRow("Spacing, mm", m_spacing);
    form->addRow(m_scaled);
    form->addRow(m_sections);
    form->addRow("Boundaries", m_boundaries);
    connect(m_quantity, &QComboBox::activated, this, [this](int at) {
        edit("Quantity of arrows",
             [name = m_quantity->itemData(at).toString().toStdString()](ArrowView& view) { view.quantity = name; });
    });
    connect(m_spacing, &QLineEdit::editingFinished, this, &ArrowCard::readSpacing);
    connect(m_scaled, &QCheckBox::clicked, this,
            [this](bool on) { edit("Length of arrows", [on](ArrowView& view) { view.scaled = on; }); });
    connect(m_sections, &QCheckBox::clicked, this,
            [this](bool on) { edit("Arrows on sections", [on](ArrowView& view) { view.sections = on; }); });
    connect(m_boundaries, &QListWidget::itemChanged, this, [this](const QListWidgetItem* item) {
        edit("Arrows on a boundary", [item](ArrowView& view) {
            const auto name = item->text().toStdString();
            if (item->checkState() == Qt::Checked)
                view.boundaries.insert(name);
            else
                view.boundaries.erase(name);
        });
    });
    return editor;
}

void ArrowCard::edit(const QString& what, const std::function<void(ArrowView&)>& change) {
    auto next = m_session.view();
    change(next.field.arrows);
    m_session.editView(what, next);
}

void ArrowCard::readSpacing() {
    const auto typed = typedNumbers(m_spacing->text());
    const bool fits = typed && typed->empty();
    if (fits || (typed && typed->size() == 1 && typed->front() > 0))
        edit("Spacing of arrows", [&](ArrowView& view) { view.spacing = fits ? 0 : 1e-3 * typed->front(); });
    else
        m_session.complain({ErrorCode::Syntax, "the spacing of arrows is a number above zero",
                            m_spacing->text().toStdString(),
                            "Type for example 4, in mm, or leave it empty to fit the model"});
    refresh();
}

void ArrowCard::refresh() {
    const auto view = m_session.view().field.arrows;
    const auto* state = m_session.activeCase();
    const auto arrows = m_session.extras().arrows();
    m_shown->setChecked(view.shown);
    const auto* quantity = state != nullptr ? state->quantities.named(view.quantity) : nullptr;
    if (!view.shown || !arrows)
        m_facts->setText(view.quantity == "heat_flux" ? "of the heat flux"
                                                      : "of " + q(view.quantity).replace('_', ' '));
    else if (arrows->count() == 0)
        m_facts->setText(q(arrows->why));
    else
        m_facts->setText(q(fmt::format("{} of {}, {:.3g} mm apart, largest {}", arrows->count(), view.quantity,
                                       1e3 * arrows->spacing,
                                       quantity != nullptr ? m_session.unitOf(*quantity).text(arrows->longest)
                                                           : std::string("unknown")))
                             .replace('_', ' '));
    const QSignalBlocker quietQuantity(m_quantity);
    const QSignalBlocker quietBoundaries(m_boundaries);
    m_quantity->clear();
    m_boundaries->clear();
    if (state != nullptr && state->opened) {
        for (const auto& stored : state->quantities.quantities)
            if (stored.components == 3)
                m_quantity->addItem(q(stored.name).replace('_', ' '), q(stored.name));
        for (const auto& boundary : state->opened->solved->boundaries) {
            auto* item = new QListWidgetItem(q(boundary.name), m_boundaries);
            item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
            item->setCheckState(view.boundaries.contains(boundary.name) ? Qt::Checked : Qt::Unchecked);
        }
    }
    m_quantity->setCurrentIndex(m_quantity->findData(q(view.quantity)));
    m_scaled->setChecked(view.scaled);
    m_sections->setChecked(view.sections);
    if (!m_spacing->hasFocus())
        m_spacing->setText(view.spacing > 0 ? q(fmt::format("{:.4g}", 1e3 * view.spacing)) : QString());
}

} // namespace pyro
