#include "app/selfcheck/checks.h"
#include "app/selfcheck/run_program.h"
#include "core/program/demo_list.h"
#include "core/program/program.h"
#include "core/report/pages/report_template.h"
#include "core/units/unit.h"

#include <fmt/format.h>

namespace pyro {
namespace {

constexpr const char* again = "Install the program again";

// What the program says of its version in the first line; empty where it cannot be run.
std::string firstLineOf(const std::filesystem::path& program) {
    const auto end = runProgram(program, {"--version"}, 20'000);
    return end.how == ProgramEnd::How::Well ? end.out.split('\n').front().trimmed().toStdString() : std::string();
}

} // namespace

CheckLine checkPrograms() {
    const auto wanted = "Pyrometer " + programVersion();
    std::string wrong;
    for (const char* name : {"pyrometer-cli", "pyrometer-pages", "pyrometer-reader", "pyrometer-rig"}) {
        const auto file = helperProgram(name);
        std::error_code ignored;
        const auto told = std::filesystem::exists(file, ignored) ? firstLineOf(file) : "";
        if (told != wanted)
            wrong += fmt::format("{}{} {}", wrong.empty() ? "" : "; ", name,
                                 !std::filesystem::exists(file, ignored) ? "is missing"
                                 : told.empty()                          ? "cannot be run"
                                                                         : "is " + told);
    }
    if (!wrong.empty())
        return {"programs", false, wrong, again};
    return {"programs", true, "four, all of " + wanted};
}

CheckLine checkShipped() {
    const auto demos = shippedDemos();
    if (!demos)
        return {"shipped files", false, demos.error().what, again};
    for (const auto& demo : *demos)
        for (const auto& one : demo.cases)
            if (std::error_code ignored; !std::filesystem::exists(demo.source / one.input, ignored))
                return {"shipped files", false, fmt::format("{} of the demo {} is missing", one.input, demo.name),
                        again};
    const auto templates = shippedFolder("templates");
    for (const char* name : {"full.report.json", "one-page.report.json"})
        if (templates.empty() || !readReportTemplate(templates / name))
            return {"shipped files", false, fmt::format("the template {} is missing or cannot be read", name), again};
    return {"shipped files", true, fmt::format("{} demos, templates", demos->size())};
}

CheckLine checkUnits() {
    if (!isUnit("W/(m2.K)"))
        return {"units", false, "the data base of units cannot be read", "Install libudunits2-data"};
    return {"units", true, "W/(m2.K) is understood"};
}

} // namespace pyro
