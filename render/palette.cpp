#include "render/palette.h"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <span>

namespace pyro {
namespace {

struct Lab {
    double l;
    double a;
    double b;
};

// Anchors at equal steps of lightness; a and b chosen by eye.
constexpr std::array<Lab, 6> ember{
    {{20, 26, -42}, {34.8, 48, -36}, {49.6, 60, 12}, {64.4, 44, 56}, {79.2, 14, 66}, {94, -2, 30}}};
constexpr std::array<Lab, 2> ash{{{12, 0, -2}, {94, 0, 2}}};
constexpr std::array<Lab, 5> tide{{{30, 8, -46}, {62, -14, -30}, {93, 0, 2}, {62, 44, 44}, {30, 44, 22}}};
constexpr std::array<double, 3> white{0.95047, 1.0, 1.08883}; // D65

double gammaEncode(double linear) {
    const double value = std::clamp(linear, 0.0, 1.0);
    return value <= 0.0031308 ? 12.92 * value : 1.055 * std::pow(value, 1 / 2.4) - 0.055;
}

double gammaDecode(double value) { return value <= 0.04045 ? value / 12.92 : std::pow((value + 0.055) / 1.055, 2.4); }

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

Rgb paletteColour(PaletteName palette, double share) {
    const auto anchors = palette == PaletteName::Ash    ? std::span<const Lab>(ash)
                         : palette == PaletteName::Tide ? std::span<const Lab>(tide)
                                                        : std::span<const Lab>(ember);
    const double at = std::clamp(share, 0.0, 1.0) * static_cast<double>(anchors.size() - 1);
    const auto first = std::min(static_cast<std::size_t>(at), anchors.size() - 2);
    const double t = at - static_cast<double>(first);
    const auto& from = anchors[first];
    const auto& to = anchors[first + 1];
    return toRgb({std::lerp(from.l, to.l, t), std::lerp(from.a, to.a, t), std::lerp(from.b, to.b, t)});
}

// Bands take the colours from end to end of the palette, so that the hottest band is as bright as the hottest value.
Rgb stripColour(const StripView& strip, double share) {
    share = std::clamp(share, 0.0, 1.0);
    if (strip.bands > 1)
        share = std::min(std::floor(share * strip.bands), strip.bands - 1.0) / (strip.bands - 1.0);
    return paletteColour(strip.palette, strip.reversed ? 1 - share : share);
}

Rgb inkOn(const StripView& strip, double share) {
    return lightness(stripColour(strip, share)) > 58 ? darkInk : lightInk;
}

double lightness(const Rgb& colour) {
    const double y = 0.2126729 * gammaDecode(colour[0]) + 0.7151522 * gammaDecode(colour[1]) +
                     0.0721750 * gammaDecode(colour[2]);
    return y > 216.0 / 24389 ? 116 * std::cbrt(y) - 16 : 24389.0 / 27 * y;
}

} // namespace pyro
