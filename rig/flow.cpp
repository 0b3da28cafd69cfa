#include "rig/flow.h"

#include <Eigen/IterativeLinearSolvers>
#include <Eigen/SparseCore>
#include <fmt/format.h>

namespace pyro::rig {
namespace {

class ChannelSystem {
public:
    ChannelSystem(const Model& model, const Grid& grid, std::size_t channel, Flow& flow)
        : m_model(model), m_grid(grid), m_channel(channel), m_flow(flow), m_row(grid.cellCount(), -1) {}

    Done run() {
        chooseCells();
        if (auto found = chooseOpenings(); !found)
            return found;
        assemble();
        Eigen::ConjugateGradient<Matrix, Eigen::Lower | Eigen::Upper, Factor> solver;
        solver.setTolerance(1e-13);
        solver.setMaxIterations(20000);
        solver.compute(m_matrix);
        m_potential = solver.solve(m_right);
        if (!(solver.error() < 1e-10))
            return fail(ErrorCode::NotConverged,
                        fmt::format("the flow through \"{}\" stopped at a residual of {:.2g}", part(), solver.error()),
                        m_model.title, "Check that all of the channel lies between its inlet and its outlet");
        velocities();
        return {};
    }

private:
    using Matrix = Eigen::SparseMatrix<double, Eigen::RowMajor, int>;
    using Factor = Eigen::IncompleteCholesky<double, Eigen::Lower, Eigen::NaturalOrdering<int>>;

    const Channel& channel() const { return m_model.channels[m_channel]; }
    const std::string& part() const { return channel().part; }

    void chooseCells() {
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_grid.box[cell] >= 0 && m_model.boxes[static_cast<std::size_t>(m_grid.box[cell])].part == part()) {
                m_row[cell] = m_rows++;
                m_flow.channel[cell] = static_cast<std::int8_t>(m_channel);
            }
    }

    Done chooseOpenings() {
        const auto inlet = static_cast<std::int8_t>(m_model.inletOf(m_channel));
        bool leaves = false;
        forSides([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            if (beyond != Grid::none)
                return;
            const auto side = Grid::sideOf(axis, above);
            const auto centre = m_grid.faceCentre(at, axis, above);
            if (chooses(channel().inletFaces, centre, side)) {
                m_flow.opening[6 * cell + side] = inlet;
                m_inletArea += m_grid.area(axis, at);
            } else if (chooses(channel().outletFaces, centre, side)) {
                m_flow.opening[6 * cell + side] = static_cast<std::int8_t>(inlet + 1);
                leaves = true;
            }
        });
        if (m_inletArea > 0 && leaves)
            return {};
        return fail(ErrorCode::WrongType,
                    fmt::format("no outer face of \"{}\" lies in its {}", part(), leaves ? "inlet" : "outlet"),
                    m_model.title, "Give the opening the side and the place of faces of that part");
    }

    template <class Use>
    void forSides(Use use) const {
        m_grid.forSides([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            if (m_row[cell] >= 0)
                use(cell, at, axis, above, beyond);
        });
    }

    bool isOutlet(std::size_t cell, std::size_t side) const {
        return m_flow.opening[6 * cell + side] == static_cast<std::int8_t>(m_model.inletOf(m_channel) + 1);
    }
    bool isInlet(std::size_t cell, std::size_t side) const {
        return m_flow.opening[6 * cell + side] == static_cast<std::int8_t>(m_model.inletOf(m_channel));
    }
    bool flows(std::ptrdiff_t beyond) const {
        return beyond != Grid::none && m_row[static_cast<std::size_t>(beyond)] >= 0;
    }

    // m: area of a side over the distance to the middle of the next cell, or to the outlet.
    double conductance(std::size_t cell, const Grid::Index& at, int axis, bool above, std::ptrdiff_t beyond) const {
        const auto a = static_cast<std::size_t>(axis);
        double distance = 0.5 * m_grid.width(axis, at[a]);
        if (flows(beyond))
            distance += 0.5 * m_grid.width(axis, m_grid.indices(static_cast<std::size_t>(beyond))[a]);
        else if (!isOutlet(cell, Grid::sideOf(axis, above)))
            return 0;
        return m_grid.area(axis, at) / distance;
    }

    void assemble() {
        std::vector<Eigen::Triplet<double, int>> entries;
        m_right = Eigen::VectorXd::Zero(m_rows);
        forSides([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            const double g = conductance(cell, at, axis, above, beyond);
            entries.emplace_back(m_row[cell], m_row[cell], g);
            if (flows(beyond))
                entries.emplace_back(m_row[cell], m_row[static_cast<std::size_t>(beyond)], -g);
            if (isInlet(cell, Grid::sideOf(axis, above)))
                m_right[m_row[cell]] += channel().flow * m_grid.area(axis, at) / m_inletArea;
        });
        m_matrix.resize(m_rows, m_rows);
        m_matrix.setFromTriplets(entries.begin(), entries.end());
    }

    void velocities() {
        forSides([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            const double next = flows(beyond) ? m_potential[m_row[static_cast<std::size_t>(beyond)]] : 0.0;
            double out = conductance(cell, at, axis, above, beyond) * (m_potential[m_row[cell]] - next) /
                         m_grid.area(axis, at);
            if (isInlet(cell, Grid::sideOf(axis, above)))
                out = -channel().flow / m_inletArea;
            (above ? m_flow.above : m_flow.below)[static_cast<std::size_t>(axis)][cell] = above ? out : -out;
        });
    }

    const Model& m_model;
    const Grid& m_grid;
    std::size_t m_channel;
    Flow& m_flow;
    std::vector<int> m_row; // per grid cell, -1 outside of the channel
    int m_rows = 0;
    double m_inletArea = 0;
    Matrix m_matrix;
    Eigen::VectorXd m_right;
    Eigen::VectorXd m_potential; // m2/s
};

} // namespace

Result<Flow> channelFlow(const Model& model, const Grid& grid) {
    Flow flow;
    flow.channel.assign(grid.cellCount(), -1);
    flow.opening.assign(6 * grid.cellCount(), -1);
    for (std::size_t axis = 0; axis < 3; ++axis) {
        flow.below[axis].assign(grid.cellCount(), 0.0);
        flow.above[axis].assign(grid.cellCount(), 0.0);
    }
    for (std::size_t channel = 0; channel < model.channels.size(); ++channel)
        if (auto done = ChannelSystem(model, grid, channel, flow).run(); !done)
            return tl::unexpected(done.error());
    return flow;
}

} // namespace pyro::rig
