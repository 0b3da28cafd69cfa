// Single arrays of an HDF5 file, read with its own library.
#pragma once

#include "core/feedback/error.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace pyro {

inline constexpr double mostByFilters = 1100; // what compression can save at most, as of zlib

struct HdfArray {
    std::vector<std::uint64_t> dims;
    std::vector<double> values; // row by row; whole numbers beyond 2^53 are refused
    bool whole = false;         // whether they are stored as whole numbers
};

// A file kept open over several arrays.
class HdfFile {
public:
    // Errors: FileMissing, FileUnreadable.
    static Result<std::shared_ptr<HdfFile>> open(const std::filesystem::path& file);
    ~HdfFile();
    HdfFile(const HdfFile&) = delete;
    HdfFile& operator=(const HdfFile&) = delete;

    // Errors: NameUnknown, WrongType for what holds no numbers, SizeAbsurd for what the file cannot hold, NotSupported
    // for data outside of the file (external links and storage, virtual datasets) and for filters that are not there,
    // FileUnreadable.
    Result<HdfArray> read(const std::string& path) const { return read(path, std::nullopt); }
    // Entries along the first dimension alone. Errors: as above; IndexOutOfRange.
    struct Rows {
        std::uint64_t first;
        std::uint64_t count;
    };
    Result<HdfArray> read(const std::string& path, std::optional<Rows> rows) const;
    bool has(const std::string& path) const;
    // of what a group holds, by name; empty when there is none
    std::vector<std::string> names(const std::string& group) const;
    // Attributes of a group; nothing when there is none such.
    std::optional<std::string> text(const std::string& group, const char* attribute) const;
    std::optional<std::int64_t> whole(const std::string& group, const char* attribute) const;

private:
    HdfFile(std::filesystem::path file, std::int64_t id) : m_file(std::move(file)), m_id(id) {}
    Done checkPath(const std::string& path) const;

    std::filesystem::path m_file;
    std::int64_t m_id;
};

} // namespace pyro
