#include "app/stages/field/field_sheet.h"

#include "render/text.h"

#include <QMenu>
#include <QScrollArea>

namespace pyro {

FieldSheet::FieldSheet(Session& session, QWidget* parent) : Sheet(session, "Field", parent) {
    auto* row = new QHBoxLayout;
    m_quantity = new QComboBox;
    m_quantity->setObjectName("quantityBox");
    m_unit = new QComboBox;
    m_unit->setObjectName("unitBox");
    m_digits = new QToolButton;
    m_digits->setObjectName("digitsButton");
    m_digits->setText(".0");
    m_digits->setToolTip("Decimals of this quantity");
    m_digits->setPopupMode(QToolButton::InstantPopup);
    auto* digits = new QMenu(m_digits);
    for (int count = -1; count <= mostDecimals; ++count)
        connect(digits->addAction(count < 0 ? QString("As usual") : QString("%1 decimals").arg(count)),
                &QAction::triggered, this, [this, count] {
                    auto view = m_session.view();
                    view.decimals[view.quantity] = count;
                    if (count < 0)
                        view.decimals.erase(view.quantity);
                    m_session.editView("Decimals", view);
                });
    m_digits->setMenu(digits);
    row->addWidget(m_quantity, 1);
    row->addWidget(m_unit);
    row->addWidget(m_digits);
    m_layout->addLayout(row);
    m_unit->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_unit->setMinimumContentsLength(3);
    m_unit->setMaximumWidth(76);
    m_layout->addSpacing(4);
    m_parts = new PartPanel(session);
    m_layout->addWidget(m_parts);
    buildShown();

    connect(m_quantity, &QComboBox::activated, this, [this](int at) {
        auto view = m_session.view();
        view.quantity = m_quantity->itemData(at).toString().toStdString();
        view.component = m_quantity->itemData(at, Qt::UserRole + 1).toString().toStdString();
        view.range.reset(); // a range belongs to its quantity
        m_session.editView("Choose quantity", view);
    });
    connect(m_unit, &QComboBox::activated, this, [this](int at) {
        auto view = m_session.view();
        const auto unit = m_unit->itemData(at).toString().toStdString();
        if (view.quantity == "temperature")
            view.unit = temperatureUnitFromName(unit).value_or(view.unit);
        else
            view.units[view.quantity] = unit;
        m_session.editView("Unit", view);
    });
    session.listen(this, contents, &FieldSheet::refresh);
    refresh();
}

QHBoxLayout* FieldSheet::headWithLink(const QString& title, const char* name, const QString& link, const QString& tip,
                                      const std::function<void()>& run) {
    auto* head = new QHBoxLayout;
    auto* label = new QLabel(title);
    label->setObjectName("heading");
    auto* button = new QPushButton(link);
    button->setObjectName("link");
    button->setAccessibleName(name);
    button->setToolTip(tip);
    connect(button, &QPushButton::clicked, this, run);
    head->addWidget(label);
    head->addStretch();
    head->addWidget(button);
    return head;
}

void FieldSheet::buildShown() {
    m_layout->addLayout(headWithLink("SHOWN", "addSection", "+ Section",
                                     "A section through the hottest visible place (C)",
                                     [this] { emit sectionRequested(); }));
    auto* inside = new QWidget;
    inside->setObjectName("cards");
    m_cards = new QVBoxLayout(inside);
    m_cards->setContentsMargins(0, 0, 0, 0);
    m_cards->setSpacing(6);
    m_isotherms = new IsothermCard(m_session);
    m_cards->addWidget(m_isotherms);
    m_paths = new PathCard(m_session);
    m_cards->addWidget(m_paths);
    m_arrows = new ArrowCard(m_session);
    m_cards->addWidget(m_arrows);
    m_deformed = new DeformedCard(m_session);
    m_cards->addWidget(m_deformed);
    m_cards->addStretch();
    auto* scroll = new QScrollArea;
    scroll->setObjectName("cardScroll");
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(inside);
    m_layout->addWidget(scroll, 1);
    for (auto* card : {static_cast<FoldCard*>(m_isotherms), static_cast<FoldCard*>(m_paths),
                       static_cast<FoldCard*>(m_arrows), static_cast<FoldCard*>(m_deformed)})
        connect(card, &FoldCard::toggled, this, &FieldSheet::shareRoom);
    auto* head = headWithLink("VIEWPOINTS", "keepViewpoint", "+ Keep this view",
                              "Keep everything that is seen now under a name (V)",
                              [this] { emit viewpointRequested({}); });
    m_layout->addLayout(head);
    m_viewpoints = new ViewpointList(m_session);
    head->insertWidget(head->count() - 1, m_viewpoints->player());
    connect(m_viewpoints, &ViewpointList::keepRequested, this, &FieldSheet::viewpointRequested);
    m_layout->addWidget(m_viewpoints);
}

// An open card needs the room that a long part list would take.
void FieldSheet::shareRoom() {
    const bool open = m_isotherms->isOpen() || m_paths->isOpen() || m_arrows->isOpen() || m_deformed->isOpen() ||
                      m_session.selection().selectedSection();
    m_parts->setMostRows(open ? 4 : 8);
}

void FieldSheet::refreshShown() {
    shareRoom();
    const auto count = static_cast<qsizetype>(m_session.view().field.sections.size());
    while (m_sections.size() > count)
        m_sections.takeLast()->deleteLater();
    while (m_sections.size() < count) {
        auto* card = new SectionCard(m_session, static_cast<std::size_t>(m_sections.size()));
        m_cards->insertWidget(static_cast<int>(m_sections.size()), card);
        m_sections.append(card);
    }
    for (auto* card : m_sections)
        card->refresh();
    m_isotherms->refresh();
    m_paths->refresh();
    m_arrows->refresh();
    m_deformed->refresh();
    m_viewpoints->refresh();
    m_viewpoints->setVisible(m_viewpoints->count() > 0);
}

void FieldSheet::fillQuantities() {
    const auto* state = m_session.activeCase();
    const QSignalBlocker quiet(m_quantity);
    m_quantity->clear();
    if (state == nullptr)
        return;
    for (const auto& quantity : state->quantities.quantities) {
        QString name = q(quantity.name).replace('_', ' ');
        name[0] = name[0].toUpper();
        if (!isAlongAxes(quantity))
            m_quantity->addItem(name, q(quantity.name));
        if (quantity.components == 3)
            for (const char* component : {"x", "y", "z"}) {
                m_quantity->addItem(writtenName(quantity, component), q(quantity.name));
                m_quantity->setItemData(m_quantity->count() - 1, component, Qt::UserRole + 1);
            }
    }
    const auto shown = state->drawn ? state->drawn->first.name : m_session.view().quantity;
    const auto component = q(m_session.view().component);
    // a scalar has no component, so the first of the name is left
    for (int at = m_quantity->count() - 1; at >= 0; --at)
        if (m_quantity->itemData(at) == q(shown) &&
            (m_quantity->itemData(at, Qt::UserRole + 1).toString() == component ||
             m_quantity->findData(q(shown)) == at)) {
            m_quantity->setCurrentIndex(at);
            break;
        }
}

void FieldSheet::fillUnits() {
    const QSignalBlocker quiet(m_unit);
    const auto view = m_session.view();
    m_unit->clear();
    if (view.quantity == "temperature") {
        for (const auto unit : {TemperatureUnit::Celsius, TemperatureUnit::Kelvin, TemperatureUnit::Fahrenheit})
            m_unit->addItem(q(std::string(unitSymbol(unit))), q(std::string(udunitsName(unit))));
        m_unit->setCurrentIndex(m_unit->findData(q(std::string(udunitsName(view.unit)))));
    } else if (const auto* state = m_session.activeCase()) {
        const auto* quantity = state->quantities.named(view.quantity);
        for (const auto& unit : unitChoices(quantity != nullptr ? quantity->siUnit : std::string()))
            m_unit->addItem(q(unit), q(unit));
        m_unit->setCurrentIndex(
            m_unit->findData(q(quantity != nullptr ? m_session.unitOf(*quantity).symbol() : std::string())));
    }
    m_unit->setEnabled(m_unit->count() > 1);
}

void FieldSheet::refresh() {
    fillQuantities();
    fillUnits();
    m_parts->refresh();
    refreshShown();
}

} // namespace pyro
