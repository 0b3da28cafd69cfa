// What a stage can ask of the window.
#pragma once

#include "app/session/session.h"
#include "app/stages/stage.h"

namespace pyro {

class Viewport;
struct TableKind;

class StageDesk {
public:
    virtual ~StageDesk() = default;
    virtual Session& session() = 0;
    virtual Viewport& viewport() = 0;
    virtual QWidget* dialogParent() = 0;
    // As the stage made them; null where it has none.
    virtual QWidget* sheetOf(const Stage& stage) = 0;
    virtual QWidget* ledgerPageOf(const Stage& stage) = 0;
    virtual QWidget* pageOf(const Stage& stage) = 0;
    virtual void showStage(const QString& id) = 0;
    // What the action of this name does.
    virtual void run(const QString& action) = 0;
    // Isolates the part and flies to the place.
    virtual void goTo(const QString& part, const Point& place) = 0;
    // Says in the viewport, for a moment, what was done or why nothing was.
    virtual void tell(const QString& text) = 0;
    // The same in the status line, for what is done in several clicks.
    virtual void advise(const QString& text) = 0;
    virtual void tellWritten(const Done& written, const QString& file, const QString& size = {}) = 0;
    // A name for a file beside the survey's.
    virtual QString proposal(const QString& ending) const = 0;
};

// Asks for a file and writes this table of the open readings to it. `title`: of the dialog; `ending`: of the name that
// is proposed.
void exportTable(StageDesk& desk, const TableKind& table, const QString& title, const QString& ending);
void writeTableFile(StageDesk& desk, const TableKind& table, const QString& file);

} // namespace pyro
