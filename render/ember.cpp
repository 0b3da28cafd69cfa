#include "render/ember.h"

#include <algorithm>
#include <cmath>
#include <cstddef>

namespace pyro {
namespace {

struct Lab {
    double l;
    double a;
    double b;
};

// Anchors at equal steps of lightness; a and b chosen by eye.
constexpr std::array<Lab, 6> anchors{{{20, 26, -42}, {34.8, 48, -36}, {49.6, 60, 12}, {64.4, 44, 56}, {79.2, 14, 66}, {94, -2, 30}}};
constexpr std::array<double, 3> white{0.95047, 1.0, 1.08883}; // D65

double gammaEncode(double linear) {
    const double value = std::clamp(linear, 0.0, 1.0);
    return value <= 0.0031308 ? 12.92 * value : 1.055 * std::pow(value, 1 / 2.4) - 0.055;
}

double gammaDecode(double value) {
    return value <= 0.04045 ? value / 12.92 : std::pow((value + 0.055) / 1.055, 2.4);
}

Rgb toRgb(const Lab& lab) {
    const auto inverse = [](double t) { return t > 6.0 / 29 ? t * t * t : 3 * 36.0 / 841 * (t - 4.0 / 29); };
    const double fy = (lab.l + 16) / 116;
    const double x = white[0] * inverse(fy + lab.a / 500);
    const double y = white[1] * inverse(fy);
    const double z = white[2] * inverse(fy - lab.b / 200);
    return {gammaEncode(3.2404542 * x - 1.5371385 * y - 0.4985314 * z),
            gammaEncode(-0.9692660 * x + 1.8760108 * y + 0.0415560 * z),
            gammaEncode(0.0556434 * x - 0.2040259 * y + 1.0572252 * z)};
}

} // namespace

Rgb ember(double share) {
    const double at = std::clamp(share, 0.0, 1.0) * static_cast<double>(anchors.size() - 1);
    const auto first = std::min(static_cast<std::size_t>(at), anchors.size() - 2);
    const double t = at - static_cast<double>(first);
    const auto& from = anchors[first];
    const auto& to = anchors[first + 1];
    return toRgb({std::lerp(from.l, to.l, t), std::lerp(from.a, to.a, t), std::lerp(from.b, to.b, t)});
}

double lightness(const Rgb& colour) {
    const double y =
        0.2126729 * gammaDecode(colour[0]) + 0.7151522 * gammaDecode(colour[1]) + 0.0721750 * gammaDecode(colour[2]);
    return y > 216.0 / 24389 ? 116 * std::cbrt(y) - 16 : 24389.0 / 27 * y;
}

} // namespace pyro
