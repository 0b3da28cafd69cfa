// What a step tells at the places of measured data.
#pragma once

#include "core/compare/measured.h"
#include "core/evaluate/evaluate.h"
#include "core/thermal/part_fields.h"

namespace pyro {

// The tables of measured data that speak of this case, read from their files beside the survey.
std::vector<std::shared_ptr<const MeasuredTable>> measuredTablesOf(const Survey& survey, const CaseEntry& entry,
                                                                   const std::filesystem::path& folder);

// A place beside the mesh is read at the nearest one of a surface, as far as `within` (nothing: a hundredth of the
// largest side of a part) allows.
Probes probe(const std::shared_ptr<const MeasuredTable>& table, const std::optional<double>& within,
             const PartFields& fields, const std::vector<GaugeReading>& gauges);

} // namespace pyro
