// Quantities that a gauge can be of, beside those that a case stores. Each is described in one file here, with a line
// in list.inc: forms, completion, help, units, names of gauges and the evaluation go through that list.
#pragma once

#include "core/envelope/transmittance.h"
#include "core/gauge/gauge_key.h"
#include "core/thermal/measure_request.h"

#include <array>
#include <span>

namespace pyro {

enum class QuantityGroup { Heat, Film, Flow, Extents, Envelope }; // in the order in which lists show them
enum class PlaceNeed { Any, Surface, Part, Line, Wall };          // Wall: a boundary, or a line on one

// A gauge of the envelope to begin with, for menus.
struct GaugeBeginning {
    std::string_view title;
    Json keys;
};

struct GaugeQuantity {
    std::string_view name;
    std::string_view siUnit;
    std::string_view meaning;             // one line for people
    std::string_view symbol = {};         // that names of its gauges begin with; empty: its name
    std::string_view integralSymbol = {}; // of its integral, where that has one of its own
    QuantityGroup group = QuantityGroup::Heat;
    PlaceNeed place = PlaceNeed::Any;
    std::string_view field = {};                     // stored quantity that it needs
    std::array<std::string_view, 5> keys = {};       // of a gauge, that it reads
    std::array<std::string_view, 5> statistics = {}; // its own, the first by default; none: the common ones
    std::span<const GaugeKey> ownKeys = {};          // described here; MeasureRequest::options holds what they say
    std::string_view levelOf = {};                   // quantity that its level is one of; empty: its own
    bool addsUp = false;   // told for the whole of which the case is a part; of the envelope where it is in W/K
    bool byFacets = false; // read on the facets of a surface also where it is stored

    // On a place. Null: a field, read as stored or derived (see PartFields).
    Result<Measured> (*measure)(const MeasureRequest& request) = nullptr;

    // Of the envelope, told between environments and not on a place.
    Result<Measured> (*measureEnvelope)(const Gauge& gauge, const EnvelopeTools& tools) = nullptr;
    bool betweenSides = false;    // it names a warm and a cold side
    bool choosesStatistic = true; // whether a statistic makes a difference
    std::vector<GaugeBeginning> (*beginnings)() = nullptr;

    bool reads(std::string_view key) const;
};

#define QUANTITY(name) extern const GaugeQuantity name##Quantity;
#include "core/quantities/list.inc"
#undef QUANTITY

std::span<const GaugeQuantity* const> gaugeQuantities();
// Null for a name that is none of them.
const GaugeQuantity* gaugeQuantity(std::string_view name);
// Whether it is told between environments: the gauge then has no place, or {"environments": [inside, outside]}, each a
// boundary or a list of boundaries of one temperature.
bool isEnvelopeQuantity(std::string_view quantity);

// Of a quantity that is described here or known by name; empty: it is the solver's own.
std::string_view siUnitOf(std::string_view quantity);
// As formulas and names of gauges write it: T, q, h, Nu ...; its name where it has none.
std::string_view symbolOf(std::string_view quantity, std::string_view statistic);
// The quantity that a level of this one is given in.
std::string_view levelQuantity(std::string_view quantity);

// What a gauge without a formula tells. Errors: one sentence why it cannot be read.
Result<Measured> measure(const MeasureRequest& request);

} // namespace pyro
