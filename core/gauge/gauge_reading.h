// What one gauge tells on one step of a case.
#pragma once

#include "core/gauge/derivation.h"
#include "core/gauge/support.h"

#include <memory>

namespace pyro {

// A gauge along a line. All lists have the same length.
struct Profile {
    std::vector<double> s;     // metres from the start
    std::vector<double> value; // in the reading's unit; NaN in gaps
    std::vector<Point> at;
    std::vector<std::size_t> part; // position in Case::parts; noPart in gaps
    double share = 0;              // of the length inside the mesh
    static constexpr std::size_t noPart = ~std::size_t{0};
};

struct GaugeReading {
    std::string id;
    std::optional<double> value; // in `unit`
    std::string unit;
    std::optional<Place> place = {};          // of an extreme or a point
    std::string why = {};                     // set when there is no value
    bool isTemperature = false;               // on a scale with an offset, not a difference
    std::string method = {};                  // of heat: "stored", "conservative", "film" or "gradient"
    std::optional<double> gradientValue = {}; // the plain gradient's, beside a conservative value
    // of a plain gradient at a wall: how far the second layer of cells is from the first, in `unit`
    std::optional<double> spread = {};
    std::optional<double> outside = {}; // share of the support that lies outside of the mesh
    std::optional<double> covered = {}; // of a difference of two cases: share of the place that lies in both
    std::string reference = {};         // temperature that the value refers to, written out
    std::string lacking = {}; // parts on a line that do not have the quantity: "no velocity in plate"; a gap there
    std::shared_ptr<const Profile> profile = {};
    std::shared_ptr<const Derivation> derivation = {}; // of transmittances

    bool read() const { return value.has_value() || profile != nullptr; }
};

} // namespace pyro
