// The history a solver writes while it runs: one line per iteration or step, one column per monitored value.
#pragma once

#include "core/feedback/error.h"

#include <filesystem>
#include <optional>
#include <string_view>
#include <vector>

namespace pyro {

struct SolverHistory {
    std::filesystem::path file;
    std::string along;      // title of the first column, "time_s" or "iteration"
    std::vector<double> at; // rising
    struct Column {
        std::string title;
        std::vector<double> values; // NaN in gaps
    };
    std::vector<Column> columns;
    Remarks remarks; // lines left out: repeated or decreasing `along`, too few fields; gaps; an unfinished last line
};

// A CSV whose first line names the columns; the first column, or the one named time, time_s, iteration, iter or step,
// is what the others run along. A last line without its end is still being written and waits. Of lines with the same
// time or one that goes back, as a restarted run writes them, the later one is taken and those before it from its time
// on are left out; both are told. Errors: FileMissing; Syntax for a file without numbers.
Result<SolverHistory> readSolverHistory(const std::filesystem::path& file);
Result<SolverHistory> solverHistoryFrom(std::string_view text, const std::filesystem::path& file);

// The history beside a case: `warm-up-history.csv` or `warm-up.history.csv` for `warm-up.vtm` and `warm-up_0007.vtm`;
// nothing when there is none.
std::optional<std::filesystem::path> historyBeside(const std::filesystem::path& caseFile);

} // namespace pyro
