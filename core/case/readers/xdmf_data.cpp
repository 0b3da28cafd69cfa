#include "core/case/readers/xdmf_data.h"

#include "core/case/inside_folder.h"
#include "core/case/readers/remedies.h"

#include <algorithm>
#include <bit>
#include <charconv>
#include <cmath>
#include <cstring>
#include <fmt/format.h>
#include <fstream>
#include <sstream>

namespace pyro {
namespace {

constexpr int deepest = 16; // references and slabs within each other

std::string trimmed(std::string text) {
    text.erase(0, std::min(text.size(), text.find_first_not_of(" \t\r\n")));
    text.erase(text.find_last_not_of(" \t\r\n") + 1);
    return text;
}

std::vector<std::uint64_t> dimensionsOf(pugi::xml_node item) {
    std::istringstream words(item.attribute("Dimensions").as_string(item.attribute("Dims").as_string()));
    std::vector<std::uint64_t> dims;
    for (std::uint64_t one = 0; words >> one;)
        dims.push_back(one);
    return dims;
}

// Saturates, so that a product that cannot be is merely large.
std::uint64_t product(const std::vector<std::uint64_t>& dims) {
    double all = 1;
    for (const auto one : dims)
        all *= static_cast<double>(one);
    return all < 1e18 ? static_cast<std::uint64_t>(all) : std::uint64_t{1} << 62U;
}

template <class T>
double numberAt(const char* bytes, bool swap) {
    std::array<char, sizeof(T)> raw{};
    std::memcpy(raw.data(), bytes, sizeof(T));
    if (swap)
        std::ranges::reverse(raw);
    T value;
    std::memcpy(&value, raw.data(), sizeof(T));
    return static_cast<double>(value);
}

} // namespace

tl::unexpected<Error> XdmfData::syntax(const std::string& what, pugi::xml_node at) const {
    return fail(ErrorCode::Syntax, what,
                fmt::format("{}, {} \"{}\"", m_file.string(), at.name(), at.attribute("Name").as_string()), writeAgain);
}

Result<pugi::xml_node> XdmfData::resolved(pugi::xml_node element, const char* name) const {
    for (int depth = 0; depth < deepest; ++depth) {
        const auto reference = element.attribute("Reference");
        if (!reference)
            return element;
        const std::string path = std::string_view(reference.as_string()) == "XML" ? trimmed(element.text().as_string())
                                                                                  : trimmed(reference.as_string());
        try {
            const auto found = m_document.select_node(path.c_str()).node();
            if (!found || std::string_view(found.name()) != name)
                return syntax(fmt::format("it refers to \"{:.120}\", where no {} is", path, name), element);
            element = found;
        } catch (const pugi::xpath_exception& problem) {
            return syntax(fmt::format("its reference \"{:.120}\" cannot be followed: {}", path, problem.what()),
                          element);
        }
    }
    return syntax("its references lead in a circle", element);
}

Result<pugi::xml_node> XdmfData::child(pugi::xml_node element, const char* name) const {
    if (const auto own = element.child(name))
        return resolved(own, name);
    for (const auto include : element.children()) {
        if (const std::string_view tag = include.name(); tag != "include" && !tag.ends_with(":include"))
            continue;
        // xpointer(PATH), within this file
        if (const std::string href = include.attribute("href").as_string(); !href.empty() && href != m_file.filename())
            return syntax(
                fmt::format("it includes the file \"{:.120}\"; only what lies in the file itself is followed", href),
                element);
        std::string path = include.attribute("xpointer").as_string();
        if (path.starts_with("xpointer(") && path.ends_with(')'))
            path = path.substr(9, path.size() - 10);
        try {
            for (const auto& found : m_document.select_nodes(path.c_str()))
                if (std::string_view(found.node().name()) == name)
                    return resolved(found.node(), name);
        } catch (const pugi::xpath_exception& problem) {
            return syntax(fmt::format("its pointer \"{:.120}\" cannot be followed: {}", path, problem.what()), element);
        }
    }
    return pugi::xml_node();
}

Result<std::filesystem::path> XdmfData::beside(const std::string& named) const {
    const auto file = insideFolder(m_file, named);
    if (!file)
        return fail(ErrorCode::FileMissing, fmt::format("its data \"{:.120}\" lie outside of its folder", named),
                    m_file.string(), "Keep the data beside the file or below it");
    return *file;
}

Result<HdfArray> XdmfData::fromHdf(pugi::xml_node item) {
    const auto text = trimmed(item.text().as_string());
    const auto colon = text.find(".h5:") != std::string::npos ? text.find(".h5:") + 3 : text.rfind(':');
    if (colon == std::string::npos || colon + 1 >= text.size())
        return syntax(fmt::format("\"{:.120}\" is no place in an HDF5 file", text), item.parent());
    const auto file = beside(text.substr(0, colon));
    if (!file)
        return tl::unexpected(file.error());
    auto& open = m_open[*file];
    if (!open) {
        auto opened = HdfFile::open(*file);
        if (!opened)
            return tl::unexpected(opened.error());
        open = std::move(*opened);
    }
    auto path = text.substr(colon + 1);
    if (!path.starts_with('/'))
        path = "/" + path;
    return open->read(path);
}

Result<HdfArray> XdmfData::fromText(pugi::xml_node item, std::uint64_t expected) const {
    HdfArray out;
    const std::string_view text = item.text().as_string();
    out.values.reserve(std::min<std::size_t>(expected, text.size() / 2 + 1));
    for (std::size_t at = 0; at < text.size();) {
        if (std::isspace(static_cast<unsigned char>(text[at])) != 0) {
            ++at;
            continue;
        }
        double value = 0;
        const char* first = text.data() + at + (text[at] == '+' ? 1 : 0);
        const auto [end, status] = std::from_chars(first, text.data() + text.size(), value);
        if (status == std::errc::invalid_argument ||
            (end != text.data() + text.size() && std::isspace(static_cast<unsigned char>(*end)) == 0))
            return syntax(fmt::format("\"{:.20}\" is no number", text.substr(at, 20)), item.parent());
        out.values.push_back(value);
        at = static_cast<std::size_t>(end - text.data());
    }
    return out;
}

Result<HdfArray> XdmfData::fromBinary(pugi::xml_node item, std::uint64_t expected) {
    const auto file = beside(trimmed(item.text().as_string()));
    if (!file)
        return tl::unexpected(file.error());
    m_binary.push_back(*file);
    const std::string kind = item.attribute("NumberType").as_string(item.attribute("DataType").as_string("Float"));
    const auto precision = item.attribute("Precision").as_uint(4);
    const bool swap = (std::string_view(item.attribute("Endian").as_string()) == "Big") ==
                          (std::endian::native == std::endian::little) &&
                      item.attribute("Endian");
    const auto seek = item.attribute("Seek").as_ullong(0);
    const bool real = kind == "Float";
    const std::size_t bytes = kind == "Char" || kind == "UChar" ? 1 : precision;
    std::error_code failed;
    const auto size = std::filesystem::file_size(*file, failed);
    if (failed)
        return fail(ErrorCode::FileMissing, "the file does not exist", file->string(),
                    "Keep the data beside the .xdmf file");
    if (!(bytes == 1 || bytes == 2 || bytes == 4 || bytes == 8) || (real && bytes < 4))
        return syntax(fmt::format("numbers of {} bytes are not read", bytes), item.parent());
    if (seek > size || expected > (size - seek) / bytes)
        return fail(
            ErrorCode::FileTruncated,
            fmt::format("{} numbers of {} bytes belong there, but the file has {} bytes", expected, bytes, size),
            file->string(), "It is probably cut short; copy or write it again");
    std::ifstream stream(*file, std::ios::binary);
    stream.seekg(static_cast<std::streamoff>(seek));
    std::string raw(expected * bytes, '\0');
    stream.read(raw.data(), static_cast<std::streamsize>(raw.size()));
    const bool plain = kind.starts_with('U');
    HdfArray out;
    out.values.resize(expected);
    for (std::size_t i = 0; i < expected; ++i) {
        const char* at = raw.data() + i * bytes;
        out.values[i] = real         ? (bytes == 4 ? numberAt<float>(at, swap) : numberAt<double>(at, swap))
                        : bytes == 8 ? (plain ? numberAt<std::uint64_t>(at, swap) : numberAt<std::int64_t>(at, swap))
                        : bytes == 4 ? (plain ? numberAt<std::uint32_t>(at, swap) : numberAt<std::int32_t>(at, swap))
                        : bytes == 2 ? (plain ? numberAt<std::uint16_t>(at, swap) : numberAt<std::int16_t>(at, swap))
                                     : (plain ? numberAt<std::uint8_t>(at, swap) : numberAt<std::int8_t>(at, swap));
    }
    return out;
}

// Start, stride and count along each axis of another item.
Result<HdfArray> XdmfData::slab(pugi::xml_node item, int depth) {
    std::vector<pugi::xml_node> inner;
    for (const auto one : item.children("DataItem"))
        inner.push_back(one);
    if (inner.size() != 2)
        return syntax("a hyperslab has its selection and its source", item.parent());
    auto selection = read(inner[0], depth + 1);
    if (!selection)
        return selection;
    auto whole = read(inner[1], depth + 1);
    if (!whole)
        return whole;
    const auto rank = whole->dims.size();
    if (selection->values.size() != 3 * rank || rank == 0)
        return syntax("the selection of a hyperslab does not fit its source", item.parent());
    HdfArray out;
    for (std::size_t axis = 0; axis < rank; ++axis) {
        const double start = selection->values[axis];
        const double stride = selection->values[rank + axis];
        const double count = selection->values[2 * rank + axis];
        if (!(start >= 0 && stride >= 1 && count >= 0) ||
            (count > 0 && start + (count - 1) * stride >= static_cast<double>(whole->dims[axis])))
            return syntax("the selection of a hyperslab lies outside of its source", item.parent());
        out.dims.push_back(static_cast<std::uint64_t>(count));
    }
    out.values.resize(product(out.dims));
    for (std::size_t i = 0; i < out.values.size(); ++i) {
        std::size_t rest = i;
        std::size_t from = 0;
        std::size_t step = 1;
        for (std::size_t axis = rank; axis-- > 0;) {
            const auto at = rest % out.dims[axis];
            rest /= out.dims[axis];
            from += step * static_cast<std::size_t>(selection->values[axis] +
                                                    static_cast<double>(at) * selection->values[rank + axis]);
            step *= whole->dims[axis];
        }
        out.values[i] = whole->values[from];
    }
    return out;
}

Result<HdfArray> XdmfData::numbers(pugi::xml_node dataItem) { return read(dataItem, 0); }

Result<HdfArray> XdmfData::read(pugi::xml_node written, int depth) {
    if (depth > deepest)
        return syntax("its data lie within each other too deep", written.parent());
    const auto found = resolved(written, "DataItem");
    if (!found)
        return tl::unexpected(found.error());
    const auto item = *found;
    const auto dims = dimensionsOf(item);
    const std::string kind = item.attribute("ItemType").as_string(item.attribute("Type").as_string("Uniform"));
    Result<HdfArray> out;
    if (kind == "HyperSlab") {
        out = slab(item, depth);
    } else if (kind != "Uniform") {
        return fail(ErrorCode::NotSupported, fmt::format("data of the kind \"{:.40}\" are not read", kind),
                    m_file.string(), "Write the numbers themselves");
    } else {
        if (dims.empty())
            return syntax("the data have no dimensions", item.parent());
        const std::string format = item.attribute("Format").as_string("XML");
        out = format == "HDF" || format == "HDF5" ? fromHdf(item)
              : format == "Binary"                ? fromBinary(item, product(dims))
              : format == "XML"
                  ? fromText(item, product(dims))
                  : Result<HdfArray>(
                        syntax(fmt::format("data in the format \"{:.40}\" are not read", format), item.parent()));
    }
    if (!out)
        return out;
    if (!dims.empty() && out->values.size() != product(dims))
        return fail(ErrorCode::LengthMismatch,
                    fmt::format("{} numbers are declared, {} are there", product(dims), out->values.size()),
                    fmt::format("{}, {} \"{}\"", m_file.string(), item.parent().name(),
                                item.parent().attribute("Name").as_string()),
                    writeAgain);
    if (!dims.empty())
        out->dims = dims;
    return out;
}

std::vector<std::filesystem::path> XdmfData::sources() const {
    auto files = m_binary;
    for (const auto& [file, open] : m_open)
        files.push_back(file);
    return files;
}

} // namespace pyro
