#include "core/evaluate/known_history.h"

namespace pyro {

std::optional<std::filesystem::path> historyFile(const CaseEntry& entry, const std::filesystem::path& folder, const std::filesystem::path& caseFile) {
    if (entry.history.empty())
        return historyBeside(caseFile);
    const std::filesystem::path named(entry.history);
    return named.is_absolute() ? named : folder / named;
}

std::shared_ptr<const SolverHistory> knownHistory(const CaseEntry& entry, const std::filesystem::path& folder, const std::filesystem::path& caseFile, Remarks& remarks) {
    const auto file = historyFile(entry, folder, caseFile);
    if (!file)
        return nullptr;
    auto history = readSolverHistory(*file);
    if (!history) {
        remarks.push_back({Severity::Warning, "history-unreadable", history.error().what, file->string()});
        return nullptr;
    }
    return std::make_shared<const SolverHistory>(std::move(*history));
}

} // namespace pyro
