#include "core/thermal/nodal_heat.h"

#include "core/field/quadrature.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <tbb/blocked_range.h>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

// The terms of one cell at its nodes or, for cell fields, everywhere in it.
class CellTerms {
public:
    // `slope`: room for one slope for each of its nodes.
    CellTerms(const Region& part, const HeatTerms& terms, std::uint32_t cell, std::span<Point> slope)
        : m_mesh(part.mesh), m_terms(terms), m_cell(cell), m_nodes(part.mesh.cell(cell)), m_slope(slope) {}

    double scalar(const PartField& field, const std::vector<double>& shape, std::size_t component = 0) const {
        if (field.isConstant())
            return field.constant;
        if (field.on == Location::Cell)
            return field.at(m_cell, component);
        double sum = 0;
        for (std::size_t i = 0; i < m_nodes.size(); ++i)
            sum += shape[i] * field.at(m_nodes[i], component);
        return sum;
    }

    // Adds the cell's part of `leaving` into `out`, one number per node; returns the mean gradient.
    Point integrate(std::span<double> out) const {
        std::ranges::fill(out, 0.0);
        Point mean{};
        double volume = 0;
        for (const auto& point : quadrature(m_mesh.type(m_cell), m_nodes.size())) {
            const double weight = point.weight * slopes(point);
            if (!(weight > 0))
                continue;
            add(point, weight, out, mean);
            volume += weight;
        }
        for (auto& value : mean)
            value = volume > 0 ? value / volume : std::nan("");
        return mean;
    }

private:
    // Slopes of the shape functions in space; returns the volume element.
    double slopes(const QuadraturePoint& point) const {
        std::array<Point, 3> jacobian{}; // d(x,y,z) along r, s, t
        for (std::size_t i = 0; i < m_nodes.size(); ++i) {
            const auto at = m_mesh.node(m_nodes[i]);
            for (std::size_t direction = 0; direction < 3; ++direction)
                for (std::size_t axis = 0; axis < 3; ++axis)
                    jacobian[direction][axis] += point.gradient[i][direction] * at[axis];
        }
        const std::array<Point, 3> reciprocal{cross(jacobian[1], jacobian[2]), cross(jacobian[2], jacobian[0]),
                                              cross(jacobian[0], jacobian[1])};
        const double volume = dot(jacobian[0], reciprocal[0]);
        for (std::size_t i = 0; i < m_nodes.size(); ++i)
            for (std::size_t axis = 0; axis < 3; ++axis)
                m_slope[i][axis] = volume == 0 ? 0
                                               : (point.gradient[i][0] * reciprocal[0][axis] +
                                                  point.gradient[i][1] * reciprocal[1][axis] +
                                                  point.gradient[i][2] * reciprocal[2][axis]) /
                                                     volume;
        return std::abs(volume);
    }

    void add(const QuadraturePoint& point, double weight, std::span<double> out, Point& mean) const {
        Point gradient{};
        for (std::size_t i = 0; i < m_nodes.size(); ++i)
            for (std::size_t axis = 0; axis < 3; ++axis)
                gradient[axis] += m_slope[i][axis] * m_terms.temperature.at(m_nodes[i]);
        double net = m_terms.source ? scalar(*m_terms.source, point.shape) : 0; // W/m3
        if (m_terms.capacity) {
            const double capacity = scalar(*m_terms.capacity, point.shape);
            for (std::size_t axis = 0; m_terms.velocity && axis < 3; ++axis)
                net -= capacity * scalar(*m_terms.velocity, point.shape, axis) * gradient[axis];
            if (m_terms.temperatureBefore)
                net -= capacity *
                       (scalar(m_terms.temperature, point.shape) - scalar(*m_terms.temperatureBefore, point.shape)) /
                       m_terms.seconds;
        }
        const bool byAxis = m_terms.conductivity.components == 3;
        Point driven{}; // conductivity times gradient
        for (std::size_t axis = 0; axis < 3; ++axis)
            driven[axis] = gradient[axis] * scalar(m_terms.conductivity, point.shape, byAxis ? axis : 0);
        for (std::size_t i = 0; i < m_nodes.size(); ++i)
            out[i] += weight * (net * point.shape[i] - dot(driven, m_slope[i]));
        for (std::size_t axis = 0; axis < 3; ++axis)
            mean[axis] += weight * gradient[axis];
    }

    const Mesh& m_mesh;
    const HeatTerms& m_terms;
    std::uint32_t m_cell;
    std::span<const std::uint32_t> m_nodes;
    std::span<Point> m_slope;
};

std::vector<std::uint32_t> cellsWith(const Mesh& mesh, const std::vector<std::uint8_t>& wanted) {
    std::vector<std::uint8_t> takes(mesh.cells());
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.cells(), 1 << 14), [&](const auto& range) {
        for (auto cell = range.begin(); cell != range.end(); ++cell) {
            const auto* shape = cellShape(mesh.type(cell));
            if (shape == nullptr || shape->dimension != 3)
                continue;
            bool any = wanted.empty();
            for (const auto node : mesh.cell(cell))
                any = any || wanted[node] != 0;
            takes[cell] = any ? 1 : 0;
        }
    });
    std::vector<std::uint32_t> cells;
    for (std::size_t cell = 0; cell < takes.size(); ++cell)
        if (takes[cell] != 0)
            cells.push_back(static_cast<std::uint32_t>(cell));
    return cells;
}

} // namespace

NodalHeat nodalHeat(const Region& part, const HeatTerms& terms, const std::vector<std::uint8_t>& wanted) {
    const auto& mesh = part.mesh;
    NodalHeat heat;
    heat.cells = cellsWith(mesh, wanted);
    heat.leaving.assign(mesh.nodes(), 0.0);
    heat.gradient.resize(heat.cells.size());
    // Cells are integrated in parallel, stretch after stretch, and summed up in their order: the same at every run.
    std::size_t most = mesh.nodesPerCell;
    for (std::size_t i = 1; i < mesh.offsets.size(); ++i)
        most = std::max<std::size_t>(most, mesh.offsets[i] - mesh.offsets[i - 1]);
    const std::size_t stretch = std::max<std::size_t>((std::size_t{20} << 14) / std::max<std::size_t>(most, 1), 64);
    std::vector<double> integrals(std::min(stretch, heat.cells.size()) * most);
    tbb::enumerable_thread_specific<std::vector<Point>> slopes(most);
    for (std::size_t from = 0; from < heat.cells.size(); from += stretch) {
        const auto count = std::min(stretch, heat.cells.size() - from);
        tbb::parallel_for(std::size_t{0}, count, [&](std::size_t i) {
            const auto cell = heat.cells[from + i];
            heat.gradient[from + i] = CellTerms(part, terms, cell, slopes.local())
                                          .integrate(std::span(integrals).subspan(i * most, mesh.cell(cell).size()));
        });
        for (std::size_t i = 0; i < count; ++i) {
            const auto nodes = mesh.cell(heat.cells[from + i]);
            for (std::size_t corner = 0; corner < nodes.size(); ++corner)
                heat.leaving[nodes[corner]] += integrals[i * most + corner];
        }
    }
    return heat;
}

} // namespace pyro
