#include "app/stages/field/section_work.h"

#include "app/viewport/section_sweep.h"
#include "app/viewport/viewport.h"
#include "core/field/section_layers.h"
#include "render/text.h"

#include <cmath>
#include <fmt/format.h>

namespace pyro {

SectionWork::SectionWork(StageDesk& desk, QObject* parent) : QObject(parent), m_desk(desk) {
    connect(&m_sweep, &QTimer::timeout, this, [this] {
        if (!sweepBy(m_desk.session(), 0.01))
            m_sweep.stop();
    });
}

// Across y: the viewer looks at it from the front, where the eye is when a case opens.
void SectionWork::add() {
    auto& session = m_desk.session();
    const auto place = hottestVisible(session.seen());
    if (!place)
        return session.complain({ErrorCode::NotSupported, "there is nothing visible to cut", "section",
                                 "Open a case and show a part with a temperature"});
    m_desk.showStage(fieldStage.id);
    SectionView section;
    section.plane = planeWithin(visibleBox(session.seen()), *place);
    section.opened = true; // inside a solid a section is seen only once it is opened
    keep(section, "Add section");
}

// A new section under the next free name; it is chosen.
void SectionWork::keep(SectionView section, const QString& what) {
    auto& session = m_desk.session();
    auto view = session.view();
    section.name = view.field.freeSectionName();
    view.field.sections.push_back(std::move(section));
    session.editView(what, view);
    session.selection().selectSection(view.field.sections.size() - 1);
}

void SectionWork::throughHottest() {
    auto& session = m_desk.session();
    auto view = session.view();
    const auto place = hottestVisible(session.seen());
    const auto at = session.selection().selectedSection();
    if (!at || !place)
        return session.complain({ErrorCode::NotSupported, "no section is chosen", "section",
                                 "Click its card in the stage Field, or press C for a new one"});
    view.field.sections[*at].plane.origin = *place;
    session.editView("Section through the hottest place", view);
}

void SectionWork::throughCursor() {
    auto& session = m_desk.session();
    const auto place = m_desk.viewport().placeAtCursor();
    const auto at = session.selection().selectedSection();
    if (!at || !place)
        return session.complain({ErrorCode::NotSupported,
                                 at ? "there is nothing under the cursor" : "no section is chosen", "section",
                                 at ? "Move the cursor over a visible part, then press Shift+C"
                                    : "Click its card in the stage Field, or press C for a new one"});
    auto view = session.view();
    view.field.sections[*at].plane.origin = *place;
    session.editView("Section through a place", view);
}

void SectionWork::takePlace() {
    auto& session = m_desk.session();
    const auto place = m_desk.viewport().placeAtCursor();
    if (!place)
        return session.complain(
            {ErrorCode::NotSupported, "there is nothing under the cursor to put a section through", "section",
             "Move the cursor over a visible part, then press Shift+T; three places make a section"});
    m_places.push_back(*place);
    m_desk.advise(QString("Section: %1 of 3 places").arg(m_places.size()));
    if (m_places.size() < 3)
        return;
    const auto places = std::exchange(m_places, {});
    auto plane = planeThrough(places[0], places[1], places[2]);
    if (!plane)
        return session.complain(plane.error());
    if (const auto camera = session.view().camera; camera && distanceTo(*plane, camera->position) < 0)
        for (double& component : plane->normal)
            component = -component;
    m_desk.showStage(fieldStage.id);
    SectionView section;
    section.plane = *plane;
    section.opened = true;
    keep(section, "Section through three places");
}

void SectionWork::toggleSweep() {
    auto& session = m_desk.session();
    if (m_sweep.isActive())
        return m_sweep.stop();
    if (!session.selection().selectedSection() || !sweepRange(session))
        return session.complain({ErrorCode::NotSupported, "no section is chosen", "section",
                                 "Click its card in the stage Field, or press C for a new one"});
    m_sweep.start(60);
}

void SectionWork::nudge(double steps) {
    auto& session = m_desk.session();
    auto view = session.view();
    const auto at = session.selection().selectedSection();
    const auto* state = session.activeCase();
    if (!at || !view.camera || state == nullptr || !state->opened || !state->opened->index)
        return m_desk.tell("No section is chosen: C puts one through the hottest visible place");
    auto& plane = view.field.sections[*at].plane;
    const auto unit = withUnitNormal(plane);
    if (!unit)
        return;
    const auto visible = visibleParts(session.seen());
    const auto stop = nextStop(*state->opened->index, std::vector<std::size_t>(visible.begin(), visible.end()), *unit,
                               std::abs(steps) * view.camera->scale / 50, steps < 0 ? -1 : 1);
    for (std::size_t axis = 0; axis < 3; ++axis)
        plane.origin[axis] += (steps < 0 ? -1 : 1) * stop.by * unit->normal[axis];
    session.editView("Move section", view, {GestureKind::SectionNudge});
    QStringList names;
    for (const auto part : stop.parts)
        if (names.size() < 4)
            names.append(q(shownName(*session.activeEntry(), state->opened->solved->parts[part].name)));
    m_desk.tell(
        QString("Section %1 by %2 mm").arg(steps < 0 ? "back" : "forward", q(fmt::format("{:.3g}", 1e3 * stop.by))) +
        (names.isEmpty() ? QString() : ": " + names.join(", ")));
}

} // namespace pyro
