#include "core/evaluate/probe_places.h"

#include "core/field/nearest_place.h"
#include "core/field/seen_pixels.h"
#include "core/quantities/gauge_quantity.h"
#include "core/survey/survey_file.h"
#include "core/thermal/site_values.h"
#include "core/units/millimetres.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace pyro {
namespace {

struct Nearest {
    double distance = std::numeric_limits<double>::infinity(); // m
    Point at{};
    std::uint32_t part = noNumber;
    std::uint32_t cell = 0;
    std::array<std::uint32_t, 3> nodes{};
    Point share{};
};

// `face`: part and cell, three nodes of the part and their weights there.
template <class OnFace>
void addOnFace(Places& places, const Point& at, const OnFace& face) {
    places.at.push_back(at);
    places.weight.push_back(0);
    places.part.push_back(face.part);
    places.cell.push_back(face.cell);
    for (std::size_t i = 0; i < 3; ++i)
        places.addShare(face.nodes[i], face.share[i]);
    places.closePlace();
}

void lookOn(const Case& solved, const CaseIndex& index, std::uint32_t part, const Point& place, Nearest& best) {
    const auto& shell = index.parts[part].shell;
    const auto& mesh = solved.parts[part].mesh;
    for (std::size_t face = 0; face < shell.faces(); ++face) {
        const auto corners = shell.face(face);
        const auto a = mesh.node(corners[0]);
        for (std::size_t i = 1; i + 1 < corners.size(); ++i) {
            const auto b = mesh.node(corners[i]);
            const auto c = mesh.node(corners[i + 1]);
            const auto share = nearestInTriangle(place, a, b, c);
            Point at{};
            for (std::size_t axis = 0; axis < 3; ++axis)
                at[axis] = share[0] * a[axis] + share[1] * b[axis] + share[2] * c[axis];
            const auto way = minus(at, place);
            const double distance = std::sqrt(dot(way, way));
            if (distance < best.distance)
                best = {distance, at, part, shell.cell[face], {corners[0], corners[i], corners[i + 1]}, share};
        }
    }
}

double defaultReach(const Case& solved, const CaseIndex& index) {
    double largest = 0;
    for (std::size_t part = 0; part < solved.parts.size(); ++part) {
        const auto& box = index.parts[part].box;
        largest = std::max({largest, box[1] - box[0], box[3] - box[2], box[5] - box[4]});
    }
    return 0.01 * largest;
}

ProbedPlace valueThere(const Places& places, const PartFields& fields, const MeasuredTable& table) {
    const auto numbers = readAt(places, fields, table.quantity, componentNamed(table.component));
    if (!numbers)
        return {{}, {}, numbers.error().what};
    if (!std::isfinite(numbers->front()))
        return {{}, {}, "the value there is not finite"};
    return {numbers->front(), {}, {}};
}

ProbedPlace probeOne(const MeasuredPlace& place, const MeasuredTable& table, const std::optional<double>& within,
                     const PartFields& fields) {
    const auto& solved = fields.solved();
    const auto& index = fields.index();
    std::vector<std::uint32_t> parts(solved.parts.size());
    std::iota(parts.begin(), parts.end(), 0U);
    if (!place.part.empty()) {
        const auto part = solved.partNamed(place.part);
        if (!part)
            return {{}, {}, fmt::format("there is no part \"{}\"", place.part)};
        parts = {static_cast<std::uint32_t>(*part)};
    }
    const auto inside = placesOfPoints(solved, index, std::span(&*place.at, 1), parts);
    if (inside.part[0] != noNumber)
        return valueThere(inside, fields, table);
    Nearest best;
    for (const auto part : parts)
        lookOn(solved, index, part, *place.at, best);
    const double reach = within.value_or(defaultReach(solved, index));
    if (best.part == noNumber || best.distance > reach)
        return {{},
                {},
                best.part == noNumber
                    ? std::string("the case has no surface")
                    : fmt::format("lies in no part; {}, the nearest, is {:.3g} mm away, {:.3g} mm are allowed",
                                  solved.parts[best.part].name, millimetres(best.distance), millimetres(reach))};
    Places on;
    addOnFace(on, best.at, best);
    auto out = valueThere(on, fields, table);
    out.foundAt = best.at;
    return out;
}

ProbedPlace probeGauge(const MeasuredPlace& place, const MeasuredTable& table,
                       const std::vector<GaugeReading>& gauges) {
    const auto found = std::ranges::find(gauges, place.gauge, &GaugeReading::id);
    if (found == gauges.end())
        return {{}, {}, fmt::format("there is no gauge \"{}\"", place.gauge)};
    if (!found->value)
        return {{}, {}, found->why.empty() ? std::string("a profile, not one value") : found->why};
    const auto toSi = conversion(found->unit, table.siUnit);
    if (!toSi || found->isTemperature != table.isTemperature)
        return {{}, {}, fmt::format("the gauge is in {}, what was measured in {}", found->unit, table.unit)};
    return {(*toSi)(*found->value), {}, {}};
}

// The parts that a picture may see.
Result<std::vector<std::uint32_t>> partsSeen(const PictureWish& how, const PartFields& fields) {
    std::vector<std::uint32_t> parts;
    for (const auto& name : how.parts) {
        const auto part = fields.solved().partNamed(name);
        if (!part)
            return fail(ErrorCode::NameUnknown, fmt::format("there is no part \"{}\"", name));
        parts.push_back(static_cast<std::uint32_t>(*part));
    }
    for (std::size_t part = 0; how.parts.empty() && part < fields.solved().parts.size(); ++part)
        if (!fields.isFluid(part))
            parts.push_back(static_cast<std::uint32_t>(part));
    return parts;
}

Result<ProbedPicture> lookAt(const MeasuredTable& table, const PartFields& fields) {
    const auto& picture = *table.picture;
    std::vector<KnownPixel> known;
    for (const auto& one : picture.how.matched)
        known.push_back({one.pixel[0], one.pixel[1], one.at.at()});
    const auto camera = cameraOf(known, static_cast<double>(picture.columns), static_cast<double>(picture.rows),
                                 picture.how.fieldOfView ? std::optional(picture.how.fieldOfView->si) : std::nullopt);
    if (!camera)
        return tl::unexpected(camera.error());
    const auto parts = partsSeen(picture.how, fields);
    if (!parts)
        return tl::unexpected(parts.error());
    const auto seen = seenPixels(*camera, picture.columns, picture.rows, fields.solved(), fields.index(), *parts);
    ProbedPicture out;
    out.camera = *camera;
    for (const auto& part : fields.solved().parts)
        out.partNames.push_back(part.name);
    Places places;
    for (std::size_t at = 0; at < seen.size(); ++at) {
        const auto& pixel = seen[at];
        out.part.push_back(pixel.part);
        out.depth.push_back(static_cast<float>(pixel.depth));
        if (pixel.part == noNumber)
            continue;
        addOnFace(places,
                  camera->place(static_cast<double>(at % picture.columns) + 0.5,
                                static_cast<double>(at / picture.columns) + 0.5, pixel.depth),
                  pixel);
    }
    const auto numbers = readAt(places, fields, table.quantity, componentNamed(table.component));
    if (!numbers)
        return tl::unexpected(numbers.error());
    auto next = numbers->begin();
    for (const auto& pixel : seen)
        out.values.push_back(pixel.part == noNumber ? std::nan("") : *next++);
    return out;
}

} // namespace

