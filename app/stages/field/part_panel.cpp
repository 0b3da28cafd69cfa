#include "app/stages/field/part_panel.h"

#include "app/theme/theme.h"
#include "render/text.h"

#include <QHBoxLayout>
#include <QMouseEvent>
#include <QPainter>
#include <QStyledItemDelegate>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {
constexpr int manyParts = 8; // from there on a search is worth its place
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
        painter->drawText(
            text, Qt::AlignVCenter,
            painter->fontMetrics().elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, text.width()));
        painter->drawText(box.adjusted(0, 0, -32, 0), Qt::AlignVCenter | Qt::AlignRight,
                          index.data(ValueRole).toString());
        const auto verdict = index.data(VerdictRole);
        if (verdict.isValid())
            painter->drawPixmap(box.right() - 20, box.center().y() - 5,
                                theme::verdictPixmap(static_cast<Verdict>(verdict.toInt())));
    }
};

} // namespace

constexpr int rowHeight = 30;

PartList::PartList(Session& session, QWidget* parent) : QListWidget(parent), m_session(session) {
    setObjectName("partList");
    setItemDelegate(new PartDelegate(this));
    setMouseTracking(true);
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    connect(this, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item != nullptr)
            m_session.selection().selectPart(item->data(NameRole).toString().toStdString());
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

void PartList::find(const QString& letters) {
    m_letters = letters.trimmed();
    refresh();
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
            row->setData(ValueRole, highestIn(i));
            row->setToolTip(q(reading.why.empty()
                                  ? fmt::format("{}: click the eye to hide, double-click to isolate it", parts[i].name)
                                  : reading.why));
            std::optional<Verdict> together; // of its several limits
            for (const auto& limit : m_session.verdicts())
                if (limit.target == LimitTarget{TargetKind::Part, parts[i].name})
                    together = together ? worse(*together, limit.verdict) : limit.verdict;
            if (together)
                row->setData(VerdictRole, static_cast<int>(*together));
        }
        row->setHidden(!row->text().contains(m_letters, Qt::CaseInsensitive) &&
                       !q(parts[i].name).contains(m_letters, Qt::CaseInsensitive));
        if (parts[i].name == m_session.selection().selectedPart())
            setCurrentItem(row);
    }
    if (m_session.selection().selectedPart().empty())
        setCurrentItem(nullptr);
    setFixedHeight(rowHeight * std::clamp(count(), 1, m_mostRows) + 2);
}

void PartList::setMostRows(int rows) {
    m_mostRows = rows;
    setFixedHeight(rowHeight * std::clamp(count(), 1, m_mostRows) + 2);
}

// Of the quantity on display, as the table tells it.
QString PartList::highestIn(std::size_t part) const {
    const auto* state = m_session.activeCase();
    if (state->picture && part < state->picture->regions.size()) {
        const auto& region = state->picture->regions[part];
        return region.max ? q(m_session.unit().number(*region.max)) : QString("\u2013");
    }
    const auto& reading = state->readings->parts[part];
    return reading.max ? q(formatNumber(toDisplay(*reading.max, m_session.view().unit))) : QString("unknown");
}

PartPanel::PartPanel(Session& session, QWidget* parent) : QWidget(parent), m_session(session) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    auto* title = new QLabel("PARTS");
    title->setObjectName("heading");
    m_solids = link("Solids", "solidsButton", "Hide or show all solids", [this] { toggleGroup(false); });
    m_fluids = link("Fluids", "fluidsButton", "Hide or show all fluids", [this] { toggleGroup(true); });
    auto* all = link("All", "showAllButton", "Show all parts (A)", [this] {
        auto view = m_session.view();
        view.hidden.clear();
        view.isolated.reset();
        m_session.editView("Show all parts", view);
    });
    auto* column = new QLabel("Highest");
    column->setObjectName("hint");
    auto* head = new QHBoxLayout;
    head->setSpacing(0);
    head->addWidget(title);
    head->addStretch();
    for (QWidget* one : {static_cast<QWidget*>(m_solids), static_cast<QWidget*>(m_fluids), static_cast<QWidget*>(all)})
        head->addWidget(one);
    head->addSpacing(6);
    head->addWidget(column);
    head->addSpacing(30);
    layout->addLayout(head);
    m_find = new QLineEdit;
    m_find->setObjectName("partSearch");
    m_find->setPlaceholderText("Find a part");
    m_find->setClearButtonEnabled(true);
    m_find->setFocusPolicy(Qt::ClickFocus);
    layout->addWidget(m_find);
    m_parts = new PartList(session);
    layout->addWidget(m_parts, 1);

    m_chosen = new QWidget;
    auto* chosen = new QHBoxLayout(m_chosen);
    chosen->setContentsMargins(0, 0, 0, 0);
    m_opacityLabel = new QLabel;
    m_opacityLabel->setObjectName("hint");
    m_opacity = new QSlider(Qt::Horizontal);
    m_opacity->setObjectName("opacitySlider");
    m_opacity->setRange(0, 100);
    m_opacity->setFixedWidth(84);
    m_isolate = link("Isolate", "isolateButton", "Isolate the chosen part (S)",
                     [this] { m_parts->isolate(m_session.selection().selectedPart()); });
    chosen->addWidget(m_opacityLabel, 1);
    chosen->addWidget(m_opacity);
    chosen->addWidget(m_isolate);
    layout->addWidget(m_chosen);

    m_boundariesLink = link("Boundaries", "boundariesButton", "Boundaries to be drawn besides the parts",
                            [this] { m_boundaries->setVisible(!m_boundaries->isVisible()); });
    m_boundaries = new QListWidget;
    m_boundaries->setObjectName("boundaryList");
    m_boundaries->setMaximumHeight(112);
    m_boundaries->hide();
    auto* row = new QHBoxLayout;
    row->addWidget(m_boundariesLink);
    row->addStretch();
    layout->addLayout(row);
    layout->addWidget(m_boundaries);
    connect(m_boundaries, &QListWidget::itemChanged, this, [this](const QListWidgetItem* item) {
        auto view = m_session.view();
        const auto name = item->data(Qt::UserRole).toString().toStdString();
        if (item->checkState() == Qt::Checked)
            view.boundaries.insert(name);
        else
            view.boundaries.erase(name);
        m_session.editView("Boundary " + item->text(), view);
    });

    connect(m_find, &QLineEdit::textChanged, m_parts, &PartList::find);
    connect(m_opacity, &QSlider::valueChanged, this, [this](int value) {
        auto view = m_session.view();
        view.opacity[m_session.selection().selectedPart()] = value / 100.0;
        if (value == 100)
            view.opacity.erase(m_session.selection().selectedPart());
        // One drag is one step; another part is another one.
        m_session.editView(
            "Opacity", view,
            {GestureKind::Opacity, static_cast<int>(qHash(q(m_session.selection().selectedPart())) & 0xFFFFFFU)});
    });
}

