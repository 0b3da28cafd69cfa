#include "core/thermal/correlations.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr std::array<CorrelationFacts, 10> all{{
    {Correlation::PlateLaminarLocal, "plate_laminar_local", "Flat plate, laminar, local", "Nu = 0.332 Re^1/2 Pr^1/3",
     "Pohlhausen 1921; handbook", "Re < 5e5, Pr > 0.6", true},
    {Correlation::PlateLaminarMean, "plate_laminar_mean", "Flat plate, laminar, mean from the edge",
     "Nu = 0.664 Re^1/2 Pr^1/3", "Pohlhausen 1921; handbook", "Re < 5e5, Pr > 0.6", true},
    {Correlation::PlateTurbulentLocal, "plate_turbulent_local", "Flat plate, turbulent, local",
     "Nu = 0.0296 Re^4/5 Pr^1/3", "handbook, not yet compared with the source", "5e5 < Re < 1e7, 0.6 < Pr < 60", true},
    {Correlation::PlateTurbulentMean, "plate_turbulent_mean", "Flat plate, turbulent from the edge, mean",
     "Nu = 0.037 Re^4/5 Pr^1/3", "handbook, not yet compared with the source", "5e5 < Re < 1e7, 0.6 < Pr < 60", true},
    {Correlation::TubeLaminarFlux, "tube_laminar_flux", "Tube, laminar, developed, constant wall flux", "Nu = 48/11",
     "exact; handbook", "Re < 2300", false},
    {Correlation::TubeLaminarWall, "tube_laminar_wall", "Tube, laminar, developed, constant wall temperature",
     "Nu = 3.657", "Graetz 1883; handbook", "Re < 2300", false},
    {Correlation::TubeTurbulent, "tube_turbulent", "Tube, turbulent, developed",
     "Nu = (f/8)(Re-1000)Pr / (1 + 12.7 (f/8)^1/2 (Pr^2/3 - 1)), f = (0.79 ln Re - 1.64)^-2",
     "Gnielinski 1976, not yet compared with the source", "3000 < Re < 5e6, 0.5 < Pr < 2000", false},
    {Correlation::Cylinder, "cylinder", "Cylinder in cross flow, mean",
     "Nu = 0.3 + 0.62 Re^1/2 Pr^1/3 (1 + (Re/282000)^5/8)^4/5 / (1 + (0.4/Pr)^2/3)^1/4",
     "Churchill and Bernstein 1977, not yet compared with the source", "Re Pr > 0.2", false},
    {Correlation::Sphere, "sphere", "Sphere, mean", "Nu = 2 + 0.6 Re^1/2 Pr^1/3",
     "Ranz and Marshall 1952, not yet compared with the source", "Re < 200, 0.6 < Pr < 380", false},
    {Correlation::VerticalPlate, "vertical_plate", "Vertical plate, natural convection, mean",
     "Nu = (0.825 + 0.387 Ra^1/6 / (1 + (0.492/Pr)^9/16)^8/27)^2",
     "Churchill and Chu 1975, not yet compared with the source", "Ra < 1e12", false},
}};

Result<double> reynoldsOf(const FlowConditions& conditions, double reach) {
    if (!(conditions.speed > 0) || !(conditions.viscosity > 0))
        return fail(ErrorCode::WrongType, "the correlation needs the speed and the kinematic viscosity of the fluid",
                    "references");
    return conditions.speed * reach / conditions.viscosity;
}

double gnielinski(double re, double pr) {
    const double f8 = std::pow(0.79 * std::log(re) - 1.64, -2) / 8;
    return f8 * (re - 1000) * pr / (1 + 12.7 * std::sqrt(f8) * (std::pow(pr, 2.0 / 3) - 1));
}

double churchillBernstein(double re, double pr) {
    return 0.3 + 0.62 * std::sqrt(re) * std::cbrt(pr) / std::pow(1 + std::pow(0.4 / pr, 2.0 / 3), 0.25) *
                     std::pow(1 + std::pow(re / 282000, 0.625), 0.8);
}

double churchillChu(double ra, double pr) {
    return std::pow(0.825 + 0.387 * std::pow(ra, 1.0 / 6) / std::pow(1 + std::pow(0.492 / pr, 9.0 / 16), 8.0 / 27), 2);
}

std::string outsideOf(const char* name, double value, double low, double high) {
    if (value >= low && value <= high)
        return {};
    return fmt::format("{} = {:.3g} lies outside of {:g} to {:g}", name, value, low, high);
}

std::string joined(const std::string& a, const std::string& b) {
    return a.empty() ? b : b.empty() ? a : fmt::format("{}, {}", a, b);
}

} // namespace

std::span<const CorrelationFacts> correlations() { return all; }

