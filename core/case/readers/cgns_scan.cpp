#include "core/case/readers/cgns_scan.h"

#include "core/case/inside_folder.h"
#include "core/case/readers/hdf_data.h"
#include "core/case/readers/remedies.h"

#include <algorithm>
#include <array>
#include <cgns_io.h>
#include <charconv>
#include <fmt/format.h>
#include <fstream>
#include <map>
#include <string_view>

namespace pyro {
namespace {

constexpr int mostDepth = 24; // the standard's trees are about 12 deep
constexpr int mostNodes = 2'000'000;

double bytesOf(std::string_view type) {
    static const std::map<std::string_view, double> sizes{{"MT", 0}, {"LK", 0}, {"B1", 1}, {"C1", 1}, {"U4", 4},
                                                          {"I4", 4}, {"R4", 4}, {"U8", 8}, {"I8", 8}, {"R8", 8}};
    const auto found = sizes.find(type);
    return found == sizes.end() ? 16 : found->second;
}

// The end of an ADF file as its head tells it, or 0: the head has it at byte 146 as two numbers in hexadecimal digits,
// the block of 4096 bytes and the place in it ("ADF File Mapping", CGNS documentation).
std::uint64_t endOfAdf(const std::filesystem::path& file) {
    constexpr std::size_t digits = 12;
    std::array<char, 146 + digits> head{};
    std::ifstream stream(file, std::ios::binary);
    if (!stream.read(head.data(), head.size()))
        return 0;
    const std::string_view told(head.data() + head.size() - digits, digits);
    std::uint64_t block = 0;
    std::uint64_t offset = 0;
    const auto first = std::from_chars(told.data(), told.data() + 8, block, 16);
    const auto second = std::from_chars(told.data() + 8, told.data() + digits, offset, 16);
    return first.ec == std::errc() && second.ec == std::errc() ? block * 4096 + offset : 0;
}

class TreeScan {
public:
    explicit TreeScan(const std::filesystem::path& file)
        : m_file(file), m_size(static_cast<double>(std::filesystem::file_size(file))) {}
    ~TreeScan() {
        if (m_open)
            cgio_close_file(m_id);
    }
    TreeScan(const TreeScan&) = delete;
    TreeScan& operator=(const TreeScan&) = delete;

    Result<std::vector<std::filesystem::path>> run() {
        int type = CGIO_FILE_NONE;
        if (cgio_check_file(m_file.c_str(), &type) != CGIO_ERR_NONE || type == CGIO_FILE_NONE)
            return fail(ErrorCode::FileUnreadable, "this is no CGNS file, neither ADF nor HDF5, or it is cut short",
                        m_file.string(), "Check that the right file was chosen");
        if (cgio_open_file(m_file.c_str(), CGIO_MODE_READ, type, &m_id) != CGIO_ERR_NONE)
            return tl::unexpected(damaged("it cannot be opened").error());
        m_open = true;
        if (const auto end = type == CGIO_FILE_HDF5 ? 0 : endOfAdf(m_file); static_cast<double>(end) > m_size)
            return fail(ErrorCode::FileTruncated, fmt::format("it should have {} bytes, but has {:.0f}", end, m_size),
                        m_file.string(), "It is probably cut short; copy or write it again");
        m_slack = type == CGIO_FILE_HDF5 ? mostByFilters : 1;
        double root = 0;
        if (cgio_get_root_id(m_id, &root) != CGIO_ERR_NONE)
            return tl::unexpected(damaged("it has no root").error());
        if (auto walked = walk(root, 0); !walked)
            return tl::unexpected(walked.error());
        return std::move(m_linked);
    }

private:
    Done damaged(const std::string& what) const {
        return fail(ErrorCode::FileUnreadable, what, m_file.string(), writeAgain);
    }

