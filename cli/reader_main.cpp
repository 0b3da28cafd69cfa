// pyrometer-reader FILE STORE MEMORY_LIMIT STEP [AS]: reads one step of a case file into a case store, divided
// by a cell array, a plane one made as deep.
// pyrometer-reader times MEMORY_LIMIT FILE...: prints the time that each file carries.
// pyrometer-reader serve: the same for one job after the other, told on standard input.
// Started by the other programs; core/case/reader_process.h tells what it prints.
#include "cli/reader_jobs.h"
#include "manual/manual.h"

#include <cstdio>
#include <cstdlib>
#include <iostream>

int main(int count, char** words) {
    const std::vector<std::string> job(words + 1, words + count);
    if (!job.empty() && job.front().starts_with("-")) // a person asks
        return pyro::parse(pyro::readerManual(), job, std::cout, std::cerr).value_or(2);
    const int status = job == std::vector<std::string>{"serve"} ? pyro::cli::serveReaderJobs()
                                                                : pyro::cli::runReaderJob(job, true);
    std::fflush(stdout);
    std::_Exit(status); // nothing is left to tidy up that the system does not do faster
}
