#include "core/field/recovered_gradient.h"

#include "core/field/gradient.h"
#include "core/field/straight_pieces.h"
#include "core/field/vector_algebra.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

constexpr double flat = 1e-3; // of the largest spread: along such directions the neighbours tell no slope

class Recovery {
public:
    Recovery(const Region& part, std::span<const double> cellMeasure, RawVector<double>& gradient)
        : m_mesh(part.mesh), m_measure(cellMeasure), m_gradient(gradient) {}

    void run(std::span<const std::uint32_t> outer) {
        number(outer);
        findMiddles();
        gather();
        tbb::parallel_for(std::size_t{0}, m_nodes.size(), [&](std::size_t i) { solve(i); });
        // all are solved from the means, none from another's solution
        for (std::size_t i = 0; i < m_nodes.size(); ++i)
            if (m_solved[i])
                std::ranges::copy(*m_solved[i], m_gradient.begin() + 3 * static_cast<std::ptrdiff_t>(m_nodes[i]));
    }

private:
    static constexpr std::uint32_t none = ~0U;

    // Cells with a measure and such a node, in their order.
    std::vector<std::uint32_t> cellsThat(const auto& haveNode) const {
        std::vector<std::uint8_t> at(m_mesh.cells());
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, at.size(), 1 << 14), [&](const auto& range) {
            for (auto cell = range.begin(); cell != range.end(); ++cell)
                at[cell] = m_measure[cell] > 0 && std::ranges::any_of(m_mesh.cell(cell), haveNode) ? 1 : 0;
        });
        std::vector<std::uint32_t> found;
        for (std::size_t cell = 0; cell < at.size(); ++cell)
            if (at[cell] != 0)
                found.push_back(static_cast<std::uint32_t>(cell));
        return found;
    }

    // Outer nodes, and the cells that have one.
    void number(std::span<const std::uint32_t> outer) {
        m_number.assign(m_mesh.nodes(), none);
        for (const auto node : outer)
            if (m_number[node] == none) {
                m_number[node] = static_cast<std::uint32_t>(m_nodes.size());
                m_nodes.push_back(node);
            }
        m_cells = cellsThat([&](std::uint32_t node) { return m_number[node] != none; });
    }

    // For every node of these cells the common middle of all cells around it.
    void findMiddles() {
        std::vector<std::uint8_t> wanted(m_mesh.nodes(), 0);
        for (const auto cell : m_cells)
            for (const auto node : m_mesh.cell(cell))
                wanted[node] = 1;
        m_middle.assign(m_mesh.nodes(), {});
        std::vector<double> weight(m_mesh.nodes(), 0.0);
        for (const auto cell : cellsThat([&](std::uint32_t node) { return wanted[node] != 0; })) {
            const auto centre = m_mesh.cellCentre(cell);
            for (const auto node : m_mesh.cell(cell))
                if (wanted[node] != 0) {
                    weight[node] += m_measure[cell];
                    for (std::size_t axis = 0; axis < 3; ++axis)
                        m_middle[node][axis] += m_measure[cell] * centre[axis];
                }
        }
        for (std::size_t node = 0; node < weight.size(); ++node)
            for (auto& one : m_middle[node])
                one = weight[node] > 0 ? one / weight[node] : std::nan("");
    }

    struct Sums { // over neighbours, relative to the node
        double count = 0;
        Eigen::Vector3d place = Eigen::Vector3d::Zero();
        Eigen::Vector3d value = Eigen::Vector3d::Zero();
        Eigen::Matrix3d places = Eigen::Matrix3d::Zero();
        Eigen::Matrix3d products = Eigen::Matrix3d::Zero(); // place times value
    };

    void gather() {
        m_sums.resize(m_nodes.size());
        m_solved.resize(m_nodes.size());
        for (const auto cell : m_cells) {
            const auto nodes = m_mesh.cell(cell);
            for (const auto node : nodes) {
                if (m_number[node] == none)
                    continue;
                auto& sums = m_sums[m_number[node]];
                const auto at = m_mesh.node(node);
                for (const auto neighbour : nodes) {
                    const Eigen::Map<const Eigen::Vector3d> value(&m_gradient[std::size_t{3} * neighbour]);
                    const auto off = minus(m_middle[neighbour], at);
                    const Eigen::Vector3d place(off[0], off[1], off[2]);
                    if (!value.allFinite() || !place.allFinite())
                        continue;
                    sums.count += 1;
                    sums.place += place;
                    sums.value += value;
                    sums.places += place * place.transpose();
                    sums.products += place * value.transpose();
                }
            }
        }
    }

    void solve(std::size_t i) {
        const auto& sums = m_sums[i];
        if (sums.count < 2)
            return;
        const Eigen::Vector3d place = sums.place / sums.count;
        const Eigen::Vector3d value = sums.value / sums.count;
        const Eigen::Matrix3d spread = sums.places / sums.count - place * place.transpose();
        const Eigen::Matrix3d product = sums.products / sums.count - place * value.transpose();
        const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> found(spread);
        const double most = found.eigenvalues().maxCoeff();
        if (found.info() != Eigen::Success || !(most > 0))
            return;
        Eigen::Matrix3d slope = Eigen::Matrix3d::Zero(); // d value / d place, transposed
        for (int k = 0; k < 3; ++k)
            if (const double own = found.eigenvalues()[k]; own > flat * flat * most) {
                const Eigen::Vector3d along = found.eigenvectors().col(k);
                slope += along * (along.transpose() * product) / own;
            }
        const Eigen::Vector3d at = value - slope.transpose() * place; // at the node itself, the origin
        if (at.allFinite())
            m_solved[i] = Point{at[0], at[1], at[2]};
    }

    const Mesh& m_mesh;
    std::span<const double> m_measure;
    RawVector<double>& m_gradient;
    std::vector<std::uint32_t> m_nodes;  // outer ones
    std::vector<std::uint32_t> m_number; // among them, by node
    std::vector<std::uint32_t> m_cells;
    std::vector<Point> m_middle;
    std::vector<Sums> m_sums;
    std::vector<std::optional<Point>> m_solved;
};

} // namespace

RawVector<double> recoveredGradient(const Region& part, RealView nodeValues, std::span<const std::uint32_t> outer,
                                    std::span<const double> cellMeasure) {
    auto gradient = nodeGradient(part, nodeValues);
    if (!outer.empty() && !hasCurved(part.mesh))
        Recovery(part, cellMeasure, gradient).run(outer);
    return gradient;
}

} // namespace pyro
