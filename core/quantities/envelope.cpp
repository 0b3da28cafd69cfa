// Transmittances and what belongs to them: how each is read stands in core/envelope.
#include "core/quantities/gauge_quantity.h"

namespace pyro {
namespace {

Json insideAir() { return {{"air", "20 degC"}, {"humidity", "50 %"}}; }

Json insideAndOutsideAir() {
    auto air = insideAir();
    air["outside"] = "-5 degC";
    return air;
}

// To begin with, until the user's own layers stand there.
Json oneLayer() {
    return {{"layers", {{{"material", "softwood"}, {"thickness", "100 mm"}}}},
            {"resistances", {"0.13 m2.K/W", "0.04 m2.K/W"}}};
}

} // namespace

constexpr GaugeQuantity transmittanceQuantity{
    .name = "transmittance",
    .siUnit = "W/(m2.K)",
    .meaning = "U of layers, or of what lies between two environments",
    .symbol = "U",
    .group = QuantityGroup::Envelope,
    .measureEnvelope = measureTransmittance,
    .betweenSides = true,
    .choosesStatistic = false,
    .beginnings =
        [] {
            return std::vector<GaugeBeginning>{{"U of layers", oneLayer()},
                                               {"U between the environments", Json::object()}};
        },
};

constexpr GaugeQuantity couplingCoefficientQuantity{
    .name = "coupling_coefficient",
    .siUnit = "W/K",
    .meaning = "heat flow between two environments per kelvin; in 2D per metre",
    .symbol = "L",
    .group = QuantityGroup::Envelope,
    .addsUp = true,
    .measureEnvelope = measureCoupling,
    .betweenSides = true,
    .choosesStatistic = false,
    .beginnings =
        [] {
            return std::vector<GaugeBeginning>{{"Thermal coupling coefficient L", Json::object()}};
        },
};

constexpr GaugeQuantity linearTransmittanceQuantity{
    .name = "linear_transmittance",
    .siUnit = "W/(m.K)",
    .meaning = "psi: what a detail loses beyond its plane elements, per metre",
    .symbol = "psi",
    .group = QuantityGroup::Envelope,
    .keys = {"dimensions", "flanks"},
    .measureEnvelope = measureLinearTransmittance,
    .betweenSides = true,
    .choosesStatistic = false,
    .beginnings =
        [] {
            return std::vector<GaugeBeginning>{{"Psi of a linear thermal bridge", {{"dimensions", "external"}}}};
        },
};

constexpr GaugeQuantity pointTransmittanceQuantity{
    .name = "point_transmittance",
    .siUnit = "W/K",
    .meaning = "chi: what a detail loses beyond its plane elements and linear bridges",
    .symbol = "chi",
    .group = QuantityGroup::Envelope,
    .keys = {"dimensions", "flanks", "linear"},
    .addsUp = true,
    .measureEnvelope = measurePointTransmittance,
    .betweenSides = true,
    .choosesStatistic = false,
    .beginnings =
        [] {
            return std::vector<GaugeBeginning>{{"Chi of a point thermal bridge", {{"dimensions", "external"}}}};
        },
};

constexpr GaugeQuantity transmissionCoefficientQuantity{
    .name = "transmission_coefficient",
    .siUnit = "W/K",
    .meaning = "sum of elements, linear and point bridges of a component",
    .symbol = "H",
    .group = QuantityGroup::Envelope,
    .measureEnvelope = measureTransmission,
    .choosesStatistic = false,
};

constexpr GaugeQuantity temperatureFactorQuantity{
    .name = "temperature_factor",
    .siUnit = "1",
    .meaning = "fRsi: lowest surface temperature between two environments, 0 to 1",
    .symbol = "fRsi",
    .group = QuantityGroup::Envelope,
    .statistics = {"min", "max"},
    .measureEnvelope = measureTemperatureFactor,
    .betweenSides = true,
    .beginnings =
        [] {
            return std::vector<GaugeBeginning>{{"Temperature factor fRsi", Json::object()}};
        },
};

constexpr GaugeQuantity requiredTemperatureFactorQuantity{
    .name = "required_temperature_factor",
    .siUnit = "1",
    .meaning = "fRsi that the room's humidity asks for",
    .symbol = "fRsi_needed",
    .group = QuantityGroup::Envelope,
    .keys = {"air", "humidity", "outside", "surface_humidity"},
    .measureEnvelope = measureRequiredTemperatureFactor,
    .choosesStatistic = false,
    .beginnings =
        [] {
            return std::vector<GaugeBeginning>{{"Required fRsi", insideAndOutsideAir()}};
        },
};

constexpr GaugeQuantity dewPointQuantity{
    .name = "dew_point",
    .siUnit = "K",
    .meaning = "surface temperature at which the room's air reaches a humidity",
    .symbol = "T_dew",
    .group = QuantityGroup::Envelope,
    .keys = {"air", "humidity", "surface_humidity"},
    .measureEnvelope = measureDewPoint,
    .choosesStatistic = false,
    .beginnings =
        [] {
            return std::vector<GaugeBeginning>{{"Dew point", insideAir()}};
        },
};

} // namespace pyro
