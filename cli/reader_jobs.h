// What pyrometer-reader is asked for, one job: the words are those of its command line (reader_main.cpp).
#pragma once

#include <string>
#include <vector>

namespace pyro::cli {

// Prints what core/case/reader_process.h tells. `once`: for a process of this one job, which ends with the one that
// asks for it. Returns the exit status: 0, 1 for what cannot be read, 2 when the words are no job.
int runReaderJob(const std::vector<std::string>& words, bool once);

// Jobs from standard input, one after the other, until it closes or nothing comes for a while; tells "ended stays"
// behind each, or "ended leaves" when it ends itself: after a file that could not be read, whatever that has left
// behind, and after a large one. A job is its words, each with a zero byte behind it, and one more zero byte.
int serveReaderJobs();

} // namespace pyro::cli
