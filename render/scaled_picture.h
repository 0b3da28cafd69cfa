// A picture of a view with the scale of its colours and a caption underneath, as it goes into files and reports.
#pragma once

#include "core/survey/field_look.h"

#include <QImage>

namespace pyro {

struct ScaleCaption {
    std::string caption; // what is seen
    std::string unit;
    std::array<double, 2> range{0, 1}; // in that unit
    bool logarithmic = false;
    StripView strip;
    bool light = false; // ground for paper
};

// The view's width is kept; a band for scale and caption is added below it.
QImage withScale(const QImage& view, const ScaleCaption& scale);

} // namespace pyro
