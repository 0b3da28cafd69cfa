#include "app/stages/field_sheet.h"

#include "app/theme/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <QStyledItemDelegate>
#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

QString q(const std::string& text) { return QString::fromStdString(text); }
enum PartRole { NameRole = Qt::UserRole, ValueRole, VerdictRole, ShownRole };
constexpr int eyeWidth = 34;

class PartDelegate final : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {200, 30}; }
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto box = option.rect;
        const bool shown = index.data(ShownRole).toBool();
        if (option.state & QStyle::State_Selected) {
            painter->fillRect(box, Qt::white);
            painter->fillRect(QRect(box.left(), box.top() + 2, 3, box.height() - 4), theme::ember);
        } else if (option.state & QStyle::State_MouseOver) {
            painter->fillRect(box, QColor(0xEC, 0xE7, 0xDF));
        }
        const auto colour = shown ? theme::ink : QColor(0xA8, 0xA4, 0x9C);
        painter->drawPixmap(box.left() + 10, box.center().y() - 8, theme::icon(shown ? "eye" : "eye-off", colour, 17));
        painter->setPen(colour);
        painter->setFont(option.font);
        const QRect text = box.adjusted(eyeWidth + 4, 0, -86, 0);
        painter->drawText(text, Qt::AlignVCenter, painter->fontMetrics().elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, text.width()));
        painter->drawText(box.adjusted(0, 0, -32, 0), Qt::AlignVCenter | Qt::AlignRight, index.data(ValueRole).toString());
        const auto verdict = index.data(VerdictRole);
        if (verdict.isValid())
            painter->drawPixmap(box.right() - 20, box.center().y() - 5, theme::verdictPixmap(static_cast<Verdict>(verdict.toInt())));
    }
};

} // namespace

PartList::PartList(Session& session, QWidget* parent) : QListWidget(parent), m_session(session) {
    setObjectName("partList");
    setItemDelegate(new PartDelegate(this));
    setMouseTracking(true);
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    connect(this, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item != nullptr)
            m_session.selectPart(item->data(NameRole).toString().toStdString());
    });
    connect(this, &QListWidget::itemDoubleClicked, this,
            [this](QListWidgetItem* item) { isolate(item->data(NameRole).toString().toStdString()); });
}

void PartList::toggle(const std::string& part) {
    auto view = m_session.view();
    if (view.isolated) { // leaving isolation keeps what is seen as the new start
        const auto* state = m_session.activeCase();
        for (const auto& one : state->opened->solved->parts)
            if (one.name != *view.isolated)
                view.hidden.insert(one.name);
            else
                view.hidden.erase(one.name);
        view.isolated.reset();
    }
    const bool hide = !view.hidden.contains(part);
    if (hide)
        view.hidden.insert(part);
    else
        view.hidden.erase(part);
    m_session.editView(hide ? "Hide part" : "Show part", view);
}

void PartList::isolate(const std::string& part) {
    auto view = m_session.view();
    if (view.isolated == part)
        view.isolated.reset();
    else
        view.isolated = part;
    m_session.editView(view.isolated ? "Isolate part" : "End isolation", view);
}

void PartList::mousePressEvent(QMouseEvent* event) {
    auto* item = itemAt(event->pos());
    if (item != nullptr && event->pos().x() < eyeWidth)
        toggle(item->data(NameRole).toString().toStdString());
    else
        QListWidget::mousePressEvent(event);
}

void PartList::refresh() {
    const QSignalBlocker quiet(this);
    const auto* state = m_session.activeCase();
    const auto* entry = m_session.activeEntry();
    if (state == nullptr || !state->opened || entry == nullptr)
        return clear();
    const auto view = m_session.view();
    const auto& parts = state->opened->solved->parts;
    if (static_cast<std::size_t>(count()) != parts.size()) {
        clear();
        for (std::size_t i = 0; i < parts.size(); ++i)
            new QListWidgetItem(this);
    }
    for (std::size_t i = 0; i < parts.size(); ++i) {
        auto* row = item(static_cast<int>(i));
        row->setData(NameRole, q(parts[i].name));
        row->setText(q(shownName(*entry, parts[i].name)));
        row->setData(ShownRole, view.shows(parts[i].name));
        row->setData(VerdictRole, {});
        row->setData(ValueRole, QString());
        if (state->readings) {
            const auto& reading = state->readings->parts[i];
            row->setData(ValueRole, reading.max ? q(formatNumber(toDisplay(*reading.max, view.unit))) : QString("unknown"));
            row->setToolTip(q(reading.why.empty() ? fmt::format("{}: click the eye to hide, double-click to see it alone", parts[i].name) : reading.why));
            for (const auto& limit : state->readings->limits)
                if (limit.target == LimitTarget{TargetKind::Part, parts[i].name})
                    row->setData(VerdictRole, static_cast<int>(limit.verdict));
        }
        if (parts[i].name == m_session.selectedPart())
            setCurrentItem(row);
    }
    if (m_session.selectedPart().empty())
        setCurrentItem(nullptr);
    constexpr int rowHeight = 30;
    setMaximumHeight(rowHeight * count() + 2);
    setMinimumHeight(rowHeight * std::min(count(), 8) + 2);
}

