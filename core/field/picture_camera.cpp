#include "core/field/picture_camera.h"

#include <Eigen/Geometry>
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <complex>
#include <fmt/format.h>
#include <numbers>
#include <unsupported/Eigen/LevenbergMarquardt>

namespace pyro {
namespace {

using Vector3 = Eigen::Vector3d;
using Matrix3 = Eigen::Matrix3d;

Vector3 vectorOf(const Point& at) { return {at[0], at[1], at[2]}; }

std::array<std::array<double, 3>, 3> arrayOf(const Matrix3& matrix) {
    std::array<std::array<double, 3>, 3> out{};
    for (int row = 0; row < 3; ++row)
        for (int column = 0; column < 3; ++column)
            out[static_cast<std::size_t>(row)][static_cast<std::size_t>(column)] = matrix(row, column);
    return out;
}

Point times(const std::array<std::array<double, 3>, 3>& matrix, const Point& at) {
    return {dot(matrix[0], at), dot(matrix[1], at), dot(matrix[2], at)};
}

// The known pixels in lengths of about one: places about their middle, pixels about the picture's middle.
struct ScaledPixels {
    Vector3 middle = Vector3::Zero();
    double size = 0; // m, of the places
    double width;    // pixels
    std::vector<Vector3> places;
    std::vector<Eigen::Vector2d> pixels;

    ScaledPixels(std::span<const KnownPixel> known, double columns, double rows) : width(columns) {
        for (const auto& one : known)
            middle += vectorOf(one.at) / static_cast<double>(known.size());
        for (const auto& one : known)
            size = std::max(size, (vectorOf(one.at) - middle).norm());
        for (const auto& one : known) {
            places.push_back((vectorOf(one.at) - middle) / size);
            pixels.emplace_back((one.column - columns / 2) / columns, (one.row - rows / 2) / columns);
        }
    }
};

// Rotation, shift and focal length of a pinhole over the width.
struct Pinhole {
    Matrix3 turn = Matrix3::Identity();
    Vector3 shift = Vector3::Zero();
    double focal = 1;

