#include "app/stages/gauges/gauges_sheet.h"

#include "app/session/dialogs.h"
#include "core/gauge/where_shape.h"
#include "core/quantities/gauge_quantity.h"
#include "core/survey/gauge_edit.h"
#include "core/survey/gauge_places.h"
#include "render/text.h"

#include <QHBoxLayout>

namespace pyro {

GaugesSheet::GaugesSheet(Session& session, QWidget* parent) : Sheet(session, "Gauges", parent) {
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    auto* point = small(row, "pointGauge", "Point", "Click a place in the viewport (P takes the one under the cursor)");
    auto* line = small(row, "lineGauge", "Line", "Click both ends in the viewport (L)");
    auto* more = small(row, "moreGauges", "Part, boundary, section \u2026", "Every other place");
    m_more = new QMenu(this);
    m_more->setObjectName("moreGaugesMenu");
    more->setMenu(m_more);
    m_layout->addLayout(row);
    auto* column = scrolled();
    column->addWidget(new GaugeForm(session));
    column->addStretch();
    auto* again = new QHBoxLayout;
    again->setSpacing(6);
    m_copy = small(again, "duplicateGauge", "Duplicate", "The same gauge once more, to change one thing about it");
    m_stations = small(again, "stationsOfGauge", "Stations\u2026",
                       "Copies of this point, line or plane at other coordinates along an axis");
    m_layout->addLayout(again);
    connect(m_copy, &QPushButton::clicked, this, [this] {
        if (const auto at = m_session.selection().selectedGaugeAt())
            takeCopies("Duplicate gauge", withGaugeCopy(m_session.survey(), *at));
    });
    connect(m_stations, &QPushButton::clicked, this, &GaugesSheet::addStations);
    m_remove = button("removeGauge", "Delete this gauge");
    m_advice = hint("A gauge is set up once and read on every case and step. Choose one in the table below to change "
                    "it; double-click its name or unit there.");
    buildMenu();
    connect(point, &QPushButton::clicked, this, &GaugesSheet::pointRequested);
    connect(line, &QPushButton::clicked, this, &GaugesSheet::lineRequested);
    connect(m_remove, &QPushButton::clicked, this, &GaugesSheet::removeRequested);
    const auto refresh = [this] {
        const auto at = m_session.selection().selectedGaugeAt();
        m_remove->setVisible(at.has_value());
        m_copy->setVisible(at.has_value());
        m_stations->setVisible(at && !placesOf(m_session.survey().gauges[*at]).empty());
        m_advice->setVisible(!m_session.selection().selectedGaugeAt());
    };
    session.listen(this, contents, [refresh](GaugesSheet*) { refresh(); });
    refresh();
}

void GaugesSheet::buildMenu() {
    m_parts = m_more->addMenu("Part");
    m_boundaries = m_more->addMenu("Boundary");
    m_sections = m_more->addMenu("Section");
    m_interfaces = m_more->addMenu("Where two parts touch");
    m_traces = m_more->addMenu("Line where a section meets a boundary");
    auto* along = m_more->addMenu("Line through the chosen part");
    for (std::size_t axis = 0; axis < 3; ++axis)
        connect(along->addAction(QString("Along %1").arg("xyz"[axis])), &QAction::triggered, this,
                [this, axis] { addAlong(axis); });
    auto* hottest = m_more->addMenu("Line through the hottest visible place");
    hottest->setObjectName("hottestLineMenu");
    for (std::size_t axis = 0; axis < 3; ++axis)
        connect(hottest->addAction(QString("Along %1").arg("xyz"[axis])), &QAction::triggered, this,
                [this, axis] { addThroughHottest(axis); });
    connect(m_more->addAction("Isotherm"), &QAction::triggered, this, [this] {
        const auto range = visibleRange(m_session.seen());
        m_session.addGauge({{"isotherm", {{"value", 0.5 * (range[0] + range[1])}}}});
    });
    connect(m_more->addAction("Surface from a file\u2026"), &QAction::triggered, this, &GaugesSheet::surfaceRequested);
    auto* envelope = m_more->addMenu("Transmittance");
    envelope->setObjectName("envelopeMenu");
    for (const auto* quantity : gaugeQuantities())
        for (const auto& beginning :
             quantity->beginnings != nullptr ? quantity->beginnings() : std::vector<GaugeBeginning>())
            connect(envelope->addAction(q(std::string(beginning.title))), &QAction::triggered, this,
                    [this, name = std::string(quantity->name), keys = beginning.keys] {
                        Gauge gauge;
                        gauge.quantity = name;
                        gauge.rest = keys;
                        addEnvelope(std::move(gauge));
                    });
    m_more->addSeparator();
    auto* formula = m_more->addAction("Formula");
    formula->setObjectName("formulaGauge");
    connect(formula, &QAction::triggered, this, [this] {
        Gauge gauge;
        gauge.id = freeGaugeId(m_session.survey(), "formula");
        gauge.formula = std::string("1");
        m_session.edit("Add formula", withGauge(m_session.survey(), gauge));
        m_session.selection().selectGauge(gauge.id);
    });
    connect(m_more, &QMenu::aboutToShow, this, &GaugesSheet::fillMenus);
}

void GaugesSheet::fillMenus() {
    for (auto* menu : {m_parts, m_boundaries, m_sections, m_interfaces, m_traces})
        menu->clear();
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->opened)
        return;
    const auto& solved = *state->opened->solved;
    const auto add = [this](QMenu* menu, const std::string& text, const Json& where) {
        connect(menu->addAction(q(text)), &QAction::triggered, this, [this, where] { m_session.addGauge(where); });
    };
    const auto sections = m_session.view().field.sections;
    for (const auto& part : solved.parts) {
        add(m_parts, shownName(*m_session.activeEntry(), part.name), {{"part", part.name}});
        if (solved.parts.size() < 2)
            continue;
        auto* others = m_interfaces->addMenu(q(shownName(*m_session.activeEntry(), part.name)) + " to");
        for (const auto& other : solved.parts)
            if (other.name != part.name)
                add(others, shownName(*m_session.activeEntry(), other.name), {{"interface", {part.name, other.name}}});
    }
    m_parts->addSeparator();
    add(m_parts, "All parts", "all");
    for (const auto& boundary : solved.boundaries)
        add(m_boundaries, boundary.name, {{"boundary", boundary.name}});
    for (const auto& section : sections) {
        add(m_sections, section.name, planeWhere(section.plane, {}));
        auto* walls = m_traces->addMenu(q(section.name) + " on");
        for (const auto& boundary : solved.boundaries)
            add(walls, boundary.name,
                {{"trace", {{"origin", section.plane.origin}, {"normal", section.plane.normal}}},
                 {"boundary", boundary.name}});
    }
    if (solved.boundaries.empty())
        m_traces->clear();
    for (auto* menu : {m_parts, m_boundaries, m_sections, m_interfaces, m_traces}) // one that offers nothing is none
        menu->menuAction()->setVisible(!menu->isEmpty());
}

