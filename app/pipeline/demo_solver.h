// A demo as it is shipped, made ready by the rig, a process of its own.
#pragma once

#include "core/feedback/error.h"
#include "core/feedback/progress.h"

namespace pyro {

// Solves what is not there yet into the user's cache; for a job. Cancelling ends the rig. Returns the survey's file.
// Errors: Cancelled, those of `pyrometer-rig --demo`, ReaderMissing where the rig is not installed.
Result<std::string> solvedDemo(const std::string& name, Progress& progress);

} // namespace pyro
