// What is done about what is seen: parts hidden and shown, sections, lines, pinned readings, viewpoints.
#include "app/stages/field/field_actions.h"

#include "app/stages/field/section_work.h"
#include "app/stages/stage_desk.h"
#include "app/viewport/viewport.h"
#include "core/survey/viewpoints.h"
#include "render/text.h"

#include <QBuffer>
#include <QCursor>
#include <QWidget>
#include <cmath>

namespace pyro {
namespace {

void hideAtCursor(StageDesk& desk) {
    auto& session = desk.session();
    const auto part = desk.viewport().partAtCursor();
    const auto* state = session.activeCase();
    if (!part || state == nullptr)
        return desk.tell("Nothing to hide: no part is under the cursor, and none is chosen");
    auto view = session.view();
    view.isolated.reset();
    view.hidden.insert(state->opened->solved->parts[*part].name);
    session.editView("Hide part", view);
    desk.tell("Hidden: " + q(shownName(*session.activeEntry(), state->opened->solved->parts[*part].name)) +
              "   (A shows all)");
}

void isolateAtCursor(StageDesk& desk) {
    auto& session = desk.session();
    const auto part = desk.viewport().partAtCursor();
    const auto* state = session.activeCase();
    if (!part || state == nullptr)
        return desk.tell("Nothing to isolate: no part is under the cursor, and none is chosen");
    auto view = session.view();
    view.isolated = state->opened->solved->parts[*part].name;
    session.editView("Isolate part", view);
    desk.tell("Isolated: " + q(shownName(*session.activeEntry(), *view.isolated)) + "   (A shows all)");
}

void showAll(StageDesk& desk) {
    auto& session = desk.session();
    auto view = session.view();
    if (view.hidden.empty() && !view.isolated)
        return desk.tell("All parts are shown already");
    view.hidden.clear();
    view.isolated.reset();
    session.editView("Show all parts", view);
}

void pinLabel(StageDesk& desk) {
    auto& session = desk.session();
    const auto place = desk.viewport().placeAtCursor();
    if (!place)
        return session.complain({ErrorCode::NotSupported, "there is nothing under the cursor to pin a reading to",
                                 "viewport", "Move the cursor over a visible part or section, then press N"});
    auto view = session.view();
    view.field.labels.push_back(*place);
    session.editView("Pin reading", view);
}

void unpinLabel(StageDesk& desk) {
    auto& session = desk.session();
    auto view = session.view();
    auto& labels = view.field.labels;
    if (labels.empty())
        return desk.tell("No reading is pinned");
    const QPointF cursor = desk.viewport().mapFromGlobal(QCursor::pos());
    const auto distance = [&](const Point& place) {
        const auto to = desk.viewport().pixelOf(place) - cursor;
        return std::hypot(to.x(), to.y());
    };
    labels.erase(std::ranges::min_element(labels, {}, distance));
    session.editView("Delete pinned reading", view);
}

void pathsFromHere(StageDesk& desk) {
    auto& session = desk.session();
    const auto place = desk.viewport().placeAtCursor();
    if (!place)
        return session.complain({ErrorCode::NotSupported, "there is nothing under the cursor to start paths from",
                                 "viewport", "Move the cursor over a visible part or section, then press Shift+W"});
    auto view = session.view();
    view.field.paths.shown = true;
    view.field.paths.start = PathStart::Place;
    view.field.paths.from.clear();
    view.field.paths.at = *place;
    session.editView("Paths from here", view);
}

SectionWork& sections(StageDesk& desk) { return *desk.sheetOf(fieldStage)->findChild<SectionWork*>(); }

// What is drawn over the surfaces, on or off.
template <class Look>
void toggle(StageDesk& desk, Look FieldLook::*look, const char* name) {
    auto view = desk.session().view();
    auto& shown = (view.field.*look).shown;
    shown = !shown;
    desk.session().editView(QString(shown ? "Show " : "Hide ") + name, view);
}

void toggleShell(StageDesk& desk) {
    auto view = desk.session().view();
    view.field.shell = !view.field.shell;
    desk.session().editView(view.field.shell ? "Show outer shell" : "Hide outer shell", view);
}

} // namespace

std::span<const StageAction> fieldActions() {
    static constexpr std::array actions{
        StageAction{"hidePart", "Hide the part under the cursor", "H", StageMenu::View, hideAtCursor},
        StageAction{"isolatePart", "Isolate the part under the cursor", "S", StageMenu::View, isolateAtCursor},
        StageAction{"showAllParts", "Show all parts", "A", StageMenu::View, showAll},
        StageAction{"addSection", "Add a section through the hottest visible place", "C", StageMenu::View,
                    [](StageDesk& desk) { sections(desk).add(); }, true},
        StageAction{"sectionThroughHottest", "Move the section through the hottest visible place", "", StageMenu::View,
                    [](StageDesk& desk) { sections(desk).throughHottest(); }},
        StageAction{"sectionHere", "Move the section through the place under the cursor", "Shift+C", StageMenu::View,
                    [](StageDesk& desk) { sections(desk).throughCursor(); }},
        StageAction{"sectionThreePlaces", "Put a section through three points, one after the other", "Shift+T",
                    StageMenu::View, [](StageDesk& desk) { sections(desk).takePlace(); }},
        StageAction{"sweepSection", "Sweep the section through what is visible, or stop it", "Ctrl+Space",
                    StageMenu::View, [](StageDesk& desk) { sections(desk).toggleSweep(); }},
        StageAction{"sectionForward", "Move the section forward", "Ctrl+Up", StageMenu::View,
                    [](StageDesk& desk) { sections(desk).nudge(1); }},
        StageAction{"sectionBack", "Move the section back", "Ctrl+Down", StageMenu::View,
                    [](StageDesk& desk) { sections(desk).nudge(-1); }},
        StageAction{"isotherms", "Show or hide isolines (isotherms)", "I", StageMenu::View,
                    [](StageDesk& desk) { toggle(desk, &FieldLook::isotherms, "isotherms"); }},
        StageAction{"heatPaths", "Show or hide streamlines and heat flux lines", "W", StageMenu::View,
                    [](StageDesk& desk) { toggle(desk, &FieldLook::paths, "paths"); }},
        StageAction{"pathsFromHere", "Start streamlines and heat flux lines around the place under the cursor",
                    "Shift+W", StageMenu::View, pathsFromHere},
        StageAction{"arrows", "Show or hide arrows", "G", StageMenu::View,
                    [](StageDesk& desk) { toggle(desk, &FieldLook::arrows, "arrows"); }},
        StageAction{"outerShell", "Outer shell as a ghost", "Shift+G", StageMenu::View, toggleShell, false,
                    [](const Session& session) { return session.view().field.shell; }},
        StageAction{"deformedShape", "Show or hide the deformed shape", "Shift+D", StageMenu::View,
                    [](StageDesk& desk) { toggle(desk, &FieldLook::deformed, "deformed shape"); }},
        StageAction{"pinLabel", "Pin the reading under the cursor to its place", "N", StageMenu::None, pinLabel},
        StageAction{"unpinLabel", "Delete the pinned reading nearest to the cursor", "Shift+N", StageMenu::None,
                    unpinLabel},
        StageAction{"keepViewpoint", "Keep this view as a viewpoint", "V", StageMenu::View,
                    [](StageDesk& desk) { keepViewpoint(desk, {}); }, true},
    };
    return actions;
}

void keepViewpoint(StageDesk& desk, const QString& name) {
    auto& session = desk.session();
    const auto* state = session.activeCase();
    if (state == nullptr || !state->picture)
        return session.complain(
            {ErrorCode::NotSupported, "there is no view to keep yet", "viewpoint", "Open a case first"});
    QByteArray png;
    QBuffer buffer(&png);
    desk.viewport().thumbnail({156, 96}).save(&buffer, "PNG");
    const auto known = name.isEmpty() ? freeViewpointName(session.survey()) : name.toStdString();
    session.edit("Keep viewpoint",
                 withViewpoint(session.survey(), {known, session.view(), png.toBase64().toStdString()}));
    desk.tell("Kept as viewpoint \u201c" + q(known) + "\u201d");
}

} // namespace pyro
