#include "core/evaluate/known_history.h"

#include "core/survey/survey_file.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {

std::optional<std::filesystem::path> historyFile(const CaseEntry& entry, const std::filesystem::path& folder,
                                                 const std::filesystem::path& caseFile) {
    if (entry.history.empty())
        return historyBeside(caseFile);
    return besideSurvey(entry.history, folder);
}

namespace {

SolverHistory historyInFile(const Case& solved) {
    SolverHistory history;
    history.file = solved.file;
    history.along = "time_s";
    history.at = solved.monitored->times;
    for (const auto& [title, values] : solved.monitored->columns)
        history.columns.push_back({title, values});
    return history;
}

} // namespace

std::shared_ptr<const SolverHistory> knownHistory(const CaseEntry& entry, const std::filesystem::path& folder,
                                                  const std::filesystem::path& caseFile, const Case* solved,
                                                  Remarks& remarks) {
    const auto file = historyFile(entry, folder, caseFile);
    if (!file)
        return solved != nullptr && solved->monitored ? std::make_shared<const SolverHistory>(historyInFile(*solved))
                                                      : nullptr;
    auto history = readSolverHistory(*file);
    if (!history) {
        remarks.push_back({Severity::Warning, "history-unreadable", history.error().what, file->string()});
        return nullptr;
    }
    return std::make_shared<const SolverHistory>(std::move(*history));
}

SolverHistory historyOfSteps(const std::vector<Readings>& steps) {
    SolverHistory history;
    const bool timed = std::ranges::all_of(steps, [](const Readings& step) { return step.time.has_value(); });
    history.along = timed ? "time_s" : "step";
    for (const auto& step : steps)
        history.at.push_back(timed ? *step.time : step.step);
    if (steps.empty())
        return history;
    using Of = std::optional<Temperature> RegionReading::*;
    for (const auto& part : steps.front().parts)
        for (const auto& [title, of] : {std::pair<const char*, Of>{"mean", &RegionReading::mean},
                                        {"max", &RegionReading::max},
                                        {"min", &RegionReading::min}}) {
            SolverHistory::Column column{fmt::format("{} {} K", part.name, title), {}};
            for (const auto& step : steps) {
                const auto found = std::ranges::find(step.parts, part.name, &RegionReading::name);
                const auto value = found == step.parts.end() ? std::nullopt : (*found).*of;
                column.values.push_back(value ? value->kelvin : std::nan(""));
            }
            history.columns.push_back(std::move(column));
        }
    return history;
}

} // namespace pyro
