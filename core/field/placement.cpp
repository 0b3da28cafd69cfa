#include "core/field/placement.h"

#include <Eigen/Geometry>
#include <Eigen/SVD>
#include <cmath>

namespace pyro {
namespace {

Eigen::Matrix3Xd columnsOf(std::span<const Point> places) {
    Eigen::Matrix3Xd out(3, places.size());
    for (std::size_t i = 0; i < places.size(); ++i)
        out.col(static_cast<Eigen::Index>(i)) << places[i][0], places[i][1], places[i][2];
    return out;
}

Placement placementOf(const Eigen::Matrix4d& carried) {
    Placement out;
    for (int row = 0; row < 3; ++row) {
        const auto at = static_cast<std::size_t>(row);
        for (int column = 0; column < 3; ++column)
            out.matrix[at][static_cast<std::size_t>(column)] = carried(row, column);
        out.shift[at] = carried(row, 3);
    }
    return out;
}

Eigen::Matrix4d matrixOf(const Placement& placement) {
    Eigen::Matrix4d out = Eigen::Matrix4d::Identity();
    for (int row = 0; row < 3; ++row) {
        const auto at = static_cast<std::size_t>(row);
        for (int column = 0; column < 3; ++column)
            out(row, column) = placement.matrix[at][static_cast<std::size_t>(column)];
        out(row, 3) = placement.shift[at];
    }
    return out;
}

bool onOneLine(const Eigen::Matrix3Xd& places) {
    const Eigen::MatrixXd about = places.colwise() - places.rowwise().mean().eval();
    const Eigen::VectorXd sizes = about.jacobiSvd().singularValues();
    return !(sizes(0) > 0) || sizes(1) < 1e-6 * sizes(0);
}

} // namespace

Placement Placement::inverse() const { return placementOf(matrixOf(*this).inverse().eval()); }

Placement Placement::after(const Placement& first) const {
    return placementOf((matrixOf(*this) * matrixOf(first)).eval());
}

bool Placement::keepsDirections() const {
    const Eigen::Matrix3d turn = matrixOf(*this).topLeftCorner<3, 3>();
    return (turn / std::cbrt(turn.determinant()) - Eigen::Matrix3d::Identity()).norm() < 1e-9;
}

Result<Placement> placementOf(std::span<const Point> from, std::span<const Point> to, bool scaled) {
    const auto there = columnsOf(from);
    const auto here = columnsOf(to);
    if (from.size() < 3 || from.size() != to.size() || onOneLine(there) || onOneLine(here))
        return fail(ErrorCode::WrongType, "the places of a placement lie on one line", "placement",
                    "Give three places or more that span a triangle");
    return placementOf(Eigen::umeyama(there, here, scaled));
}

} // namespace pyro
