// What a stage's sheet can ask of the window.
#pragma once

#include "app/stages/stage.h"
#include "core/readings/check.h"

namespace pyro {

class Viewport;

class StageDesk {
public:
    virtual ~StageDesk() = default;
    virtual Session& session() = 0;
    virtual Viewport& viewport() = 0;
    virtual Ledger& ledger() = 0;
    virtual void showStage(const QString& id) = 0;
    // What the action of this name does.
    virtual void run(const QString& action) = 0;
    virtual void keepViewpoint(const QString& name) = 0; // empty: a new one
    virtual void raiseFrom(const Check& check) = 0;      // a finding
    virtual void showCheck(const Check& check) = 0;      // where it is about a place
};

} // namespace pyro
