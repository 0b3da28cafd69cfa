#include "cli/inspect.h"

#include "cli/output.h"
#include "core/report/readings_json.h"

#include <fmt/ostream.h>

namespace pyro::cli {
namespace {

void listRegions(const Json& regions, const char* title, const char* unit, std::ostream& out) {
    fmt::print(out, "\n{:<28} {:>10} {:>10} {:>14}\n", title, "cells", "nodes", "size");
    for (const auto& region : regions)
        fmt::print(out, "{:<28} {:>10} {:>10} {:>11.4g} {}\n", region["name"].get<std::string>(),
                   region["cells"].get<std::uint64_t>(), region["nodes"].get<std::uint64_t>(),
                   region["size"].get<double>(),
                   region.contains("dimension") && region["dimension"] == 2 ? "m2" : unit);
}

void listQuantities(const QuantityList& list, std::ostream& out) {
    fmt::print(out, "\n{:<20} {:<20} {:>4} {:>12} {:>12}  {}\n", "quantity", "array", "on", "min", "max", "unit");
    for (const auto& quantity : list.quantities)
        fmt::print(out, "{:<20} {:<20} {:>4} {:>12.6g} {:>12.6g}  {}\n", quantity.name, quantity.array,
                   locationName(quantity.on), quantity.min, quantity.max,
                   quantity.siUnit.empty() ? "unit unknown" : quantity.siUnit);
}

} // namespace

int inspect(const InspectWords& words, std::ostream& out, std::ostream& err) {
    NoProgress progress;
    const auto series = seriesOf(words.file, std::nullopt, {}, progress);
    if (!series)
        return complain(series.error(), err);
    const auto opened = openStep(series->steps.back(), nullptr, {}, progress);
    if (!opened)
        return complain(opened.error(), err);
    const auto quantities = recognise(*opened->solved, {});
    if (!quantities)
        return complain(quantities.error(), err);
    const auto json = inspectionToJson(*series, *opened, *quantities);
    fmt::print(out, "{}\n", words.file);
    for (const auto& step : json["steps"])
        if (step.contains("time"))
            fmt::print(out, "step {}: t = {} s\n", step["index"].get<int>(), step["time"].get<double>());
    listRegions(json["parts"], "part", "m3", out);
    if (!json["boundaries"].empty())
        listRegions(json["boundaries"], "boundary", opened->solved->plane ? "m" : "m2", out);
    listQuantities(*quantities, out);
    for (const auto* remarks :
         {&series->remarks, &opened->solved->remarks, &opened->index->remarks, &quantities->remarks})
        printRemarks(*remarks, words.file, err);
    return writeJson(json, words.json, out, err);
}

} // namespace pyro::cli
