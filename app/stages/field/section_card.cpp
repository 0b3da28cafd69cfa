#include "app/stages/field/section_card.h"

#include "app/stages/card.h"
#include "core/units/millimetres.h"

#include <QHBoxLayout>
#include <QMouseEvent>
#include <QVBoxLayout>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr int sliderSteps = 1000;

// The axis that a plane stands across, -1 for a tilted one.
int axisOf(const Plane& plane) {
    const auto unit = withUnitNormal(plane);
    for (std::size_t axis = 0; axis < 3 && unit; ++axis)
        if (std::abs(std::abs(unit->normal[axis]) - 1) < 1e-9)
            return static_cast<int>(axis);
    return -1;
}

QString normalText(const Plane& plane) {
    const auto unit = withUnitNormal(plane).value_or(plane); // adding zero turns -0 into 0
    return QString::fromStdString(
        fmt::format("{:.4g} {:.4g} {:.4g}", unit.normal[0] + 0.0, unit.normal[1] + 0.0, unit.normal[2] + 0.0));
}

// The direction along which a position is told: an axis where the plane stands across one, else the normal.
Point directionOf(const Plane& plane) {
    if (const int axis = axisOf(plane); axis >= 0) {
        Point direction{};
        direction[static_cast<std::size_t>(axis)] = 1;
        return direction;
    }
    return withUnitNormal(plane).value_or(plane).normal;
}

double along(const Point& direction, const Point& place) {
    return direction[0] * place[0] + direction[1] * place[1] + direction[2] * place[2];
}

void moveTo(Plane& plane, double metres) {
    const auto direction = directionOf(plane);
    const double by = metres - along(direction, plane.origin);
    for (std::size_t axis = 0; axis < 3; ++axis)
        plane.origin[axis] += by * direction[axis];
}

} // namespace

QString placeOfPlane(const Plane& plane) {
    if (const int axis = axisOf(plane); axis >= 0)
        return QString::fromStdString(
            fmt::format("{} = {:.4g} mm", "xyz"[axis], millimetres(plane.origin[static_cast<std::size_t>(axis)])));
    return "tilted, normal " + normalText(plane);
}

SectionCard::SectionCard(Session& session, std::size_t section, QWidget* parent)
    : QFrame(parent), m_session(session), m_section(section) {
    m_name = new QLabel;
    m_place = new QLabel;
    m_shown = new Switch(QString("sectionSwitch%1").arg(section));
    m_shown->setToolTip("Show or hide this section");
    m_editor = buildEditor();
    layOutCard(*this, m_name, m_place, m_shown, m_editor);
    connect(m_shown, &Switch::clicked, this, [this](bool on) {
        edit(on ? "Show section" : "Hide section", [on](SectionView& view) { view.shown = on; });
    });
    refresh();
}

