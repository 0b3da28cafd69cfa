// What the survey's entry of a case gives, as an evaluation takes it.
#pragma once

#include "core/survey/survey.h"
#include "core/thermal/case_heat.h"

namespace pyro {

std::map<std::string, std::string> labelsIn(const CaseEntry& entry); // of parts that have one
std::vector<std::string> symmetricIn(const CaseEntry& entry);        // boundaries noted as planes of symmetry
std::map<std::string, double> givenPowers(const CaseEntry& entry);   // W, by part, of the whole
// One for each part of the case; powers are those of the case, not of the whole.
std::vector<PartProperties> propertiesOf(const Survey& survey, const CaseEntry& entry, const Case& solved);
GivenEnvironments environmentsIn(const CaseEntry& entry);

} // namespace pyro
