// manual: what each program takes on its command line. One description of it parses, answers --help and --version, and
// becomes the man page and the completions of the shells.
#pragma once

#include "manual/words.h"

#include <CLI/CLI.hpp>
#include <memory>
#include <ostream>

namespace pyro {

struct ManualExample {
    std::string words; // the whole line, as a shell takes it; a test runs it on the demos
    std::string meaning;
};

struct ExitStatus {
    int status;
    std::string meaning;
};

// One program: its parser, and what a manual tells beyond it.
struct Manual {
    std::unique_ptr<CLI::App> app; // fills the words that it was made with; they must outlive it
    std::string summary;           // in a line
    std::string description;       // paragraphs, divided by an empty line
    std::vector<ManualExample> examples;
    std::vector<ExitStatus> statuses;
    std::vector<std::pair<std::string, std::string>> files; // and the variables of the environment that move them
    bool internal = false;                                  // started by the other programs; nobody types its words

    std::string name() const { return app->get_name(); }
};

Manual windowManual(WindowWords& words);
Manual cliManual(CliWords& words);
Manual rigManual(RigWords& words);
Manual readerManual();

// Parses the words that follow the program's name. The status to end with where that is all that was asked for (--help,
// --version) or where it is wrong, which is told on `err`: 2.
std::optional<int> parse(const Manual& manual, const std::vector<std::string>& words, std::ostream& out,
                         std::ostream& err);

// What --version tells: version, commit, compiler, libraries; a line each.
std::string buildText();
// "0.2 (1a2b3c4)".
std::string versionText();

// A page of section 1 in the language of man(7).
std::string manPage(const Manual& manual);
std::string bashCompletion(const Manual& manual);
std::string zshCompletion(const Manual& manual);
std::string fishCompletion(const Manual& manual);

} // namespace pyro