const CorrelationFacts* correlationNamed(std::string_view key) {
    const auto found = std::ranges::find(all, key, &CorrelationFacts::key);
    return found == all.end() ? nullptr : &*found;
}

bool uses(Correlation correlation, double FlowConditions::*condition) {
    const bool natural = correlation == Correlation::VerticalPlate;
    if (condition == &FlowConditions::length)
        return !std::ranges::find(all, correlation, &CorrelationFacts::correlation)->alongPlace;
    if (condition == &FlowConditions::speed)
        return !natural;
    if (condition == &FlowConditions::expansion || condition == &FlowConditions::difference)
        return natural;
    if (condition == &FlowConditions::prandtl)
        return correlation != Correlation::TubeLaminarFlux && correlation != Correlation::TubeLaminarWall;
    return true;
}

std::span<const ReferenceFluid> referenceFluids() {
    static constexpr std::array<ReferenceFluid, 2> fluids{{{"dry air, 20 \u00b0C", 0.0257, 15.1e-6, 0.713, 3.41e-3},
                                                           {"water, 20 \u00b0C", 0.598, 1.004e-6, 7.01, 2.07e-4}}};
    return fluids;
}

Result<CorrelationValue> correlate(Correlation correlation, const FlowConditions& given, double at) {
    const auto& facts = *std::ranges::find(all, correlation, &CorrelationFacts::correlation);
    const double reach = facts.alongPlace ? at : given.length;
    if (!(reach > 0) || !(given.conductivity > 0))
        return fail(ErrorCode::WrongType,
                    facts.alongPlace
                        ? "the correlation needs the fluid's conductivity and a place behind the leading edge"
                        : "the correlation needs the fluid's conductivity and a length",
                    "references");
    const double pr = given.prandtl;
    const bool constant = correlation == Correlation::TubeLaminarFlux || correlation == Correlation::TubeLaminarWall;
    if (!constant && !(pr > 0))
        return fail(ErrorCode::WrongType, "the correlation needs the Prandtl number of the fluid", "references");
    CorrelationValue out;
    constexpr double inf = 1e300;
    if (correlation == Correlation::VerticalPlate) {
        if (!(given.expansion > 0) || !(given.viscosity > 0))
            return fail(ErrorCode::WrongType,
                        "natural convection needs the expansion coefficient and the kinematic viscosity", "references");
        const double ra = 9.81 * given.expansion * std::abs(given.difference) * std::pow(reach, 3) /
                          (given.viscosity * given.viscosity) * pr;
        out.nusselt = churchillChu(ra, pr);
        out.outside = outsideOf("Ra", ra, 0, 1e12);
    } else {
        const auto re = reynoldsOf(given, reach);
        if (!re)
            return tl::unexpected(re.error());
        switch (correlation) {
        case Correlation::PlateLaminarLocal:
        case Correlation::PlateLaminarMean:
            out.nusselt = (correlation == Correlation::PlateLaminarLocal ? 0.332 : 0.664) * std::sqrt(*re) *
                          std::cbrt(pr);
            out.outside = joined(outsideOf("Re", *re, 0, 5e5), outsideOf("Pr", pr, 0.6, inf));
            break;
        case Correlation::PlateTurbulentLocal:
        case Correlation::PlateTurbulentMean:
            out.nusselt = (correlation == Correlation::PlateTurbulentLocal ? 0.0296 : 0.037) * std::pow(*re, 0.8) *
                          std::cbrt(pr);
            out.outside = joined(outsideOf("Re", *re, 5e5, 1e7), outsideOf("Pr", pr, 0.6, 60));
            break;
        case Correlation::TubeLaminarFlux:
        case Correlation::TubeLaminarWall:
            out.nusselt = correlation == Correlation::TubeLaminarFlux ? 48.0 / 11 : 3.657;
            out.outside = outsideOf("Re", *re, 0, 2300);
            break;
        case Correlation::TubeTurbulent:
            out.nusselt = gnielinski(*re, pr);
            out.outside = joined(outsideOf("Re", *re, 3000, 5e6), outsideOf("Pr", pr, 0.5, 2000));
            break;
        case Correlation::Cylinder:
            out.nusselt = churchillBernstein(*re, pr);
            out.outside = outsideOf("Re Pr", *re * pr, 0.2, inf);
            break;
        default:
            out.nusselt = 2 + 0.6 * std::sqrt(*re) * std::cbrt(pr);
            out.outside = joined(outsideOf("Re", *re, 0, 200), outsideOf("Pr", pr, 0.6, 380));
        }
    }
    out.filmCoefficient = out.nusselt * given.conductivity / reach;
    return out;
}

} // namespace pyro
