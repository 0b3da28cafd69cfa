#include "app/stages/path_card.h"

#include "app/stages/card.h"

#include <QFormLayout>
#include <QMouseEvent>
#include <fmt/format.h>

namespace pyro {
namespace {

QString q(const std::string& text) { return QString::fromStdString(text); }

} // namespace

PathCard::PathCard(Session& session, QWidget* parent) : QFrame(parent), m_session(session) {
    auto* name = new QLabel("Heat paths");
    m_facts = new QLabel;
    m_facts->setWordWrap(true);
    m_shown = new Switch("pathSwitch");
    m_shown->setToolTip("Follow the heat from where it arises to where it leaves (W)");
    m_editor = buildEditor();
    layOutCard(*this, name, m_facts, m_shown, m_editor);
    m_editor->hide();
    connect(m_shown, &Switch::clicked, this, [this](bool on) {
        edit(on ? "Show heat paths" : "Hide heat paths", [on](PathView& view) { view.shown = on; });
    });
    refresh();
}

QWidget* PathCard::buildEditor() {
    auto* editor = new QWidget;
    auto* form = new QFormLayout(editor);
    form->setContentsMargins(0, 0, 0, 4);
    form->setSpacing(6);
    m_quantity = new QComboBox;
    m_quantity->setObjectName("pathQuantity");
    m_from = new QComboBox;
    m_from->setObjectName("pathFrom");
    m_lines = new QSpinBox;
    m_lines->setObjectName("pathLines");
    m_lines->setRange(1, mostPaths);
    m_lines->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_lines->setKeyboardTracking(false);
    m_lines->setFocusPolicy(Qt::ClickFocus);
    m_ghost = new QCheckBox("see through the parts");
    m_ghost->setObjectName("pathGhost");
    form->addRow("follow", m_quantity);
    form->addRow("from", m_from);
    form->addRow("lines", m_lines);
    form->addRow(m_ghost);
    connect(m_quantity, &QComboBox::activated, this, [this](int at) {
        edit("Quantity of paths", [name = m_quantity->itemData(at).toString().toStdString()](PathView& view) { view.quantity = name; });
    });
    connect(m_from, &QComboBox::activated, this, [this](int at) {
        edit("Start of paths", [name = m_from->itemData(at).toString().toStdString()](PathView& view) { view.from = name; });
    });
    connect(m_lines, &QSpinBox::valueChanged, this, [this](int lines) {
        edit("Number of paths", [lines](PathView& view) { view.lines = lines; });
    });
    connect(m_ghost, &QCheckBox::clicked, this, [this](bool on) {
        edit("See through the parts", [on](PathView& view) { view.ghost = on; });
    });
    return editor;
}

void PathCard::edit(const QString& what, const std::function<void(PathView&)>& change) {
    auto next = m_session.view();
    change(next.field.paths);
    m_session.editView(what, next);
}

void PathCard::refresh() {
    const auto view = m_session.view().field.paths;
    const auto* state = m_session.activeCase();
    const auto paths = m_session.paths();
    m_shown->setChecked(view.shown);
    if (paths && paths->lines() == 0)
        m_facts->setText(q(paths->why));
    else
        m_facts->setText(q(fmt::format("{} lines from {}", paths ? static_cast<int>(paths->lines()) : view.lines,
                                       view.from.empty() ? std::string("the hottest place") : view.from)) +
                         (paths && paths->fromGradient ? "; no flux is stored, so they follow the falling temperature" : ""));
    const QSignalBlocker quietQuantity(m_quantity);
    const QSignalBlocker quietFrom(m_from);
    const QSignalBlocker quietLines(m_lines);
    m_quantity->clear();
    m_from->clear();
    m_from->addItem("the hottest visible place", QString());
    if (state != nullptr && state->opened) {
        for (const auto& quantity : state->quantities.quantities)
            if (quantity.components == 3)
                m_quantity->addItem(q(quantity.name).replace('_', ' '), q(quantity.name));
        for (const auto& boundary : state->opened->solved->boundaries)
            m_from->addItem(q(boundary.name), q(boundary.name));
    }
    m_quantity->setCurrentIndex(m_quantity->findData(q(view.quantity)));
    m_from->setCurrentIndex(m_from->findData(q(view.from)));
    m_lines->setValue(view.lines);
    m_ghost->setChecked(view.ghost);
}

void PathCard::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton)
        m_editor->setVisible(!m_editor->isVisible());
}

} // namespace pyro
