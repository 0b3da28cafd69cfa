// Statistics: the ways in which many values are told by one number, over a place or over the steps of a case. Each is
// one file here and one line in list.inc; forms, help, checks of the survey and the evaluation go through that
// list.
#pragma once

#include "core/gauge/gauge.h"
#include "core/gauge/gauge_key.h"
#include "core/gauge/values.h"
#include "core/readings/history.h"
#include "core/thermal/measure_request.h"

#include <array>
#include <span>

namespace pyro {

// What a history tells, in `unit`.
struct HistoryValue {
    double value;
    std::string unit;
    bool isTemperature = false;
    std::optional<std::size_t> step = {}; // of an extreme: position in the history
};

struct StatisticKind {
    std::string_view name;                            // in the file
    std::string_view meaning;                         // one line for people
    bool (*matches)(std::string_view name) = nullptr; // of a family, as p0 to p100; null: by its name alone
    std::array<std::string_view, 3> offered = {};     // what lists offer, where that is not the name

    // Over a place, of values that are there and finite. Null: told by other means below, or not over a place.
    // `name` as it was asked for.
    Result<Statistic> (*ofValues)(const Values& values, const Accumulator& sums, std::string_view name) = nullptr;
    bool needsExtent = false; // weights that sum up to something
    bool anyValues = false;   // also those that are not finite, or none at all
    // Over a place, where it needs more than its values.
    Result<Measured> (*ofSite)(const MeasureRequest& request, const Values& values) = nullptr;
    // Over a place, of a stored quantity that it reads itself.
    Result<Measured> (*ofQuantity)(const MeasureRequest& request) = nullptr;
    bool addsUp = false; // over surfaces and parts: told for the whole of which the case is a part

    // Over the steps (key "over"), of a history of two steps and more without gaps. Null: not known there.
    Result<HistoryValue> (*ofHistory)(const History& history) = nullptr;
    // A time that the history tells, s; of one with times. Null: it tells none.
    Result<double> (*time)(const Gauge& gauge, const History& history) = nullptr;

    std::array<std::string_view, 3> keys = {}; // of a gauge, that it reads
    std::span<const GaugeKey> ownKeys = {};    // described here; MeasureRequest::options holds what they say
    bool listed = true;                        // whether lists offer it

    bool reads(std::string_view key) const;
    // One number of one step, so that its history can be told further (key "space").
    bool inSpace() const { return ofValues != nullptr && !anyValues ? true : ofSite != nullptr; }
};

#define STATISTIC(name) extern const StatisticKind name##Statistic;
#include "core/statistics/list.inc"
#undef STATISTIC

std::span<const StatisticKind* const> statisticKinds();
// Null for a name that is none of them.
const StatisticKind* statisticKind(std::string_view name);
// Whether this statistic tells a time from all steps of a case.
bool tellsTime(std::string_view statistic);

// Errors: NotSupported for another name and for values that are not finite, with how many and where; NoCells where
// there is no weight to average over.
Result<Statistic> statisticOf(const Values& values, const std::string& name);

} // namespace pyro
