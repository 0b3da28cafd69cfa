// Hotspots followed over the steps of a case: when each is born, how it moves, when it goes.
#pragma once

#include "core/readings/readings.h"

#include <span>

namespace pyro {

struct SpotTrack {
    std::size_t part = 0; // position in Case::parts
    std::string partName;
    std::vector<int> steps;     // rising, without gaps
    std::vector<Point> path;    // m, where it lies at each
    std::vector<double> value;  // in the gauge's unit
    std::optional<double> born; // s, of the first step where it stands out
    std::optional<double> gone; // s, of the step where it no longer does; nothing while it lasts to the end
    std::size_t hottest = 0;    // position of the highest value
    double moved = 0;           // m, from first to last place
};

// Of the gauge at this position in every step's readings. A spot continues the one of the step before that lies nearest
// to it in the same part, each taken once and no further than a quarter of the part's largest extent; else it is born.
// Earlier tracks first.
std::vector<SpotTrack> spotTracks(std::size_t gauge, const std::vector<Readings>& steps,
                                  std::span<const double> partExtent);

} // namespace pyro
