// A series that is still being written: what has changed on the disk, and which of its steps are whole.
#pragma once

#include "core/case/series.h"

namespace pyro {

// Size and time of change of one file; equal stamps mean that nothing was written to it.
struct FileStamp {
    std::filesystem::path file;
    std::uintmax_t size = 0;
    std::filesystem::file_time_type changed{};
    bool operator==(const FileStamp&) const = default;
};

// Of the case file, its numbered siblings and these further files, sorted by name; files that are not there are left
// out. Cheap: reads no file.
std::vector<FileStamp> stampsOf(const std::filesystem::path& caseFile,
                                const std::vector<std::filesystem::path>& further = {});

struct ReadySeries {
    Series series;   // the steps that can be read
    int waiting = 0; // files that cannot be read yet: still being written, or broken
};

// As seriesOf, but every step whose stamp is not among `known` is opened, and one that cannot be read is left out until
// it can, so that a half-written file never shows. Errors: those of seriesOf; FileUnreadable when no step is whole.
Result<ReadySeries> readySeries(const std::filesystem::path& file, std::optional<bool> wanted,
                                const std::vector<FileStamp>& known, const OpenOptions& options, Progress& progress);

} // namespace pyro
