#include "core/thermal/measure.h"

#include "core/field/volume_above.h"
#include "core/thermal/site_values.h"
#include "core/units/unit_product.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace pyro {
namespace {

constexpr std::array<MeasuredQuantity, 32> known{{
    {"film_coefficient", "W/(m2.K)", "heat flux over the temperature difference to a reference"},
    {"nusselt_number", "1", "film coefficient times length over the fluid's conductivity"},
    {"biot_number", "1", "film coefficient times length over the solid's conductivity"},
    {"stanton_number", "1", "film coefficient over density, heat capacity and speed"},
    {"reynolds_number", "1", "speed times length over the kinematic viscosity"},
    {"dimensionless_temperature", "1", "(T - reference) / (wall - reference)"},
    {"dimensionless_speed", "1", "speed over a reference speed"},
    {"boundary_layer_thickness", "m", "where a profile from the wall reaches a share of its free value"},
    {"volume_flow", "m3/s", "volume through a surface along its normal"},
    {"mass_flow", "kg/s", "mass through a surface along its normal"},
    {"enthalpy_flow", "W", "mass flow times heat capacity times temperature above a reference"},
    {"thermal_resistance", "K/W", "temperature above a reference per power"},
    {"heat_content", "J", "heat above a reference temperature"},
    {"heat_balance", "W", "heat in, out, produced, stored and what remains"},
    {"mass_balance", "kg/s", "mass in, out and what remains"},
    {"volume_above", "m3", "volume that is hotter than a level"},
    {"area", "m2", "extent of a surface"},
    {"volume", "m3", "extent of a part"},
    {"length", "m", "extent of a line"},
    {"faces", "1", "how many flat pieces a surface has"},
    {"heat_flux", "W/m2", "stored, or conducted"},
    {"temperature_gradient", "K/m", "slope of the temperature"},
    {"speed", "m/s", "magnitude of the velocity"},
    {"mass_flux", "kg/(m2.s)", "density times velocity"},
    {"transmittance", "W/(m2.K)", "U of layers, or of what lies between two environments"},
    {"coupling_coefficient", "W/K", "heat flow between two environments per kelvin; in 2D per metre"},
    {"linear_transmittance", "W/(m.K)", "psi: what a detail loses beyond its plane elements, per metre"},
    {"point_transmittance", "W/K", "chi: what a detail loses beyond its plane elements and linear bridges"},
    {"transmission_coefficient", "W/K", "sum of elements, linear and point bridges of a component"},
    {"temperature_factor", "1", "fRsi: lowest surface temperature between two environments, 0 to 1"},
    {"required_temperature_factor", "1", "fRsi that the room's humidity asks for"},
    {"dew_point", "K", "surface temperature at which the room's air reaches a humidity"},
}};

Component componentOf(const std::string& name) {
    if (name == "normal")
        return Component::Normal;
    return name == "magnitude" ? Component::Magnitude : componentNamed(name);
}

// Of parts that are shells, all of one thickness: their area is that of the middle.
std::optional<double> thicknessOf(const MeasureRequest& request) {
    std::optional<double> common;
    for (const auto part : request.site.regions.regions) {
        const auto& here = request.fields().solved().parts[part].thickness;
        if (!here || (common && *common != *here))
            return std::nullopt;
        common = here;
    }
    return common;
}

Result<Measured> extentOf(const MeasureRequest& request) {
    const auto& name = request.gauge.quantity;
    const auto kind = request.site.kind;
    if (const auto& plane = request.fields().solved().plane) { // its parts have an area too, its boundaries a length
        if (name == "area" && kind == SiteKind::Volume)
            return Measured{request.site.extent / plane->depth, "m2"};
        if (name == "length" && kind == SiteKind::Surface)
            return Measured{request.site.extent / plane->depth, "m"};
    }
    if (const auto thickness = thicknessOf(request); thickness && name == "area" && kind == SiteKind::Volume)
        return Measured{request.site.extent / *thickness, "m2"};
    const bool fits = (name == "area" && kind == SiteKind::Surface) || (name == "volume" && kind == SiteKind::Volume) ||
                      (name == "length" && kind == SiteKind::Line);
    if (!fits)
        return fail(ErrorCode::NotSupported, fmt::format("this place has no {}", name));
    return Measured{request.site.extent, name == "area" ? "m2" : name == "volume" ? "m3" : "m"};
}

// Weights by the mass that passes; only where it all goes one way.
Result<Values> weightedByMassFlow(const MeasureRequest& request, const std::string& quantity, Component component) {
    if (request.site.kind != SiteKind::Surface)
        return fail(ErrorCode::NotSupported, "a mean weighted by mass flow needs a surface");
    const auto site = dividedForProducts(request.site, request.fields().solved(), request.fields().index());
    auto flux = readFacets(site, request.fields(), "mass_flux", Component::Normal);
    if (!flux)
        return tl::unexpected(flux.error());
    const auto numbers = readFacets(site, request.fields(), quantity, component);
    if (!numbers)
        return tl::unexpected(numbers.error());
    auto values = facetValues(site, *numbers);
    auto weights = facetValues(site, *flux);
    auto& piece = values.pieces.front();
    double forth = 0;
    double back = 0;
    for (std::size_t i = 0; i < piece.size(); ++i) {
        piece.ownWeight[i] *= weights.pieces.front().own[i];
        (piece.ownWeight[i] < 0 ? back : forth) += std::abs(piece.ownWeight[i]);
    }
    if (std::min(forth, back) > 1e-6 * std::max(forth, back))
        return fail(
            ErrorCode::NotSupported,
            fmt::format("the flow reverses: {:.3g} % of the mass goes against the rest, so that it is no weight",
                        100 * std::min(forth, back) / std::max(forth, back)),
            {}, "Choose a section where the flow goes one way, or weight by area");
    if (!(std::max(forth, back) > 0))
        return fail(ErrorCode::NotSupported, "no mass flows here, so that it is no weight");
    for (auto& weight : piece.ownWeight)
        weight = std::abs(weight);
    return values;
}

// One number for each point of a line; values hold none for the points outside of the mesh.
std::vector<double> alongLine(const Site& site, const Values& values) {
    std::vector<double> numbers(site.points.size(), std::nan(""));
    std::size_t next = 0;
    for (std::size_t i = 0; i < numbers.size(); ++i)
        if (site.points.part[i] != noNumber)
            numbers[i] = values.pieces[0].own[next++];
    return numbers;
}

// Parts of the case that a line touches without finding the quantity there; empty where they all lack it, which is an
// error.
std::vector<std::uint32_t> partsLacking(const MeasureRequest& request) {
    std::set<std::uint32_t> touched(request.site.points.part.begin(), request.site.points.part.end());
    touched.erase(noNumber);
    std::vector<std::uint32_t> lacking;
    for (const auto part : touched)
        if (!request.fields().field(part, request.gauge.quantity, Location::Node))
            lacking.push_back(part);
    return lacking.size() < touched.size() ? lacking : std::vector<std::uint32_t>();
}

Result<Measured> measureField(const MeasureRequest& request);

// As outside of the mesh: a profile has a gap there, a mean runs over the rest.
Result<Measured> measureWithGaps(const MeasureRequest& request, const std::vector<std::uint32_t>& lacking) {
    auto site = request.site;
    double gone = 0;
    double whole = 0;
    for (std::size_t i = 0; i < site.points.size(); ++i) {
        whole += site.points.part[i] == noNumber ? 0 : site.points.weight[i];
        if (std::ranges::find(lacking, site.points.part[i]) == lacking.end())
            continue;
        gone += site.points.weight[i];
        site.points.part[i] = noNumber;
    }
    if (whole > 0)
        site.extent *= 1 - gone / whole;
    auto measured = measureField({request.gauge, request.options, site, request.heat, request.reference, request.wall,
                                  request.length, request.speed, request.power, request.conductivity});
    if (!measured)
        return measured;
    std::vector<std::string> names;
    for (const auto part : lacking)
        names.push_back(request.fields().solved().parts[part].name);
    measured->lacking = fmt::format("no {} in {}", request.gauge.quantity, fmt::join(names, ", "));
    if (measured->profile)
        for (std::size_t i = 0; i < site.points.size(); ++i) // the part is known all the same
            measured->profile->part[i] = request.site.points.part[i] == noNumber ? Profile::noPart
                                                                                 : request.site.points.part[i];
    return measured;
}

// The volume of parts, or the area of a surface, where a quantity lies above a level. Of parts and boundaries by their
// nodes or cells, of other surfaces by their facets.
Result<Measured> extentAbove(const MeasureRequest& request, const Values& values) {
    const bool volume = request.statistic() == "volume_above";
    if (request.site.kind != (volume ? SiteKind::Volume : SiteKind::Surface))
        return fail(ErrorCode::NotSupported,
                    volume ? "only parts have a volume above a level" : "only a surface has an area above a level", {},
                    volume ? "Use area_above on surfaces" : "Use volume_above in parts");
    if (!request.options.level)
        return fail(ErrorCode::WrongType, "the level is missing", {}, "Add the key \"level\"");
    const auto& solved = request.fields().solved();
    const auto& index = request.fields().index();
    const auto& support = request.site.regions;
    double sum = 0;
    for (std::size_t at = 0; at < values.pieces.size(); ++at) {
        const auto& piece = values.pieces[at];
        const auto* region = at < support.regions.size()
                                 ? &(support.boundaries ? solved.boundaries : solved.parts)[support.regions[at]]
                                 : nullptr;
        const bool whole = region != nullptr &&
                           piece.size() == (piece.on == Location::Node ? region->mesh.nodes() : region->mesh.cells());
        if (!whole) {
            for (std::size_t i = 0; i < piece.size(); ++i)
                sum += piece.value(i) > *request.options.level ? piece.weightOf(i) : 0;
            continue;
        }
        std::vector<double> numbers(piece.size());
        for (std::size_t i = 0; i < numbers.size(); ++i)
            numbers[i] = piece.value(i);
        const StoredArray array{
            request.gauge.quantity, piece.on, 1, RealView(std::span<const double>(numbers)), 0, 0, 0};
        const auto measure = support.boundaries ? index.boundaries[support.regions[at]].cellMeasure
                                                : index.parts[support.regions[at]].cellMeasure;
        sum += volumeAbove(*region, array, measure, *request.options.level).volume;
    }
    return Measured{sum, volume ? "m3" : "m2"};
}

Result<Measured> measureField(const MeasureRequest& request) {
    const auto& gauge = request.gauge;
    if (request.site.kind == SiteKind::Line)
        if (const auto lacking = partsLacking(request); !lacking.empty())
            return measureWithGaps(request, lacking);
    const auto kind = kindOf(request.fields().quantities(), gauge.quantity);
    if (!kind)
        return fail(ErrorCode::NameUnknown, fmt::format("the case has no quantity \"{}\"", gauge.quantity), {},
                    "Its array may be missing or have another name");
    const auto component = componentOf(gauge.component);
    if (const auto* stored = request.fields().quantities().named(gauge.quantity);
        stored != nullptr && isAlongAxes(*stored) && component != Component::X && component != Component::Y &&
        component != Component::Z)
        return fail(ErrorCode::NotSupported,
                    fmt::format("the {} is given along x, y and z and has no magnitude", gauge.quantity), {},
                    "Choose the component x, y or z");
    if (request.options.weight == "mass_flow") {
        const auto values = weightedByMassFlow(request, gauge.quantity, component);
        return values ? statisticMeasured(request, *values, kind->siUnit, kind->isTemperature)
                      : tl::unexpected(values.error());
    }
    const auto values = valuesAt(request.site, request.fields(), gauge.quantity, component);
    if (!values)
        return tl::unexpected(values.error());
    if (request.statistic() == "volume_above" || request.statistic() == "area_above")
        return extentAbove(request, *values);
    if (request.site.kind == SiteKind::Line && request.statistic() == "profile")
        return profileMeasured(request, alongLine(request.site, *values), kind->siUnit, kind->isTemperature);
    return statisticMeasured(request, *values, kind->siUnit, kind->isTemperature);
}

// Heat flux through a surface: the one quantity with a choice of methods.
Result<Measured> measureFlux(const MeasureRequest& request) {
    const auto heat = request.heat.through(request.site, request.method());
    if (!heat)
        return tl::unexpected(heat.error());
    const auto values = facetValues(request.site, heat->flux);
    auto measured = request.statistic() == "area_above" ? extentAbove(request, values)
                                                        : statisticMeasured(request, values, "W/m2", false);
    if (!measured)
        return measured;
    measured->method = heatMethodName(heat->method);
    const bool total = request.statistic() == "integral";
    if (heat->method == HeatMethod::Gradient && (total || (request.statistic() == "mean" && request.site.extent > 0)))
        if (const auto spread = request.heat.spread(request.site, request.method()))
            measured->spread = *spread / (total ? 1 : request.site.extent);
    if (heat->gradientTotal && request.statistic() == "integral")
        measured->gradientValue = heat->gradientTotal;
    if (heat->gradientTotal && request.statistic() == "mean" && request.site.extent > 0)
        measured->gradientValue = *heat->gradientTotal / request.site.extent;
    return measured;
}

Result<Measured> dimensionless(const MeasureRequest& request) {
    if (request.gauge.quantity == "dimensionless_speed" && !(request.speed && *request.speed != 0))
        return fail(ErrorCode::WrongType, "a dimensionless speed needs the reference speed", {},
                    "Add the key \"speed\"");
    const bool temperature = request.gauge.quantity == "dimensionless_temperature";
    if (temperature && !(request.reference && request.wall))
        return fail(ErrorCode::WrongType, "a dimensionless temperature needs the keys \"reference\" and \"wall\"");
    if (temperature && std::abs(request.wall->kelvin - request.reference->kelvin) < 1e-12 * request.wall->kelvin)
        return fail(ErrorCode::NotSupported,
                    fmt::format("wall and reference have the same temperature, {:g} K", request.wall->kelvin));
    auto values = valuesAt(request.site, request.fields(), temperature ? "temperature" : "speed", Component::Natural);
    if (!values)
        return tl::unexpected(values.error());
    const double from = temperature ? request.reference->kelvin : 0;
    const double span = temperature ? request.wall->kelvin - from : *request.speed;
    for (auto& piece : values->pieces) {
        std::vector<double> numbers(piece.size());
        for (std::size_t i = 0; i < numbers.size(); ++i) {
            const double share = (piece.value(i) - from) / span;
            numbers[i] = request.options.complement ? 1 - share : share;
        }
        piece.own = std::move(numbers);
    }
    auto measured = [&]() -> Result<Measured> {
        if (request.site.kind != SiteKind::Line || request.statistic() != "profile")
            return statisticMeasured(request, *values, "1", false);
        return profileMeasured(request, alongLine(request.site, *values), "1", false);
    }();
    if (measured && temperature)
        measured->reference = fmt::format("{}; wall {}", request.reference->text, request.wall->text);
    return measured;
}

} // namespace

