// Hotspots: peaks of a stored quantity, where they stand out and how large they are.
#include "core/field/face_lookup.h"
#include "core/field/interface_faces.h"
#include "core/field/peaks.h"
#include "core/statistics/statistic_kind.h"
#include "core/thermal/minus.h"
#include "core/thermal/site_values.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <map>
#include <numbers>

namespace pyro {
namespace {

constexpr double shareOfRange = 0.05; // least prominence unless the gauge says otherwise, against the range
constexpr std::size_t mostSpots = 200;
constexpr std::size_t mostWithFlux = 20; // of one part: every one is looked for in all its cells

// Nodes of faces that coincide, of the parts that are looked at; `number`: of each part of the case in the list.
std::vector<PeakJoin> joinsOf(const Case& solved, std::span<const ShellView> shells,
                              const std::vector<std::uint32_t>& number) {
    std::vector<PeakJoin> joins;
    const auto twins = twinFaces(solved, shells);
    for (std::uint32_t part = 0; part < shells.size(); ++part) {
        if (number[part] == noNumber)
            continue;
        const auto& mesh = solved.parts[part].mesh;
        for (std::uint32_t face = 0; face < shells[part].faces(); ++face) {
            const auto& twin = twins[part][face];
            if (twin.part == ~0U || twin.part < part || number[twin.part] == noNumber)
                continue;
            const auto& other = solved.parts[twin.part].mesh;
            const auto first = shells[twin.part].offsets[twin.face];
            const auto there = shells[twin.part].nodes.subspan(
                first, shells[twin.part].offsets[twin.face + twin.count] - first);
            for (const auto node : shells[part].face(face)) {
                const auto at = mesh.node(node);
                const auto nearest = *std::ranges::min_element(
                    there, {}, [&](std::uint32_t id) { return squaredDistance(at, other.node(id)); });
                joins.push_back({PeakVertex{number[part], node}, PeakVertex{number[twin.part], nearest}});
            }
        }
    }
    return joins;
}

// The source where each spot lies, and the largest heat flux within a ball of the size of the spot's region, of the
// spots in one part. What the case does not tell stays open.
void addHeat(const PartFields& fields, std::size_t part, const std::vector<std::size_t>& vertices,
             std::vector<Spot*>& spots) {
    const auto& mesh = fields.solved().parts[part].mesh;
    const auto source = fields.field(part, "heat_source");
    const auto flux = fields.field(part, "heat_flux", Location::Cell);
    const bool fluxKnown = flux && !flux->isConstant() && flux->components == 3 && flux->on == Location::Cell;
    // spots on nodes, whose source is told by the cells around
    std::map<std::uint32_t, std::vector<std::size_t>> atNode;
    for (std::size_t i = 0; i < spots.size(); ++i) {
        if (!source)
            continue;
        if (source->isConstant() || source->on == spots[i]->on)
            spots[i]->source = source->at(vertices[i]);
        else if (spots[i]->on == Location::Node)
            atNode[static_cast<std::uint32_t>(vertices[i])].push_back(i);
    }
    if (!fluxKnown && atNode.empty())
        return;
    std::vector<double> reach;
    reach.reserve(spots.size());
    for (const auto* spot : spots)
        reach.push_back(std::pow(std::cbrt(spot->size * 3 / (4 * std::numbers::pi)), 2));
    for (std::size_t cell = 0; cell < mesh.cells(); ++cell) {
        if (!atNode.empty())
            for (const auto node : mesh.cell(cell))
                if (const auto found = atNode.find(node); found != atNode.end())
                    for (const auto i : found->second)
                        spots[i]->source = std::max(spots[i]->source.value_or(source->at(cell)), source->at(cell));
        if (!fluxKnown)
            continue;
        const auto centre = mesh.cellCentre(cell);
        for (std::size_t i = 0; i < std::min(spots.size(), mostWithFlux); ++i)
            if (squaredDistance(centre, spots[i]->at) <= reach[i])
                spots[i]->flux = std::max(spots[i]->flux.value_or(0),
                                          std::hypot(flux->at(cell, 0), flux->at(cell, 1), flux->at(cell, 2)));
    }
}

Point placeOfPeak(const PeakPart& part, std::uint32_t number) {
    return part.on == Location::Node ? part.mesh->node(number) : part.mesh->cellCentre(number);
}

// The values whose peaks are looked for, per part that has some.
struct SpotField {
    std::vector<PeakPart> parts;
    std::vector<std::size_t> which; // position in the case, per part
    std::vector<std::span<const double>> share;
    std::vector<std::vector<double>> made; // of a difference
    Location on = Location::Node;
    Affine toSi;
    std::string siUnit;
    bool isTemperature = false;
    std::array<double, 2> range{}; // SI
    std::optional<double> covered; // of a difference

