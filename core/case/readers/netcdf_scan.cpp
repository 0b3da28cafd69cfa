#include "core/case/readers/netcdf_scan.h"

#include "core/case/readers/remedies.h"

#include <array>
#include <cmath>
#include <cstdint>
#include <fmt/format.h>
#include <fstream>
#include <optional>
#include <vector>

namespace pyro {
namespace {

// Format: "NetCDF classic format specification", Unidata. Numbers are big-endian; names and values are padded to 4
// bytes.
class Head {
public:
    Head(const std::filesystem::path& file, std::uint64_t size)
        : m_file(file), m_size(size), m_stream(file, std::ios::binary) {}

    Done run() {
        std::array<char, 8> magic{};
        m_stream.read(magic.data(), magic.size());
        const std::string_view start(magic.data(),
                                     static_cast<std::size_t>(std::max<std::streamsize>(m_stream.gcount(), 0)));
        if (start == "\x89HDF\r\n\x1a\n")
            return {};
        if (!start.starts_with("CDF") || start.size() < 4 || (start[3] != 1 && start[3] != 2 && start[3] != 5))
            return fail(ErrorCode::FileUnreadable, "this is neither a netCDF nor an HDF5 file", m_file.string(),
                        "Check that the right file was chosen");
        m_version = static_cast<unsigned char>(start[3]);
        m_stream.seekg(4);
        m_records = count();
        if (m_records == (m_version == 5 ? ~0ULL : 0xffffffffULL)) // still being written
            m_records = 0;
        dimensions();
        attributes();
        variables();
        if (m_error)
            return tl::unexpected(*m_error);
        if (m_end > m_size)
            stop(m_end > 1000.0 * static_cast<double>(m_size) ? ErrorCode::SizeAbsurd : ErrorCode::FileTruncated,
                 fmt::format("its head declares {:.4g} bytes of data, but the file has {}", m_end, m_size));
        return m_error ? Done(tl::unexpected(*m_error)) : Done();
    }

private:
    void stop(ErrorCode code, std::string what) {
        if (!m_error)
            m_error = Error{code, std::move(what), m_file.string(),
                            code == ErrorCode::FileTruncated ? "It is probably cut short; copy or write it again"
                                                             : writeAgain};
    }
    std::uint64_t number(std::size_t bytes) {
        std::array<unsigned char, 8> raw{};
        if (!m_error && !m_stream.read(reinterpret_cast<char*>(raw.data()), static_cast<std::streamsize>(bytes)))
            stop(ErrorCode::FileTruncated, "the file ends within its head");
        std::uint64_t value = 0;
        for (std::size_t i = 0; i < bytes; ++i)
            value = value << 8U | raw[i];
        return value;
    }
    std::uint64_t count() { return number(m_version == 5 ? 8 : 4); }
    // Elements of a list; none where the list is absent.
    std::uint64_t listed() {
        const auto tag = number(4);
        const auto entries = count();
        if (tag > 12 || entries > m_size)
            stop(ErrorCode::Syntax, "its head is damaged: a list cannot have so many entries");
        return m_error ? 0 : entries;
    }
    void skip(std::uint64_t bytes) {
        const auto padded = (bytes + 3) / 4 * 4;
        if (padded > m_size)
            return stop(ErrorCode::Syntax, "its head is damaged: a name or value is longer than the file");
        m_stream.seekg(static_cast<std::streamoff>(padded), std::ios::cur);
    }
    void name() { skip(count()); }
    static std::uint64_t bytesOf(std::uint64_t type) {
        constexpr std::array<std::uint64_t, 12> sizes{0, 1, 1, 2, 4, 4, 8, 1, 2, 4, 8, 8};
        return type < sizes.size() ? sizes[type] : 0;
    }

    void dimensions() {
        for (auto left = listed(); left > 0 && !m_error; --left) {
            name();
            m_lengths.push_back(count());
        }
    }
    void attributes() {
        for (auto left = listed(); left > 0 && !m_error; --left) {
            name();
            const auto each = bytesOf(number(4));
            const auto values = count();
            if (values > m_size)
                return stop(ErrorCode::Syntax, "its head is damaged: an attribute is longer than the file");
            skip(values * each);
        }
    }
    void variables() {
        struct Record {
            double begin;
            double size;
        };
        std::vector<Record> ofRecords;
        double perRecord = 0;
        for (auto left = listed(); left > 0 && !m_error; --left) {
            name();
            double size = 1;
            bool record = false;
            for (auto dims = count(), at = std::uint64_t{0}; at < dims && !m_error; ++at) {
                const auto id = count();
                if (id >= m_lengths.size())
                    return stop(ErrorCode::Syntax, "its head is damaged: a variable has a dimension that is not there");
                if (m_lengths[id] == 0)
                    record = true;
                else
                    size *= static_cast<double>(m_lengths[id]);
            }
            attributes();
            size *= static_cast<double>(bytesOf(number(4)));
            count(); // the size as told, which is cut at 4 GiB
            const auto begin = static_cast<double>(number(m_version == 1 ? 4 : 8));
            if (!record) {
                m_end = std::max(m_end, begin + size);
            } else {
                ofRecords.push_back({begin, size});
                perRecord += ofRecords.size() > 1 ? 4 * std::ceil(size / 4) : size;
            }
        }
        if (ofRecords.size() > 1) // a single one is not padded
            perRecord += 4 * std::ceil(ofRecords.front().size / 4) - ofRecords.front().size;
        for (const auto& one : ofRecords)
            if (m_records > 0)
                m_end = std::max(m_end, one.begin + static_cast<double>(m_records - 1) * perRecord + one.size);
    }

    std::filesystem::path m_file;
    std::uint64_t m_size;
    std::ifstream m_stream;
    int m_version = 1;
    std::uint64_t m_records = 0;
    std::vector<std::uint64_t> m_lengths;
    double m_end = 0; // bytes that the file must have
    std::optional<Error> m_error;
};

} // namespace

Done scanNetcdf(const std::filesystem::path& file) { return Head(file, std::filesystem::file_size(file)).run(); }

} // namespace pyro
