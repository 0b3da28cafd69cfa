// Stored and derived quantities read on a site.
#pragma once

#include "core/gauge/site.h"
#include "core/gauge/values.h"
#include "core/thermal/part_fields.h"

namespace pyro {

// One number per place; NaN outside of the mesh. Components::Normal takes the place's normal. SI.
// Errors: the part that lacks the quantity.
Result<std::vector<double>> readAt(const Places& places, const PartFields& fields, const std::string& quantity,
                                   Component component);

// Per facet of a surface site, SI; on boundaries their own arrays win.
Result<std::vector<double>> readFacets(const Site& site, const PartFields& fields, const std::string& quantity,
                                       Component component);

// The values that a statistic of a quantity runs over: stored ones where they are stored, on nodes or cells, else at
// the site's own places. Errors: as above; NotSupported for a component that the site does not have.
Result<Values> valuesAt(const Site& site, const PartFields& fields, const std::string& quantity, Component component);

// Numbers per facet of a site as values weighted by area; facets outside of the mesh are left out. The site must
// outlive them.
Values facetValues(const Site& site, const std::vector<double>& numbers);

} // namespace pyro
