#include "core/thermal/minus.h"

#include "core/thermal/site_values.h"

#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace pyro {
namespace {

constexpr double none = std::numeric_limits<double>::quiet_NaN();

// Part of the own case that a value belongs to; noNumber where it lies in none.
std::uint32_t ownPart(const MeasureRequest& request, const Place& place) {
    if (!request.site.stored || !request.site.regions.boundaries)
        return static_cast<std::uint32_t>(place.region);
    const auto& behind = request.fields().index().boundaries[place.region].part;
    return behind.empty() ? noNumber : behind.front();
}

// Of a vector on a surface its part along the surface's normal is read, which the other case does not know.
std::vector<Point> normalsOf(const Site& site, std::size_t count) {
    const auto& places = site.facets.size() == count ? site.facets : site.points;
    return places.size() == count ? places.normal : std::vector<Point>();
}

// Places on the other case.
std::vector<Point> carried(std::vector<Point> points, const std::optional<Placement>& placement) {
    for (auto& point : points)
        point = placement ? (*placement)(point) : point;
    return points;
}

Result<std::vector<double>> readOther(const PartFields& other, std::span<const Point> points,
                                      std::span<const std::string> parts, std::vector<Point> normals,
                                      const std::string& quantity, Component component) {
    const auto& solved = other.solved();
    std::vector<std::uint32_t> all(solved.parts.size());
    std::iota(all.begin(), all.end(), 0U);
    std::map<std::string, std::vector<std::size_t>> byPart;
    for (std::size_t i = 0; i < points.size(); ++i)
        byPart[parts[i]].push_back(i);
    std::vector<double> out(points.size(), none);
    for (const auto& [name, which] : byPart) {
        std::vector<Point> own;
        for (const auto i : which)
            own.push_back(points[i]);
        const auto same = solved.partNamed(name);
        const auto one = same ? std::vector{static_cast<std::uint32_t>(*same)} : all;
        auto places = placesOfPoints(solved, other.index(), own, one);
        for (const auto i : which)
            if (!normals.empty())
                places.normal.push_back(normals[i]);
        const auto numbers = readAt(places, other, quantity, component);
        if (!numbers)
            return numbers;
        for (std::size_t i = 0; i < which.size(); ++i)
            out[which[i]] = (*numbers)[i];
    }
    return out;
}

// What is told there between two steps of the other case.
Result<std::vector<double>> readBetween(const OtherFields& other, std::span<const Point> points,
                                        std::span<const std::string> parts, const std::vector<Point>& normals,
                                        const std::string& quantity, Component component) {
    auto numbers = readOther(*other.fields, points, parts, normals, quantity, component);
    if (!numbers || other.after == nullptr)
        return numbers;
    const auto after = readOther(*other.after, points, parts, normals, quantity, component);
    if (!after)
        return after;
    for (std::size_t i = 0; i < numbers->size(); ++i)
        (*numbers)[i] += other.share * ((*after)[i] - (*numbers)[i]);
    return numbers;
}

// Without the values that are NaN.
ValuePiece covered(ValuePiece piece) {
    ValuePiece kept;
    kept.on = piece.on;
    auto from = std::make_shared<std::vector<std::uint64_t>>();
    for (std::size_t i = 0; i < piece.own.size(); ++i)
        if (!std::isnan(piece.own[i])) {
            from->push_back(i);
            kept.own.push_back(piece.own[i]);
            kept.ownWeight.push_back(piece.weightOf(i));
        }
    kept.placeOf = [from, placeOf = piece.placeOf](std::uint64_t at) { return placeOf((*from)[at]); };
    return kept;
}

} // namespace

Result<LessOther> lessOther(const MeasureRequest& request, Values values, const std::string& quantity,
                            Component component, bool keepGaps) {
    if (const auto& placement = request.minus->placement; placement && component != Component::Natural &&
                                                          component != Component::Magnitude &&
                                                          !placement->keepsDirections())
        return fail(ErrorCode::NotSupported,
                    fmt::format("the case \"{}\" is turned against this one, so that components of vectors are not "
                                "those of the same direction",
                                request.minus->caseName));
    LessOther out;
    double found = 0;
    double whole = 0;
    for (auto& piece : values.pieces) {
        std::vector<Point> points;
        std::vector<std::string> parts;
        for (std::size_t i = 0; i < piece.size(); ++i) {
            const auto place = piece.placeOf(i);
            const auto part = ownPart(request, place);
            points.push_back(place.at);
            parts.push_back(part == noNumber ? std::string() : request.fields().solved().parts[part].name);
        }
        const auto numbers = readBetween(*request.minus, carried(points, request.minus->placement), parts,
                                         normalsOf(request.site, points.size()), quantity, component);
        if (!numbers)
            return fail(numbers.error().code, fmt::format("in {}: {}", request.minus->caseName, numbers.error().what));
        std::vector<double> own(piece.size());
        for (std::size_t i = 0; i < own.size(); ++i) {
            own[i] = piece.value(i) - (*numbers)[i];
            const double weight = piece.weightOf(i) > 0 ? piece.weightOf(i) : 0;
            whole += weight;
            found += std::isnan((*numbers)[i]) ? 0 : weight;
        }
        piece.own = std::move(own);
        out.values.pieces.push_back(keepGaps ? std::move(piece) : covered(std::move(piece)));
    }
    out.covered = whole > 0 ? found / whole : out.values.size() > 0 ? 1 : 0;
    if (out.values.size() == 0 || !(out.covered > 0))
        return fail(ErrorCode::NotSupported,
                    fmt::format("none of the places lies in the case \"{}\"", request.minus->caseName));
    return out;
}

} // namespace pyro
