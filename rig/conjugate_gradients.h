// Preconditioned conjugate gradients that report their progress and can be cancelled; the matrix on all cores.
#pragma once

#include "core/feedback/error.h"
#include "core/feedback/progress.h"

#include <Eigen/SparseCore>
#include <memory>

namespace pyro::rig {

using Matrix = Eigen::SparseMatrix<double, Eigen::RowMajor, int>;

struct Iterated {
    Eigen::VectorXd solution;
    int iterations = 0;
    double residual = 0; // norm over that of the right-hand side
};

// A x = b for a symmetric, positive definite matrix from a first guess; a factor of it is the preconditioner, kept
// between calls. Source: Y. Saad, Iterative Methods for Sparse Linear Systems, 2003, algorithm 9.1.
class ConjugateGradients {
public:
    void factor(const Matrix& matrix); // incomplete Cholesky without fill (Eigen); the matrix must outlive it
    // Ends at `tolerance`, or when 50 steps in a row bring nothing more: rounding. Errors: Cancelled.
    Result<Iterated> solve(const Eigen::VectorXd& right, const Eigen::VectorXd& guess, double tolerance,
                           Progress& progress) const;

    ConjugateGradients();
    ~ConjugateGradients();

private:
    struct Factor;
    std::unique_ptr<Factor> m_factor;
    const Matrix* m_matrix = nullptr;
};

} // namespace pyro::rig
