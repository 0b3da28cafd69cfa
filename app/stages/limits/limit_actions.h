#pragma once

#include "app/stages/stage.h"

namespace pyro {

std::span<const StageAction> limitActions();

} // namespace pyro
