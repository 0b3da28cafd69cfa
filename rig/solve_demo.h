// A demo that is shipped: its cases solved where they are not yet, its survey and tables beside them.
#pragma once

#include "core/feedback/progress.h"
#include "core/program/demo_list.h"

namespace pyro::rig {

// Into `folder`: what is there already and was made of the same inputs stays. A survey that the user changed meanwhile
// is kept as "<name> (yours).survey.json" when another one was shipped. One process at a time works on a folder, others
// wait. Returns the survey's file. Errors: Cancelled, WriteFailed, those of run().
Result<std::filesystem::path> solveDemo(const Demo& demo, const std::filesystem::path& folder, Progress& progress);

} // namespace pyro::rig
