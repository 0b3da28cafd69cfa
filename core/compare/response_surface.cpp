#include "core/compare/response_surface.h"

#include <Eigen/QR>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <optional>

namespace pyro {
namespace {

using Parameters = std::vector<std::size_t>;

// Parameters about their means, in units of their spread, so that sizes do not matter.
struct Scaled {
    std::vector<double> mean;
    std::vector<double> spread; // 0: of one value only
    Eigen::MatrixXd places;     // case by parameter

    explicit Scaled(std::span<const std::vector<double>> given) {
        const auto count = given.front().size();
        places.resize(static_cast<Eigen::Index>(given.size()), static_cast<Eigen::Index>(count));
        for (std::size_t i = 0; i < given.size(); ++i)
            for (std::size_t j = 0; j < count; ++j)
                places(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(j)) = given[i][j];
        for (Eigen::Index j = 0; j < places.cols(); ++j) {
            mean.push_back(places.col(j).mean());
            const double size = (places.col(j).array() - mean.back()).abs().maxCoeff();
            spread.push_back(size > 1e-12 * std::abs(mean.back()) ? size : 0);
            places.col(j) = spread.back() > 0 ? ((places.col(j).array() - mean.back()) / spread.back()).eval()
                                              : Eigen::ArrayXd::Zero(places.rows()).eval();
        }
    }
};

std::vector<Parameters> termsOf(const Scaled& scaled, bool quadratic) {
    std::vector<Parameters> terms{{}};
    const auto varies = [&](std::size_t i) { return scaled.spread[i] > 0; };
    for (std::size_t i = 0; i < scaled.spread.size(); ++i)
        if (varies(i))
            terms.push_back({i});
    for (std::size_t i = 0; quadratic && i < scaled.spread.size(); ++i)
        for (std::size_t j = i; j < scaled.spread.size(); ++j)
            if (varies(i) && varies(j))
                terms.push_back({i, j});
    return terms;
}

// Coefficients of the parameters as given, out of those of the scaled ones.
std::vector<ResponseSurface::Term> unscaled(const std::vector<Parameters>& terms, const Eigen::VectorXd& found,
                                            const Scaled& scaled) {
    std::map<Parameters, double> sums;
    for (const auto& term : terms)
        sums[term] = 0;
    for (std::size_t at = 0; at < terms.size(); ++at) {
        const double coefficient = found(static_cast<Eigen::Index>(at));
        // the product of (x - mean) / spread over the term's parameters, multiplied out
        const auto& term = terms[at];
        for (std::size_t chosen = 0; chosen < (std::size_t{1} << term.size()); ++chosen) {
            Parameters own;
            double factor = coefficient;
            for (std::size_t i = 0; i < term.size(); ++i) {
                factor /= scaled.spread[term[i]];
                if ((chosen >> i & 1U) != 0)
                    own.push_back(term[i]);
                else
                    factor *= -scaled.mean[term[i]];
            }
            sums[own] += factor;
        }
    }
    std::vector<ResponseSurface::Term> out;
    for (const auto& [parameters, coefficient] : sums)
        out.push_back({parameters, coefficient});
    return out;
}

// Nothing where the places do not determine it, or a case alone decides a term.
std::optional<ResponseSurface> fit(const Scaled& scaled, std::span<const double> values, bool quadratic) {
    const auto terms = termsOf(scaled, quadratic);
    const auto count = static_cast<Eigen::Index>(values.size());
    const auto unknowns = static_cast<Eigen::Index>(terms.size());
    if (count <= unknowns)
        return std::nullopt;
    Eigen::MatrixXd design(count, unknowns);
    for (Eigen::Index row = 0; row < count; ++row)
        for (Eigen::Index column = 0; column < unknowns; ++column) {
            double product = 1;
            for (const auto parameter : terms[static_cast<std::size_t>(column)])
                product *= scaled.places(row, static_cast<Eigen::Index>(parameter));
            design(row, column) = product;
        }
    const Eigen::Map<const Eigen::VectorXd> own(values.data(), count);
    Eigen::ColPivHouseholderQR<Eigen::MatrixXd> solver(design);
    solver.setThreshold(1e-10);
    if (solver.rank() < unknowns)
        return std::nullopt;
    const Eigen::VectorXd found = solver.solve(own);
    const Eigen::VectorXd rest = own - design * found;
    const Eigen::MatrixXd basis = Eigen::MatrixXd(solver.householderQ()).leftCols(unknowns);
    ResponseSurface out;
    double squares = 0;
    for (Eigen::Index row = 0; row < count; ++row) {
        const double leverage = basis.row(row).squaredNorm();
        if (leverage > 1 - 1e-9)
            return std::nullopt;
        out.leftOut.push_back(rest(row) / (1 - leverage));
        squares += out.leftOut.back() * out.leftOut.back();
    }
    out.quadratic = quadratic;
    out.error = std::sqrt(squares / static_cast<double>(count));
    out.effect = std::sqrt((own.array() - own.mean()).square().mean());
    out.terms = unscaled(terms, found, scaled);
    return out;
}

} // namespace

double ResponseSurface::at(std::span<const double> place) const {
    double sum = 0;
    for (const auto& term : terms) {
        double product = term.coefficient;
        for (const auto parameter : term.parameters)
            product *= place[parameter];
        sum += product;
    }
    return sum;
}

Result<ResponseSurface> fitSurface(std::span<const std::vector<double>> places, std::span<const double> values) {
    if (values.empty() || places.empty() || places.front().empty())
        return fail(ErrorCode::NotSupported, "no case tells it");
    const Scaled scaled(places);
    if (std::ranges::none_of(scaled.spread, [](double spread) { return spread > 0; }))
        return fail(ErrorCode::NotSupported, "no parameter has two values");
    const auto plane = fit(scaled, values, false);
    const auto curved = fit(scaled, values, true);
    if (!plane && !curved)
        return fail(ErrorCode::NotSupported,
                    fmt::format("{} cases are too few for a surface over {} parameters", values.size(),
                                std::ranges::count_if(scaled.spread, [](double spread) { return spread > 0; })));
    return curved && (!plane || curved->error < plane->error) ? *curved : *plane;
}

} // namespace pyro