// The last of the new gauges is the chosen one.
void GaugesSheet::takeCopies(const QString& what, Result<Survey> next) {
    const auto id = next ? next->gauges.back().id : std::string();
    m_session.editOrComplain(what, std::move(next));
    if (!id.empty())
        m_session.selection().selectGauge(id);
}

void GaugesSheet::addStations() {
    const auto at = m_session.selection().selectedGaugeAt();
    const auto text = dialogs::askText(this, "Stations", "Along which axis and where, for example x = 100, 200, 300 mm",
                                       "x = ");
    if (!at || !text)
        return;
    takeCopies("Gauges at stations", stationsOfText(text->toStdString(), "mm").and_then([&](const Stations& stations) {
        return withStations(m_session.survey(), *at, stations);
    }));
}

void GaugesSheet::addEnvelope(Gauge gauge) {
    if (siUnitOf(gauge.quantity) == "K")
        gauge.unit = udunitsName(m_session.view().unit);
    const auto name = gauge.quantity;
    auto next = withGauge(m_session.survey(), std::move(gauge));
    const auto id = next.gauges.back().id;
    m_session.edit(q("Add " + name), std::move(next));
    m_session.selection().selectGauge(id);
}

// From one end of what is visible to the other.
void GaugesSheet::addThroughHottest(std::size_t axis) {
    const auto* state = m_session.activeCase();
    const auto place = hottestVisible(m_session.seen());
    if (state == nullptr || !state->opened || !place)
        return m_session.complain({ErrorCode::NotSupported, "no part with a temperature is visible", "line",
                                   "Show one with the eye in the stage Field"});
    auto from = *place;
    auto to = *place;
    from[axis] = visibleBox(m_session.seen())[2 * axis];
    to[axis] = visibleBox(m_session.seen())[2 * axis + 1];
    m_session.addGauge(lineWhere(from, to));
}

// Through the middle of the part's box, from one end to the other.
void GaugesSheet::addAlong(std::size_t axis) {
    const auto* state = m_session.activeCase();
    const auto part = state != nullptr && state->opened
                          ? state->opened->solved->partNamed(m_session.selection().selectedPart())
                          : std::nullopt;
    if (!part)
        return m_session.complain(
            {ErrorCode::NotSupported, "no part is chosen", "line", "Click a part in the viewport first"});
    const auto& box = state->opened->index->parts[*part].box;
    Point from{0.5 * (box[0] + box[1]), 0.5 * (box[2] + box[3]), 0.5 * (box[4] + box[5])};
    auto to = from;
    from[axis] = box[2 * axis];
    to[axis] = box[2 * axis + 1];
    m_session.addGauge(lineWhere(from, to));
}

} // namespace pyro