std::vector<std::shared_ptr<const MeasuredTable>> measuredTablesOf(const Survey& survey, const CaseEntry& entry,
                                                                   const std::filesystem::path& folder) {
    std::vector<std::shared_ptr<const MeasuredTable>> tables;
    for (const auto& wish : survey.measured) {
        const auto& name = wish.caseName.empty() && !survey.cases.empty() ? survey.cases.front().name : wish.caseName;
        if (name == entry.name)
            tables.push_back(std::make_shared<const MeasuredTable>(readMeasured(
                wish, besideSurvey(wish.file, folder), std::string(siUnitOf(wish.quantity)), survey.gauges)));
    }
    return tables;
}

Probes probe(const std::shared_ptr<const MeasuredTable>& table, const std::optional<double>& within,
             const PartFields& fields, const std::vector<GaugeReading>& gauges) {
    Probes out{table, {}};
    if (table->picture) {
        auto picture = lookAt(*table, fields);
        ProbedPicture none;
        if (!picture)
            none.why = picture.error().what;
        out.picture = std::make_shared<const ProbedPicture>(picture ? std::move(*picture) : std::move(none));
    }
    for (const auto& place : table->places)
        out.places.push_back(!place.why.empty()     ? ProbedPlace{{}, {}, place.why}
                             : place.at.has_value() ? probeOne(place, *table, within, fields)
                                                    : probeGauge(place, *table, gauges));
    return out;
}

} // namespace pyro
