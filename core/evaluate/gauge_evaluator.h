// All gauges of a survey on one step of a case, formulas and references among them resolved.
#pragma once

#include "core/envelope/transmittance.h"
#include "core/gauge/formula.h"
#include "core/thermal/measure_request.h"

namespace pyro {

// Sites and readings are found once and shared by the gauges that need them. Everything given must outlive it.
class GaugeEvaluator {
public:
    GaugeEvaluator(std::span<const Gauge> gauges, const CaseHeat& heat, SurfaceReader readSurface,
                   GivenEnvironments environments = {}, std::vector<NamedConductivity> materials = {},
                   double symmetry = 1);

    // Where fields of other cases come from, by name; without it gauges with "minus" cannot be read.
    void takeOthers(std::function<Result<OtherFields>(const std::string& caseName)> otherFields) {
        m_otherFields = std::move(otherFields);
    }

    // In the order of the gauges; what cannot be read says why. Errors: Cancelled.
    Result<std::vector<GaugeReading>> readAll(Progress& progress);

private:
    struct Entry {
        enum class State { Unread, Reading, Read } state = State::Unread;
        Result<Measured> measured = fail(ErrorCode::NotSupported, "");
        double outside = 0;
    };

    const Result<Measured>& measuredOf(std::size_t gauge);
    Result<Measured> measureOne(std::size_t gauge);
    Result<Measured> measureFormula(const Gauge& gauge);
    Result<std::shared_ptr<Site>> site(const Json& where);
    Result<Measured> named(const std::string& id);
    Result<FoundTemperature> temperature(const TemperatureOf& of, const Site& at);
    Result<FoundTemperature> fluidAt(double metres, const Site& at);
    Result<double> value(const GivenValue& of, const std::string& siUnit);
    Done findOwn(GaugeOptions& options, const Site& at);
    GaugeReading reading(std::size_t gauge);

    std::span<const Gauge> m_gauges;
    const CaseHeat& m_heat;
    SiteTools m_tools;
    EnvelopeTools m_envelope;
    std::vector<Entry> m_entries;
    std::function<Result<OtherFields>(const std::string&)> m_otherFields;
    double m_symmetry; // how many times the case the whole is
    std::map<std::string, Result<std::shared_ptr<Site>>> m_sites;
};

// The value of a reading in another unit; differences are not offset. Errors: WrongUnit.
Result<double> inUnit(double si, const std::string& siUnit, const std::string& unit, bool isTemperature);

} // namespace pyro
