// What pyrometer-reader is asked for, one job: the words are those of its command line (reader_main.cpp).
#pragma once

#include <filesystem>
#include <string>
#include <vector>

namespace pyro::cli {

// Prints what core/case/reader_process.h tells and ends the process.
[[noreturn]] void runReaderJob(const std::vector<std::string>& words);
// The file that a job's limits depend on; empty when the words are no job.
std::filesystem::path fileOfJob(const std::vector<std::string>& words);

// Seconds of processor time for what lies in the file's folder, from which it may be made: a damaged file can lead a library in a circle.
// Nothing where there is too much to tell. Known for a few seconds, so that many files of one folder do not list it each.
long long secondsFor(const std::filesystem::path& file);

// Jobs from standard input until it closes, each in a child process of its own; tells "ended STATUS" after each, as waitpid does. A job is its
// words, each with a zero byte behind it, and one more zero byte; the word "stop" alone ends the job at hand.
int serveReaderJobs();

} // namespace pyro::cli
