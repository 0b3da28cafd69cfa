// Reading by the program pyrometer-reader, another process: a file that breaks it breaks nothing else. It talks in
// lines on its standard output: "progress <share> <text>", and one last line "done" or "error <json>". It stays for
// further files, so that many small ones do not start it each, as long as it reads them without a fault: "ended stays"
// or "ended leaves".
#pragma once

#include "core/case/store.h"

namespace pyro {

// Reads until it is done or `progress` is cancelled (the process is then killed).
Done runReader(const CaseSource& source, const std::filesystem::path& storeFile, const OpenOptions& options,
               Progress& progress);

// The times of the steps in each file, seconds, NaN for one without; none where it has one step that carries none or
// cannot be read. Only the files' heads are read, by the same child process, which prints "time <position> <seconds>"
// for each. Errors: Cancelled, ReaderMissing.
Result<std::vector<std::vector<double>>> readTimes(const std::vector<std::filesystem::path>& files,
                                                   const OpenOptions& options, Progress& progress);

nlohmann::json errorToJson(const Error& error);
Error errorFromJson(const nlohmann::json& json);

} // namespace pyro