QPushButton* PartPanel::link(const QString& text, const char* name, const QString& tip,
                             const std::function<void()>& run) {
    auto* button = new QPushButton(text);
    button->setObjectName(name);
    button->setProperty("link", true);
    button->setToolTip(tip);
    connect(button, &QPushButton::clicked, this, run);
    return button;
}

// Hides the group when any of it is seen, else shows it.
void PartPanel::toggleGroup(bool fluids) {
    auto view = m_session.view();
    view.isolated.reset();
    std::vector<std::string> group;
    const auto& parts = m_session.activeCase()->opened->solved->parts;
    for (std::size_t i = 0; i < parts.size(); ++i)
        if (isFluid(m_session.seen(), i) == fluids)
            group.push_back(parts[i].name);
    const bool hide = std::ranges::any_of(group, [&](const std::string& name) { return view.shows(name); });
    for (const auto& name : group)
        if (hide)
            view.hidden.insert(name);
        else
            view.hidden.erase(name);
    m_session.editView(QString(hide ? "Hide " : "Show ") + (fluids ? "fluids" : "solids"), view);
}

void PartPanel::refresh() {
    m_parts->refresh();
    const auto* state = m_session.activeCase();
    const std::size_t count = state != nullptr && state->opened ? state->opened->solved->parts.size() : 0;
    std::size_t fluids = 0;
    for (std::size_t i = 0; i < count; ++i)
        fluids += isFluid(m_session.seen(), i) ? 1 : 0;
    m_solids->setVisible(fluids > 0 && fluids < count);
    m_fluids->setVisible(fluids > 0 && fluids < count);
    m_find->setVisible(count > manyParts);
    if (count <= manyParts)
        m_find->clear();
    refreshOpacity();
    refreshBoundaries();
}

void PartPanel::refreshBoundaries() {
    const QSignalBlocker quiet(m_boundaries);
    const auto* state = m_session.activeCase();
    const auto* entry = m_session.activeEntry();
    m_boundaries->clear();
    const bool any = state != nullptr && state->opened && entry != nullptr &&
                     !state->opened->solved->boundaries.empty();
    m_boundariesLink->setVisible(any);
    if (!any)
        return m_boundaries->hide();
    const auto view = m_session.view();
    for (const auto& boundary : state->opened->solved->boundaries) {
        const auto note = entry->boundaries.find(boundary.name);
        const bool labelled = note != entry->boundaries.end() && !note->second.label.empty();
        auto* item = new QListWidgetItem(q(labelled ? note->second.label : boundary.name), m_boundaries);
        item->setData(Qt::UserRole, q(boundary.name));
        item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
        item->setCheckState(view.boundaries.contains(boundary.name) ? Qt::Checked : Qt::Unchecked);
    }
    m_boundariesLink->setText(view.boundaries.empty()
                                  ? QString("Boundaries")
                                  : QString("Boundaries: %1 shown").arg(shownBoundaries(m_session.seen()).size()));
}

void PartPanel::refreshOpacity() {
    const auto selected = m_session.selection().selectedPart();
    const auto* entry = m_session.activeEntry();
    m_chosen->setVisible(!selected.empty() && entry != nullptr);
    if (selected.empty() || entry == nullptr)
        return;
    const QSignalBlocker quiet(m_opacity);
    const auto view = m_session.view();
    const auto opacity = view.opacity.find(selected);
    const int percent = opacity == view.opacity.end() ? 100 : static_cast<int>(std::lround(100 * opacity->second));
    m_opacityLabel->setText(QString("%1: opacity %2 %").arg(q(shownName(*entry, selected))).arg(percent));
    m_opacity->setValue(percent);
    m_isolate->setText(view.isolated == selected ? "End isolation" : "Isolate");
}

} // namespace pyro
