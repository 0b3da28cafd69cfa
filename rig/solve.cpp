#include "rig/solve.h"

#include <Eigen/IterativeLinearSolvers>
#include <Eigen/SparseCore>
#include <cmath>
#include <fmt/format.h>

namespace pyro::rig {
namespace {

using Matrix = Eigen::SparseMatrix<double, Eigen::RowMajor, int>;
constexpr double tolerance = 1e-12;
constexpr int none = -1;

class System {
public:
    System(const Model& model, const Grid& grid) : m_model(model), m_grid(grid), m_row(grid.cellCount(), none) {}

    Result<Solution> run(Progress& progress) {
        if (auto ready = prepare(progress); !ready)
            return tl::unexpected(ready.error());
        progress.report(0.2, "solving");
        factor();
        if (auto done = iterate(m_right, Eigen::VectorXd::Constant(m_rows, m_model.environments.front().temperature)); !done)
            return tl::unexpected(done.error());
        progress.report(0.9, "fluxes");
        fluxes();
        return std::move(m_out);
    }

    Done runTransient(const std::function<Done(const Solution&)>& use, Progress& progress) {
        if (!m_model.transient)
            return fail(ErrorCode::WrongType, "the model has no transient", m_model.title, "Add \"transient\"");
        const auto& rule = *m_model.transient;
        if (auto ready = prepare(progress); !ready)
            return ready;
        const Eigen::VectorXd capacity = capacities() / rule.step; // W/K
        m_matrix.diagonal() += capacity;
        factor();
        Eigen::VectorXd field = Eigen::VectorXd::Constant(m_rows, rule.start);
        keep(field);
        fluxes();
        if (auto used = use(m_out); !used)
            return used;
        const int steps = static_cast<int>(std::lround(rule.duration / rule.step));
        for (int step = 1; step <= steps; ++step) {
            if (progress.cancelled())
                return fail(ErrorCode::Cancelled, "solving was cancelled", m_model.title);
            progress.report(static_cast<double>(step) / steps, "stepping in time");
            if (auto done = iterate(m_right + capacity.cwiseProduct(field), field); !done)
                return done;
            m_out.time = step * rule.step;
            m_out.stored = capacity.dot(m_field - field);
            field = m_field;
            if (step % rule.every != 0 && step != steps)
                continue;
            fluxes();
            if (auto used = use(m_out); !used)
                return used;
        }
        return {};
    }

private:
    Done prepare(Progress& progress) {
        number();
        spreadSources();
        chooseEnvironments();
        if (!m_anchored && !m_model.transient)
            return fail(ErrorCode::WrongType, "no environment touches the model, so its temperature has no level",
                        m_model.title, "Give at least one outer face an environment");
        progress.report(0.1, "assembling");
        assemble();
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "solving was cancelled", m_model.title);
        return {};
    }

    Eigen::VectorXd capacities() const { // J/K
        Eigen::VectorXd all = Eigen::VectorXd::Zero(m_rows);
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_row[cell] != none)
                all[m_row[cell]] = material(cell).density * material(cell).heatCapacity * volume(m_grid.indices(cell));
        return all;
    }

    const Material& material(std::size_t cell) const {
        return m_model.materials[m_model.boxes[static_cast<std::size_t>(m_grid.box[cell])].material];
    }
    double volume(const std::array<std::size_t, 3>& at) const {
        return m_grid.width(0, at[0]) * m_grid.width(1, at[1]) * m_grid.width(2, at[2]);
    }
    double area(int axis, const std::array<std::size_t, 3>& at) const {
        return volume(at) / m_grid.width(axis, at[static_cast<std::size_t>(axis)]);
    }
    // Resistance of half a cell along an axis, m2.K/W.
    double half(int axis, std::size_t cell, const std::array<std::size_t, 3>& at) const {
        return 0.5 * m_grid.width(axis, at[static_cast<std::size_t>(axis)]) / material(cell).conductivity[axis];
    }
    // The neighbour on a side, or none when there is no solid.
    std::ptrdiff_t neighbour(const std::array<std::size_t, 3>& at, int axis, bool above) const {
        auto next = at;
        auto& index = next[static_cast<std::size_t>(axis)];
        if (above ? index + 1 >= m_grid.cells(axis) : index == 0)
            return none;
        index = above ? index + 1 : index - 1;
        const auto cell = m_grid.cell(next[0], next[1], next[2]);
        return m_grid.box[cell] < 0 ? none : static_cast<std::ptrdiff_t>(cell);
    }
    static std::size_t sideOf(int axis, bool above) { return 2 * static_cast<std::size_t>(axis) + (above ? 1 : 0); }

