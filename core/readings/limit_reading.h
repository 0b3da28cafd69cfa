// A limit judged: what was found, what is allowed, and the verdict.
#pragma once

#include "core/gauge/support.h"
#include "core/readings/limit_target.h"
#include "core/readings/verdict.h"

#include <optional>
#include <string>
#include <vector>

namespace pyro {

struct LimitForm; // core/limits/limit_form.h

struct LimitReading {
    LimitTarget target;
    const LimitForm* form = nullptr; // never null in what is judged
    std::string kind;
    std::optional<double> value;  // SI: kelvin for parts and boundaries
    std::optional<double> limit;  // the bound that decides
    std::optional<double> margin; // positive: below a maximum, above a minimum
    // as a share of what is required or allowed; by it limits of several units are ordered
    std::optional<double> relativeMargin = {};
    double required = 0;
    bool isMaximum = true;
    std::string unit = "K";
    bool isTemperature = true; // value and limit, which are then converted with their offset; margins never are
    Verdict verdict = Verdict::Unknown;
    std::optional<Place> place;
    std::string why; // set when the verdict is unknown
    std::string source;
    std::optional<double> ambient = {}; // K, that a rise is told above
    // Of several meshes: how far the value may be off, as the margin; and whether the verdict is tight for that alone.
    std::optional<double> uncertainty = {};
    bool tightByMesh = false;
    // Of the worst step when several were judged:
    std::optional<int> step = {};
    std::optional<double> time = {};         // s, of that step
    std::optional<double> firstOver = {};    // s, when the limit is first exceeded; linear between steps
    std::optional<double> durationOver = {}; // s, of all spans over the limit
};

// Of all of them together; Unknown when there are none.
Verdict verdictOf(const std::vector<LimitReading>& limits);

// Whether the first is the worse of two readings of one limit: by verdict, then by the smaller relative margin.
bool isWorse(const LimitReading& a, const LimitReading& b);

// Positions in `limits`: over, unknown, tight, within; in each the smallest relative margin first.
std::vector<std::size_t> byMargin(const std::vector<LimitReading>& limits);

} // namespace pyro
