// The names by which parts of a survey speak of each other and of what is in a case, so that a new name reaches them
// all. What defines a name (a gauge's id, a case's own name, the key of a material) is none of them.
#pragma once

#include "core/survey/survey.h"

#include <functional>

namespace pyro {

enum class NameOf { Gauge, Part, Boundary, Case, Material };

// Calls `visit` for each, which may change it. Within what is not known of a file, and where a gauge measures, the key
// tells what is named ("gauge": ..., "part": [...]); of formulas the words are visited that name a gauge of the survey.
void visitNames(Survey& survey, const std::function<void(NameOf what, std::string& name)>& visit);

// All that say `from` say `to`.
void rename(Survey& survey, NameOf what, const std::string& from, const std::string& to);

} // namespace pyro
