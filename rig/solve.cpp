#include "rig/solve.h"

#include "rig/conjugate_gradients.h"

#include <Eigen/IterativeLinearSolvers>
#include <cmath>
#include <fmt/format.h>
#include <unordered_map>

namespace pyro::rig {
namespace {

// An incomplete LU that is asked in every iteration of Eigen's solver, and stops it there when the user wants that.
struct WatchedFactors {
    struct Stopped {};
    Eigen::IncompleteLUT<double, int> factors;
    const Progress* watch = nullptr;

    template <class Matrix>
    WatchedFactors& analyzePattern(const Matrix& matrix) {
        factors.analyzePattern(matrix);
        return *this;
    }
    template <class Matrix>
    WatchedFactors& factorize(const Matrix& matrix) {
        factors.factorize(matrix);
        return *this;
    }
    template <class Matrix>
    WatchedFactors& compute(const Matrix& matrix) {
        factors.compute(matrix);
        return *this;
    }
    Eigen::VectorXd solve(const Eigen::VectorXd& right) const {
        if (watch != nullptr && watch->cancelled())
            throw Stopped{};
        return factors.solve(right);
    }
    Eigen::ComputationInfo info() { return factors.info(); }
};

constexpr double tolerance = 1e-12;
// what is carried is large against what is conducted: below, rounding rules
constexpr double carryingTolerance = 1e-10;
constexpr int none = -1;
constexpr double stefanBoltzmann = 5.670374419e-8; // W/(m2.K4), CODATA 2018
constexpr int mostRadiating = 100;
constexpr double radiatingTolerance = 1e-6; // K, of the surfaces between two solutions

class System {
public:
    System(const Model& model, const Grid& grid) : m_model(model), m_grid(grid), m_row(grid.cellCount(), none) {}

    Result<Solution> run(Progress& progress) {
        if (auto ready = prepare(progress); !ready)
            return tl::unexpected(ready.error());
        SubProgress solving(progress, 0.2, 0.9);
        factor();
        if (auto done = iterate(m_right, Eigen::VectorXd::Constant(m_rows, anyLevel()), solving); !done)
            return tl::unexpected(done.error());
        for (int turn = 0; radiates(); ++turn) {
            if (takeSurfaces() < radiatingTolerance)
                break;
            if (turn == mostRadiating)
                return fail(ErrorCode::NotConverged, "the radiating surfaces do not settle", m_model.title,
                            "Check emissivities and film coefficients");
            assemble();
            factor();
            if (auto done = iterate(m_right, m_field, solving); !done)
                return tl::unexpected(done.error());
        }
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
            SubProgress solving(progress, static_cast<double>(step - 1) / steps, static_cast<double>(step) / steps);
            solving.report(0, fmt::format("t = {:g} s", step * rule.step));
            if (radiates()) { // linearised about the surfaces as they are
                takeSurfaces();
                assemble();
                m_matrix.diagonal() += capacity;
                factor();
            }
            takeLevels(step * rule.step);
            rightSide();
            if (auto done = iterate(m_right + capacity.cwiseProduct(field), field, solving); !done)
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
    void takeLevels(double time) {
        m_out.levels.clear();
        for (const auto& environment : m_model.environments)
            m_out.levels.push_back(environment.temperatureAt(time));
    }
    double level(const Environment& outside) const {
        return m_out.levels[static_cast<std::size_t>(&outside - m_model.environments.data())];
    }

    Done prepare(Progress& progress) {
        takeLevels(0);
        number();
        spreadSources();
        auto flow = channelFlow(m_model, m_grid);
        if (!flow)
            return tl::unexpected(flow.error());
        m_out.flow = std::move(*flow);
        if (auto done = chooseBoundaries(); !done)
            return done;
        findContacts();
        if (!m_anchored && !m_model.transient)
            return fail(ErrorCode::WrongType, "no environment touches the model, so its temperature has no level",
                        m_model.title, "Give at least one outer face an environment, or add a channel");
        progress.report(0.1, "assembling");
        assemble();
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "solving was cancelled", m_model.title);
        return {};
    }

    double anyLevel() const { // K, to begin from
        return m_model.environments.empty() ? m_model.channels.front().inletTemperature
                                            : m_model.environments.front().temperature;
    }

    Eigen::VectorXd capacities() const { // J/K
        Eigen::VectorXd all = Eigen::VectorXd::Zero(m_rows);
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_row[cell] != none)
                all[m_row[cell]] = material(cell).density * material(cell).heatCapacity *
                                   m_grid.volume(m_grid.indices(cell));
        return all;
    }

