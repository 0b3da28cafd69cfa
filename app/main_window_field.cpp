// What the actions of the stage Field do: visibility, sections, pinned readings, paths, viewpoints.
#include "app/main_window.h"

#include "core/field/section_layers.h"
#include "core/survey/viewpoints.h"
#include "render/text.h"

#include <QBuffer>
#include <QCursor>
#include <QStatusBar>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {

void MainWindow::hideAtCursor() {
    const auto part = m_viewport->partAtCursor();
    const auto* state = m_session.activeCase();
    if (!part || state == nullptr)
        return tell("Nothing to hide: no part is under the cursor, and none is chosen");
    auto view = m_session.view();
    view.isolated.reset();
    view.hidden.insert(state->opened->solved->parts[*part].name);
    m_session.editView("Hide part", view);
    tell("Hidden: " + q(shownName(*m_session.activeEntry(), state->opened->solved->parts[*part].name)) +
         "   (A shows all)");
}

void MainWindow::isolateAtCursor() {
    const auto part = m_viewport->partAtCursor();
    const auto* state = m_session.activeCase();
    if (!part || state == nullptr)
        return tell("Nothing to isolate: no part is under the cursor, and none is chosen");
    auto view = m_session.view();
    view.isolated = state->opened->solved->parts[*part].name;
    m_session.editView("Isolate part", view);
    tell("Isolated: " + q(shownName(*m_session.activeEntry(), *view.isolated)) + "   (A shows all)");
}

void MainWindow::showAll() {
    auto view = m_session.view();
    if (view.hidden.empty() && !view.isolated)
        return tell("All parts are shown already");
    view.hidden.clear();
    view.isolated.reset();
    m_session.editView("Show all parts", view);
}

void MainWindow::keepViewpoint(const QString& name) {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->picture)
        return m_session.complain(
            {ErrorCode::NotSupported, "there is no view to keep yet", "viewpoint", "Open a case first"});
    QByteArray png;
    QBuffer buffer(&png);
    m_viewport->thumbnail({156, 96}).save(&buffer, "PNG");
    const auto known = name.isEmpty() ? freeViewpointName(m_session.survey()) : name.toStdString();
    m_session.edit("Keep viewpoint",
                   withViewpoint(m_session.survey(), {known, m_session.view(), png.toBase64().toStdString()}));
    tell("Kept as viewpoint \u201c" + q(known) + "\u201d");
}

void MainWindow::pinLabel() {
    const auto place = m_viewport->placeAtCursor();
    if (!place)
        return m_session.complain({ErrorCode::NotSupported, "there is nothing under the cursor to pin a reading to",
                                   "viewport", "Move the cursor over a visible part or section, then press N"});
    auto view = m_session.view();
    view.field.labels.push_back(*place);
    m_session.editView("Pin reading", view);
}

void MainWindow::unpinLabel() {
    auto view = m_session.view();
    auto& labels = view.field.labels;
    if (labels.empty())
        return tell("No reading is pinned");
    const QPointF cursor = m_viewport->mapFromGlobal(QCursor::pos());
    const auto distance = [&](const Point& place) {
        const auto to = m_viewport->pixelOf(place) - cursor;
        return std::hypot(to.x(), to.y());
    };
    labels.erase(std::ranges::min_element(labels, {}, distance));
    m_session.editView("Delete pinned reading", view);
}

// Across y: the viewer looks at it from the front, where the eye is when a case opens.
void MainWindow::addSection() {
    const auto place = hottestVisible(m_session.seen());
    if (!place)
        return m_session.complain({ErrorCode::NotSupported, "there is nothing visible to cut", "section",
                                   "Open a case and show a part with a temperature"});
    showStage(fieldStage.id);
    SectionView section;
    section.plane = planeWithin(visibleBox(m_session.seen()), *place);
    section.opened = true; // inside a solid a section is seen only once it is opened
    keepSection(section, "Add section");
}

// A new section under the next free name; it is chosen.
void MainWindow::keepSection(SectionView section, const QString& what) {
    auto view = m_session.view();
    section.name = view.field.freeSectionName();
    view.field.sections.push_back(std::move(section));
    m_session.editView(what, view);
    m_session.selection().selectSection(view.field.sections.size() - 1);
}

void MainWindow::throughHottest() {
    auto view = m_session.view();
    const auto place = hottestVisible(m_session.seen());
    const auto at = m_session.selection().selectedSection();
    if (!at || !place)
        return m_session.complain({ErrorCode::NotSupported, "no section is chosen", "section",
                                   "Click its card in the stage Field, or press C for a new one"});
    view.field.sections[*at].plane.origin = *place;
    m_session.editView("Section through the hottest place", view);
}

void MainWindow::sectionHere() {
    const auto place = m_viewport->placeAtCursor();
    const auto at = m_session.selection().selectedSection();
    if (!at || !place)
        return m_session.complain({ErrorCode::NotSupported,
                                   at ? "there is nothing under the cursor" : "no section is chosen", "section",
                                   at ? "Move the cursor over a visible part, then press Shift+C"
                                      : "Click its card in the stage Field, or press C for a new one"});
    auto view = m_session.view();
    view.field.sections[*at].plane.origin = *place;
    m_session.editView("Section through a place", view);
}

