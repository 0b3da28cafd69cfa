// The steps of a case: its file alone, the steps within it, numbered siblings of it that carry a time, or a table of
// times and files.
#pragma once

#include "core/case/store.h"

namespace pyro {

struct Step {
    int index = 0;              // from 0, by time
    std::optional<double> time; // seconds
    bool operator==(const Step&) const = default;
};

struct StepFile {
    Step step;
    std::filesystem::path file;
    std::string partName = {}; // of the only part of a file without blocks, so that it is the same on every step
    CaseSplit split = {};
    int within = 0; // the file's own step, of a file that holds several
};

struct Series {
    std::vector<StepFile> steps; // at least one
    Remarks remarks;             // equal times, siblings without a time

    // The wanted step where there is one, else the nearest; the last one when none is wanted.
    int nearest(std::optional<int> wanted) const;
};

// The case of one step. Errors: as openCase of a file.
Result<std::shared_ptr<const Case>> openCase(const StepFile& step, const OpenOptions& options, Progress& progress);

// Numbered files of the same stem, extension and width beside this one, itself among them, by name; none when it is not
// numbered.
std::vector<std::filesystem::path> siblingsOf(const std::filesystem::path& file);

// A file that holds several steps is a series by itself, unless `wanted` is false: then its last one is taken.
// FORMATS: a file whose stem ends in "_" and at least three digits, with siblings of the same width, is a series when
// its files carry a time; `wanted` overrides: true makes one of files without times too, false takes the file alone. A
// CSV with the columns time (in seconds) and file is a series as well. Equal times keep the later file.
// Errors: FileMissing and Syntax for a CSV; Cancelled, ReaderMissing.
Result<Series> seriesOf(const std::filesystem::path& file, std::optional<bool> wanted, const OpenOptions& options,
                        Progress& progress);

// Whether its steps are instants of a field that changes, not iterations of a steady one.
bool changesWithTime(const Series& series);

// Whether two cases have the same parts and the same boundaries that their files name, with the same nodes and cells.
bool sameMesh(const Case& a, const Case& b);

} // namespace pyro
