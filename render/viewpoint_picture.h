// A viewpoint of a survey drawn on a case, without a window.
#pragma once

#include "render/headless.h"

#include "core/survey/viewpoints.h"

namespace pyro {

struct ViewpointWish {
    const Survey& survey;
    std::filesystem::path folder; // of the survey
    const Viewpoint& viewpoint;
    std::string caseName = {};          // empty: that of the viewpoint, else the first
    std::optional<int> step = {};       // nothing: that of the viewpoint where it carries one, else the last
    const Readings* readings = nullptr; // of the case, for isotherms that follow gauges; null: not known
    QSize size{1600, 1000};             // pixels, the band with the scale included
    double ratio = 1;                   // pixels for each dot of letters and lines of the scale
    bool light = true;                  // ground for paper
};

// With scale and caption beneath. Parts, quantity, range, sections, isotherms, boundaries and camera as the viewpoint
// has them; streamlines, arrows and pinned readings are left out. Errors: as firstLook; NameUnknown for a case that is
// gone; NotSupported where nothing can be drawn.
Result<QImage> drawViewpoint(Headless& headless, const ViewpointWish& wish, Progress& progress);

} // namespace pyro
