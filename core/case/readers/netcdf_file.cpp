#include "core/case/readers/netcdf_file.h"

#include "core/case/readers/netcdf_scan.h"
#include "core/case/readers/remedies.h"

#include <fmt/format.h>
#include <utility>
#include <vtk_netcdf.h>

namespace pyro {

Result<NetcdfFile> NetcdfFile::open(const std::filesystem::path& file) {
    if (auto scanned = scanNetcdf(file); !scanned)
        return tl::unexpected(scanned.error());
    int id = -1;
    if (const int status = nc_open(file.c_str(), NC_NOWRITE, &id); status != NC_NOERR)
        return fail(ErrorCode::FileUnreadable, fmt::format("it cannot be opened: {}", nc_strerror(status)),
                    file.string(), "Copy the file again or have the solver write it again");
    return NetcdfFile(file, id);
}

NetcdfFile::~NetcdfFile() {
    if (m_id >= 0)
        nc_close(m_id);
}

NetcdfFile::NetcdfFile(NetcdfFile&& other) noexcept
    : m_file(std::move(other.m_file)), m_id(std::exchange(other.m_id, -1)) {}

std::size_t NetcdfFile::dimension(const std::string& name) const {
    int dim = 0;
    std::size_t length = 0;
    return nc_inq_dimid(m_id, name.c_str(), &dim) == NC_NOERR && nc_inq_dimlen(m_id, dim, &length) == NC_NOERR ? length
                                                                                                               : 0;
}

std::vector<std::size_t> NetcdfFile::shape(const std::string& variable) const {
    int var = 0;
    int rank = 0;
    if (nc_inq_varid(m_id, variable.c_str(), &var) != NC_NOERR || nc_inq_varndims(m_id, var, &rank) != NC_NOERR)
        return {};
    std::vector<int> dims(static_cast<std::size_t>(rank));
    nc_inq_vardimid(m_id, var, dims.data());
    std::vector<std::size_t> lengths(dims.size());
    for (std::size_t i = 0; i < dims.size(); ++i)
        nc_inq_dimlen(m_id, dims[i], &lengths[i]);
    return lengths;
}

bool NetcdfFile::has(const std::string& variable) const {
    int var = 0;
    return nc_inq_varid(m_id, variable.c_str(), &var) == NC_NOERR;
}

std::string NetcdfFile::attribute(const std::string& variable, const char* name) const {
    int var = 0;
    std::size_t length = 0;
    nc_type type = NC_NAT;
    if (nc_inq_varid(m_id, variable.c_str(), &var) != NC_NOERR ||
        nc_inq_att(m_id, var, name, &type, &length) != NC_NOERR || length > 10'000)
        return {};
    if (type == NC_STRING) {
        std::vector<char*> texts(length);
        if (length == 0 || nc_get_att_string(m_id, var, name, texts.data()) != NC_NOERR)
            return {};
        std::string first = texts[0] == nullptr ? "" : texts[0];
        nc_free_string(length, texts.data());
        return first;
    }
    std::string text(length, '\0');
    if (type != NC_CHAR || nc_get_att_text(m_id, var, name, text.data()) != NC_NOERR)
        return {};
    return text.substr(0, text.find('\0'));
}

Result<std::vector<double>> NetcdfFile::numbers(const std::string& variable, std::optional<std::size_t> entry) const {
    int var = 0;
    if (nc_inq_varid(m_id, variable.c_str(), &var) != NC_NOERR)
        return fail(ErrorCode::NameUnknown, fmt::format("it has no variable \"{}\"", variable), m_file.string(),
                    writeAgain);
    auto counts = shape(variable);
    std::vector<std::size_t> start(counts.size(), 0);
    if (entry) {
        if (counts.empty() || *entry >= counts[0])
            return fail(ErrorCode::LengthMismatch, fmt::format("\"{}\" has no entry {}", variable, *entry),
                        m_file.string(), writeAgain);
        start[0] = *entry;
        counts[0] = 1;
    }
    double all = 1;
    for (const auto count : counts)
        all *= static_cast<double>(count);
    std::error_code ignored;
    if (all > 1100.0 * static_cast<double>(std::filesystem::file_size(m_file, ignored)))
        return fail(ErrorCode::SizeAbsurd,
                    fmt::format("\"{}\" declares {:.4g} numbers, which the file cannot hold", variable, all),
                    m_file.string(), writeAgain);
    std::vector<double> out(static_cast<std::size_t>(all));
    if (const int status = out.empty() ? NC_NOERR
                                       : nc_get_vara_double(m_id, var, start.data(), counts.data(), out.data());
        status != NC_NOERR)
        return fail(ErrorCode::FileUnreadable, fmt::format("\"{}\" cannot be read: {}", variable, nc_strerror(status)),
                    m_file.string(), "Copy the file again or have the solver write it again");
    return out;
}

std::vector<std::string> NetcdfFile::names(const std::string& variable) const {
    int var = 0;
    const auto dims = shape(variable);
    nc_type type = NC_NAT;
    if (dims.size() != 2 || dims[0] > 100'000 || dims[1] > 10'000 ||
        nc_inq_varid(m_id, variable.c_str(), &var) != NC_NOERR || nc_inq_vartype(m_id, var, &type) != NC_NOERR ||
        type != NC_CHAR)
        return {};
    std::string text(dims[0] * dims[1], '\0');
    if (text.empty() || nc_get_var_text(m_id, var, text.data()) != NC_NOERR)
        return {};
    std::vector<std::string> out;
    for (std::size_t i = 0; i < dims[0]; ++i) {
        auto line = text.substr(i * dims[1], dims[1]);
        line.resize(std::min(line.size(), line.find('\0')));
        line.erase(line.find_last_not_of(' ') + 1);
        out.push_back(line);
    }
    return out;
}

} // namespace pyro
