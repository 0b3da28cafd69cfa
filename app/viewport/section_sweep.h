// The chosen section on its way through what is visible.
#pragma once

#include "app/session/session.h"

namespace pyro {

// The reach of the visible parts along the chosen section's normal, metres from its origin; nothing without one.
std::optional<std::array<double, 2>> sweepRange(const Session& session);
// By a share of that reach, from its end to its beginning again. False when there is no section to move.
bool sweepBy(Session& session, double share);

} // namespace pyro
