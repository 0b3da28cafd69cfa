#include "app/stages/field/path_card.h"

#include "core/units/millimetres.h"
#include "render/text.h"

#include <fmt/format.h>

namespace pyro {
namespace {

QString inMillimetres(const Point& place) {
    return q(fmt::format("{:.4g} {:.4g} {:.4g}", millimetres(place[0]), millimetres(place[1]), millimetres(place[2])));
}

} // namespace

PathCard::PathCard(Session& session, QWidget* parent) : FoldCard(parent), m_session(session) {
    m_facts = new QLabel;
    m_shown = new Switch("pathSwitch");
    m_shown->setToolTip("Lines along the heat flux or the flow (W)");
    layOut("Streamlines and heat flux lines", m_facts, m_shown, buildEditor());
    connect(m_shown, &Switch::clicked, this,
            [this](bool on) { edit(on ? "Show lines" : "Hide lines", [on](PathView& view) { view.shown = on; }); });
    refresh();
}

QWidget* PathCard::buildEditor() {
    auto* editor = new QWidget;
    m_form = new QFormLayout(editor);
    m_form->setContentsMargins(0, 0, 0, 4);
    m_form->setSpacing(6);
    addStart(*m_form);
    addRun(*m_form);
    addLook(*m_form);
    return editor;
}

void PathCard::addStart(QFormLayout& form) {
    m_quantity = new QComboBox;
    m_quantity->setObjectName("pathQuantity");
    m_from = new QComboBox;
    m_from->setObjectName("pathFrom");
    m_at = lengthField("pathAt", "Three coordinates in mm; Shift+W takes the place under the cursor");
    m_to = lengthField("pathTo", "Three coordinates in mm");
    m_radius = lengthField("pathRadius", "In mm");
    form.addRow("Vector", m_quantity);
    form.addRow("From", m_from);
    form.addRow("At, mm", m_at);
    form.addRow("To, mm", m_to);
    form.addRow("Within, mm", m_radius);
    connect(m_quantity, &QComboBox::activated, this, [this](int at) {
        edit("Vector of lines",
             [name = m_quantity->itemData(at).toString().toStdString()](PathView& view) { view.quantity = name; });
    });
    connect(m_from, &QComboBox::activated, this, [this](int at) {
        edit("Start of lines",
             [start = static_cast<PathStart>(m_from->itemData(at).toInt()),
              name = m_from->itemData(at, Qt::UserRole + 1).toString().toStdString()](PathView& view) {
                 view.start = start;
                 view.from = name;
             });
    });
    connect(m_at, &QLineEdit::editingFinished, this, [this] { readPlace(*m_at, &PathView::at); });
    connect(m_to, &QLineEdit::editingFinished, this, [this] { readPlace(*m_to, &PathView::to); });
    connect(m_radius, &QLineEdit::editingFinished, this, [this] { readLength(*m_radius, &PathView::radius, false); });
}

void PathCard::addRun(QFormLayout& form) {
    m_lines = new QSpinBox;
    m_lines->setObjectName("pathLines");
    m_lines->setRange(1, mostPaths);
    m_lines->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_lines->setKeyboardTracking(false);
    m_lines->setFocusPolicy(Qt::ClickFocus);
    m_direction = new QComboBox;
    m_direction->setObjectName("pathDirection");
    m_direction->addItems({"both ways", "downstream", "upstream"});
    m_longest = lengthField("pathLongest", "In mm, each way; empty: as far as they run");
    m_longest->setPlaceholderText("As long as they are");
    form.addRow("Lines", m_lines);
    form.addRow("Direction", m_direction);
    form.addRow("Maximum length, mm", m_longest);
    connect(m_lines, &QSpinBox::valueChanged, this,
            [this](int lines) { edit("Number of lines", [lines](PathView& view) { view.lines = lines; }); });
    connect(m_direction, &QComboBox::activated, this, [this](int at) {
        edit("Direction of lines", [at](PathView& view) {
            view.forwards = at != 2;
            view.backwards = at != 1;
        });
    });
    connect(m_longest, &QLineEdit::editingFinished, this, [this] { readLength(*m_longest, &PathView::longest, true); });
}

void PathCard::addLook(QFormLayout& form) {
    form.addRow(check("See through the parts", "pathGhost", &PathView::ghost));
    form.addRow(check("One colour", "pathPlain", &PathView::plain));
    form.addRow(check("Drawn as tubes", "pathTubes", &PathView::tubes));
    form.addRow(check("Particles run along them", "pathMoving", &PathView::moving));
}

QLineEdit* PathCard::lengthField(const char* name, const QString& tip) {
    auto* field = new QLineEdit;
    field->setObjectName(name);
    field->setToolTip(tip);
    field->setFocusPolicy(Qt::ClickFocus);
    return field;
}

QCheckBox* PathCard::check(const QString& text, const char* name, bool PathView::*flag) {
    auto* box = new QCheckBox(text);
    box->setObjectName(name);
    connect(box, &QCheckBox::clicked, this,
            [this, text, flag](bool on) { edit("Lines: " + text, [flag, on](PathView& view) { view.*flag = on; }); });
    m_checks.emplace_back(box, flag);
    return box;
}

void PathCard::edit(const QString& what, const std::function<void(PathView&)>& change) {
    auto next = m_session.view();
    change(next.field.paths);
    m_session.editView(what, next);
}

void PathCard::readPlace(const QLineEdit& field, Point PathView::*place) {
    const auto view = m_session.view().field.paths;
    if (field.text() == inMillimetres(view.*place))
        return;
    const auto typed = typedNumbers(field.text());
    if (typed && typed->size() == 3)
        edit("Start point of lines", [&](PathView& next) {
            next.*place = {1e-3 * (*typed)[0], 1e-3 * (*typed)[1], 1e-3 * (*typed)[2]};
        });
    else
        m_session.complain({ErrorCode::Syntax, "a place is three numbers", field.text().toStdString(),
                            "Type for example 35.5 52 9.5, in mm"});
    refresh();
}

void PathCard::readLength(const QLineEdit& field, double PathView::*length, bool mayBeZero) {
    const auto typed = typedNumbers(field.text());
    const double metres = typed && typed->size() == 1 ? 1e-3 * typed->front() : 0;
    const bool empty = typed && typed->empty();
    if (metres > 0 || (empty && mayBeZero)) {
        if (std::abs(metres - m_session.view().field.paths.*length) > 1e-12)
            edit("Length of lines", [&](PathView& next) { next.*length = metres; });
    } else {
        m_session.complain({ErrorCode::Syntax, "a length is one number above zero", field.text().toStdString(),
                            "Type for example 5, in mm"});
    }
    refresh();
}

void PathCard::fillStarts(const PathView& view) {
    const auto add = [&](const QString& words, PathStart start, const std::string& name) {
        m_from->addItem(words, static_cast<int>(start));
        m_from->setItemData(m_from->count() - 1, q(name), Qt::UserRole + 1);
        if (view.start == start && view.from == name)
            m_from->setCurrentIndex(m_from->count() - 1);
    };
    m_from->clear();
    add("the hottest visible place", PathStart::Hottest, {});
    add("around a place", PathStart::Place, {});
    add("a line", PathStart::Line, {});
    add("a disk across the flow", PathStart::Disk, {});
    for (const auto& section : m_session.view().field.sections)
        add(q(section.name), PathStart::Section, section.name);
    if (const auto* state = m_session.activeCase(); state != nullptr && state->opened)
        for (const auto& boundary : state->opened->solved->boundaries)
            add(q(boundary.name), PathStart::Boundary, boundary.name);
    if (m_from->findData(static_cast<int>(view.start)) < 0 ||
        m_from->currentData(Qt::UserRole + 1).toString() != q(view.from))
        m_from->setCurrentIndex(-1); // what it starts from is not there: the facts say so
}

QString PathCard::startWords(const PathView& view) const {
    switch (view.start) {
    case PathStart::Hottest:
        return "from the hottest visible place";
    case PathStart::Boundary:
    case PathStart::Section:
        return "from " + q(view.from);
    case PathStart::Place:
        return "around " + inMillimetres(view.at) + " mm";
    case PathStart::Line:
        return "from a line";
    case PathStart::Disk:
        return "from a disk at " + inMillimetres(view.at) + " mm";
    }
    return {};
}

void PathCard::refresh() {
    const auto view = m_session.view().field.paths;
    const auto* state = m_session.activeCase();
    const auto paths = m_session.extras().paths();
    m_shown->setChecked(view.shown);
    if (paths && paths->lines() == 0)
        m_facts->setText(q(paths->why));
    else
        m_facts->setText(
            q(fmt::format("{} lines of {} ", paths ? static_cast<int>(paths->lines()) : view.lines, view.quantity))
                .replace('_', ' ') +
            startWords(view) +
            (paths && paths->lost > 0
                 ? q(fmt::format("; {} of {} start points lie outside the field", paths->lost, view.lines))
                 : QString()) +
            (paths && paths->fromGradient ? "; no flux is stored, so they follow the falling temperature" : ""));
    const QSignalBlocker quietQuantity(m_quantity);
    const QSignalBlocker quietFrom(m_from);
    const QSignalBlocker quietLines(m_lines);
    m_quantity->clear();
    if (state != nullptr && state->opened)
        for (const auto& quantity : state->quantities.quantities)
            if (quantity.components == 3)
                m_quantity->addItem(q(quantity.name).replace('_', ' '), q(quantity.name));
    m_quantity->setCurrentIndex(m_quantity->findData(q(view.quantity)));
    fillStarts(view);
    m_form->setRowVisible(m_at, view.start == PathStart::Place || view.start == PathStart::Line ||
                                    view.start == PathStart::Disk);
    m_form->setRowVisible(m_to, view.start == PathStart::Line);
    m_form->setRowVisible(m_radius, view.start == PathStart::Place || view.start == PathStart::Disk);
    m_lines->setValue(view.lines);
    m_direction->setCurrentIndex(view.forwards && view.backwards ? 0 : view.forwards ? 1 : 2);
    for (const auto& [field, text] :
         {std::pair(m_at, inMillimetres(view.at)), std::pair(m_to, inMillimetres(view.to)),
          std::pair(m_radius, q(fmt::format("{:.4g}", 1e3 * view.radius))),
          std::pair(m_longest, view.longest > 0 ? q(fmt::format("{:.4g}", 1e3 * view.longest)) : QString())})
        if (!field->hasFocus())
            field->setText(text);
    for (const auto& [box, flag] : m_checks)
        box->setChecked(view.*flag);
}

} // namespace pyro
