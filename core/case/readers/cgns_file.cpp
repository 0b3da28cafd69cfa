#include "core/case/readers/cgns_file.h"

#include "core/case/readers/cgns_scan.h"
#include "core/case/readers/remedies.h"

#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <set>

namespace pyro {

Result<CgnsFile> CgnsFile::open(const std::filesystem::path& file) {
    auto linked = scanCgns(file);
    if (!linked)
        return tl::unexpected(linked.error());
    int id = -1;
    if (cg_open(file.c_str(), CG_MODE_READ, &id) != CG_OK)
        return fail(ErrorCode::FileUnreadable, fmt::format("it cannot be opened: {:.200}", cg_get_error()),
                    file.string(), writeAgain);
    return CgnsFile(file, id, std::move(*linked));
}

CgnsFile::~CgnsFile() {
    if (m_id >= 0)
        cg_close(m_id);
}

CgnsFile::CgnsFile(CgnsFile&& other) noexcept
    : m_file(std::move(other.m_file)), m_id(std::exchange(other.m_id, -1)), m_linked(std::move(other.m_linked)) {}

tl::unexpected<Error> CgnsFile::failure(const std::string& doing) const {
    return fail(ErrorCode::FileUnreadable, fmt::format("{}: {:.200}", doing, cg_get_error()), m_file.string(),
                writeAgain);
}

// Numbers of 4 bytes, packed as tightly as zlib can.
double CgnsFile::mostNumbers() const {
    std::error_code ignored;
    auto bytes = static_cast<double>(std::filesystem::file_size(m_file, ignored));
    for (const auto& one : m_linked)
        bytes += static_cast<double>(std::filesystem::file_size(one, ignored));
    return bytes / 4 * 1100;
}

Result<std::vector<CgnsZone>> CgnsFile::zones() const {
    std::vector<CgnsZone> out;
    int bases = 0;
    if (cg_nbases(m_id, &bases) != CG_OK)
        return failure("its bases cannot be read");
    std::set<int> used;
    std::vector<std::string> baseNames;
    for (int base = 1; base <= bases; ++base) {
        CgnsName name{};
        int dimension = 0;
        int physical = 0;
        int zones = 0;
        if (cg_base_read(m_id, base, name.data(), &dimension, &physical) != CG_OK ||
            cg_nzones(m_id, base, &zones) != CG_OK)
            return failure(fmt::format("base {} cannot be read", base));
        for (int zone = 1; zone <= zones && dimension >= 2; ++zone) {
            CgnsZone one{base, zone, "", false, dimension, physical, {}};
            CgnsName zoneName{};
            CGNS_ENUMT(ZoneType_t) type = CGNS_ENUMV(ZoneTypeNull);
            if (cg_zone_read(m_id, base, zone, zoneName.data(), one.size.data()) != CG_OK ||
                cg_zone_type(m_id, base, zone, &type) != CG_OK)
                return failure(fmt::format("zone {} of base \"{}\" cannot be read", zone, name.data()));
            one.structured = type == CGNS_ENUMV(Structured);
            one.name = zoneName.data();
            double nodes = 1;
            for (int i = 0; i < one.indices(); ++i) {
                if (one.vertices(i) < 1 || one.cells(i) < 0)
                    return fail(ErrorCode::LengthMismatch,
                                fmt::format("zone \"{}\" declares {} nodes and {} cells", one.name, one.vertices(i),
                                            one.cells(i)),
                                m_file.string(), writeAgain);
                nodes *= one.vertices(i);
            }
            if (nodes > mostNumbers())
                return fail(
                    ErrorCode::SizeAbsurd,
                    fmt::format("zone \"{}\" declares {:.4g} nodes, more than the file can hold", one.name, nodes),
                    m_file.string(), writeAgain);
            used.insert(base);
            baseNames.emplace_back(name.data());
            out.push_back(std::move(one));
        }
    }
    if (used.size() > 1)
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i].name = baseNames[i] + "/" + out[i].name;
    if (out.empty())
        return fail(ErrorCode::NoCells, "the file has no zone with surfaces or volumes", m_file.string(),
                    "Export the mesh together with the result");
    return out;
}

std::vector<double> CgnsFile::times() const {
    int bases = 0;
    cg_nbases(m_id, &bases);
    for (int base = 1; base <= bases; ++base) {
        CgnsName name{};
        int steps = 0;
        if (cg_biter_read(m_id, base, name.data(), &steps) != CG_OK || steps < 1 || steps > 10'000'000)
            continue;
        std::vector<double> out(static_cast<std::size_t>(steps), std::numeric_limits<double>::quiet_NaN());
        int arrays = 0;
        if (cg_goto(m_id, base, "BaseIterativeData_t", 1, "end") != CG_OK || cg_narrays(&arrays) != CG_OK)
            return out;
        for (int array = 1; array <= arrays; ++array) {
            CGNS_ENUMT(DataType_t) type = CGNS_ENUMV(DataTypeNull);
            int rank = 0;
            std::array<cgsize_t, 12> dims{};
            if (cg_array_info(array, name.data(), &type, &rank, dims.data()) == CG_OK &&
                std::string(name.data()) == "TimeValues" && rank == 1 && dims[0] == steps)
                cg_array_read_as(array, CGNS_ENUMV(RealDouble), out.data());
        }
        return out;
    }
    return {};
}