std::span<const MeasuredQuantity> measuredQuantities() { return known; }

std::string_view siUnitOf(std::string_view quantity) {
    if (const auto found = std::ranges::find(known, quantity, &MeasuredQuantity::name); found != std::end(known))
        return found->siUnit;
    const auto stored = knownQuantities();
    const auto found = std::ranges::find(stored, quantity, &KnownQuantity::name);
    return found == stored.end() ? std::string_view() : found->siUnit;
}

std::string MeasureRequest::statistic() const {
    if (!gauge.statistic.empty() && gauge.statistic != "history")
        return gauge.statistic;
    if (site.kind == SiteKind::Line)
        return "profile";
    return "mean";
}

std::optional<HeatMethod> MeasureRequest::method() const {
    for (const auto one : {HeatMethod::Stored, HeatMethod::Conservative, HeatMethod::Film, HeatMethod::Gradient})
        if (options.method == heatMethodName(one))
            return one;
    return std::nullopt;
}

Result<Measured> statisticMeasured(const MeasureRequest& request, const Values& values, const std::string& siUnit,
                                   bool isTemperature) {
    const auto name = request.statistic();
    if (name == "profile")
        return fail(ErrorCode::NotSupported, "only a line has a profile");
    const auto statistic = statisticOf(values, name);
    if (!statistic)
        return tl::unexpected(statistic.error());
    Measured out{statistic->value, siUnit.empty() ? "1" : siUnit, isTemperature && !statistic->isDifference};
    if (statistic->isCount)
        return Measured{statistic->value, "1"};
    if (statistic->overExtent) {
        static constexpr std::array<const char*, 4> extent{"m3", "m2", "m", "1"};
        out.isTemperature = false;
        if (siUnit.empty()) { // of an integral nothing is known then either
            out.siUnit.clear();
            out.place = statistic->place;
            return out;
        }
        const auto unit = UnitProduct::of(out.siUnit);
        const auto by = UnitProduct::of(extent[static_cast<std::size_t>(request.site.kind)]);
        if (!unit || !by)
            return tl::unexpected((unit ? by : unit).error());
        out.siUnit = (*unit * *by).text();
        out.isTemperature = false;
    }
    out.place = statistic->place;
    if (request.site.kind == SiteKind::Spot)
        out.place = Place{request.site.points.at[0], Location::Node, 0, request.site.points.part[0]};
    return out;
}

