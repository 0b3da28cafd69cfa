// Where the case stores lie and how a case comes out of one, read anew by the child process when needed.
#pragma once

#include "core/case/case.h"
#include "core/feedback/progress.h"

namespace pyro {

struct OpenOptions {
    // Most memory the reading process may take, bytes; 0: three quarters of the machine's memory.
    std::uint64_t memoryLimit = 0;
    // The reader program; empty: PYROMETER_READER from the environment, else pyrometer-reader beside this program.
    std::filesystem::path reader;
    CaseSplit split = {};
};

// The folder of the user's case stores: $XDG_CACHE_HOME/pyrometer or ~/.cache/pyrometer.
std::filesystem::path storeFolder();
// The store of one step of a case file, named after its full path.
std::filesystem::path storePath(const CaseSource& source);

// Size and time of change of each file, to tell later whether a store is still true.
nlohmann::json sourceStamps(const std::vector<std::filesystem::path>& files);
bool stampsHold(const nlohmann::json& stamps);

// Files of arrays beside a case's store, derived from it: their path, their meta data, and the file if it still
// belongs to the store. Errors: those of ArrayFile::open; WrongVersion when it is of another version or state.
std::filesystem::path besideStore(const Case& solved, const char* ending);
nlohmann::json besideStoreMeta(const Case& solved, int version);
Result<std::shared_ptr<const ArrayFile>> openBesideStore(const Case& solved, const char* ending, int version);

// Opens a case: from its store when that is still true, else by a reading process. A broken file breaks that
// process only. Errors: those of the reader; ReaderCrashed, ReaderMissing, MemoryLimit, Cancelled, WriteFailed.
Result<std::shared_ptr<const Case>> openCase(const CaseSource& source, const OpenOptions& options, Progress& progress);
// The first step of a file, divided as the options say.
Result<std::shared_ptr<const Case>> openCase(const std::filesystem::path& file, const OpenOptions& options,
                                             Progress& progress);

} // namespace pyro
