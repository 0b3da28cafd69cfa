// The history that the solver left of a case, where there is one.
#pragma once

#include "core/case/solver_history.h"
#include "core/readings/readings.h"
#include "core/survey/survey.h"

namespace pyro {

// Where it lies: named by the survey (relative to its folder), else beside the case file; nothing when there is none.
std::optional<std::filesystem::path> historyFile(const CaseEntry& entry, const std::filesystem::path& folder,
                                                 const std::filesystem::path& caseFile);

// Read; where none lies there what the case's own file monitors (`solved`, which may be null); null when there is
// neither. One that cannot be read is a remark.
std::shared_ptr<const SolverHistory> knownHistory(const CaseEntry& entry, const std::filesystem::path& folder,
                                                  const std::filesystem::path& caseFile, const Case* solved,
                                                  Remarks& remarks);

// Steps as iterations: the mean, highest and lowest temperature of every part along the steps' times, else along their
// numbers.
SolverHistory historyOfSteps(const std::vector<Readings>& steps);

} // namespace pyro