    void number() {
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_grid.box[cell] >= 0)
                m_row[cell] = m_rows++;
    }

    void spreadSources() {
        std::vector<double> boxVolume(m_model.boxes.size(), 0.0);
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_row[cell] != none)
                boxVolume[static_cast<std::size_t>(m_grid.box[cell])] += volume(m_grid.indices(cell));
        m_out.source.assign(m_row.size(), 0.0);
        for (std::size_t cell = 0; cell < m_row.size(); ++cell) {
            if (m_row[cell] == none)
                continue;
            const auto box = static_cast<std::size_t>(m_grid.box[cell]);
            m_out.source[cell] = m_model.boxes[box].source + m_model.boxes[box].power / boxVolume[box];
            m_out.produced += m_out.source[cell] * volume(m_grid.indices(cell));
        }
    }

    std::int8_t environmentAt(const Vec& faceCentre, std::size_t side) const {
        for (std::size_t e = 0; e < m_model.environments.size(); ++e)
            for (const auto& face : m_model.environments[e].faces) {
                bool inside = face.side == Side::Any || static_cast<std::size_t>(face.side) == side;
                for (std::size_t axis = 0; axis < 3; ++axis) {
                    const double slack = 1e-9;
                    inside = inside && faceCentre[axis] >= face.from[axis] - slack &&
                             faceCentre[axis] <= face.to[axis] + slack;
                }
                if (inside)
                    return static_cast<std::int8_t>(e);
            }
        return none;
    }

    void chooseEnvironments() {
        m_out.environment.assign(6 * m_row.size(), none);
        forFaces([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            if (beyond != none)
                return;
            Vec centre{m_grid.centre(0, at[0]), m_grid.centre(1, at[1]), m_grid.centre(2, at[2])};
            const auto a = static_cast<std::size_t>(axis);
            centre[a] = m_grid.lines[a][at[a] + (above ? 1 : 0)];
            const auto side = sideOf(axis, above);
            m_out.environment[6 * cell + side] = environmentAt(centre, side);
            m_anchored = m_anchored || m_out.environment[6 * cell + side] != none;
        });
    }

    template <class Use> void forFaces(Use use) const {
        for (std::size_t cell = 0; cell < m_row.size(); ++cell) {
            if (m_row[cell] == none)
                continue;
            const auto at = m_grid.indices(cell);
            for (int axis = 0; axis < 3; ++axis)
                for (const bool above : {false, true})
                    use(cell, at, axis, above, neighbour(at, axis, above));
        }
    }

    // Heat flow per kelvin through a face, W/K; 0 where adiabatic.
    double conductance(std::size_t cell, const std::array<std::size_t, 3>& at, int axis, bool above,
                       std::ptrdiff_t beyond) const {
        if (beyond != none) {
            const auto other = static_cast<std::size_t>(beyond);
            return area(axis, at) / (half(axis, cell, at) + half(axis, other, m_grid.indices(other)));
        }
        const auto e = m_out.environment[6 * cell + sideOf(axis, above)];
        if (e == none)
            return 0;
        return area(axis, at) / (half(axis, cell, at) + m_model.environments[static_cast<std::size_t>(e)].resistance);
    }

    double levelBeyond(std::size_t cell, int axis, bool above, std::ptrdiff_t beyond) const {
        if (beyond != none)
            return m_out.temperature[static_cast<std::size_t>(beyond)];
        const auto e = m_out.environment[6 * cell + sideOf(axis, above)];
        return e == none ? m_out.temperature[cell] : m_model.environments[static_cast<std::size_t>(e)].temperature;
    }

    void assemble() {
        m_right = Eigen::VectorXd::Zero(m_rows);
        std::vector<Eigen::Triplet<double, int>> entries;
        entries.reserve(static_cast<std::size_t>(m_rows) * 7);
        Eigen::VectorXd diagonal = Eigen::VectorXd::Zero(m_rows);
        forFaces([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            const double g = conductance(cell, at, axis, above, beyond);
            const int row = m_row[cell];
            diagonal[row] += g;
            if (beyond != none)
                entries.emplace_back(row, m_row[static_cast<std::size_t>(beyond)], -g);
            else if (g > 0)
                m_right[row] += g * levelBeyond(cell, axis, above, beyond);
        });
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_row[cell] != none) {
                m_right[m_row[cell]] += m_out.source[cell] * volume(m_grid.indices(cell));
                entries.emplace_back(m_row[cell], m_row[cell], diagonal[m_row[cell]]);
            }
        m_matrix.resize(m_rows, m_rows);
        m_matrix.setFromTriplets(entries.begin(), entries.end());
    }

    void factor() {
        m_solver.setTolerance(tolerance);
        m_solver.setMaxIterations(20000);
        m_solver.compute(m_matrix);
    }

    Done iterate(const Eigen::VectorXd& right, const Eigen::VectorXd& guess) {
        const Eigen::VectorXd field = m_solver.solveWithGuess(right, guess);
        m_out.iterations = static_cast<int>(m_solver.iterations());
        if (m_solver.info() != Eigen::Success && !(m_solver.error() < 1e-9))
            return fail(ErrorCode::NotConverged,
                        fmt::format("the solver stopped at a residual of {:.2g} after {} iterations", m_solver.error(),
                                    m_solver.iterations()),
                        m_model.title, "Check that every part has a way for its heat to leave");
        keep(field);
        return {};
    }

    void keep(const Eigen::VectorXd& field) {
        m_field = field;
        m_out.temperature.assign(m_row.size(), std::nan(""));
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_row[cell] != none)
                m_out.temperature[cell] = field[m_row[cell]];
    }

    void fluxes() {
        m_out.leaving = 0;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            m_out.fluxBelow[axis].assign(m_row.size(), 0.0);
            m_out.fluxAbove[axis].assign(m_row.size(), 0.0);
        }
        forFaces([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            const double g = conductance(cell, at, axis, above, beyond);
            const double out = g * (m_out.temperature[cell] - levelBeyond(cell, axis, above, beyond));
            auto& flux = (above ? m_out.fluxAbove : m_out.fluxBelow)[static_cast<std::size_t>(axis)];
            flux[cell] = (above ? out : -out) / area(axis, at);
            if (beyond == none)
                m_out.leaving += out;
        });
    }

    const Model& m_model;
    const Grid& m_grid;
    std::vector<int> m_row; // per grid cell, none in voids
    int m_rows = 0;
    bool m_anchored = false;
    Matrix m_matrix;
    Eigen::VectorXd m_right;
    Eigen::VectorXd m_field;
    using Factor = Eigen::IncompleteCholesky<double, Eigen::Lower, Eigen::NaturalOrdering<int>>;
    Eigen::ConjugateGradient<Matrix, Eigen::Lower | Eigen::Upper, Factor> m_solver;
    Solution m_out;
};

} // namespace

Result<Solution> solve(const Model& model, const Grid& grid, Progress& progress) {
    return System(model, grid).run(progress);
}

Done solveTransient(const Model& model, const Grid& grid, const std::function<Done(const Solution&)>& use,
                    Progress& progress) {
    return System(model, grid).runTransient(use, progress);
}

} // namespace pyro::rig
