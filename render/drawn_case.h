// A case opened for pictures of it, at one step.
#pragma once

#include "core/survey/survey.h"
#include "render/surface.h"

namespace pyro {

struct DrawnCase {
    CaseEntry entry;
    OpenedCase opened; // with what is derived from its mesh only where isMeasured
    bool isMeasured = false;
    QuantityList quantities;
    std::string when = {}; // "t = 40 s", of a series
    // of the quantity that was drawn last; what pictures have in common is taken from it
    std::shared_ptr<const FieldPicture> picture = {};
};

// "t = 40 s"; empty for a step without a time and where it is the only one.
std::string timeText(const Series& series, int step);

// Opens the step, else the last one, with a picture of the quantity. Errors: as firstLook; NotSupported without a
// field.
Result<DrawnCase> openDrawnCase(const CaseEntry& entry, const std::filesystem::path& folder, std::optional<int> step,
                                const ViewState& view, Progress& progress);

} // namespace pyro
