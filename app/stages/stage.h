// A stage of the work: everything that the window needs to know of it. Each stage is one folder here and one line in
// list.inc; rail, menus, help, ledger, viewport and session go through that list and know none by name.
#pragma once

#include <QColor>
#include <QString>
#include <array>
#include <span>

class QWidget;

namespace pyro {

class Ledger;
class Session;
class StageDesk;
struct Survey;

// What stands at a stage's button when something needs attention; nothing for 0.
struct StageBadge {
    int count = 0;
    QColor colour = {};
};

struct Stage {
    const char* id;   // in the survey, on the rail
    const char* icon; // of app/icons
    int key;          // digit that leads to it
    // The sheet to the left, wired to what the window does. Called once, when the window is built.
    QWidget* (*sheet)(StageDesk& desk, QWidget* parent);
    // Its page of the ledger; null: it has none, and fills the window with a page of its own.
    QWidget* (*ledgerPage)(Ledger& ledger) = nullptr;
    StageBadge (*badge)(const Session& session) = nullptr;

    std::array<const char*, 3> wantedMost; // the three things one comes for, with the way to each; HTML
    const char* help;                      // the rest, without its title; HTML
    bool mouseHelp = true;                 // whether the help tells of the mouse in the viewport

    // What it needs to be computed.
    bool needsBalances = false;
    bool (*needsHistories)(const Survey& survey) = nullptr; // every step of a series is opened for them
    bool judgesSettling = false;                            // from the solver's own history where there is one

    // What is seen and done in the viewport.
    bool showsGauges = false; // and their handles; points along lines are marked
    bool showsVerdicts = false;
    bool showsMarkedCells = false;
    bool showsMarkedPlace = false;
    bool movesSections = false;
    bool picksBoundaries = false;
};

#define STAGE(name) extern const Stage name##Stage;
#include "app/stages/list.inc"
#undef STAGE

// In the order of the work.
std::span<const Stage* const> stages();
// The one of this name; the first for a name that is none.
const Stage& stageNamed(const QString& id);
const Stage& stageOf(const Session& session); // on display

} // namespace pyro
