#include "core/envelope/moisture.h"

#include "core/envelope/humid_air.h"

#include <fmt/format.h>

namespace pyro {

Result<Moisture> moistureOf(const PlaneElement& element, double inside, double outside, double humidity) {
    const auto dew = dewPoint(inside, humidity);
    const auto mould = dew ? lowestSurfaceTemperature(inside, humidity, mouldHumidity) : dew;
    if (!mould)
        return tl::unexpected(mould.error());
    Moisture out{faceTemperatures(element, inside, outside).front(), *dew, *mould, SurfaceMoisture::Dry, {}};
    if (out.surface < out.dewPoint)
        out.state = SurfaceMoisture::Condensation;
    else if (out.surface < out.mould)
        out.state = SurfaceMoisture::Mould;
    out.depth = out.surface <= out.dewPoint ? std::optional(0.0)
                                            : depthOfTemperature(element, inside, outside, out.dewPoint);
    return out;
}

std::string Moisture::text() const {
    const char* verdict = state == SurfaceMoisture::Condensation ? "water condenses on it"
                          : state == SurfaceMoisture::Mould      ? "mould can grow on it"
                                                                 : "it stays dry";
    const auto within =
        !depth ? std::string("No place in the element is below the dew point.")
        : *depth > 0
            ? fmt::format(
                  "The dew point is reached {:.0f} mm from the inner surface; vapour that gets there condenses.",
                  1e3 * *depth)
            : std::string("The dew point is reached at the inner surface already.");
    return fmt::format(
        "Inner surface {:.1f} \u00b0C: <b>{}</b> (dew point {:.1f} \u00b0C, mould below {:.1f} \u00b0C). {}",
        surface - 273.15, verdict, dewPoint - 273.15, mould - 273.15, within);
}

} // namespace pyro