QWidget* SectionCard::buildEditor() {
    auto* editor = new QWidget;
    auto* layout = new QVBoxLayout(editor);
    layout->setContentsMargins(0, 0, 0, 4);
    layout->setSpacing(6);
    auto* across = new QHBoxLayout;
    across->setSpacing(4);
    auto* word = new QLabel("Normal to");
    word->setObjectName("hint");
    across->addWidget(word);
    for (int axis = 0; axis < 3; ++axis) {
        auto* button = new QPushButton(QString("xyz").mid(axis, 1));
        button->setObjectName("small");
        button->setAccessibleName(QString("sectionAxis") + QString("XYZ").mid(axis, 1));
        button->setCheckable(true);
        connect(button, &QPushButton::clicked, this, [this, axis] { setAxis(axis); });
        across->addWidget(button);
        m_axes.append(button);
    }
    m_normal = new QLineEdit;
    m_normal->setObjectName("sectionNormal");
    m_normal->setToolTip("The normal, three numbers: 1 0 0.2");
    connect(m_normal, &QLineEdit::editingFinished, this, &SectionCard::readTyped);
    across->addWidget(m_normal, 1);
    layout->addLayout(across);

    auto* place = new QHBoxLayout;
    m_slider = new QSlider(Qt::Horizontal);
    m_slider->setObjectName("sectionSlider");
    m_slider->setRange(0, sliderSteps);
    m_position = new QDoubleSpinBox;
    m_position->setObjectName("sectionPosition");
    m_position->setDecimals(2);
    m_position->setSuffix(" mm");
    m_position->setKeyboardTracking(false);
    m_position->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_position->setAlignment(Qt::AlignRight);
    place->addWidget(m_slider, 1);
    place->addWidget(m_position);
    layout->addLayout(place);
    connect(m_slider, &QSlider::valueChanged, this, [this](int at) {
        const auto range = reach();
        setPosition(1e3 * (range[0] + (range[1] - range[0]) * at / sliderSteps), GestureKind::SectionSlider);
    });
    connect(m_position, &QDoubleSpinBox::valueChanged, this,
            [this](double at) { setPosition(at, GestureKind::SectionTyped); });

    auto* shows = new QHBoxLayout;
    m_fill = new QCheckBox("Coloured");
    m_mesh = new QCheckBox("Mesh");
    m_opened = new QCheckBox("Cut open");
    for (auto* box : {m_fill, m_mesh, m_opened})
        shows->addWidget(box);
    m_fill->setObjectName("sectionFill");
    m_mesh->setObjectName("sectionMesh");
    m_opened->setObjectName("sectionOpen");
    m_opened->setToolTip("Cut away what lies in front of the section");
    layout->addLayout(shows);
    connect(m_fill, &QCheckBox::clicked, this,
            [this](bool on) { edit("Colours of section", [on](SectionView& view) { view.fill = on; }); });
    connect(m_mesh, &QCheckBox::clicked, this,
            [this](bool on) { edit("Mesh of section", [on](SectionView& view) { view.mesh = on; }); });
    connect(m_opened, &QCheckBox::clicked, this,
            [this](bool on) { edit("Cut open", [on](SectionView& view) { view.opened = on; }); });

    auto* deeds = new QHBoxLayout;
    deeds->setSpacing(4);
    const auto deed = [&](const char* name, const char* text, auto run) {
        auto* button = new QPushButton(text);
        button->setObjectName("small");
        button->setAccessibleName(name);
        connect(button, &QPushButton::clicked, this, run);
        deeds->addWidget(button);
        return button;
    };
    deed("flipSection", "Flip side", [this] {
        edit("Flip side of section", [](SectionView& view) {
            for (auto& component : view.plane.normal)
                component = -component;
        });
    });
    m_parts = new QMenu(this);
    connect(m_parts, &QMenu::aboutToShow, this, &SectionCard::fillParts);
    deed("sectionParts", "Parts", [] {})->setMenu(m_parts);
    deed("removeSection", "Delete", [this] {
        auto next = m_session.view();
        next.field.sections.erase(next.field.sections.begin() + static_cast<std::ptrdiff_t>(m_section));
        m_session.selection().selectSection(std::nullopt);
        m_session.editView("Delete section", next);
    });
    layout->addLayout(deeds);
    for (QWidget* field : {static_cast<QWidget*>(m_normal), static_cast<QWidget*>(m_position)})
        field->setFocusPolicy(Qt::ClickFocus); // focus that wanders in unasked would swallow the keys of the viewport
    return editor;
}

const SectionView* SectionCard::view() const {
    return m_section < m_field.sections.size() ? &m_field.sections[m_section] : nullptr;
}

void SectionCard::edit(const QString& what, const std::function<void(SectionView&)>& change, GestureKind gesture) {
    auto next = m_session.view();
    if (m_section >= next.field.sections.size())
        return;
    change(next.field.sections[m_section]);
    m_session.editView(what, next, {gesture, static_cast<int>(m_section)});
}

void SectionCard::setAxis(int axis) {
    edit("Turn section", [axis](SectionView& section) {
        section.plane.normal = {};
        section.plane.normal[static_cast<std::size_t>(axis)] = 1;
    });
}

void SectionCard::setPosition(double millimetres, GestureKind gesture) {
    edit(
        "Move section", [millimetres](SectionView& section) { moveTo(section.plane, 1e-3 * millimetres); }, gesture);
}

