// The tables of the document's structs: which key stands for which member, its unit and its meaning. Reading, writing
// and docs/survey.schema.json follow them.
#pragma once

#include "core/survey/field_table.h"
#include "core/survey/survey.h"

namespace pyro {

template <>
std::span<const KeyRow<PartNote>> rowsOf<PartNote>();
template <>
std::span<const KeyRow<BoundaryNote>> rowsOf<BoundaryNote>();
template <>
std::span<const KeyRow<Material>> rowsOf<Material>();
template <>
std::span<const KeyRow<EstimateWish>> rowsOf<EstimateWish>();
template <>
std::span<const KeyRow<ReportSettings>> rowsOf<ReportSettings>();
template <>
std::span<const KeyRow<CaseEntry>> rowsOf<CaseEntry>();
template <>
std::span<const KeyRow<Gauge>> rowsOf<Gauge>();
template <>
std::span<const KeyRow<Limit>> rowsOf<Limit>();

template <>
struct KeyValue<QuantityChoice> {
    static void read(const Json& json, const ReadPlace& place, QuantityChoice& into);
    static Json write(const QuantityChoice& choice);
    static Json schema();
};

template <>
struct KeyValue<CaseSplit> {
    static void read(const Json& json, const ReadPlace& place, CaseSplit& into);
    static Json schema();
};

template <>
struct KeyValue<Limit> {
    static void read(const Json& json, const ReadPlace& place, Limit& into);
    static Json write(const Limit& limit);
    static Json schema();
};

template <>
struct KeyValue<Gauge> {
    static void read(const Json& json, const ReadPlace& place, Gauge& into);
    static Json write(const Gauge& gauge);
    static Json schema();
};

// Where a gauge measures: the shapes that core/gauge/where_shape.h reads.
Json whereSchema();

} // namespace pyro
