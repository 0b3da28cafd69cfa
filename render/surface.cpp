#include "render/surface.h"

#include <cmath>
#include <limits>
#include <unordered_map>

namespace pyro {
namespace {

using Normal = std::array<float, 3>;

class SurfaceBuilder {
public:
    SurfaceBuilder(const Region& part, const ShellView& shell)
        : m_part(part), m_shell(shell), m_number(part.mesh.nodes(), -1) {}

    PartSurface run() {
        for (std::size_t face = 0; face < m_shell.faces(); ++face)
            addFace(face);
        for (const auto& [key, edge] : m_edges)
            if (edge.sharp) {
                m_out.edges.push_back(static_cast<std::uint32_t>(key >> 32));
                m_out.edges.push_back(static_cast<std::uint32_t>(key & 0xffffffffU));
            }
        return std::move(m_out);
    }

private:
    struct Edge {
        Normal normal;
        bool sharp = true; // until a second face lies nearly in the same plane
    };

    std::int32_t number(std::uint32_t node) {
        auto& at = m_number[node];
        if (at < 0) {
            at = static_cast<std::int32_t>(m_out.partNode.size());
            m_out.partNode.push_back(node);
            for (std::size_t axis = 0; axis < 3; ++axis)
                m_out.points.push_back(static_cast<float>(m_part.mesh.coordinates[3 * std::size_t{node} + axis]));
        }
        return at;
    }

    void triangle(std::int32_t a, std::int32_t b, std::int32_t c, std::uint32_t cell) {
        m_out.triangles.insert(m_out.triangles.end(), {a, b, c});
        m_out.partCell.push_back(cell);
    }

    // Quadratic faces (six or eight ring nodes of a volume cell) are cut at their mid-edge nodes.
    void addFace(std::size_t face) {
        const auto ring = m_shell.face(face);
        const auto cell = m_shell.cell[face];
        std::vector<std::int32_t> nodes;
        for (const auto node : ring)
            nodes.push_back(number(node));
        const auto type = m_part.mesh.type(cell);
        const bool quadratic = type >= CellType::QuadraticTriangle;
        const auto size = nodes.size();
        if (quadratic) {
            for (std::size_t i = 0; i < size; i += 2)
                triangle(nodes[i], nodes[i + 1], nodes[(i + size - 1) % size], cell);
            std::vector<std::int32_t> middle;
            for (std::size_t i = 1; i < size; i += 2)
                middle.push_back(nodes[i]);
            nodes = std::move(middle);
        }
        for (std::size_t i = 1; i + 1 < nodes.size(); ++i)
            triangle(nodes[0], nodes[i], nodes[i + 1], cell);
        addEdges(ring);
    }

    Normal normalOf(std::span<const std::uint32_t> ring) const {
        std::array<double, 3> sum{};
        const auto origin = m_part.mesh.node(ring[0]);
        for (std::size_t i = 1; i + 1 < ring.size(); ++i) {
            const auto p = m_part.mesh.node(ring[i]);
            const auto q = m_part.mesh.node(ring[i + 1]);
            for (std::size_t axis = 0; axis < 3; ++axis) {
                const auto u = (axis + 1) % 3;
                const auto v = (axis + 2) % 3;
                sum[axis] += (p[u] - origin[u]) * (q[v] - origin[v]) - (p[v] - origin[v]) * (q[u] - origin[u]);
            }
        }
        const double length = std::sqrt(sum[0] * sum[0] + sum[1] * sum[1] + sum[2] * sum[2]);
        Normal unit{};
        for (std::size_t axis = 0; axis < 3 && length > 0; ++axis)
            unit[axis] = static_cast<float>(sum[axis] / length);
        return unit;
    }

    void addEdges(std::span<const std::uint32_t> ring) {
        const auto normal = normalOf(ring);
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const auto a = static_cast<std::uint64_t>(number(ring[i]));
            const auto b = static_cast<std::uint64_t>(number(ring[(i + 1) % ring.size()]));
            const auto key = std::min(a, b) << 32 | std::max(a, b);
            const auto [known, isNew] = m_edges.try_emplace(key, Edge{normal});
            if (isNew)
                continue;
            float cosine = 0;
            for (std::size_t axis = 0; axis < 3; ++axis)
                cosine += known->second.normal[axis] * normal[axis];
            known->second.sharp = std::abs(cosine) < 0.866F;
        }
    }

    const Region& m_part;
    const ShellView& m_shell;
    std::vector<std::int32_t> m_number;
    std::unordered_map<std::uint64_t, Edge> m_edges;
    PartSurface m_out;
};

double at(const RegionValues& values, std::size_t i) {
    return values.derived.empty() ? values.stored[i] : values.derived[i];
}

constexpr std::size_t distributionClasses = 2048;

} // namespace

Result<FieldPicture> makePicture(const OpenedCase& opened, const Quantity& quantity, Progress& progress) {
    FieldPicture picture{quantity, {}, {}, {}, std::nan(""), std::nan("")};
    const auto& parts = opened.solved->parts;
    std::vector<std::optional<RegionValues>> values;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        auto here = valuesOn(*opened.solved, *opened.index, false, i, quantity, Component::Natural);
        values.push_back(here ? std::optional(std::move(*here)) : std::nullopt);
        const auto* array = parts[i].find(quantity.array, quantity.on);
        if (array != nullptr) {
            picture.min = std::fmin(picture.min, quantity.toSi(array->min));
            picture.max = std::fmax(picture.max, quantity.toSi(array->max));
        }
    }
    for (std::size_t i = 0; i < parts.size(); ++i) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "drawing was cancelled", opened.solved->file);
        progress.report(static_cast<double>(i) / static_cast<double>(parts.size()), "surface of " + parts[i].name);
        picture.surfaces.push_back(SurfaceBuilder(parts[i], opened.index->parts[i].shell).run());
        auto& shown = picture.values.emplace_back();
        auto& distribution = picture.distributions.emplace_back();
        if (!values[i] || std::isnan(picture.min))
            continue;
        const auto& surface = picture.surfaces.back();
        for (const auto number : values[i]->on == Location::Node ? surface.partNode : surface.partCell)
            shown.push_back(static_cast<float>(quantity.toSi(at(*values[i], number))));
        distribution = Distribution(picture.min, picture.max, distributionClasses);
        for (std::size_t k = 0; k < values[i]->size(); ++k)
            distribution.add(quantity.toSi(at(*values[i], k)), values[i]->weight[k]);
    }
    return picture;
}

} // namespace pyro
