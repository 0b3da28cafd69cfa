// The rig's iterative solver against Eigen's direct one, on the five-point Laplacian of a square.
#include "rig/conjugate_gradients.h"

#include <Eigen/SparseCholesky>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::rig;

namespace {

Matrix laplacian(int side) {
    std::vector<Eigen::Triplet<double>> entries;
    const auto at = [&](int i, int j) { return i * side + j; };
    for (int i = 0; i < side; ++i)
        for (int j = 0; j < side; ++j) {
            entries.emplace_back(at(i, j), at(i, j), 4.0);
            for (const auto& [di, dj] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}})
                if (i + di >= 0 && i + di < side && j + dj >= 0 && j + dj < side)
                    entries.emplace_back(at(i, j), at(i + di, j + dj), -1.0);
        }
    Matrix matrix(side * side, side * side);
    matrix.setFromTriplets(entries.begin(), entries.end());
    return matrix;
}

class Stop final : public Progress {
public:
    void report(double, std::string_view) override { ++told; }
    bool cancelled() const override { return told > 0; }
    int told = 0;
};

} // namespace

TEST(ConjugateGradients, FindTheSolutionOfTheDirectSolver) {
    const auto matrix = laplacian(40);
    const Eigen::VectorXd right = Eigen::VectorXd::LinSpaced(matrix.rows(), -1, 3);
    ConjugateGradients solver;
    solver.factor(matrix);
    NoProgress quiet;
    const auto found = solver.solve(right, Eigen::VectorXd::Zero(matrix.rows()), 1e-12, quiet);
    ASSERT_TRUE(found);
    const Eigen::SparseMatrix<double> columns(matrix);
    const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> direct(columns);
    const Eigen::VectorXd exact = direct.solve(right);
    EXPECT_LT((found->solution - exact).norm() / exact.norm(), 1e-10);
    EXPECT_LE(found->residual, 1e-11);
    EXPECT_LT(found->iterations, 200) << "far fewer than unknowns: the factor helps";
}

TEST(ConjugateGradients, AGoodGuessIsHalfTheWay) {
    const auto matrix = laplacian(30);
    const Eigen::VectorXd right = Eigen::VectorXd::Ones(matrix.rows());
    ConjugateGradients solver;
    solver.factor(matrix);
    NoProgress quiet;
    const auto cold = solver.solve(right, Eigen::VectorXd::Zero(matrix.rows()), 1e-10, quiet);
    ASSERT_TRUE(cold);
    const auto warm = solver.solve(right, cold->solution, 1e-10, quiet);
    ASSERT_TRUE(warm);
    EXPECT_LE(warm->iterations, 1);
    const auto near = solver.solve(1.001 * right, cold->solution, 1e-10, quiet);
    ASSERT_TRUE(near);
    EXPECT_LT(near->iterations, cold->iterations);
    EXPECT_LT((near->solution - 1.001 * cold->solution).norm() / cold->solution.norm(), 1e-7);
}

TEST(ConjugateGradients, NothingOnTheRightIsSolvedByNothing) {
    const auto matrix = laplacian(10);
    ConjugateGradients solver;
    solver.factor(matrix);
    NoProgress quiet;
    const Eigen::VectorXd zero = Eigen::VectorXd::Zero(matrix.rows());
    const auto found = solver.solve(zero, zero, 1e-12, quiet);
    ASSERT_TRUE(found);
    EXPECT_EQ(found->solution.norm(), 0);
}

TEST(ConjugateGradients, AreCancelledOnTheirWay) {
    const auto matrix = laplacian(120);
    ConjugateGradients solver;
    solver.factor(matrix);
    Stop stop;
    const auto found = solver.solve(Eigen::VectorXd::Ones(matrix.rows()), Eigen::VectorXd::Zero(matrix.rows()), 1e-14,
                                    stop);
    ASSERT_FALSE(found);
    EXPECT_EQ(found.error().code, ErrorCode::Cancelled);
}