    void add(const PartFields& fields, std::size_t part, RealView values) {
        const auto& index = fields.index().parts[part];
        parts.push_back({&fields.solved().parts[part].mesh, values, on});
        which.push_back(part);
        share.push_back(on == Location::Node ? index.nodeShare : index.cellMeasure);
    }
};

Result<SpotField> storedField(const MeasureRequest& request, const Quantity& quantity) {
    SpotField out;
    out.on = quantity.on;
    out.toSi = quantity.toSi;
    out.siUnit = quantity.siUnit;
    out.isTemperature = kindOf(request.fields().quantities(), request.gauge.quantity)->isTemperature;
    for (const auto part : request.site.regions.regions)
        if (const auto* array = request.fields().solved().parts[part].find(quantity.array, quantity.on))
            out.add(request.fields(), part, array->values);
    if (out.parts.empty())
        return fail(ErrorCode::NameUnknown, fmt::format("none of these parts has \"{}\"", quantity.array));
    out.range = storedRange(request.fields().solved(), out.which, quantity);
    return out;
}

// Less the field of another case, where it has one.
Result<SpotField> differenceField(const MeasureRequest& request, const Quantity& quantity) {
    auto values = valuesAt(request.site, request.fields(), quantity.name, Component::Natural);
    if (!values)
        return tl::unexpected(values.error());
    auto rest = lessOther(request, std::move(*values), quantity.name, Component::Natural, true);
    if (!rest)
        return tl::unexpected(rest.error());
    SpotField out;
    out.on = quantity.on;
    out.siUnit = quantity.siUnit;
    out.covered = rest->covered;
    out.made.reserve(rest->values.pieces.size());
    out.range = {std::numeric_limits<double>::max(), std::numeric_limits<double>::lowest()};
    for (auto& piece : rest->values.pieces) {
        if (piece.own.empty())
            continue;
        const auto& kept = out.made.emplace_back(std::move(piece.own));
        out.add(request.fields(), piece.placeOf(0).region, RealView(std::span<const double>(kept)));
        for (const double one : kept)
            if (std::isfinite(one))
                out.range = {std::min(out.range[0], one), std::max(out.range[1], one)};
    }
    return out;
}

Result<Measured> measureHotspots(const MeasureRequest& request) {
    const auto& fields = request.fields();
    const auto& solved = fields.solved();
    if (request.site.kind != SiteKind::Volume || request.site.regions.boundaries)
        return fail(ErrorCode::NotSupported, "hotspots are those of parts", {}, "Choose parts, or all of them");
    const auto* quantity = fields.quantities().named(request.gauge.quantity);
    if (quantity == nullptr || quantity->components != 1)
        return fail(
            ErrorCode::NotSupported,
            fmt::format("hotspots need a stored quantity of one component; \"{}\" is none", request.gauge.quantity));
    const auto found = request.minus != nullptr ? differenceField(request, *quantity) : storedField(request, *quantity);
    if (!found)
        return tl::unexpected(found.error());
    const auto& [parts, which, share, made, on, toSi, siUnit, isTemperature, range, covered] = *found;
    std::vector<std::uint32_t> number(solved.parts.size(), noNumber);
    for (std::size_t i = 0; i < which.size(); ++i)
        number[which[i]] = static_cast<std::uint32_t>(i);
    const auto joins = on == Location::Node && parts.size() > 1 ? joinsOf(solved, fields.index().shells->parts, number)
                                                                : std::vector<PeakJoin>();
    const double scale = std::abs(toSi.scale);
    const double least = request.options.number("prominence").value_or(shareOfRange * (range[1] - range[0]));
    const double drop = request.options.number("drop").value_or(least);
    if (!(least >= 0) || !(drop >= 0))
        return fail(ErrorCode::WrongType, "prominence and drop must not be negative");
    const PeakField field(parts, joins, request.options.flag("cold") ? -1 : 1);
    auto peaks = field.peaks(std::max(least / scale, std::numeric_limits<double>::min()));
    const auto count = peaks.size();
    if (peaks.size() > mostSpots)
        peaks.resize(mostSpots);
    const auto centres = field.centres(peaks);
    const auto sizes = field.regionSizes(peaks, drop / scale, share);
    Derivation derivation;
    for (std::size_t i = 0; i < peaks.size(); ++i) {
        const auto& peak = peaks[i];
        Spot spot{toSi(peak.value),
                  placeOfPeak(parts[centres[i].part], centres[i].number),
                  on,
                  which[centres[i].part],
                  scale * peak.prominence,
                  {},
                  sizes[i],
                  {}};
        if (peak.saddle)
            spot.saddle = placeOfPeak(parts[peak.saddle->part], peak.saddle->number);
        derivation.spots.push_back(spot);
    }
    for (const auto part :
         quantity->name == "temperature" && request.minus == nullptr ? which : std::vector<std::size_t>()) {
        std::vector<std::size_t> vertices;
        std::vector<Spot*> own;
        for (std::size_t i = 0; i < peaks.size(); ++i)
            if (derivation.spots[i].part == part) {
                own.push_back(&derivation.spots[i]);
                vertices.push_back(centres[i].number);
            }
        if (!own.empty())
            addHeat(fields, part, vertices, own);
    }
    for (auto& spot : derivation.spots)
        for (const auto& other : derivation.spots)
            if (&other != &spot)
                spot.nearest = std::min(spot.nearest.value_or(std::numeric_limits<double>::max()),
                                        std::sqrt(squaredDistance(spot.at, other.at)));
    if (derivation.spots.empty())
        return fail(ErrorCode::NotSupported,
                    fmt::format("nothing stands out of its surroundings by {:.4g} {}", least, siUnit), {},
                    "Lower the key \"prominence\"");
    const auto& first = derivation.spots.front();
    Measured out{first.value, siUnit, isTemperature};
    out.place = Place{first.at, first.on, centres[0].number, first.part};
    out.reference = fmt::format(
        "{} of a prominence of at least {:.4g} {}{}", count, least, siUnit,
        field.leftOut() > 0 ? fmt::format("; {} values are not finite and left out", field.leftOut()) : std::string());
    out.covered = covered;
    if (request.minus != nullptr)
        out.reference = request.minus->caseName + "; " + out.reference;
    out.derivation = std::make_shared<const Derivation>(std::move(derivation));
    return out;
}

constexpr GaugeKey ownKeys[]{
    {.key = "prominence",
     .kind = GaugeKeyKind::Value,
     .meaning = "least, of hotspots, as a difference",
     .typedIn = TypedIn::QuantityDifference,
     .label = "Prominence",
     .tip = "At least, with its unit: 3 K; empty: 5 % of the range"},
    {.key = "drop",
     .kind = GaugeKeyKind::Value,
     .meaning = "how far below a hotspot its region reaches, as a difference",
     .also = "extent_down_to",
     .typedIn = TypedIn::QuantityDifference,
     .label = "Extent down to",
     .tip = "How far below each hotspot its region reaches: 3 K"},
    {.key = "cold", .kind = GaugeKeyKind::Flag, .meaning = "minima instead of maxima"},
};

} // namespace

constexpr StatisticKind hotspotsStatistic{
    .name = "hotspots",
    .meaning = "local maxima that stand out of their surroundings; the value is that of the first",
    .ofQuantity = measureHotspots,
    .ownKeys = ownKeys,
};

} // namespace pyro
