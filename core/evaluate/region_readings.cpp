#include "core/evaluate/region_readings.h"

#include "core/gauge/support.h"
#include "core/units/display.h"

#include <algorithm>

namespace pyro {

std::vector<RegionValue> readRegions(const OpenedCase& opened, const Quantity& quantity, Component component,
                                     Progress& progress) {
    std::vector<RegionValue> all;
    const auto& solved = *opened.solved;
    for (const bool boundary : {false, true}) {
        const auto& regions = boundary ? solved.boundaries : solved.parts;
        for (std::size_t at = 0; at < regions.size() && !progress.cancelled(); ++at) {
            RegionValue out{regions[at].name, boundary, {}, {}, {}, {}, {}, {}};
            const Support support{boundary, {at}};
            const auto reading = read(solved, *opened.index, support, quantity, component);
            const auto told = reading ? allFinite(solved, support, *reading) : Done(tl::unexpected(reading.error()));
            if (!told)
                out.why = told.error().what;
            else {
                out.min = reading->min();
                out.max = reading->max();
                if (reading->sums.extent() > 0)
                    out.mean = reading->mean();
                out.highest = placeOf(solved, support, reading->on, reading->sums.max());
                out.lowest = placeOf(solved, support, reading->on, reading->sums.min());
            }
            all.push_back(std::move(out));
        }
    }
    return all;
}

std::string extentText(const Case& solved, const Region& region, double size) {
    const auto extent = solved.extentOf(region, size);
    return formatExtent(extent.value, std::max(extent.dimension, 1));
}

} // namespace pyro