    Done walk(double node, int depth) {
        if (depth > mostDepth || ++m_nodes > mostNodes)
            return fail(ErrorCode::Syntax, "its tree leads in a circle or has no end", m_file.string(), writeAgain);
        std::array<char, 33> name{};
        if (cgio_get_name(m_id, node, name.data()) != CGIO_ERR_NONE)
            name.fill('\0'); // else whatever lay there
        int link = 0;
        if (cgio_is_link(m_id, node, &link) != CGIO_ERR_NONE)
            return damaged(fmt::format("\"{}\" is damaged", name.data()));
        if (link > 0)
            return followLink(node);
        if (auto checked = checkSize(node, name.data()); !checked)
            return checked;
        int children = 0;
        if (cgio_number_children(m_id, node, &children) != CGIO_ERR_NONE)
            return damaged(fmt::format("what lies below \"{}\" is damaged", name.data()));
        for (int i = 1; i <= children; ++i) {
            double child = 0;
            int got = 0;
            if (cgio_children_ids(m_id, node, i, 1, &got, &child) != CGIO_ERR_NONE || got != 1)
                return damaged(fmt::format("what lies below \"{}\" is damaged", name.data()));
            auto walked = walk(child, depth + 1);
            cgio_release_id(m_id, child);
            if (!walked)
                return walked;
        }
        return {};
    }

    Done checkSize(double node, const char* name) const {
        std::array<char, CGIO_MAX_DATATYPE_LENGTH + 1> type{};
        std::array<cgsize_t, CGIO_MAX_DIMENSIONS> dims{};
        int rank = 0;
        if (cgio_get_data_type(m_id, node, type.data()) != CGIO_ERR_NONE ||
            cgio_get_dimensions(m_id, node, &rank, dims.data()) != CGIO_ERR_NONE || rank < 0 ||
            rank > CGIO_MAX_DIMENSIONS)
            return damaged(*name == '\0'
                               ? "its nodes lack what the CGNS standard puts on each, so that they cannot be told"
                               : fmt::format("the size of \"{}\" is damaged", name));
        double bytes = rank > 0 ? bytesOf(std::string_view(type.data()).substr(0, 2)) : 0;
        for (int i = 0; i < rank; ++i) {
            if (dims[static_cast<std::size_t>(i)] < 0)
                return damaged(fmt::format("\"{}\" has a negative size", name));
            bytes *= static_cast<double>(dims[static_cast<std::size_t>(i)]);
        }
        if (bytes > m_slack * m_size)
            return fail(ErrorCode::SizeAbsurd,
                        fmt::format("\"{}\" declares {:.4g} bytes, but the file has {:.0f}", name, bytes, m_size),
                        m_file.string(), writeAgain);
        return {};
    }

    Done followLink(double node) {
        std::array<char, CGIO_MAX_FILE_LENGTH + 1> file{};
        std::array<char, CGIO_MAX_LINK_LENGTH + 1> path{};
        int fileLength = 0;
        int pathLength = 0;
        if (cgio_link_size(m_id, node, &fileLength, &pathLength) != CGIO_ERR_NONE ||
            fileLength > CGIO_MAX_FILE_LENGTH || pathLength > CGIO_MAX_LINK_LENGTH ||
            cgio_get_link(m_id, node, file.data(), path.data()) != CGIO_ERR_NONE)
            return damaged("a link is damaged");
        if (file[0] == '\0')
            return {};
        const auto target = insideFolder(m_file, file.data());
        if (!target)
            return fail(ErrorCode::NotSupported,
                        fmt::format("a link leads to \"{:.200}\", out of the folder of the file", file.data()),
                        m_file.string(), "Copy that file beside this one and have the link name it alone");
        if (!std::filesystem::exists(*target))
            return fail(ErrorCode::FileMissing, fmt::format("it needs \"{:.200}\", which is not there", file.data()),
                        m_file.string(), "Copy that file beside this one");
        if (std::ranges::find(m_linked, *target) == m_linked.end())
            m_linked.push_back(*target);
        return {};
    }

    std::filesystem::path m_file;
    double m_size; // bytes
    double m_slack = 1;
    int m_id = 0;
    bool m_open = false;
    int m_nodes = 0;
    std::vector<std::filesystem::path> m_linked;
};

} // namespace

Result<std::vector<std::filesystem::path>> scanCgns(const std::filesystem::path& file) {
    std::vector<std::filesystem::path> all{file};
    for (std::size_t i = 0; i < all.size(); ++i) { // files linked may link further
        const auto linked = TreeScan(all[i]).run();
        if (!linked)
            return tl::unexpected(linked.error());
        for (const auto& one : *linked)
            if (std::ranges::find(all, one) == all.end())
                all.push_back(one);
    }
    all.erase(all.begin());
    return all;
}

} // namespace pyro
