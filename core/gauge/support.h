// Where a gauge measures: parts or boundaries of a case, and the values of a quantity on them.
#pragma once

#include "core/case/quantity.h"
#include "core/field/case_index.h"
#include "core/gauge/accumulator.h"

namespace pyro {

struct Support {
    bool boundaries = false;
    std::vector<std::size_t> regions; // positions in Case::parts or Case::boundaries
};

enum class Component { Natural, X, Y, Z, Magnitude, Normal };
// "x", "y", "z"; Natural for everything else.
Component componentNamed(std::string_view name);

// The values of a quantity on one region, as stored, before conversion to SI.
struct RegionValues {
    Location on;
    std::vector<double> derived; // components, normal parts, values fetched from the part behind a boundary
    RealView stored;             // used when `derived` is empty
    std::span<const double> weight;

    std::size_t size() const { return derived.empty() ? stored.size() : derived.size(); }
    double operator[](std::size_t at) const { return derived.empty() ? stored[at] : derived[at]; }
};

// Errors: NameUnknown when the region has no such array (nor, for a boundary, the part behind it).
// Component::Natural is the value of a scalar, the magnitude of a vector in a part, its normal part on a boundary.
// A boundary's own arrays win over those of the part behind it.
Result<RegionValues> valuesOn(const Case& solved, const CaseIndex& index, bool onBoundary, std::size_t region,
                              const Quantity& quantity, Component component);

struct Place {
    Point at;
    Location on;
    std::uint64_t number; // node or cell within the region
    std::size_t region;   // position in Case::parts or Case::boundaries
    bool operator==(const Place&) const = default;
};

// Reduction over a whole support, in SI: extremes and means are converted, the integral keeps the extent's unit.
struct SupportReading {
    Accumulator sums; // stored values
    Affine toSi;
    Location on;

    double mean() const { return toSi(sums.mean()); }
    double min() const { return toSi(sums.min().value); }
    double max() const { return toSi(sums.max().value); }
    double integral() const { return toSi.scale * sums.integral() + toSi.offset * sums.extent(); }
};
Result<SupportReading> read(const Case& solved, const CaseIndex& index, const Support& support,
                            const Quantity& quantity, Component component = Component::Natural);

// Whether a statistic over these values can be told. Errors: NotSupported, with how many are not finite and where the
// first lies.
Done allFinite(const Case& solved, const Support& support, const SupportReading& reading);

// The coordinates of an extreme.
Place placeOf(const Case& solved, const Support& support, Location on, const Extremum& extremum);

} // namespace pyro
