#pragma once

#include "app/stages/stage.h"
#include "core/readings/check.h"
#include "core/survey/findings.h"

namespace pyro {

std::span<const StageAction> trustActions();

// A finding about this check, at its place and in the view on display.
void raiseFrom(StageDesk& desk, const Check& check);
// Its case and step, seen as it was seen when it was raised.
void showFinding(Session& session, const Finding& finding);

} // namespace pyro
