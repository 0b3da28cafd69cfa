#include "core/survey/survey.h"

#include <algorithm>

namespace pyro {

CaseSplit CaseEntry::wholeSplit() const {
    auto whole = split;
    if (depth)
        whole.depth = depth->si;
    for (const auto& [part, note] : parts)
        if (note.thickness)
            whole.thickness[part] = note.thickness->si;
    return whole;
}

const CaseEntry* Survey::caseNamed(std::string_view name) const {
    const auto found = std::ranges::find(cases, name, &CaseEntry::name);
    return found == cases.end() ? nullptr : &*found;
}

std::string shownName(const CaseEntry& entry, std::string_view part) {
    const auto note = entry.parts.find(std::string(part));
    return note == entry.parts.end() || note->second.label.empty() ? std::string(part) : note->second.label;
}

std::string shownBoundary(const CaseEntry& entry, const std::string& boundary) {
    const auto note = entry.boundaries.find(boundary);
    return note == entry.boundaries.end() || note->second.label.empty() ? boundary : note->second.label;
}

} // namespace pyro
