// What an evaluation told of one case, kept on the disk for as long as its files and what the survey says of it stay.
#pragma once

#include "core/compare/sweep.h"
#include "core/evaluate/survey_run.h"

namespace pyro {

class KeptCase {
public:
    KeptCase(const Survey& survey, const CaseEntry& entry, const std::filesystem::path& surveyFile,
             const RunOptions& options, const std::string& lonePart);
    // Nothing where none is kept, or something changed since.
    std::optional<SweepCase> load() const;
    // A disk that is full keeps nothing, which only costs time.
    void store(const SweepCase& told) const;

private:
    const Survey& m_survey;
    std::string m_key;
    std::filesystem::path m_file;
};

} // namespace pyro
