// The child process pyrometer-reader seen from outside. It talks in lines on its standard output:
// "progress <share> <text>", and one last line "done" or "error <json>".
#pragma once

#include "core/case/store.h"

namespace pyro {

// Runs the reader until it ends or `progress` is cancelled (the child is then killed).
Done runReader(const std::filesystem::path& file, const std::filesystem::path& storeFile,
               const OpenOptions& options, Progress& progress);

nlohmann::json errorToJson(const Error& error);
Error errorFromJson(const nlohmann::json& json);

} // namespace pyro