// The first two places wait; the third makes the section, turned so that it is cut open towards the eye.
void MainWindow::takeSectionPlace() {
    const auto place = m_viewport->placeAtCursor();
    if (!place)
        return m_session.complain(
            {ErrorCode::NotSupported, "there is nothing under the cursor to put a section through", "section",
             "Move the cursor over a visible part, then press Shift+T; three places make a section"});
    m_sectionPlaces.push_back(*place);
    statusBar()->showMessage(QString("Section: %1 of 3 places").arg(m_sectionPlaces.size()), 8000);
    if (m_sectionPlaces.size() < 3)
        return;
    const auto places = std::exchange(m_sectionPlaces, {});
    auto plane = planeThrough(places[0], places[1], places[2]);
    if (!plane)
        return m_session.complain(plane.error());
    if (const auto camera = m_session.view().camera; camera && distanceTo(*plane, camera->position) < 0)
        for (double& component : plane->normal)
            component = -component;
    showStage(fieldStage.id);
    SectionView section;
    section.plane = *plane;
    section.opened = true;
    keepSection(section, "Section through three places");
}

// From one end of what is visible to the other and around again; it stays where it is stopped.
void MainWindow::toggleSweep() {
    if (m_sweep.isActive())
        return m_sweep.stop();
    if (!m_session.selection().selectedSection() || !sweepRange())
        return m_session.complain({ErrorCode::NotSupported, "no section is chosen", "section",
                                   "Click its card in the stage Field, or press C for a new one"});
    m_sweep.start(60);
}

// The reach of the visible parts along the chosen section's normal, metres from its origin.
std::optional<std::array<double, 2>> MainWindow::sweepRange() const {
    const auto at = m_session.selection().selectedSection();
    const auto* state = m_session.activeCase();
    if (!at || state == nullptr || !state->opened)
        return std::nullopt;
    const auto plane = withUnitNormal(m_session.view().field.sections[*at].plane);
    std::array<double, 2> range{1e300, -1e300};
    for (const auto part : visibleParts(m_session.seen())) {
        const auto& box = state->opened->index->parts[part].box;
        for (unsigned corner = 0; corner < 8 && plane; ++corner) {
            const double d = distanceTo(*plane,
                                        {box[corner & 1], box[2 + (corner >> 1 & 1)], box[4 + (corner >> 2 & 1)]});
            range = {std::min(range[0], d), std::max(range[1], d)};
        }
    }
    return range[0] < range[1] ? std::optional(range) : std::nullopt;
}

void MainWindow::sweepBy(double share) {
    const auto at = m_session.selection().selectedSection();
    const auto range = sweepRange();
    if (!at || !range)
        return m_sweep.stop();
    auto view = m_session.view();
    auto& plane = view.field.sections[*at].plane;
    const auto unit = withUnitNormal(plane);
    const double length = (*range)[1] - (*range)[0];
    double by = share * length;
    if (by > 0.999 * (*range)[1])
        by -= 0.998 * length;
    for (std::size_t axis = 0; axis < 3 && unit; ++axis)
        plane.origin[axis] += by * unit->normal[axis];
    m_session.editView("Sweep section", view, {GestureKind::SectionSweep});
}

// By a hundredth of the visible size of the view, but into every thin layer on the way.
void MainWindow::nudgeSection(double steps) {
    auto view = m_session.view();
    const auto at = m_session.selection().selectedSection();
    const auto* state = m_session.activeCase();
    if (!at || !view.camera || state == nullptr || !state->opened || !state->opened->index)
        return tell("No section is chosen: C puts one through the hottest visible place");
    auto& plane = view.field.sections[*at].plane;
    const auto unit = withUnitNormal(plane);
    if (!unit)
        return;
    const auto visible = visibleParts(m_session.seen());
    const auto stop = nextStop(*state->opened->index, std::vector<std::size_t>(visible.begin(), visible.end()), *unit,
                               std::abs(steps) * view.camera->scale / 50, steps < 0 ? -1 : 1);
    for (std::size_t axis = 0; axis < 3; ++axis)
        plane.origin[axis] += (steps < 0 ? -1 : 1) * stop.by * unit->normal[axis];
    m_session.editView("Move section", view, {GestureKind::SectionNudge});
    QStringList names;
    for (const auto part : stop.parts)
        if (names.size() < 4)
            names.append(q(shownName(*m_session.activeEntry(), state->opened->solved->parts[part].name)));
    tell(QString("Section %1 by %2 mm").arg(steps < 0 ? "back" : "forward", q(fmt::format("{:.3g}", 1e3 * stop.by))) +
         (names.isEmpty() ? QString() : ": " + names.join(", ")));
}

void MainWindow::pathsFromHere() {
    const auto place = m_viewport->placeAtCursor();
    if (!place)
        return m_session.complain({ErrorCode::NotSupported, "there is nothing under the cursor to start paths from",
                                   "viewport", "Move the cursor over a visible part or section, then press Shift+W"});
    auto view = m_session.view();
    view.field.paths.shown = true;
    view.field.paths.start = PathStart::Place;
    view.field.paths.from.clear();
    view.field.paths.at = *place;
    m_session.editView("Paths from here", view);
}

} // namespace pyro
