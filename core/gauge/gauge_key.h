// One further key of a gauge, described: what stands in it and how the editor asks for it.
#pragma once

#include <array>
#include <string_view>

namespace pyro {

// A key beyond those that every gauge has: what stands in it, for the schema, and the word of the window that stands
// for it as well.
enum class GaugeKeyKind {
    Value,            // with its unit
    ValueOrReference, // or another gauge, a bulk, a distance
    Reference,        // the same, also in words ("bulk outlet")
    Word,
    Text,
    Flag,
    Count, // 0 to 9
    List,
    PlaneElements,  // a list, also as "0.34 W/(m2.K) x 1.2 m; ..."
    OtherCase,      // {"case": name}, in the editor the name
    LinearElements, // a list, also as "0.05 W/(m.K) x 3 m; ..."
};
// What a number that is typed without a unit stands for.
enum class TypedIn {
    Nothing,
    Unit,               // the key's
    Temperature,        // the window's
    Quantity,           // the unit of the gauge's quantity
    QuantityDifference, // the same without an offset
};
struct GaugeKey {
    std::string_view key;
    GaugeKeyKind kind;
    std::string_view meaning;
    std::string_view also = {};
    std::array<std::string_view, 5> words = {}; // that a Word may be
    TypedIn typedIn = TypedIn::Nothing;
    std::string_view unit = {};   // UDUNITS
    std::string_view siUnit = {}; // of a key that a quantity or statistic has as its own; empty: a plain number
    // Its field in the editor; without a label it has none.
    std::string_view label = {};
    std::string_view tip = {};
    // What leaving it out is called where there is a choice; "{extent}" becomes area, volume or length. Empty: the
    // first word is then shown.
    std::string_view unsaid = {};
    bool ofMeans = false;                       // of means over scalars, whatever quantity and statistic say
    std::array<std::string_view, 5> shown = {}; // the words that are offered, as they read; none: all as they are

    bool isInUnitOfQuantity() const { return typedIn == TypedIn::Quantity || typedIn == TypedIn::QuantityDifference; }
    bool isElements() const { return kind == GaugeKeyKind::PlaneElements || kind == GaugeKeyKind::LinearElements; }
};

} // namespace pyro
