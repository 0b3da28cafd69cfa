// Paths of the heat (or of a flow) packed for drawing. Made by a job.
#pragma once

#include "core/field/stream.h"
#include "render/section_picture.h"

namespace pyro {

struct PathPicture {
    std::vector<float> points;        // 3 per point
    std::vector<std::uint32_t> begin; // first point of every line, and the end of the last
    std::vector<float> values;        // SI of the quantity on display, per point; NaN where a part has none
    std::vector<float> time;          // per point: what a particle takes from the start of its line, in spans
    double span = 0;                  // the median over all lines: s for a velocity, else in an arbitrary unit
    std::string why;                  // set when there is no line: what is missing
    bool fromGradient = false;        // no flux is stored: the lines follow the falling temperature instead
    std::size_t lost = 0;             // places to start from that lie outside of the field

    std::size_t lines() const { return begin.empty() ? 0 : begin.size() - 1; }
};

// What lines need to start: which of it depends on PathView::start.
struct PathSources {
    std::optional<Point> hottest;                  // visible
    std::shared_ptr<const SectionPicture> section; // the one named, null while there is none
    bool operator==(const PathSources&) const = default;
};

// `followed`: a vector, or a scalar on nodes down whose gradient the lines run. Errors: Cancelled.
Result<PathPicture> makePaths(const FieldPicture& picture, const CellOrders& orders, const Quantity& followed,
                              const PathView& view, const PathSources& sources, Progress& progress);

} // namespace pyro
