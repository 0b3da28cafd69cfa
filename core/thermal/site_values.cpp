#include "core/thermal/site_values.h"

#include "core/gauge/facet_rule.h"

#include "core/field/vector_algebra.h"

#include <cmath>
#include <fmt/format.h>
#include <numeric>
#include <optional>

namespace pyro {
namespace {

constexpr double nothing = std::numeric_limits<double>::quiet_NaN();

bool isVector(const PartFields& fields, const std::string& quantity) {
    const auto kind = kindOf(fields.quantities(), quantity);
    return kind && kind->components == 3;
}

double tensorPart(const PartField& field, const Places& places, std::size_t at, std::size_t component) {
    if (field.isConstant())
        return field.constant;
    if (field.on == Location::Cell)
        return places.cell[at] == noNumber ? nothing : field.at(places.cell[at], component);
    double sum = 0;
    for (auto i = places.begin[at]; i < places.begin[at + 1]; ++i)
        sum += places.share[i] * field.at(places.node[i], component);
    return sum;
}

double vectorPart(const Point& vector, Component component, const Point* normal) {
    switch (component) {
    case Component::X:
        return vector[0];
    case Component::Y:
        return vector[1];
    case Component::Z:
        return vector[2];
    case Component::Normal:
        return normal != nullptr ? dot(vector, *normal) : nothing;
    default:
        return std::sqrt(dot(vector, vector));
    }
}

// The field of each part that the places touch, read when first needed.
class FieldsByPart {
public:
    FieldsByPart(const PartFields& fields, const std::string& quantity, Location wanted)
        : m_fields(fields), m_quantity(quantity), m_wanted(wanted), m_known(fields.solved().parts.size()) {}
    const Result<PartField>& of(std::uint32_t part) {
        auto& known = m_known[part];
        if (!known)
            known = m_fields.field(part, m_quantity, m_wanted);
        return *known;
    }

private:
    const PartFields& m_fields;
    const std::string& m_quantity;
    Location m_wanted;
    std::vector<std::optional<Result<PartField>>> m_known;
};

// Places within the mesh only: what lies outside is told by its share, not by values.
ValuePiece pieceOf(const Site& site, const Places& places, const std::vector<double>& numbers, Location on) {
    ValuePiece piece;
    piece.on = on;
    auto kept = std::make_shared<std::vector<std::uint64_t>>();
    for (std::size_t i = 0; i < places.size(); ++i)
        if (places.part[i] != noNumber || site.stored) {
            kept->push_back(i);
            piece.own.push_back(numbers[i]);
            piece.ownWeight.push_back(places.weight[i]);
        }
    piece.placeOf = [&places, kept, on](std::uint64_t at) {
        const auto place = (*kept)[at];
        return Place{places.at[place], on, place, places.part[place] == noNumber ? 0 : places.part[place]};
    };
    return piece;
}

Result<Values> storedValues(const Site& site, const PartFields& fields, const Quantity& quantity, Component component) {
    Values out;
    for (const auto region : site.regions.regions) {
        auto values = valuesOn(fields.solved(), fields.index(), site.regions.boundaries, region, quantity, component);
        if (!values)
            return tl::unexpected(values.error());
        ValuePiece piece;
        piece.stored = values->stored;
        piece.toSi = quantity.toSi;
        piece.own = std::move(values->derived);
        for (auto& value : piece.own)
            value = quantity.toSi(value);
        piece.weight = values->weight;
        piece.on = values->on;
        piece.placeOf = [&solved = fields.solved(), support = Support{site.regions.boundaries, {region}},
                         on = values->on](std::uint64_t at) {
            return placeOf(solved, support, on, {0, 0, at});
        };
        out.pieces.push_back(std::move(piece));
    }
    return out;
}

// A derived field over whole parts.
Result<Values> partValues(const Site& site, const PartFields& fields, const std::string& quantity,
                          Component component) {
    if (component == Component::Normal)
        return fail(ErrorCode::NotSupported, "a part has no normal; choose x, y, z or magnitude");
    Values out;
    for (const auto part : site.regions.regions) {
        const auto field = fields.field(part, quantity, Location::Cell);
        if (!field)
            return tl::unexpected(field.error());
        ValuePiece piece;
        piece.on = field->isConstant() ? Location::Cell : field->on;
        piece.weight = piece.on == Location::Cell ? fields.index().parts[part].cellMeasure
                                                  : fields.index().parts[part].nodeShare;
        piece.own.resize(piece.weight.size());
        for (std::size_t i = 0; i < piece.own.size(); ++i)
            piece.own[i] = field->components == 3
                               ? vectorPart({field->at(i, 0), field->at(i, 1), field->at(i, 2)}, component, nullptr)
                               : field->at(i);
        piece.placeOf = [&solved = fields.solved(), support = Support{false, {part}}, on = piece.on](std::uint64_t at) {
            return placeOf(solved, support, on, {0, 0, at});
        };
        out.pieces.push_back(std::move(piece));
    }
    return out;
}

} // namespace

Result<std::vector<double>> readAt(const Places& places, const PartFields& fields, const std::string& quantity,
                                   Component component) {
    FieldsByPart known(fields, quantity, places.normal.empty() ? Location::Node : Location::Cell);
    std::vector<double> out(places.size(), nothing);
    for (std::size_t i = 0; i < places.size(); ++i) {
        if (places.part[i] == noNumber)
            continue;
        const auto& field = known.of(places.part[i]);
        if (!field)
            return tl::unexpected(field.error());
        if (field->components == 1) {
            out[i] = tensorPart(*field, places, i, 0);
            continue;
        }
        const Point vector{tensorPart(*field, places, i, 0), tensorPart(*field, places, i, 1),
                           tensorPart(*field, places, i, 2)};
        out[i] = vectorPart(vector, component, places.normal.empty() ? nullptr : &places.normal[i]);
    }
    return out;
}

Result<std::vector<double>> readFacets(const Site& site, const PartFields& fields, const std::string& quantity,
                                       Component component) {
    const auto* stored = fields.quantities().named(quantity);
    if (!site.regions.boundaries || stored == nullptr)
        return readAt(site.facets, fields, quantity, component);
    std::vector<double> out;
    for (const auto boundary : site.regions.regions) {
        const auto values = valuesOn(fields.solved(), fields.index(), true, boundary, *stored, component);
        if (!values)
            return tl::unexpected(values.error());
        const auto& mesh = fields.solved().boundaries[boundary].mesh;
        FacetRule rule;
        for (std::size_t face = 0; face < mesh.cells(); ++face) {
            const auto corners = cornersOf(mesh, face);
            if (values->on == Location::Cell) {
                out.insert(out.end(), !site.faceOf.empty() ? FacetRule::pointsFor(corners.size()) : 1,
                           stored->toSi((*values)[face]));
                continue;
            }
            if (!site.faceOf.empty()) {
                for (const auto& point :
                     rule.of(corners.size(), [&](std::size_t i) { return mesh.node(corners[i]); })) {
                    double sum = 0;
                    for (std::size_t i = 0; i < corners.size(); ++i)
                        sum += point.share[i] * (*values)[corners[i]];
                    out.push_back(stored->toSi(sum));
                }
                continue;
            }
            const auto nodes = mesh.cell(face);
            double sum = 0;
            for (const auto node : nodes)
                sum += (*values)[node] / static_cast<double>(nodes.size());
            out.push_back(stored->toSi(sum));
        }
    }
    return out;
}

Result<Values> valuesAt(const Site& site, const PartFields& fields, const std::string& quantity, Component component) {
    const auto* stored = fields.quantities().named(quantity);
    if (site.stored && stored != nullptr && !(component == Component::Normal && !site.regions.boundaries))
        return storedValues(site, fields, *stored, component);
    if (site.stored && !site.regions.boundaries && !(site.kind == SiteKind::Surface && component == Component::Normal))
        return partValues(site, fields, quantity, component);
    const bool surface = site.kind == SiteKind::Surface;
    if (surface && component == Component::Natural)
        component = Component::Normal;
    if (!surface && component == Component::Normal)
        return fail(ErrorCode::NotSupported, "a point or line has no normal; choose x, y, z or magnitude");
    bool onFacets = surface && (site.stored || (isVector(fields, quantity) && component == Component::Normal));
    if (surface && stored != nullptr && stored->on == Location::Cell)
        onFacets = true;
    const auto& places = onFacets ? site.facets : site.points;
    const auto numbers = onFacets ? readFacets(site, fields, quantity, component)
                                  : readAt(places, fields, quantity, component);
    if (!numbers)
        return tl::unexpected(numbers.error());
    Values out;
    out.pieces.push_back(pieceOf(site, places, *numbers, onFacets ? Location::Cell : Location::Node));
    return out;
}

Values facetValues(const Site& site, const std::vector<double>& numbers) {
    Values out;
    out.pieces.push_back(pieceOf(site, site.facets, numbers, Location::Cell));
    return out;
}

} // namespace pyro