namespace {

struct Units {
    CGNS_ENUMT(MassUnits_t) mass = CGNS_ENUMV(MassUnitsNull);
    CGNS_ENUMT(LengthUnits_t) length = CGNS_ENUMV(LengthUnitsNull);
    CGNS_ENUMT(TimeUnits_t) time = CGNS_ENUMV(TimeUnitsNull);
    CGNS_ENUMT(TemperatureUnits_t) temperature = CGNS_ENUMV(TemperatureUnitsNull);
    CGNS_ENUMT(AngleUnits_t) angle = CGNS_ENUMV(AngleUnitsNull);
};

double massFactor(CGNS_ENUMT(MassUnits_t) unit) { // NIST SP 811, appendix B
    switch (unit) {
    case CGNS_ENUMV(Gram):
        return 1e-3;
    case CGNS_ENUMV(Slug):
        return 14.593903;
    case CGNS_ENUMV(PoundMass):
        return 0.45359237;
    default:
        return 1;
    }
}

double lengthFactor(CGNS_ENUMT(LengthUnits_t) unit) {
    switch (unit) {
    case CGNS_ENUMV(Centimeter):
        return 1e-2;
    case CGNS_ENUMV(Millimeter):
        return 1e-3;
    case CGNS_ENUMV(Foot):
        return 0.3048;
    case CGNS_ENUMV(Inch):
        return 0.0254;
    default:
        return 1;
    }
}

// of 5/9 K
bool inSteps(CGNS_ENUMT(TemperatureUnits_t) unit) {
    return unit == CGNS_ENUMV(Rankine) || unit == CGNS_ENUMV(Fahrenheit);
}

// Powers of mass, length, time, temperature and angle.
using Powers = std::array<double, 5>;

// Dimensions of quantities by their standard names (SIDS, Annex A).
Powers powersOf(const std::string& name) {
    if (name.starts_with("Coordinate"))
        return {0, 1, 0, 0, 0};
    if (name.starts_with("Temperature"))
        return {0, 0, 0, 1, 0};
    if (name.starts_with("Velocity"))
        return {0, 1, -1, 0, 0};
    if (name.starts_with("Pressure"))
        return {1, -1, -2, 0, 0};
    if (name.starts_with("Density"))
        return {1, -3, 0, 0, 0};
    return {};
}

} // namespace

CgnsScale cgnsScale(const CgnsFile& file, const CgnsZone& zone, const std::vector<std::pair<const char*, int>>& below,
                    const std::string& name) {
    std::vector<std::string> labels{"Zone_t"};
    std::vector<int> numbers{zone.zone};
    for (const auto& [label, number] : below) {
        labels.emplace_back(label);
        numbers.push_back(number);
    }
    // Level 0 is the base, the last one the array itself.
    const auto go = [&](std::size_t level) {
        std::array<char*, 8> label{};
        for (std::size_t i = 0; i < level; ++i)
            label[i] = labels[i].data();
        return cg_golist(file.id(), zone.base, static_cast<int>(level), label.data(), numbers.data()) == CG_OK;
    };
    Units units;
    bool told = false;
    auto dataClass = CGNS_ENUMV(DataClassNull);
    for (auto level = labels.size() + 1; level-- > 0;) {
        if (!go(level))
            continue;
        if (!told)
            told = cg_units_read(&units.mass, &units.length, &units.time, &units.temperature, &units.angle) == CG_OK;
        if (CGNS_ENUMT(DataClass_t) found = CGNS_ENUMV(DataClassNull);
            dataClass == CGNS_ENUMV(DataClassNull) && cg_dataclass_read(&found) == CG_OK)
            dataClass = found;
    }
    CgnsScale out;
    out.nondimensional = dataClass == CGNS_ENUMV(NormalizedByUnknownDimensional) ||
                         dataClass == CGNS_ENUMV(NondimensionalParameter) ||
                         dataClass == CGNS_ENUMV(DimensionlessConstant);
    auto powers = powersOf(name);
    if (go(labels.size())) {
        CGNS_ENUMT(DataType_t) type = CGNS_ENUMV(DataTypeNull);
        if (cg_exponents_info(&type) == CG_OK) {
            std::array<float, 8> single{};
            if (type == CGNS_ENUMV(RealDouble)) {
                std::array<double, 8> read{};
                if (cg_exponents_read(read.data()) == CG_OK)
                    std::copy_n(read.begin(), powers.size(), powers.begin());
            } else if (cg_exponents_read(single.data()) == CG_OK) {
                std::copy_n(single.begin(), powers.size(), powers.begin());
            }
        }
        CGNS_ENUMT(DataType_t) conversion = CGNS_ENUMV(DataTypeNull);
        if (dataClass == CGNS_ENUMV(NormalizedByDimensional) && cg_conversion_info(&conversion) == CG_OK) {
            std::array<double, 2> both{1, 0};
            if (conversion == CGNS_ENUMV(RealSingle)) {
                std::array<float, 2> read{1, 0};
                cg_conversion_read(read.data());
                both = {read[0], read[1]};
            } else {
                cg_conversion_read(both.data());
            }
            out.factor = both[0];
            out.offset = both[1];
        }
    }
    if (!told || out.nondimensional)
        return out;
    const double toSi = std::pow(massFactor(units.mass), powers[0]) * std::pow(lengthFactor(units.length), powers[1]) *
                        std::pow(inSteps(units.temperature) ? 5.0 / 9 : 1.0, powers[3]);
    out.factor *= toSi;
    out.offset *= toSi;
    if (powers == Powers{0, 0, 0, 1, 0})
        out.offset += units.temperature == CGNS_ENUMV(Celsius)      ? 273.15
                      : units.temperature == CGNS_ENUMV(Fahrenheit) ? 459.67 * 5 / 9
                                                                    : 0;
    return out;
}

} // namespace pyro
