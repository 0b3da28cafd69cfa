#pragma once

#include "app/stages/stage.h"

namespace pyro {

std::span<const StageAction> fieldActions();

void keepViewpoint(StageDesk& desk, const QString& name); // empty: a new one

} // namespace pyro
