#include "cli/run_pages.h"

#include "core/program/program.h"

#include <cstring>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

namespace pyro::cli {

int runPages(const std::vector<std::string>& words, std::ostream& err) {
    std::vector<char*> arguments;
    auto program = helperProgram("pyrometer-pages").string();
    auto own = words;
    arguments.push_back(program.data());
    for (auto& word : own)
        arguments.push_back(word.data());
    arguments.push_back(nullptr);
    pid_t child = 0;
    const int failed = posix_spawn(&child, program.c_str(), nullptr, nullptr, arguments.data(), environ);
    if (failed != 0) {
        err << "pyrometer-cli: " << program << " cannot be run (" << std::strerror(failed)
            << "). It is installed with this program; install it again.\n";
        return 2;
    }
    int ended = 0;
    waitpid(child, &ended, 0);
    return WIFEXITED(ended) ? WEXITSTATUS(ended) : 3;
}

} // namespace pyro::cli
