// Measured data held against a simulation: the table that was written, and the deviations of what is simulated at its
// places and times.
#pragma once

#include "core/compare/grids.h"
#include "core/readings/probes.h"

#include <filesystem>

namespace pyro {

struct MeasuredPlace {
    std::string name;
    std::optional<Point> at; // m; nothing: a gauge
    std::string gauge;
    std::string part; // that it is looked for in; empty: any
    std::string why;  // it cannot be read
    bool operator==(const MeasuredPlace&) const = default;
};
struct MeasuredRow {
    std::size_t place = 0;
    std::optional<double> time;        // s
    std::optional<double> value;       // SI; nothing: see why
    std::optional<double> uncertainty; // SI, as a difference: expanded, k = 2
    std::string why;
};
struct MeasuredPicture {
    std::size_t columns = 0;
    std::size_t rows = 0;
    std::vector<double> values;        // SI; row by row from the upper left; NaN: a gap
    std::optional<double> uncertainty; // SI, as a difference: expanded, k = 2
    std::optional<double> time;        // s
    PictureWish how;
};
struct MeasuredTable {
    std::string id;
    std::string quantity;
    std::string component;
    std::string unit; // of the values, as the table has it; SI where it has none
    std::string siUnit;
    bool isTemperature = false;
    std::vector<MeasuredPlace> places;
    std::vector<MeasuredRow> rows;
    std::shared_ptr<const MeasuredPicture> picture; // instead of places; null: none
    std::vector<std::string> notes;                 // what is taken for granted
    std::string why;                                // set when there is nothing to hold against
};

// `siUnit`: of the quantity on the case. Of a table the columns are name, x, y, z or gauge, value and, as there are,
// uncertainty, time and part, units in brackets; of a logger's time and a column for each sensor, which the wish or a
// gauge of that name places; of a picture the matrix. What cannot be read says why in the table or in its row.
MeasuredTable readMeasured(const MeasuredWish& wish, const std::filesystem::path& file, const std::string& siUnit,
                           std::span<const Gauge> gauges);

struct MeasuredPoint {
    std::string name;
    std::optional<Point> at;
    std::optional<double> distance; // m, between the place given and the nearest one on the mesh that was read
    std::optional<double> time;     // s
    // in the unit of the reading, uncertainties and deviations as differences
    std::optional<double> measured;
    std::optional<double> simulated;
    std::optional<double> deviation;   // simulated minus measured
    std::optional<double> uncertainty; // of the measured value, expanded
    std::optional<double> normalised;  // E_n (ISO/IEC 17043)
    std::string why = {};
};
// The pixels of a picture that see one part; the unit of the reading.
struct MeasuredRegion {
    std::string part;
    std::size_t pixels = 0;
    double measured = 0; // means over the pixels
    double simulated = 0;
    double highestMeasured = 0;
    double highestSimulated = 0;
};
// Row by row from the upper left, in the unit of the reading; NaN where nothing is told.
struct DeviationPicture {
    std::size_t columns = 0;
    std::size_t rows = 0;
    std::vector<float> measured;
    std::vector<float> simulated;
};
struct MeasuredReading {
    std::string id;
    std::string unit;
    std::string differenceUnit;
    bool isTemperature = false;
    // In the order of the table. Of a picture some pixels, evenly over it, and the one with the largest deviation; the
    // figures are over all.
    std::vector<MeasuredPoint> points;
    std::vector<MeasuredRegion> regions; // of a picture, in the order of the case's parts
    std::shared_ptr<const DeviationPicture> picture;
    std::size_t count = 0;      // of deviations
    std::optional<double> mean; // bias
    std::optional<double> rms;
    std::optional<double> largest; // deviation of the largest size
    std::optional<double> within;  // share of those with an uncertainty whose |E_n| is at most 1
    std::vector<std::string> notes;
    std::string why;
};

// `steps`: of one case, in the order of time, each with its probes of this table. A row with a time is held against the
// simulation at that time, linear between two steps; one without against the last. `shift`: of the test's ambient to
// that of the case, K, added to what was measured. `grids`: how far gauges of the case may be off by their mesh.
struct ProbedStep {
    std::optional<double> time;
    const Probes* probes;
};
MeasuredReading deviationsOf(const MeasuredTable& table, std::span<const ProbedStep> steps, double shift,
                             const std::string& caseName, std::span<const GridStudy> grids);

} // namespace pyro