Result<Measured> profileMeasured(const MeasureRequest& request, std::vector<double> numbers, const std::string& siUnit,
                                 bool isTemperature) {
    const auto& site = request.site;
    auto profile = std::make_shared<Profile>();
    profile->s = site.s;
    profile->at = site.points.at;
    profile->share = 1 - site.outside;
    for (const auto part : site.points.part)
        profile->part.push_back(part == noNumber ? Profile::noPart : part);
    profile->value = std::move(numbers);
    Measured out{0, siUnit.empty() ? "1" : siUnit, isTemperature};
    out.profile = std::move(profile);
    return out;
}

Result<Measured> measure(const MeasureRequest& request) {
    const auto& name = request.gauge.quantity;
    const auto is = [&](std::initializer_list<std::string_view> names) {
        return std::ranges::find(names, name) != names.end();
    };
    if (is({"area", "volume", "length"}))
        return extentOf(request);
    if (is({"film_coefficient", "nusselt_number", "biot_number", "stanton_number"}))
        return measureFilm(request);
    if (is({"volume_flow", "mass_flow", "enthalpy_flow", "reynolds_number"}))
        return measureFlow(request);
    if (name == "boundary_layer_thickness")
        return measureLayer(request);
    if (is({"thermal_resistance", "heat_content", "heat_balance", "mass_balance", "volume_above"}))
        return measureHeat(request);
    if (is({"dimensionless_temperature", "dimensionless_speed"}))
        return dimensionless(request);
    if (name == "faces")
        return request.site.kind == SiteKind::Surface
                   ? Result<Measured>(Measured{
                         static_cast<double>(request.site.faces > 0 ? request.site.faces : request.site.facets.size()),
                         "1"})
                   : fail(ErrorCode::NotSupported, "only a surface has faces");
    if (request.gauge.statistic == "hotspots")
        return measureHotspots(request);
    const bool normal = request.gauge.component.empty() || request.gauge.component == "normal";
    if (name == "heat_flux" && request.site.kind == SiteKind::Surface && normal &&
        request.options.weight != "mass_flow")
        return measureFlux(request);
    return measureField(request);
}

} // namespace pyro
