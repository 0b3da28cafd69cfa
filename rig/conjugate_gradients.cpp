#include "rig/conjugate_gradients.h"

#include <Eigen/IterativeLinearSolvers>
#include <cmath>
#include <fmt/format.h>
#include <memory>
#include <tbb/parallel_for.h>

namespace pyro::rig {
namespace {

constexpr int mostIterations = 20000;
constexpr int mostStalled = 50;
constexpr double roundingBelow = 1e-9; // above this residual, ups and downs are the method's own

void multiply(const Matrix& matrix, const Eigen::VectorXd& by, Eigen::VectorXd& out) {
    tbb::parallel_for(tbb::blocked_range<Eigen::Index>(0, matrix.rows(), 1 << 14), [&](const auto& range) {
        for (auto row = range.begin(); row != range.end(); ++row) {
            double sum = 0;
            for (Matrix::InnerIterator entry(matrix, row); entry; ++entry)
                sum += entry.value() * by[entry.col()];
            out[row] = sum;
        }
    });
}

} // namespace

struct ConjugateGradients::Factor {
    Eigen::IncompleteCholesky<double, Eigen::Lower, Eigen::NaturalOrdering<int>> cholesky;
};

ConjugateGradients::ConjugateGradients() : m_factor(std::make_unique<Factor>()) {}
ConjugateGradients::~ConjugateGradients() = default;

void ConjugateGradients::factor(const Matrix& matrix) {
    m_matrix = &matrix;
    m_factor->cholesky.compute(matrix);
}

Result<Iterated> ConjugateGradients::solve(const Eigen::VectorXd& right, const Eigen::VectorXd& guess, double tolerance,
                                           Progress& progress) const {
    Iterated out{guess, 0, 0};
    const double size = right.norm();
    Eigen::VectorXd product(right.size());
    multiply(*m_matrix, guess, product);
    Eigen::VectorXd rest = right - product;
    double first = rest.norm() / size;
    double best = first;
    int stalled = 0;
    Eigen::VectorXd z = m_factor->cholesky.solve(rest);
    Eigen::VectorXd along = z;
    double rz = rest.dot(z);
    out.residual = first;
    while (out.residual > tolerance && out.iterations < mostIterations && stalled < mostStalled) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "solving was cancelled");
        multiply(*m_matrix, along, product);
        const double step = rz / along.dot(product);
        out.solution += step * along;
        rest -= step * product;
        z = m_factor->cholesky.solve(rest);
        const double next = rest.dot(z);
        along = z + next / rz * along;
        rz = next;
        out.residual = rest.norm() / size;
        ++out.iterations;
        stalled = out.residual < 0.99 * best || best > roundingBelow ? 0 : stalled + 1;
        best = std::min(best, out.residual);
        if (out.iterations % 10 == 0)
            progress.report(std::log(first / best) / std::log(first / tolerance),
                            fmt::format("solving, residual {:.1e} after {} iterations", out.residual, out.iterations));
    }
    return out;
}

} // namespace pyro::rig
