// A stage of the work: everything that the window needs to know of it. Each stage is one folder here and one line in
// list.inc; rail, menus, help, ledger, viewport and session go through that list and know none by name.
#pragma once

#include <QColor>
#include <QString>
#include <array>
#include <span>

class QWidget;

namespace pyro {

class Session;
class StageDesk;
struct Survey;

// What stands at a stage's button when something needs attention; nothing for 0.
struct StageBadge {
    int count = 0;
    QColor colour = {};
};

enum class StageMenu { None, Survey, Edit, View }; // in View each stage has a menu within

// Something that is done at a stage or about what it deals with; has a place in a menu, in the finder, at a key.
struct StageAction {
    const char* id;
    const char* text;
    const char* keys; // as QKeySequence reads them; empty: none
    StageMenu menu;   // None: in the finder only
    void (*run)(StageDesk& desk);
    bool newGroup = false; // a line above it in the menu
    // It is ticked while this holds; null: it is not one of on and off.
    bool (*isOn)(const Session& session) = nullptr;
};

struct Stage {
    const char* id;   // in the survey, on the rail
    const char* icon; // of app/icons
    int key;          // digit that leads to it
    // The sheet to the left, wired to what the window does. Called once, when the window is built.
    QWidget* (*sheet)(StageDesk& desk, QWidget* parent);
    // Its page of the ledger, made after the sheets; null: it has none.
    QWidget* (*ledgerPage)(StageDesk& desk, QWidget* parent) = nullptr;
    // What stands in place of the viewport alone, above its scale and the tables; null: the viewport.
    QWidget* (*panes)(StageDesk& desk, QWidget* parent) = nullptr;
    // What stands in place of viewport and tables; null: those do.
    QWidget* (*page)(StageDesk& desk, QWidget* parent) = nullptr;
    std::span<const StageAction> (*actions)() = nullptr;
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
    bool showsCompared = false; // the cases that are compared, beside the one on display
    bool showsParts = false;    // whoever looks for a part is led here
};

#define STAGE(name) extern const Stage name##Stage;
#include "app/stages/list.inc"
#undef STAGE

// In the order of the work.
std::span<const Stage* const> stages();
// The one of this name; the first for a name that is none.
const Stage& stageNamed(const QString& id);
const Stage& stageOf(const Session& session); // on display
std::span<const StageAction> actionsOf(const Stage& stage);

} // namespace pyro
