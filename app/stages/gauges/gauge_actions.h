#pragma once

#include "app/stages/stage.h"

namespace pyro {

std::span<const StageAction> gaugeActions();

// Asks for the title of the chart ("title") or of its axis ("x", "y").
void titleChart(StageDesk& desk, const QString& which);
// Asks for the limits of an axis.
void limitChart(StageDesk& desk, const QString& which);

} // namespace pyro