void SectionCard::readTyped() {
    const auto typed = typedNumbers(m_normal->text());
    const bool read = typed && typed->size() == 3;
    const auto* current = view();
    if (current == nullptr || m_normal->text() == normalText(current->plane))
        return;
    const auto plane = read ? withUnitNormal({current->plane.origin, {(*typed)[0], (*typed)[1], (*typed)[2]}})
                            : Result<Plane>(fail(ErrorCode::Syntax, "a normal is three numbers",
                                                 m_normal->text().toStdString(), "Type for example 1 0 0.2"));
    if (plane)
        edit("Turn section", [&](SectionView& section) { section.plane = *plane; });
    else
        m_session.complain(plane.error());
    m_normal->setText(normalText(view()->plane));
}

void SectionCard::fillParts() {
    m_parts->clear();
    const auto* state = m_session.activeCase();
    const auto* current = view();
    if (state == nullptr || !state->opened || current == nullptr)
        return;
    for (const auto& part : state->opened->solved->parts) {
        auto* action = m_parts->addAction(QString::fromStdString(shownName(*m_session.activeEntry(), part.name)));
        action->setCheckable(true);
        action->setChecked(!current->exempt.contains(part.name));
        connect(action, &QAction::triggered, this, [this, name = part.name](bool cut) {
            edit("Parts of section", [&](SectionView& section) {
                if (cut)
                    section.exempt.erase(name);
                else
                    section.exempt.insert(name);
            });
        });
    }
}

std::array<double, 2> SectionCard::reach() const {
    const auto* state = m_session.activeCase();
    const auto* current = view();
    if (state == nullptr || !state->opened || current == nullptr)
        return {0, 1};
    const auto direction = directionOf(current->plane);
    std::array<double, 2> range{1e300, -1e300};
    for (const auto& part : state->opened->index->parts) {
        double centre = 0;
        double half = 0;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            centre += direction[axis] * 0.5 * (part.box[2 * axis] + part.box[2 * axis + 1]);
            half += std::abs(direction[axis]) * 0.5 * (part.box[2 * axis + 1] - part.box[2 * axis]);
        }
        range = {std::min(range[0], centre - half), std::max(range[1], centre + half)};
    }
    return range;
}

void SectionCard::refresh() {
    m_field = m_session.view().field;
    const auto* current = view();
    if (current == nullptr)
        return;
    const bool selected = m_session.selection().selectedSection() == m_section;
    m_name->setText(QString::fromStdString(current->name));
    QStringList facts{placeOfPlane(current->plane)};
    if (current->opened)
        facts.append("cut open");
    const auto& shown = m_session.sections();
    if (current->shown && m_section < shown.size() && shown[m_section].picture && shown[m_section].picture->empty())
        facts = {"misses the visible parts"};
    m_place->setText(facts.join(", "));
    m_shown->setChecked(current->shown);
    m_editor->setVisible(selected);
    const QSignalBlocker quietSlider(m_slider);
    const QSignalBlocker quietPosition(m_position);
    const auto range = reach();
    const double at = along(directionOf(current->plane), current->plane.origin);
    m_position->setRange(1e3 * (range[0] - (range[1] - range[0])), 1e3 * (range[1] + (range[1] - range[0])));
    m_position->setSingleStep(1e3 * (range[1] - range[0]) / 100);
    m_position->setValue(1e3 * at);
    if (!m_slider->isSliderDown())
        m_slider->setValue(static_cast<int>(std::lround(sliderSteps * (at - range[0]) / (range[1] - range[0]))));
    m_fill->setChecked(current->fill);
    m_mesh->setChecked(current->mesh);
    m_opened->setChecked(current->opened);
    const int axis = axisOf(current->plane);
    for (int i = 0; i < 3; ++i)
        m_axes[i]->setChecked(i == axis);
    if (!m_normal->hasFocus())
        m_normal->setText(normalText(current->plane));
}

void SectionCard::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton)
        m_session.selection().selectSection(
            m_session.selection().selectedSection() == m_section ? std::nullopt : std::optional(m_section));
}

} // namespace pyro
