#include "core/case/case.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

Region regionFromStore(const ArrayFile& store, const nlohmann::json& entry, const std::string& key) {
    Region region;
    region.name = entry.at("name").get<std::string>();
    region.dimension = entry.at("dimension").get<int>();
    region.fileCells = entry.at("file_cells").get<std::uint64_t>();
    region.fileNodes = entry.at("file_nodes").get<std::uint64_t>();
    if (entry.contains("lattice"))
        region.lattice = entry["lattice"].get<std::array<std::size_t, 3>>();
    if (entry.contains("thickness"))
        region.thickness = entry["thickness"].get<double>();
    region.mesh = {store.reals(key + "/points"), store.array<std::uint32_t>(key + "/connectivity"),
                   store.array<std::uint64_t>(key + "/offsets"), store.array<std::uint8_t>(key + "/types"), 0};
    if (region.mesh.offsets.empty() && region.mesh.cells() > 0)
        if (const auto* shape = cellShape(region.mesh.type(0)))
            region.mesh.nodesPerCell = static_cast<std::size_t>(shape->nodes);
    if (entry.value("curved", false)) {
        region.extent = store.array<double>(key + "/extent");
        region.share = store.array<double>(key + "/share");
        region.parentOf = store.array<std::uint32_t>(key + "/parent");
    }
    for (const auto& array : entry.at("arrays")) {
        const auto on = array.at("on") == "node" ? Location::Node : Location::Cell;
        const auto name = array.at("name").get<std::string>();
        const auto bound = [&](const char* which) {
            return array.at(which).is_number() ? array.at(which).get<double>() : std::nan("");
        };
        region.arrays.push_back({name, on, array.at("components").get<int>(),
                                 store.reals(fmt::format("{}/{}/{}", key, locationName(on), name)), bound("min"),
                                 bound("max"), array.at("not_finite").get<std::uint64_t>()});
    }
    return region;
}

std::optional<std::size_t> named(const std::vector<Region>& regions, std::string_view name) {
    const auto found = std::ranges::find(regions, name, &Region::name);
    if (found == regions.end())
        return std::nullopt;
    return static_cast<std::size_t>(found - regions.begin());
}

} // namespace

std::string_view locationName(Location on) { return on == Location::Node ? "node" : "cell"; }

Point Mesh::cellCentre(std::size_t at) const {
    const auto* shape = cellShape(type(at));
    const auto all = cell(at);
    const std::size_t corners = shape != nullptr && shape->corners > 0 ? static_cast<std::size_t>(shape->corners)
                                                                       : all.size();
    Point centre{};
    for (const auto id : all.first(corners))
        for (int axis = 0; axis < 3; ++axis)
            centre[axis] += coordinates[3 * std::size_t{id} + axis];
    for (auto& value : centre)
        value /= static_cast<double>(corners);
    return centre;
}

const StoredArray* Region::find(std::string_view arrayName, Location on) const {
    const auto found = std::ranges::find_if(
        arrays, [&](const StoredArray& array) { return array.name == arrayName && array.on == on; });
    return found == arrays.end() ? joined.find(*this, arrayName, on) : &*found;
}

std::optional<std::size_t> Case::partNamed(std::string_view name) const { return named(parts, name); }

std::optional<std::size_t> PlaneCase::axis() const {
    const auto found = std::ranges::find(normal, 1.0);
    return found == normal.end() ? std::nullopt : std::optional(static_cast<std::size_t>(found - normal.begin()));
}

Case::Extent Case::extentOf(const Region& region, double size) const {
    return plane ? Extent{size / plane->depth, region.dimension - 1} : Extent{size, region.dimension};
}

std::uint64_t Case::nodesOf(const Region& region) const {
    if (region.fileNodes > 0 || !plane)
        return region.fileNodes > 0 ? region.fileNodes : region.mesh.nodes();
    std::vector<double> height;
    for (std::size_t node = 0; node < region.mesh.nodes(); ++node) {
        const auto at = region.mesh.node(node);
        height.push_back(at[0] * plane->normal[0] + at[1] * plane->normal[1] + at[2] * plane->normal[2]);
    }
    const double low = height.empty() ? 0 : *std::ranges::min_element(height);
    return static_cast<std::uint64_t>(
        std::ranges::count_if(height, [&](double one) { return one < low + 1e-3 * plane->depth; }));
}

std::size_t Case::passable() const {
    const auto named = static_cast<std::size_t>(
        std::ranges::count_if(boundaries, [](const Region& boundary) { return !boundary.patchOf; }));
    return named > 0 ? named : boundaries.size();
}

std::optional<std::size_t> Case::boundaryNamed(std::string_view name) const { return named(boundaries, name); }

Result<std::shared_ptr<const Case>> caseFromStore(std::shared_ptr<const ArrayFile> store) {
    const auto& meta = store->meta();
    if (meta.value("version", 0) != storeVersion)
        return fail(ErrorCode::WrongVersion, "the store has another version");
    auto loaded = std::make_shared<Case>();
    loaded->file = meta.at("file").get<std::string>();
    for (std::size_t i = 0; i < meta.at("parts").size(); ++i)
        loaded->parts.push_back(regionFromStore(*store, meta["parts"][i], "part/" + std::to_string(i)));
    for (std::size_t i = 0; i < meta.at("boundaries").size(); ++i)
        loaded->boundaries.push_back(regionFromStore(*store, meta["boundaries"][i], "boundary/" + std::to_string(i)));
    if (meta.contains("lone"))
        loaded->lone = LoneGrid{meta["lone"]["by"].get<std::string>(),
                                meta["lone"]["could_be"].get<std::vector<std::string>>()};
    if (meta.contains("monitored")) {
        auto& monitored = loaded->monitored.emplace();
        const auto numbers = [&](const std::string& name) {
            const auto stored = store->array<double>(name);
            return std::vector<double>(stored.begin(), stored.end());
        };
        monitored.times = numbers("monitored/times");
        for (std::size_t i = 0; i < meta["monitored"].size(); ++i)
            monitored.columns.emplace_back(meta["monitored"][i].get<std::string>(),
                                           numbers("monitored/" + std::to_string(i)));
    }
    if (meta.contains("plane"))
        loaded->plane = PlaneCase{meta["plane"]["normal"].get<Point>(), meta["plane"]["depth"].get<double>(),
                                  meta["plane"]["given"].get<bool>()};
    if (meta.contains("time"))
        loaded->time = meta["time"].get<double>();
    for (const auto& remark : meta.at("remarks"))
        loaded->remarks.push_back({static_cast<Severity>(remark.at("severity").get<int>()),
                                   remark.at("code").get<std::string>(), remark.at("text").get<std::string>(),
                                   remark.at("where").get<std::string>()});
    loaded->store = std::move(store);
    return loaded;
}

} // namespace pyro