    Vector3 ahead(const Vector3& place) const { return turn * place + shift; }
    Pinhole moved(const Eigen::VectorXd& by) const {
        Pinhole out = *this;
        const Vector3 axis = by.head<3>();
        if (const double angle = axis.norm(); angle > 0)
            out.turn = Eigen::AngleAxisd(angle, axis / angle).toRotationMatrix() * turn;
        out.shift += by.segment<3>(3);
        if (by.size() > 6)
            out.focal *= std::exp(std::clamp(by(6), -3.0, 3.0));
        return out;
    }
};

// For Eigen's solver: how far each known pixel lies beside where the camera sees it.
struct Misses : Eigen::DenseFunctor<double> {
    const ScaledPixels& scaled;
    Pinhole start;
    Misses(const ScaledPixels& pixels, const Pinhole& from, int unknowns)
        : DenseFunctor(unknowns, static_cast<int>(2 * pixels.pixels.size())), scaled(pixels), start(from) {}
    int operator()(const Eigen::VectorXd& by, Eigen::VectorXd& out) const {
        const auto camera = start.moved(by);
        for (std::size_t i = 0; i < scaled.places.size(); ++i) {
            const Vector3 seen = camera.ahead(scaled.places[i]);
            const double depth = std::max(seen.z(), 1e-3); // what lies behind is pushed ahead
            const Eigen::Vector2d at(camera.focal * seen.x() / depth, camera.focal * seen.y() / depth);
            out.segment<2>(static_cast<Eigen::Index>(2 * i)) = at - scaled.pixels[i];
        }
        return 0;
    }
};

double worstOf(const ScaledPixels& scaled, const Pinhole& camera) {
    Misses misses(scaled, camera, 7);
    Eigen::VectorXd out(misses.values());
    misses(Eigen::VectorXd::Zero(7), out);
    double worst = 0;
    for (std::size_t i = 0; i < scaled.places.size(); ++i) {
        if (!(camera.ahead(scaled.places[i]).z() > 0))
            return std::numeric_limits<double>::infinity();
        worst = std::max(worst, out.segment<2>(static_cast<Eigen::Index>(2 * i)).norm());
    }
    return worst;
}

Pinhole refined(const ScaledPixels& scaled, const Pinhole& start, bool focalIsKnown) {
    const int unknowns = focalIsKnown ? 6 : 7;
    Eigen::NumericalDiff<Misses> misses(Misses(scaled, start, unknowns));
    Eigen::LevenbergMarquardt<Eigen::NumericalDiff<Misses>> solver(misses);
    Eigen::VectorXd by = Eigen::VectorXd::Zero(unknowns);
    solver.setXtol(1e-12);
    solver.setFtol(1e-14);
    solver.minimize(by);
    return by.allFinite() ? start.moved(by) : start;
}

// Looking along a direction from far away: roll, distance and shift by the similarity that fits best.
Pinhole fromAfar(const ScaledPixels& scaled, const Vector3& along, double focal) {
    Pinhole out;
    out.focal = focal;
    const Vector3 right =
        (std::abs(along.z()) < 0.9 ? along.cross(Vector3::UnitZ()) : along.cross(Vector3::UnitX())).normalized();
    Matrix3 turn;
    turn << right.transpose(), along.cross(right).transpose(), along.transpose();
    using Complex = std::complex<double>;
    Complex middle;
    Complex product;
    double square = 0;
    std::vector<Complex> flat;
    for (const auto& place : scaled.places)
        flat.emplace_back((turn * place).x(), (turn * place).y());
    for (const auto& pixel : scaled.pixels)
        middle += Complex(pixel.x(), pixel.y()) / static_cast<double>(flat.size());
    for (std::size_t i = 0; i < flat.size(); ++i) { // places lie about their middle already
        product += std::conj(flat[i]) * (Complex(scaled.pixels[i].x(), scaled.pixels[i].y()) - middle);
        square += std::norm(flat[i]);
    }
    const double scale = square > 0 ? std::max(std::abs(product) / square, 1e-3) : 1;
    out.turn = Eigen::AngleAxisd(std::arg(product), Vector3::UnitZ()).toRotationMatrix() * turn;
    out.shift.z() = focal / scale;
    out.shift.x() = middle.real() / scale;
    out.shift.y() = middle.imag() / scale;
    return out;
}

// Evenly over the sphere (a Fibonacci lattice).
std::vector<Vector3> directions(int count) {
    std::vector<Vector3> out;
    for (int i = 0; i < count; ++i) {
        const double z = 1 - (2.0 * i + 1) / count;
        const double turn = i * std::numbers::pi * (3 - std::sqrt(5.0));
        out.emplace_back(std::sqrt(1 - z * z) * std::cos(turn), std::sqrt(1 - z * z) * std::sin(turn), z);
    }
    return out;
}

bool onOneLine(std::span<const KnownPixel> known, const ScaledPixels& scaled) {
    const auto isFlat = [](const Eigen::MatrixXd& rows) {
        const Eigen::MatrixXd about = rows.rowwise() - rows.colwise().mean().eval();
        const Eigen::VectorXd sizes = about.jacobiSvd().singularValues();
        return !(sizes(0) > 0) || sizes(1) < 1e-6 * sizes(0);
    };
    Eigen::MatrixXd places(scaled.places.size(), 3);
    Eigen::MatrixXd pixels(scaled.places.size(), 2);
    for (std::size_t i = 0; i < known.size(); ++i) {
        places.row(static_cast<Eigen::Index>(i)) = vectorOf(known[i].at);
        pixels.row(static_cast<Eigen::Index>(i)) << known[i].column, known[i].row;
    }
    return isFlat(places) || isFlat(pixels);
}

} // namespace

PictureCamera::Projected PictureCamera::project(const Point& at) const {
    auto seen = times(m_matrix, at);
    for (std::size_t axis = 0; axis < 3; ++axis)
        seen[axis] += m_shift[axis];
    return m_pinhole ? Projected{seen[0] / seen[2], seen[1] / seen[2], seen[2]} : Projected{seen[0], seen[1], seen[2]};
}

Point PictureCamera::place(double column, double row, double depth) const {
    const Point seen = m_pinhole ? Point{column * depth, row * depth, depth} : Point{column, row, depth};
    return times(m_inverse, minus(seen, m_shift));
}

// Parallel rays at right angles to the plane of three places.
class PlaneFit {
public:
    static PictureCamera of(std::span<const KnownPixel> known) {
        const Vector3 first = vectorOf(known[1].at) - vectorOf(known[0].at);
        const Vector3 second = vectorOf(known[2].at) - vectorOf(known[0].at);
        Vector3 along = first.cross(second).normalized();
        Eigen::Matrix2d pixels;
        pixels << known[1].column - known[0].column, known[2].column - known[0].column, known[1].row - known[0].row,
            known[2].row - known[0].row;
        if (pixels.determinant() < 0)
            along = -along;
        // columns and rows grow by these per metre: (first, second, along) are carried to their pixels
        Matrix3 places;
        places << first, second, along;
        Matrix3 seen = Matrix3::Zero();
        seen.topLeftCorner<2, 2>() = pixels;
        seen(2, 2) = 1;
        const Matrix3 matrix = seen * places.inverse();
        const Vector3 shift = Vector3(known[0].column, known[0].row, along.dot(vectorOf(known[0].at))) -
                              matrix * vectorOf(known[0].at);
        PictureCamera out;
        out.m_matrix = arrayOf(matrix);
        out.m_inverse = arrayOf(matrix.inverse());
        out.m_shift = {shift.x(), shift.y(), shift.z()};
        const Eigen::Vector2d stretch = matrix.topRows<2>().jacobiSvd().singularValues();
        if (stretch(0) > 1.1 * stretch(1))
            out.notes.push_back(fmt::format("by the matched places pixels are {:.2f} times as long as wide; check them",
                                            stretch(0) / stretch(1)));
        return out;
    }
};

class PinholeFit {
public:
    PinholeFit(const ScaledPixels& scaled, std::optional<double> focal) : m_scaled(scaled), m_focal(focal) {}

