// The rig's solver on details of growing size, against the library's own conjugate gradients on the same kind of
// matrix, and all that is derived from a large detail.
#include "benchmarks/compare.h"
#include "core/evaluate/survey_run.h"
#include "rig/conjugate_gradients.h"
#include "rig/result.h"

#include <Eigen/IterativeLinearSolvers>
#include <cmath>
#include <filesystem>

using namespace pyro;
using namespace pyro::bench;

namespace {

// The foot of a mast in a roof, `fineness` cells across every layer; three materials over five powers of ten.
rig::Model detail(double fineness) {
    const auto text = fmt::format(R"j({{"rig": 1, "length_unit": "mm",
        "grid": {{"x": {{"spacing": {0}, "fine": {1}, "growth": 1.3}}, "y": {{"spacing": {0}, "fine": {1},
          "growth": 1.3}}, "z": {{"spacing": {0}, "fine": {1}, "growth": 1.3}}}},
        "materials": {{"wool": {{"conductivity": 0.035}}, "board": {{"conductivity": 0.13}},
          "steel": {{"conductivity": 50}}}},
        "boxes": [{{"part": "lining", "material": "board", "from": [0, 0, 0], "to": [900, 900, 12]}},
          {{"part": "insulation", "material": "wool", "from": [0, 0, 12], "to": [900, 900, 262]}},
                  {{"part": "deck", "material": "board", "from": [0, 0, 262], "to": [900, 900, 274]}},
                    {{"part": "mast", "material": "steel", "from": [0, 0, 180], "to": [30, 30, 274]}}],
        "environments": [{{"boundary": "outside", "temperature": "-30 degC", "surface_resistance": 0.04,
          "faces": [{{"side": "+z"}}]}},
                         {{"boundary": "room", "temperature": "20 degC", "surface_resistance": 0.10,
                           "faces": [{{"side": "-z"}}]}}]}})j",
                                  30 / fineness, 4 / fineness);
    return *rig::modelFromText(text, "bench");
}

// Seven points on a cube, conductances over three powers of ten.
rig::Matrix sevenPoint(int n) {
    std::vector<Eigen::Triplet<double, int>> entries;
    const auto row = [n](int i, int j, int k) { return i + n * (j + n * k); };
    std::vector<double> diagonal(static_cast<std::size_t>(n) * n * n, 1e-3);
    const auto link = [&](int a, int b) {
        const double g = std::pow(10.0, (a * 2654435761U >> 16 & 1023) / 341.0 - 1.5);
        entries.emplace_back(a, b, -g);
        entries.emplace_back(b, a, -g);
        diagonal[static_cast<std::size_t>(a)] += g;
        diagonal[static_cast<std::size_t>(b)] += g;
    };
    for (int k = 0; k < n; ++k)
        for (int j = 0; j < n; ++j)
            for (int i = 0; i < n; ++i) {
                if (i + 1 < n)
                    link(row(i, j, k), row(i + 1, j, k));
                if (j + 1 < n)
                    link(row(i, j, k), row(i, j + 1, k));
                if (k + 1 < n)
                    link(row(i, j, k), row(i, j, k + 1));
            }
    for (int a = 0; a < n * n * n; ++a)
        entries.emplace_back(a, a, diagonal[static_cast<std::size_t>(a)]);
    rig::Matrix matrix(n * n * n, n * n * n);
    matrix.setFromTriplets(entries.begin(), entries.end());
    return matrix;
}

void scaling() {
    fmt::print("| cells | iterations | residual | solved in | peak | exponent to the row before |\n| --- | --- | --- | "
               "--- | --- | --- |\n");
    double cellsBefore = 0;
    double before = 0;
    for (const double fineness : {1.0, 2.0, 3.4, 4.6}) {
        const auto model = detail(fineness);
        const auto grid = rig::makeGrid(model);
        NoProgress progress;
        std::optional<rig::Solution> solved;
        double seconds = 0;
        const double peak = peakOf([&] { seconds = secondsOf([&] { solved = *rig::solve(model, *grid, progress); }); });
        const auto cells = static_cast<double>(grid->cellCount());
        fmt::print("| {:.2f} million | {} | {:.0e} | {:.1f} s | {:.0f} MB | {} |\n", 1e-6 * cells, solved->iterations,
                   solved->residual, seconds, peak,
                   before > 0 ? fmt::format("{:.2f}", std::log(seconds / before) / std::log(cells / cellsBefore))
                              : std::string());
        std::fflush(stdout);
        cellsBefore = cells;
        before = seconds;
    }
}

void againstLibrary() {
    fmt::print("\n| what | against | ours | theirs | theirs / ours | our peak | their peak |\n| --- | --- | --- | --- "
               "| --- | --- | --- |\n");
    const auto matrix = sevenPoint(45);
    const Eigen::VectorXd right = Eigen::VectorXd::Random(matrix.rows());
    const Eigen::VectorXd guess = Eigen::VectorXd::Zero(matrix.rows());
    NoProgress progress;
    compare(
        "conjugate gradients to 1e-8, 91 000 rows",
        [&](int) {
            rig::ConjugateGradients solver;
            solver.factor(matrix);
            if (!solver.solve(right, guess, 1e-8, progress))
                std::abort();
        },
        {{"Eigen::ConjugateGradient, same factor",
          [&](int) {
              Eigen::ConjugateGradient<rig::Matrix, Eigen::Lower | Eigen::Upper,
                                       Eigen::IncompleteCholesky<double, Eigen::Lower, Eigen::NaturalOrdering<int>>>
                  solver;
              solver.setTolerance(1e-8);
              solver.compute(matrix);
              const Eigen::VectorXd solution = solver.solveWithGuess(right, guess);
              if (solver.info() != Eigen::Success)
                  std::abort();
          }}},
        3);
}

void derived() {
    const auto folder = std::filesystem::temp_directory_path() / "pyrometer-bench-rig";
    std::filesystem::create_directories(folder);
    const auto model = detail(3.4);
    const auto grid = rig::makeGrid(model);
    NoProgress progress;
    const auto solution = rig::solve(model, *grid, progress);
    if (!writeCase(rig::toBlocks(model, *grid, *solution), folder / "detail.vtm", Encoding::Raw))
        std::abort();
    const auto opened = openForEvaluation(folder / "detail.vtm", {}, progress);
    Survey survey;
    survey.cases.push_back({"detail", "", {}, {}, {}, Json::object()});
    for (const char* quantity :
         {"coupling_coefficient", "point_transmittance", "transmittance", "temperature_factor"}) {
        Gauge gauge;
        gauge.id = quantity;
        gauge.quantity = quantity;
        survey.gauges.push_back(gauge);
    }
    for (const bool again : {false, true}) {
        std::optional<Readings> readings;
        StepContext context;
        context.balances = false;
        const double seconds = secondsOf(
            [&] { readings = *evaluate(survey, survey.cases[0], *opened, Step{}, progress, context); });
        fmt::print("\nL3D, chi, U and fRsi of {:.2f} million cells, {}: {:.2f} s; chi {:.6g} W/K\n",
                   1e-6 * static_cast<double>(grid->cellCount()), again ? "again" : "first time", seconds,
                   readings->gauges[1].value.value_or(0));
        if (!readings->gauges[1].value)
            fmt::print("{}\n", readings->gauges[1].why);
    }
    std::filesystem::remove_all(folder);
}

} // namespace

int main() {
    scaling();
    againstLibrary();
    derived();
}
