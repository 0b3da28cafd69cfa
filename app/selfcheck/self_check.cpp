#include "app/selfcheck/self_check.h"

#include "app/selfcheck/checks.h"
#include "app/selfcheck/run_program.h"
#include "app/session/settings.h"
#include "core/program/program.h"
#include "manual/manual.h"

#include <QApplication>
#include <QLocale>
#include <QSysInfo>
#include <QThread>
#include <algorithm>
#include <fmt/format.h>
#include <unistd.h>

namespace pyro {
namespace {

// In the order in which one looks for what is wrong.
constexpr SelfCheck checksHere[] = {
    {"programs", checkPrograms},     {"shipped files", checkShipped}, {"units", checkUnits},
    {"settings", checkSettings},     {"cache", checkCache},           {"temporary files", checkTemporary},
    {"solved case", checkSmallCase},
};
constexpr SelfCheck checksApart[] = {{"display", checkDisplay}, {"pictures", checkPictures}};

// What a process of its own tells of a check, or how it ended.
CheckLine runApart(const char* name) {
    const auto end = runProgram(programFolder() / "pyrometer", {"--self-check", "--only", name}, 60'000);
    if (end.how == ProgramEnd::How::TooLate)
        return {name, false, "no answer within a minute", "Look at the drivers of the display"};
    const auto told = nlohmann::json::parse(end.out.toStdString(), nullptr, false);
    if (told.is_object())
        return {name, told.value("passed", false), told.value("found", ""), told.value("remedy", "")};
    auto words = end.err.trimmed().toStdString();
    if (words.starts_with("pyrometer: "))
        words = words.substr(11);
    if (end.how == ProgramEnd::How::Crashed)
        return {name, false, "the process that drew ended by itself (a fault of the graphics driver)",
                "Install libgl1-mesa-dri, which draws without a graphics card, or the driver of your card"};
    return {name, false, words.empty() ? "it ended without a word" : words};
}

std::string memoryText() {
    const auto bytes = static_cast<double>(::sysconf(_SC_PHYS_PAGES)) * static_cast<double>(::sysconf(_SC_PAGE_SIZE));
    return fmt::format("{:.1f} GB of memory", bytes / 1e9);
}

std::string systemText() {
    const auto session = qEnvironmentVariable("XDG_SESSION_TYPE", "no session").toStdString();
    const auto language = fmt::format("{}: {}, decimal {}", QLocale::system().name().toStdString(),
                                      unitSymbol(settings::temperatureUnit()),
                                      settings::decimalComma() ? "comma" : "point");
    return fmt::format("system: {}, {} {}, {} processors, {}, {}\nlanguage: {}",
                       QSysInfo::prettyProductName().toStdString(), QSysInfo::kernelType().toStdString(),
                       QSysInfo::kernelVersion().toStdString(), QThread::idealThreadCount(), memoryText(), session,
                       language);
}

int tellOne(const SelfCheck& check) {
    const auto line = check.run();
    const nlohmann::json json{{"passed", line.passed}, {"found", line.found}, {"remedy", line.remedy}};
    fmt::print("{}\n", json.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace));
    std::fflush(stdout);
    return line.passed ? 0 : 1;
}

} // namespace

std::vector<CheckLine> runSelfCheck(Progress& progress) {
    std::vector<CheckLine> lines;
    const double count = std::size(checksApart) + std::size(checksHere);
    const auto next = [&](const char* name) {
        progress.report(static_cast<double>(lines.size()) / count, name);
        return !progress.cancelled();
    };
    for (const auto& one : checksApart)
        if (next(one.name))
            lines.push_back(runApart(one.name));
    for (const auto& one : checksHere)
        if (next(one.name))
            lines.push_back(one.run());
    return lines;
}

std::string selfCheckText(const std::vector<CheckLine>& lines) {
    auto text = buildText() + "\n" + systemText() + "\n\n";
    for (const auto& line : lines)
        text += fmt::format("{:<7} {:<16} {}{}\n", line.passed ? "passed" : "failed", line.name, line.found,
                            line.remedy.empty() ? "" : ". " + line.remedy);
    const auto passed = std::ranges::count(lines, true, &CheckLine::passed);
    return text +
           fmt::format("\n{} of {} checks passed. Send this text with a report of a problem.\n", passed, lines.size());
}

int selfCheck(int count, char** words, const std::string& only) {
    if (only == "pictures")
        qputenv("QT_QPA_PLATFORM", "offscreen");
    if (!only.empty()) {
        const QApplication application(count, words);
        for (const auto& checks : {std::span<const SelfCheck>(checksApart), std::span<const SelfCheck>(checksHere)})
            for (const auto& one : checks)
                if (only == one.name)
                    return tellOne(one);
        fmt::print(stderr, "pyrometer: there is no check \"{}\"\n", only);
        return 2;
    }
    const QCoreApplication application(count, words);
    NoProgress progress;
    const auto lines = runSelfCheck(progress);
    fmt::print("{}", selfCheckText(lines));
    return std::ranges::all_of(lines, &CheckLine::passed) ? 0 : 1;
}

} // namespace pyro
