#include "pages/command.h"

#include "manual/manual.h"
#include "pages/report_command.h"

namespace pyro::pages {

int complain(const Error& error, std::ostream& err) {
    err << "pyrometer-cli: " << error.text() << "\n";
    return 2;
}

int run(const std::vector<std::string>& words, std::ostream& out, std::ostream& err) try {
    CliWords asked;
    const auto manual = cliManual(asked);
    if (const auto ended = parse(manual, words, out, err))
        return *ended;
    if (manual.app->got_subcommand("report"))
        return writeReports(asked.report, err);
    if (manual.app->got_subcommand("render"))
        return drawViewpoints(asked.render, out, err);
    err << "pyrometer-pages: only report and render are asked of this program. Call pyrometer-cli.\n";
    return 2;
} catch (const std::exception& problem) {
    err << "pyrometer-cli: an internal failure: " << problem.what() << ". Please report it.\n";
    return 3;
}

} // namespace pyro::pages
