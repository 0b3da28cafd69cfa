// Saved ways of looking at a survey's cases: camera, visible parts, quantity, range, sections, isotherms.
#pragma once

#include "core/survey/view_state.h"

namespace pyro {

struct Viewpoint {
    std::string name;
    ViewState view;
    std::string thumbnail; // PNG, base64; empty: none
    bool withCase = false; // it belongs to the case and step of its view
    Json rest = {};
    bool operator==(const Viewpoint&) const = default;
};

template <>
std::span<const KeyRow<Viewpoint>> rowsOf<Viewpoint>();

struct Survey;
// "Viewpoint 1", "Viewpoint 2" ...: the first name that is free.
std::string freeViewpointName(const Survey& survey);

// Adds the viewpoint, or replaces the one of the same name.
Survey withViewpoint(Survey survey, const Viewpoint& viewpoint);
Survey withoutViewpoint(Survey survey, const std::string& name);
// Whether it carries case and step; those of its view, else the first case.
Survey withViewpointOfCase(Survey survey, const std::string& name, bool withCase);
// Errors: NameUnknown when there is none of the old name; WrongType when the new one is empty or taken.
Result<Survey> withViewpointRenamed(Survey survey, const std::string& name, const std::string& newName);

// Everything that is seen as in the viewpoint; the stage stays as it is now, and so do case and step unless it carries
// its own, so that it works on any case.
ViewState restored(const Viewpoint& viewpoint, const ViewState& now);

} // namespace pyro