    const Material& material(std::size_t cell) const {
        return m_model.materials[m_model.boxes[static_cast<std::size_t>(m_grid.box[cell])].material];
    }
    // Resistance of half a cell along an axis, m2.K/W.
    double half(int axis, std::size_t cell, const Grid::Index& at) const {
        return 0.5 * m_grid.width(axis, at[static_cast<std::size_t>(axis)]) / material(cell).conductivity[axis];
    }
    // Heat carried by the coolant's flow out of a cell through a side, W/K.
    double carried(std::size_t cell, const Grid::Index& at, int axis, bool above) const {
        if (m_out.flow.channel[cell] < 0)
            return 0;
        return material(cell).density * material(cell).heatCapacity * m_out.flow.outward(m_grid, cell, at, axis, above);
    }
    const Channel& channelAt(std::size_t cell) const {
        return m_model.channels[static_cast<std::size_t>(m_out.flow.channel[cell])];
    }

    void number() {
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_grid.box[cell] >= 0)
                m_row[cell] = m_rows++;
    }

    void spreadSources() {
        std::vector<double> boxVolume(m_model.boxes.size(), 0.0);
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_row[cell] != none)
                boxVolume[static_cast<std::size_t>(m_grid.box[cell])] += m_grid.volume(m_grid.indices(cell));
        m_out.source.assign(m_row.size(), 0.0);
        for (std::size_t cell = 0; cell < m_row.size(); ++cell) {
            if (m_row[cell] == none)
                continue;
            const auto box = static_cast<std::size_t>(m_grid.box[cell]);
            m_out.source[cell] = m_model.boxes[box].source + m_model.boxes[box].power / boxVolume[box];
            m_out.produced += m_out.source[cell] * m_grid.volume(m_grid.indices(cell));
        }
    }

    std::int8_t environmentAt(const Vec& faceCentre, std::size_t side) const {
        for (std::size_t e = 0; e < m_model.environments.size(); ++e)
            if (chooses(m_model.environments[e].faces, faceCentre, side))
                return static_cast<std::int8_t>(e);
        return none;
    }

    // Resistance of the contact between the parts of two boxes, m2.K/W; 0 for none.
    void findContacts() {
        if (m_model.contacts.empty())
            return;
        const auto boxes = m_model.boxes.size();
        m_contact.assign(boxes * boxes, 0.0);
        for (std::size_t a = 0; a < boxes; ++a)
            for (std::size_t b = 0; b < boxes; ++b)
                m_contact[a * boxes + b] = m_model.contactOf(m_model.boxes[a].part, m_model.boxes[b].part);
    }
    double contact(std::size_t cell, std::size_t other) const {
        return m_contact.empty() ? 0
                                 : m_contact[static_cast<std::size_t>(m_grid.box[cell]) * m_model.boxes.size() +
                                             static_cast<std::size_t>(m_grid.box[other])];
    }

    bool radiates() const { return !m_surface.empty(); }
    // The radiating surfaces' temperatures from the field; how far they moved, K.
    double takeSurfaces() {
        double most = 0;
        for (auto& [face, kelvin] : m_surface) {
            const auto cell = face / 6;
            const auto at = m_grid.indices(cell);
            const int axis = static_cast<int>(face % 6 / 2);
            const bool above = face % 2 == 1;
            const auto& outside = *environment(cell, axis, above);
            const double inner = half(axis, cell, at);
            const double outer = surfaceResistance(outside, face);
            const double next = m_out.temperature[cell] +
                                (level(outside) - m_out.temperature[cell]) * inner / (inner + outer);
            most = std::max(most, std::abs(next - kelvin));
            kelvin = next;
        }
        return most;
    }
    // m2.K/W with the radiation of a surface, linearised: h = e s (T^2 + Te^2)(T + Te). Source: Incropera, Fundamentals
    // of Heat and Mass Transfer, 1.2.3 (from memory).
    double surfaceResistance(const Environment& outside, std::size_t face) const {
        if (outside.emissivity == 0)
            return outside.resistance;
        const double surface = m_surface.at(face);
        const double there = level(outside);
        const double radiative = outside.emissivity * stefanBoltzmann * (surface * surface + there * there) *
                                 (surface + there);
        return 1 / (1 / outside.resistance + radiative);
    }

    Done chooseBoundaries() {
        std::vector<bool> touched(m_model.environments.size(), false);
        m_out.boundary = m_out.flow.opening;
        m_anchored = !m_model.channels.empty();
        m_grid.forSides([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            const auto side = Grid::sideOf(axis, above);
            auto& boundary = m_out.boundary[6 * cell + side];
            const auto here = m_out.flow.channel[cell];
            if (beyond != Grid::none) {
                const auto there = m_out.flow.channel[static_cast<std::size_t>(beyond)];
                if (here < 0 && there >= 0)
                    boundary = static_cast<std::int8_t>(m_model.inletOf(static_cast<std::size_t>(there)) + 2);
            } else if (boundary == none) {
                boundary = environmentAt(m_grid.faceCentre(at, axis, above), side);
                m_anchored = m_anchored || boundary != none;
                if (boundary == none)
                    return;
                touched[static_cast<std::size_t>(boundary)] = true;
                if (const auto& outside = m_model.environments[static_cast<std::size_t>(boundary)];
                    outside.emissivity > 0)
                    m_surface.emplace(6 * cell + side, outside.temperature);
            }
        });
        if (const auto idle = std::ranges::find(touched, false); idle != touched.end()) {
            const auto number = static_cast<std::size_t>(idle - touched.begin());
            return fail(ErrorCode::WrongType,
                        fmt::format("the environment \"{}\" touches no outer face of the model",
                                    m_model.environments[number].boundary),
                        fmt::format("environments.{}", number),
                        "Check its faces: their sides, from and to, and whether an earlier environment has them all");
        }
        return {};
    }

    const Environment* environment(std::size_t cell, int axis, bool above) const {
        const auto boundary = m_out.boundary[6 * cell + Grid::sideOf(axis, above)];
        return boundary >= 0 && static_cast<std::size_t>(boundary) < m_model.environments.size()
                   ? &m_model.environments[static_cast<std::size_t>(boundary)]
                   : nullptr;
    }

    // Between a wall and the coolant beside it, m2.K/W; nothing where both stand still or both flow.
    std::optional<double> filmResistance(std::size_t cell, std::size_t other) const {
        const auto& channel = m_out.flow.channel;
        if ((channel[cell] < 0) == (channel[other] < 0))
            return std::nullopt;
        const double film = channelAt(channel[cell] < 0 ? other : cell).resistance;
        return film > 0 ? std::optional(film) : std::nullopt;
    }

    // Conducted heat per kelvin through a face, W/K; 0 where adiabatic.
    double conductance(std::size_t cell, const Grid::Index& at, int axis, bool above, std::ptrdiff_t beyond) const {
        if (beyond != Grid::none) {
            const auto other = static_cast<std::size_t>(beyond);
            const auto next = m_grid.indices(other);
            if (const auto film = filmResistance(cell, other))
                return m_grid.area(axis, at) /
                       (*film + (m_out.flow.channel[cell] < 0 ? half(axis, cell, at) : half(axis, other, next)));
            return m_grid.area(axis, at) / (half(axis, cell, at) + contact(cell, other) + half(axis, other, next));
        }
        const auto* outside = environment(cell, axis, above);
        return outside ? m_grid.area(axis, at) /
                             (half(axis, cell, at) + surfaceResistance(*outside, 6 * cell + Grid::sideOf(axis, above)))
                       : 0.0;
    }

    double levelBeyond(std::size_t cell, int axis, bool above, std::ptrdiff_t beyond) const {
        if (beyond != Grid::none)
            return m_out.temperature[static_cast<std::size_t>(beyond)];
        const auto* outside = environment(cell, axis, above);
        return outside ? level(*outside) : m_out.temperature[cell];
    }

    void rightSide() {
        m_right = Eigen::VectorXd::Zero(m_rows);
        m_grid.forSides([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            if (beyond != Grid::none)
                return;
            const double entering = std::max(0.0, -carried(cell, at, axis, above));
            if (entering > 0)
                m_right[m_row[cell]] += entering * channelAt(cell).inletTemperature;
            else if (const double g = conductance(cell, at, axis, above, beyond); g > 0)
                m_right[m_row[cell]] += g * levelBeyond(cell, axis, above, beyond);
        });
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_row[cell] != none)
                m_right[m_row[cell]] += m_out.source[cell] * m_grid.volume(m_grid.indices(cell));
    }

    void assemble() {
        rightSide();
        std::vector<Eigen::Triplet<double, int>> entries;
        entries.reserve(static_cast<std::size_t>(m_rows) * 7);
        Eigen::VectorXd diagonal = Eigen::VectorXd::Zero(m_rows);
        m_grid.forSides([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            const double g = conductance(cell, at, axis, above, beyond);
            const double leaving = std::max(0.0, carried(cell, at, axis, above));
            const double entering = std::max(0.0, -carried(cell, at, axis, above));
            const int row = m_row[cell];
            diagonal[row] += g + leaving;
            if (beyond != Grid::none)
                entries.emplace_back(row, m_row[static_cast<std::size_t>(beyond)], -(g + entering));
        });
        for (std::size_t cell = 0; cell < m_row.size(); ++cell)
            if (m_row[cell] != none)
                entries.emplace_back(m_row[cell], m_row[cell], diagonal[m_row[cell]]);
        m_matrix.resize(m_rows, m_rows);
        m_matrix.setFromTriplets(entries.begin(), entries.end());
    }

    void factor() {
        if (m_model.channels.empty())
            m_solver.factor(m_matrix);
        else {
            // enough here, and a tenth of the time of the default
            m_carrying.preconditioner().factors.setFillfactor(2);
            m_carrying.preconditioner().factors.setDroptol(1e-4);
            m_carrying.setTolerance(carryingTolerance);
            m_carrying.setMaxIterations(20000);
            m_carrying.compute(m_matrix);
        }
    }

    Done iterate(const Eigen::VectorXd& right, const Eigen::VectorXd& guess, Progress& progress) {
        double residual = 0;
        Eigen::VectorXd field;
        if (m_model.channels.empty()) {
            auto solved = m_solver.solve(right, guess, tolerance, progress);
            if (!solved)
                return tl::unexpected(solved.error());
            residual = solved->residual;
            m_out.iterations = solved->iterations;
            field = std::move(solved->solution);
        } else {
            m_carrying.preconditioner().watch = &progress;
            try {
                field = m_carrying.solveWithGuess(right, guess);
            } catch (const WatchedFactors::Stopped&) {
                return fail(ErrorCode::Cancelled, "solving was cancelled", m_model.title);
            }
            residual = m_carrying.error();
            m_out.iterations = static_cast<int>(m_carrying.iterations());
        }
        m_out.residual = residual;
        if (!(residual < 1e-9))
            return fail(ErrorCode::NotConverged,
                        fmt::format("the solver stopped at a residual of {:.2g} after {} iterations", residual,
                                    m_out.iterations),
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
        m_out.turnover = 0;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            m_out.fluxBelow[axis].assign(m_row.size(), 0.0);
            m_out.fluxAbove[axis].assign(m_row.size(), 0.0);
        }
        m_grid.forSides([&](std::size_t cell, const auto& at, int axis, bool above, std::ptrdiff_t beyond) {
            const double g = conductance(cell, at, axis, above, beyond);
            const double out = g * (m_out.temperature[cell] - levelBeyond(cell, axis, above, beyond));
            auto& flux = (above ? m_out.fluxAbove : m_out.fluxBelow)[static_cast<std::size_t>(axis)];
            flux[cell] = (above ? out : -out) / m_grid.area(axis, at);
            if (beyond != Grid::none)
                return;
            m_out.leaving += out;
            m_out.turnover += std::max(0.0, out);
            // What enters has the inlet's temperature, so only what leaves counts from that level.
            if (const double carries = carried(cell, at, axis, above); carries > 0)
                m_out.leaving += carries * (m_out.temperature[cell] - channelAt(cell).inletTemperature);
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
    std::vector<double> m_contact;                     // per pair of boxes; empty without contacts
    std::unordered_map<std::size_t, double> m_surface; // of radiating faces, numbered as Solution::boundary: K
    ConjugateGradients m_solver;
    Eigen::BiCGSTAB<Matrix, WatchedFactors> m_carrying; // with a coolant
    Solution m_out;
};

} // namespace

Result<Solution> solve(const Model& model, const Grid& grid, Progress& progress) {
    return System(model, grid).run(progress);
}

Result<Refined> solveRefined(const Model& model, Grid grid, const std::function<void(const RefinementStep&)>& tell,
                             Progress& progress) {
    const auto rule = model.refinement.value_or(Refinement{});
    Refined out{std::move(grid), {}, {}};
    for (;;) {
        auto solved = solve(model, out.grid, progress);
        if (!solved)
            return tl::unexpected(solved.error());
        out.solution = std::move(*solved);
        const double turnover = out.solution.turnover;
        RefinementStep step{out.grid.cellCount(), turnover, 1,
                            turnover > 0 ? std::abs(out.solution.produced - out.solution.leaving) / turnover : 0};
        if (!out.steps.empty())
            step.change = std::abs(turnover - out.steps.back().heat) / turnover;
        out.steps.push_back(step);
        tell(step);
        if (step.change < rule.change && step.remainder < rule.balance)
            return out;
        auto finer = halved(model, out.grid);
        if (!finer)
            return tl::unexpected(finer.error());
        if (static_cast<double>(finer->cellCount()) > rule.mostCells)
            return fail(ErrorCode::NotConverged,
                        fmt::format("the heat flow still changes by {:.3g} % at {} cells, and halving would need {}",
                                    100 * step.change, step.cells, finer->cellCount()),
                        "refine", "Raise most_cells, or grade the grid towards the places where materials meet");
        out.grid = std::move(*finer);
    }
}

Done solveTransient(const Model& model, const Grid& grid, const std::function<Done(const Solution&)>& use,
                    Progress& progress) {
    return System(model, grid).runTransient(use, progress);
}

} // namespace pyro::rig
