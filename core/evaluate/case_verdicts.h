// The verdicts of all cases of a survey together: whoever tells one of the survey tells it of all of them.
#pragma once

#include "core/limits/judge.h"
#include "core/survey/survey.h"

#include <map>

namespace pyro {

struct CaseVerdicts {
    std::string name;
    std::vector<LimitReading> limits = {}; // in the order of the survey; empty while nothing is judged
    std::string why = {};                  // set when the case could not be read
};

// Over before unknown before tight before within. A case that could not be read is unknown; so is a survey in which
// nothing is judged.
Verdict verdictOfCases(const std::vector<CaseVerdicts>& cases);
// How many limits of all cases have each verdict; a case that could not be read counts once as unknown.
std::map<Verdict, int> countOfCases(const std::vector<CaseVerdicts>& cases);

// Every limit unknown for one reason, of a case that cannot be read.
std::vector<LimitReading> unreadLimits(const Survey& survey, const std::string& why);

struct WorstOfCases {
    std::size_t theCase = 0;
    LimitReading reading;
};
// Each limit of the survey in the case in which it is worst: by verdict, then by the smallest relative margin.
std::vector<WorstOfCases> worstOfCases(const std::vector<CaseVerdicts>& cases);

} // namespace pyro
