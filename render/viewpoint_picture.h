// A viewpoint of a survey drawn on a case, without a window.
#pragma once

#include "core/survey/viewpoints.h"
#include "render/drawn_case.h"
#include "render/headless.h"
#include "render/picture_sheet.h"

namespace pyro {

struct ViewpointWish {
    const Survey& survey;
    const Viewpoint& viewpoint;
    const Readings* readings = nullptr; // of the case and step, for isotherms that follow gauges; null: not known
    QSize size{1600, 1000};             // pixels of the whole sheet
    SheetLook look = {};
    bool namesParts = true; // beside the picture, with lines
    bool hasLegend = false; // then parts bear numbers, and the legend their names
    // Another case at its last step, for a displacement that is of it; empty: such a shape is left out.
    std::function<Result<DrawnCase>(const std::string& caseName, Progress&)> otherCase = {};
};

// The case of a viewpoint: the one named, else its own, else the survey's first. Errors: NameUnknown.
Result<const CaseEntry*> caseOfViewpoint(const Survey& survey, const Viewpoint& viewpoint, const std::string& named);

// Parts, quantity, range, sections, isotherms and their surfaces, boundaries, streamlines, arrows, deformed shape,
// shell, pinned readings and camera as the viewpoint has them. What `shown` holds is used, and added to where it lacks
// something. Errors: Cancelled, and as makePicture.
Result<PictureSheet> drawViewpoint(Headless& headless, DrawnCase& shown, const ViewpointWish& wish, Progress& progress);

} // namespace pyro
