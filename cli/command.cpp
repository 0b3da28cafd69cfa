#include "cli/command.h"

#include "cli/evaluate.h"
#include "cli/inspect.h"
#include "cli/run_pages.h"
#include "manual/manual.h"

#include <algorithm>

namespace pyro::cli {

int run(const std::vector<std::string>& words, std::ostream& out, std::ostream& err) try {
    CliWords asked;
    const auto manual = cliManual(asked);
    const auto chosen = [&](const char* name) { return manual.app->got_subcommand(name); };
    const auto commands = manual.app->get_subcommands([](const CLI::App*) { return true; });
    if (!words.empty() && !words.front().starts_with("-") &&
        std::ranges::none_of(commands, [&](const CLI::App* one) { return one->get_name() == words.front(); })) {
        err << "pyrometer-cli: \"" << words.front()
            << "\" is not known here. Write inspect, evaluate, report or render; --help tells what they take.\n";
        return 2;
    }
    if (const auto ended = parse(manual, words, out, err))
        return *ended;
    if (chosen("inspect"))
        return inspect(asked.inspect, out, err);
    return chosen("evaluate") ? evaluate(asked.evaluate, out, err) : runPages(words, err);
} catch (const std::exception& problem) {
    err << "pyrometer-cli: an internal failure: " << problem.what() << ". Please report it.\n";
    return 3;
}

} // namespace pyro::cli
