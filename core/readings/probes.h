// What one step tells at the places of measured data.
#pragma once

#include "core/field/picture_camera.h"

namespace pyro {

struct MeasuredTable; // core/compare/measured.h

struct ProbedPlace {
    std::optional<double> value;  // SI
    std::optional<Point> foundAt; // of a place beside the mesh: the nearest one of a surface
    std::string why;              // no value
};
// What each pixel of a picture sees, row by row.
struct ProbedPicture {
    PictureCamera camera;
    std::vector<double> values;      // SI; NaN: it sees nothing
    std::vector<std::uint32_t> part; // noNumber: none
    std::vector<float> depth;        // see PictureCamera::place
    std::vector<std::string> partNames;
    std::string why; // nothing of it can be read
};
struct Probes {
    std::shared_ptr<const MeasuredTable> table;
    std::vector<ProbedPlace> places;                   // as many as the table has
    std::shared_ptr<const ProbedPicture> picture = {}; // null: it is no picture
};

} // namespace pyro