FieldSheet::FieldSheet(Session& session, QWidget* parent) : Sheet(session, "Field", parent) {
    auto* row = new QHBoxLayout;
    m_quantity = new QComboBox;
    m_quantity->setObjectName("quantityBox");
    m_unit = new QComboBox;
    m_unit->setObjectName("unitBox");
    for (const auto unit : {TemperatureUnit::Celsius, TemperatureUnit::Kelvin, TemperatureUnit::Fahrenheit})
        m_unit->addItem(q(std::string(unitSymbol(unit))), static_cast<int>(unit));
    row->addWidget(m_quantity, 1);
    row->addWidget(m_unit);
    m_layout->addLayout(row);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel("PARTS");
    title->setObjectName("heading");
    auto* column = new QLabel("highest");
    column->setObjectName("hint");
    head->addWidget(title);
    head->addStretch();
    head->addWidget(column);
    head->addSpacing(30);
    m_layout->addSpacing(4);
    m_layout->addLayout(head);
    m_parts = new PartList(session);
    m_layout->addWidget(m_parts, 3);
    auto* opacity = new QHBoxLayout;
    m_opacityLabel = new QLabel;
    m_opacityLabel->setObjectName("hint");
    m_opacity = new QSlider(Qt::Horizontal);
    m_opacity->setObjectName("opacitySlider");
    m_opacity->setRange(0, 100);
    m_opacity->setFixedWidth(96);
    opacity->addWidget(m_opacityLabel, 1);
    opacity->addWidget(m_opacity);
    m_layout->addLayout(opacity);
    auto* buttons = new QHBoxLayout;
    m_isolate = new QPushButton("See it alone");
    m_isolate->setObjectName("isolateButton");
    auto* all = new QPushButton("See all parts");
    all->setObjectName("showAllButton");
    buttons->addWidget(m_isolate);
    buttons->addWidget(all);
    m_layout->addLayout(buttons);
    buildShown();

    connect(m_quantity, &QComboBox::activated, this, [this](int at) {
        auto view = m_session.view();
        view.quantity = m_quantity->itemData(at).toString().toStdString();
        view.range.reset(); // a range belongs to its quantity
        m_session.editView("Choose quantity", view);
    });
    connect(m_unit, &QComboBox::activated, this, [this](int at) {
        auto view = m_session.view();
        view.unit = static_cast<TemperatureUnit>(m_unit->itemData(at).toInt());
        m_session.editView("Temperature unit", view);
    });
    connect(m_opacity, &QSlider::valueChanged, this, [this](int value) {
        auto view = m_session.view();
        view.opacity[m_session.selectedPart()] = value / 100.0;
        if (value == 100)
            view.opacity.erase(m_session.selectedPart());
        m_session.editView("Opacity", view, 1);
    });
    connect(m_isolate, &QPushButton::clicked, this, [this] { m_parts->isolate(m_session.selectedPart()); });
    connect(all, &QPushButton::clicked, this, [this] {
        auto view = m_session.view();
        view.hidden.clear();
        view.isolated.reset();
        m_session.editView("Show all parts", view);
    });
    connect(&session, &Session::changed, this, &FieldSheet::refresh);
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
    m_layout->addLayout(headWithLink("SHOWN", "addSection", "+ section", "A section through the hottest visible place (C)",
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
    m_cards->addStretch();
    auto* scroll = new QScrollArea;
    scroll->setObjectName("cardScroll");
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(inside);
    m_layout->addWidget(scroll, 4);
    m_layout->addLayout(headWithLink("VIEWPOINTS", "keepViewpoint", "+ keep this view", "Keep everything that is seen now under a name (V)",
                                     [this] { emit viewpointRequested({}); }));
    m_viewpoints = new ViewpointList(m_session);
    connect(m_viewpoints, &ViewpointList::keepRequested, this, &FieldSheet::viewpointRequested);
    m_layout->addWidget(m_viewpoints);
}

void FieldSheet::refreshShown() {
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
        m_quantity->addItem(quantity.components > 1 ? name + ", magnitude" : name, q(quantity.name));
    }
    const auto shown = state->drawn ? state->drawn->name : m_session.view().quantity;
    m_quantity->setCurrentIndex(m_quantity->findData(q(shown)));
}

void FieldSheet::refresh() {
    fillQuantities();
    m_unit->setCurrentIndex(m_unit->findData(static_cast<int>(m_session.view().unit)));
    m_parts->refresh();
    refreshShown();
    const auto selected = m_session.selectedPart();
    const auto* entry = m_session.activeEntry();
    m_opacity->setEnabled(!selected.empty());
    m_isolate->setEnabled(!selected.empty());
    const QSignalBlocker quiet(m_opacity);
    if (selected.empty() || entry == nullptr) {
        m_opacityLabel->setText("Opacity: choose a part");
        m_opacity->setValue(100);
        return;
    }
    const auto view = m_session.view();
    const auto opacity = view.opacity.find(selected);
    const int percent = opacity == view.opacity.end() ? 100 : static_cast<int>(100 * opacity->second + 0.5);
    m_opacityLabel->setText(QString("Opacity of %1: %2 %").arg(q(shownName(*entry, selected))).arg(percent));
    m_opacity->setValue(percent);
    m_isolate->setText(view.isolated == selected ? "End seeing it alone" : "See it alone");
}

} // namespace pyro