    Pinhole best() const {
        const auto focals = m_focal ? std::vector{*m_focal} : std::vector{0.8, 1.6, 4.0};
        Pinhole best;
        double least = std::numeric_limits<double>::infinity();
        for (const double focal : focals)
            for (const auto& along : directions(60)) {
                const auto found = refined(m_scaled, fromAfar(m_scaled, along, focal), m_focal.has_value());
                const double worst = worstOf(m_scaled, found);
                if (worst < least) {
                    least = worst;
                    best = found;
                }
                if (least * m_scaled.width < 1e-6)
                    return best;
            }
        return best;
    }
    // Whether another focal length would do as well, within half a pixel.
    bool focalIsOpen(const Pinhole& found) const {
        if (m_focal)
            return false;
        auto other = found;
        other.focal *= 1.5;
        other.shift.z() *= 1.5;
        other = refined(m_scaled, other, true);
        return (worstOf(m_scaled, other) - worstOf(m_scaled, found)) * m_scaled.width < 0.5;
    }
    PictureCamera camera(const Pinhole& found, double columns, double rows) const {
        Matrix3 inner;
        inner << found.focal * columns, 0, columns / 2, 0, found.focal * columns, rows / 2, 0, 0, 1;
        const Matrix3 matrix = inner * found.turn;
        const Vector3 shift = inner * (m_scaled.size * found.shift - found.turn * m_scaled.middle);
        PictureCamera out;
        out.m_pinhole = true;
        out.m_matrix = arrayOf(matrix);
        out.m_inverse = arrayOf(matrix.inverse());
        out.m_shift = {shift.x(), shift.y(), shift.z()};
        out.worstMatch = worstOf(m_scaled, found) * columns;
        return out;
    }

private:
    const ScaledPixels& m_scaled;
    std::optional<double> m_focal;
};

Result<PictureCamera> cameraOf(std::span<const KnownPixel> known, double columns, double rows,
                               std::optional<double> fieldOfView) {
    constexpr const char* remedy = "Match pixels far apart, at corners that are seen clearly";
    if (known.size() < 3)
        return fail(ErrorCode::WrongType, "three matched places at least are needed", "picture", remedy);
    const ScaledPixels scaled(known, columns, rows);
    if (onOneLine(known, scaled))
        return fail(ErrorCode::WrongType, "the matched places lie on one line", "picture", remedy);
    if (known.size() == 3)
        return PlaneFit::of(known);
    const PinholeFit fit(scaled, fieldOfView ? std::optional(0.5 / std::tan(*fieldOfView / 2)) : std::nullopt);
    const auto found = fit.best();
    auto out = fit.camera(found, columns, rows);
    if (!(out.worstMatch < 0.05 * columns))
        return fail(
            ErrorCode::WrongType,
            fmt::format("no camera sees the matched places at their pixels; at best one is off by {:.3g} pixels",
                        out.worstMatch),
            "picture", "Check columns, rows and places; rows count from the top");
    if (out.worstMatch > 2)
        out.notes.push_back(fmt::format("a matched place is seen {:.1f} pixels beside its pixel", out.worstMatch));
    if (fit.focalIsOpen(found))
        out.notes.emplace_back("field of view and distance cannot be told apart by the matched places; give the field "
                               "of view, or match places at different depths");
    return out;
}

} // namespace pyro
