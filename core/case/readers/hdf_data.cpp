#include "core/case/readers/hdf_data.h"

#include "core/case/readers/remedies.h"
#include "core/case/readers/xml_scan.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <vtk_hdf5.h>

namespace pyro {
namespace {

// Closes what HDF5 opened.
class Handle {
public:
    Handle(hid_t id, herr_t (*close)(hid_t)) : m_id(id), m_close(close) {}
    ~Handle() {
        if (m_id >= 0)
            m_close(m_id);
    }
    Handle(const Handle&) = delete;
    Handle& operator=(const Handle&) = delete;
    hid_t id() const { return m_id; }
    bool valid() const { return m_id >= 0; }

private:
    hid_t m_id;
    herr_t (*m_close)(hid_t);
};

} // namespace

Result<std::shared_ptr<HdfFile>> HdfFile::open(const std::filesystem::path& file) {
    if (auto readable = checkReadable(file); !readable)
        return tl::unexpected(readable.error());
    H5Eset_auto2(H5E_DEFAULT, nullptr, nullptr);
    const auto id = H5Fopen(file.c_str(), H5F_ACC_RDONLY, H5P_DEFAULT);
    if (id < 0)
        return fail(
            ErrorCode::FileUnreadable,
            "it cannot be opened as an HDF5 file: it is another kind of file, cut short, or still being written",
            file.string(), "Copy it again, or wait for the solver");
    return std::shared_ptr<HdfFile>(new HdfFile(file, id));
}

HdfFile::~HdfFile() { H5Fclose(m_id); }

// Every link on the way must lead to something within the file.
Done HdfFile::checkPath(const std::string& path) const {
    for (std::size_t end = path.find('/', 1);; end = path.find('/', end + 1)) {
        const auto link = path.substr(0, end);
        H5L_info_t info{};
        if (!link.empty() && link != "/" &&
            (H5Lexists(m_id, link.c_str(), H5P_DEFAULT) <= 0 ||
             H5Lget_info(m_id, link.c_str(), &info, H5P_DEFAULT) < 0))
            return fail(ErrorCode::NameUnknown, fmt::format("it has no \"{}\"", link), m_file.string(),
                        "Keep the data beside the file that tells of it, or have the solver write both again");
        if (info.type == H5L_TYPE_EXTERNAL)
            return fail(ErrorCode::NotSupported, fmt::format("\"{}\" lies in another file", link), m_file.string(),
                        "Copy the data into the file itself");
        if (end == std::string::npos)
            return {};
    }
}

bool HdfFile::has(const std::string& path) const { return checkPath(path).has_value(); }

std::vector<std::string> HdfFile::names(const std::string& group) const {
    std::vector<std::string> out;
    if (!has(group))
        return out;
    const Handle opened(H5Gopen2(m_id, group.c_str(), H5P_DEFAULT), H5Gclose);
    H5G_info_t info{};
    if (!opened.valid() || H5Gget_info(opened.id(), &info) < 0)
        return out;
    constexpr std::size_t longest = 1024;
    for (hsize_t i = 0; i < std::min<hsize_t>(info.nlinks, 100'000); ++i) {
        std::string name(longest, '\0');
        const auto length = H5Lget_name_by_idx(opened.id(), ".", H5_INDEX_NAME, H5_ITER_INC, i, name.data(), longest,
                                               H5P_DEFAULT);
        if (length > 0 && static_cast<std::size_t>(length) < longest)
            out.push_back(name.substr(0, static_cast<std::size_t>(length)));
    }
    return out;
}

std::optional<std::string> HdfFile::text(const std::string& group, const char* attribute) const {
    if (!has(group) || H5Aexists_by_name(m_id, group.c_str(), attribute, H5P_DEFAULT) <= 0)
        return std::nullopt;
    const Handle opened(H5Aopen_by_name(m_id, group.c_str(), attribute, H5P_DEFAULT, H5P_DEFAULT), H5Aclose);
    const Handle type(H5Aget_type(opened.id()), H5Tclose);
    if (!type.valid() || H5Tget_class(type.id()) != H5T_STRING)
        return std::nullopt;
    if (H5Tis_variable_str(type.id()) > 0) {
        char* read = nullptr;
        if (H5Aread(opened.id(), type.id(), static_cast<void*>(&read)) < 0 || read == nullptr)
            return std::nullopt;
        std::string out(read);
        H5free_memory(read);
        return out;
    }
    const auto size = H5Tget_size(type.id());
    if (size > 65536 || H5Aget_storage_size(opened.id()) > size)
        return std::nullopt;
    std::string out(size, '\0');
    if (H5Aread(opened.id(), type.id(), out.data()) < 0)
        return std::nullopt;
    return out.substr(0, out.find('\0'));
}

std::optional<std::int64_t> HdfFile::whole(const std::string& group, const char* attribute) const {
    if (!has(group) || H5Aexists_by_name(m_id, group.c_str(), attribute, H5P_DEFAULT) <= 0)
        return std::nullopt;
    const Handle opened(H5Aopen_by_name(m_id, group.c_str(), attribute, H5P_DEFAULT, H5P_DEFAULT), H5Aclose);
    const Handle space(H5Aget_space(opened.id()), H5Sclose);
    std::int64_t value = 0;
    if (!opened.valid() || H5Sget_simple_extent_npoints(space.id()) != 1 ||
        H5Aread(opened.id(), H5T_NATIVE_INT64, &value) < 0)
        return std::nullopt;
    return value;
}

Result<HdfArray> HdfFile::read(const std::string& path, std::optional<Rows> rows) const {
    if (auto checked = checkPath(path); !checked)
        return tl::unexpected(checked.error());
    const auto refuse = [&](ErrorCode code, const std::string& what) {
        return fail(code, fmt::format("\"{}\" {}", path, what), m_file.string(), writeAgain);
    };
    const Handle set(H5Dopen2(m_id, path.c_str(), H5P_DEFAULT), H5Dclose);
    if (!set.valid())
        return refuse(ErrorCode::WrongType, "is no array");
    const Handle made(H5Dget_create_plist(set.id()), H5Pclose);
    if (H5Pget_external_count(made.id()) > 0 || H5Pget_layout(made.id()) == H5D_VIRTUAL)
        return refuse(ErrorCode::NotSupported, "keeps its numbers in another file");
    const Handle type(H5Dget_type(set.id()), H5Tclose);
    const auto kind = H5Tget_class(type.id());
    if (kind != H5T_FLOAT && kind != H5T_INTEGER)
        return refuse(ErrorCode::WrongType, "holds no numbers");
    const Handle space(H5Dget_space(set.id()), H5Sclose);
    const int rank = H5Sget_simple_extent_ndims(space.id());
    if (rank < 0 || rank > 8)
        return refuse(ErrorCode::WrongType, "has no shape that can be read");
    std::vector<hsize_t> dims(static_cast<std::size_t>(rank));
    H5Sget_simple_extent_dims(space.id(), dims.data(), nullptr);
    std::vector<hsize_t> start(dims.size(), 0);
    if (rows) {
        if (dims.empty() || rows->first > dims[0] || rows->count > dims[0] - rows->first)
            return refuse(ErrorCode::IndexOutOfRange,
                          fmt::format("has no entries {} to {}", rows->first, rows->first + rows->count));
        start[0] = rows->first;
        dims[0] = rows->count;
        if (rows->count > 0)
            H5Sselect_hyperslab(space.id(), H5S_SELECT_SET, start.data(), nullptr, dims.data(), nullptr);
    }
    HdfArray out;
    out.whole = kind == H5T_INTEGER;
    double count = 1;
    for (const auto one : dims) {
        out.dims.push_back(one);
        count *= static_cast<double>(one);
    }
    std::error_code ignored;
    const auto size = static_cast<double>(std::filesystem::file_size(m_file, ignored));
    const double bytes = count * static_cast<double>(H5Tget_size(type.id()));
    const bool filtered = H5Pget_nfilters(made.id()) > 0;
    if (bytes > size * (filtered ? mostByFilters : 1))
        return refuse(ErrorCode::SizeAbsurd,
                      fmt::format("declares {:.4g} bytes, but the file has {:.0f}", bytes, size));
    if (bytes > 0 && H5Dget_storage_size(set.id()) == 0)
        return refuse(ErrorCode::FileTruncated, "was declared but never written");
    out.values.resize(static_cast<std::size_t>(count));
    const Handle room(
        H5Screate_simple(std::max(rank, 1), dims.empty() ? std::vector<hsize_t>{1}.data() : dims.data(), nullptr),
        H5Sclose);
    if (!out.values.empty() && H5Dread(set.id(), H5T_NATIVE_DOUBLE, rows ? room.id() : H5S_ALL,
                                       rows ? space.id() : H5S_ALL, H5P_DEFAULT, out.values.data()) < 0)
        return refuse(ErrorCode::FileUnreadable,
                      "cannot be read: the file is damaged, or it was packed by a filter that is not installed here");
    if (kind == H5T_INTEGER &&
        std::ranges::any_of(out.values, [](double value) { return std::abs(value) > 9007199254740992.0; }))
        return refuse(ErrorCode::NotSupported, "holds whole numbers beyond 2^53");
    return out;
}

} // namespace pyro
