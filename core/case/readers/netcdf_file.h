// Variables of a netCDF file, read with its own library.
#pragma once

#include "core/feedback/error.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace pyro {

class NetcdfFile {
public:
    // Errors: as scanNetcdf; FileUnreadable with what the library says.
    static Result<NetcdfFile> open(const std::filesystem::path& file);
    ~NetcdfFile();
    NetcdfFile(NetcdfFile&& other) noexcept;
    NetcdfFile(const NetcdfFile&) = delete;
    NetcdfFile& operator=(const NetcdfFile&) = delete;
    NetcdfFile& operator=(NetcdfFile&&) = delete;

    std::size_t dimension(const std::string& name) const;              // 0 when there is none
    std::vector<std::size_t> shape(const std::string& variable) const; // empty when there is none
    bool has(const std::string& variable) const;
    std::string attribute(const std::string& variable, const char* name) const; // text; empty when there is none
    // All numbers, or those of one entry along the first dimension. Errors: NameUnknown, FileUnreadable, SizeAbsurd.
    Result<std::vector<double>> numbers(const std::string& variable,
                                        std::optional<std::size_t> entry = std::nullopt) const;
    // lines of text without what pads them; empty when there is none
    std::vector<std::string> names(const std::string& variable) const;

private:
    NetcdfFile(std::filesystem::path file, int id) : m_file(std::move(file)), m_id(id) {}

    std::filesystem::path m_file;
    int m_id;
};

} // namespace pyro
