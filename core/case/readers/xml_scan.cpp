#include "core/case/readers/xml_scan.h"

#include "core/case/readers/remedies.h"
#include "core/case/readers/xml_blocks.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <expat.h>
#include <fmt/format.h>
#include <fstream>
#include <limits>
#include <map>
#include <memory>
#include <optional>
#include <sstream>

namespace pyro {
namespace {

using Attributes = std::map<std::string, std::string, std::less<>>;
constexpr double mostByCompression = 1100; // zlib's limit is about 1032 to 1

std::optional<std::uint64_t> count(const Attributes& attributes, const char* key) {
    const auto found = attributes.find(key);
    if (found == attributes.end())
        return 0;
    std::uint64_t value = 0;
    const auto& text = found->second;
    const auto [end, status] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (status != std::errc() || end != text.data() + text.size())
        return std::nullopt;
    return value;
}

std::size_t bytesOf(const std::string& type) {
    if (type.ends_with("64"))
        return 8;
    if (type.ends_with("32"))
        return 4;
    return type.ends_with("16") ? 2 : 1;
}

bool isStructured(std::string_view type) {
    return type == "ImageData" || type == "RectilinearGrid" || type == "StructuredGrid";
}

// "0 10 0 4 0 0" as the numbers of nodes and cells; nothing where it is no extent.
struct ExtentSize {
    double points = 1;
    double cells = 1;
};
std::optional<ExtentSize> extentSize(const std::string& text) {
    std::istringstream stream(text);
    ExtentSize size;
    for (int axis = 0; axis < 3; ++axis) {
        long long from = 0;
        long long to = 0;
        if (!(stream >> from >> to) || std::abs(from) > std::numeric_limits<int>::max() ||
            std::abs(to) > std::numeric_limits<int>::max())
            return std::nullopt;
        const auto steps = std::max(to - from, -1LL); // an empty piece runs from 0 to -1
        size.points *= static_cast<double>(steps + 1);
        size.cells *= static_cast<double>(steps > 0 ? steps : steps + 1);
    }
    return size;
}

bool isSection(std::string_view name) {
    constexpr std::array<std::string_view, 10> sections{"PointData", "CellData", "Points", "Cells", "Coordinates",
                                                        "Verts",     "Lines",    "Strips", "Polys", "FieldData"};
    return std::ranges::find(sections, name) != sections.end();
}

class Scanner {
public:
    Scanner(std::filesystem::path file, std::uint64_t size) : m_file(std::move(file)), m_size(size) {}

    Result<XmlScan> run();

private:
    static void onStart(void* self, const char* name, const char** pairs);
    static void onEnd(void* self, const char* name) { static_cast<Scanner*>(self)->end(name); }
    static void onText(void* self, const char* text, int length) {
        static_cast<Scanner*>(self)->text({text, static_cast<std::size_t>(length)});
    }
    void start(const std::string& name, const Attributes& attributes);
    void end(std::string_view name);
    void text(std::string_view characters);
    void startPiece(const Attributes& attributes);
    void startExtent(const std::string& text, bool piece);
    void startArray(const Attributes& attributes);
    void takeToken();
    void takeNonFinite(double value);
    std::optional<std::uint64_t> expectedTuples() const;
    void checkHolds(double values, double bytesEach, const std::string& whatFor);
    void stop(ErrorCode code, std::string what, std::string remedy = writeAgain);
    Result<XmlScan> parserFailure();
    Done checkTail() const;
    Done feed(std::ifstream& stream);
    std::string line() const { return std::to_string(XML_GetCurrentLineNumber(m_parser.get())); }

    std::filesystem::path m_file;
    std::uint64_t m_size;
    std::unique_ptr<std::remove_pointer_t<XML_Parser>, void (*)(XML_Parser)> m_parser{XML_ParserCreate(nullptr),
                                                                                      XML_ParserFree};
    XmlScan m_scan;
    std::optional<Error> m_error;
    BlockCoding m_coding;
    bool m_appended = false;
    bool m_base64 = false;             // of what is appended
    std::uint64_t m_appendedBegin = 0; // byte of its element
    std::vector<DataBlock> m_blocks;   // appended
    std::optional<InlineBlock> m_inline;
    std::string m_section;
    bool m_inAscii = false;
    int m_inner = 0; // elements open within the array at hand
    std::string m_array;
    std::uint64_t m_components = 1;
    std::uint64_t m_values = 0;
    std::string m_token;
    std::uint64_t m_tokenBegin = 0;
    std::vector<std::pair<std::uint64_t, std::size_t>> m_toClean; // byte offset and length in the file
};

void Scanner::onStart(void* self, const char* name, const char** pairs) {
    Attributes attributes;
    for (; *pairs != nullptr; pairs += 2)
        attributes.emplace(pairs[0], pairs[1]);
    static_cast<Scanner*>(self)->start(name, attributes);
}

void Scanner::stop(ErrorCode code, std::string what, std::string remedy) {
    if (!m_error)
        m_error = Error{code, std::move(what), m_file.string(), std::move(remedy)};
    XML_StopParser(m_parser.get(), XML_FALSE);
}

void Scanner::start(const std::string& name, const Attributes& attributes) {
    if (m_inAscii || m_inline) { // keys within an array, such as its norms: their numbers are none of the array's
        takeToken();
        ++m_inner;
        return;
    }
    if (name == "VTKFile") {
        const auto type = attributes.find("type");
        m_scan.type = type == attributes.end() ? "" : type->second;
        const auto is = [&](const char* key, std::string_view value) {
            const auto found = attributes.find(key);
            return found != attributes.end() && found->second == value;
        };
        m_coding = {attributes.contains("compressor"), is("byte_order", "BigEndian"),
                    is("header_type", "UInt64") ? std::size_t{8} : std::size_t{4}};
    } else if (m_scan.type.empty()) {
        stop(ErrorCode::FileUnreadable, fmt::format("the file is XML, but no VTK file (its root is \"{}\")", name));
    } else if (const auto whole = attributes.find("WholeExtent"); isStructured(name) && whole != attributes.end()) {
        startExtent(whole->second, false);
    } else if (name == "Piece" && m_scan.type.starts_with('P') &&
               m_scan.type != "PolyData") { // of a file that lists pieces: sizes stand in each
        ++m_scan.pieces;
    } else if (const auto extent = attributes.find("Extent");
               name == "Piece" && isStructured(m_scan.type) && extent != attributes.end()) {
        startExtent(extent->second, true);
    } else if (name == "Piece") {
        startPiece(attributes);
    } else if (name == "DataArray") {
        startArray(attributes);
    } else if (name == "AppendedData") {
        m_appended = true;
        const auto encoding = attributes.find("encoding");
        m_base64 = encoding == attributes.end() || encoding->second == "base64";
        m_appendedBegin = static_cast<std::uint64_t>(XML_GetCurrentByteIndex(m_parser.get()));
        XML_StopParser(m_parser.get(), XML_FALSE);
    } else if (isSection(name)) {
        m_section = name;
    }
}

void Scanner::checkHolds(double values, double bytesEach, const std::string& whatFor) {
    const double most = static_cast<double>(m_size) * (m_coding.compressed ? mostByCompression : 1.0);
    const double needed = values * bytesEach;
    if (needed <= most)
        return;
    const bool absurd = needed > 1000 * most;
    stop(absurd ? ErrorCode::SizeAbsurd : ErrorCode::FileTruncated,
         fmt::format("{} would need {:.3g} bytes, but the file has only {}", whatFor, needed, m_size),
         absurd ? "The sizes it declares cannot be true; have the solver write the file again"
                : "The file is probably cut short; copy or write it again");
}

void Scanner::startPiece(const Attributes& attributes) {
    const auto points = count(attributes, "NumberOfPoints");
    std::uint64_t all = 0;
    bool valid = points.has_value();
    for (const char* key : {"NumberOfCells", "NumberOfVerts", "NumberOfLines", "NumberOfPolys", "NumberOfStrips"}) {
        const auto more = count(attributes, key);
        valid = valid && more && *more <= std::numeric_limits<std::uint64_t>::max() - all;
        all += more.value_or(0);
    }
    if (!valid)
        return stop(ErrorCode::Syntax, "line " + line() + ": a number of points or cells is not a count");
    // The smallest conceivable storage: three numbers a point, one byte a cell, two characters a number in ASCII.
    checkHolds(static_cast<double>(*points), 6, fmt::format("{} points", *points));
    checkHolds(static_cast<double>(all), 1, fmt::format("{} cells", all));
    ++m_scan.pieces;
    m_scan.points += *points;
    m_scan.cells += all;
    m_scan.pointsOfPiece.push_back(*points);
    m_scan.cellsOfPiece.push_back(all);
}

void Scanner::startExtent(const std::string& text, bool piece) {
    const auto size = extentSize(text);
    if (!size)
        return stop(ErrorCode::Syntax, fmt::format("line {}: \"{:.60}\" is no extent of six numbers", line(), text));
    if (size->points >= static_cast<double>(std::numeric_limits<std::uint32_t>::max()))
        return stop(ErrorCode::SizeAbsurd,
                    fmt::format("the grid would have {:.3g} nodes; 2^32 and more are not supported", size->points),
                    "Export a part of it, or have the solver write the file again");
    if (m_scan.type == "StructuredGrid" && piece)
        checkHolds(size->points, 6, fmt::format("{} points", size->points));
    const auto points = static_cast<std::uint64_t>(size->points);
    const auto cells = static_cast<std::uint64_t>(size->cells);
    if (!piece) {
        m_scan.points = points;
        m_scan.cells = cells;
        return;
    }
    ++m_scan.pieces;
    m_scan.pointsOfPiece.push_back(points);
    m_scan.cellsOfPiece.push_back(cells);
}

void Scanner::startArray(const Attributes& attributes) {
    const auto get = [&](const char* key) {
        const auto found = attributes.find(key);
        return found == attributes.end() ? std::string() : found->second;
    };
    m_array = get("Name");
    const auto components = attributes.contains("NumberOfComponents") ? count(attributes, "NumberOfComponents")
                                                                      : std::optional<std::uint64_t>(1);
    if (!components || *components == 0)
        return stop(ErrorCode::Syntax, "line " + line() + ": NumberOfComponents is not a count");
    m_components = *components;
    m_values = 0;
    m_inAscii = get("format") == "ascii" && get("type") != "String";
    const double bytesEach = m_inAscii ? 2 : static_cast<double>(bytesOf(get("type")));
    if (const auto tuples = expectedTuples())
        checkHolds(static_cast<double>(*tuples) * static_cast<double>(m_components) - (m_inAscii ? 0.5 : 0), bytesEach,
                   fmt::format("array \"{}\"", m_array));
    if (m_inAscii || get("type") == "String" || get("type") == "Bit" || m_error)
        return;
    DataBlock block{m_array, std::nullopt, 0};
    if (const auto tuples = expectedTuples())
        block.bytes = *tuples * m_components * bytesOf(get("type"));
    if (get("format") == "appended") {
        const auto offset = count(attributes, "offset");
        if (!offset)
            return stop(ErrorCode::Syntax, "line " + line() + ": an offset is not a count");
        block.offset = *offset;
        m_blocks.push_back(std::move(block));
    } else if (get("format") == "binary") {
        m_inline.emplace(m_coding, std::move(block));
    }
}

std::optional<std::uint64_t> Scanner::expectedTuples() const {
    if (m_scan.pieces == 0)
        return std::nullopt;
    if (m_section == "PointData" || m_section == "Points")
        return m_scan.pointsOfPiece.back();
    if (m_section == "CellData" || (m_section == "Cells" && (m_array == "offsets" || m_array == "types")))
        return m_scan.cellsOfPiece.back();
    return std::nullopt;
}

void Scanner::text(std::string_view characters) {
    if (m_inline && m_inner == 0)
        m_inline->add(characters);
    if (!m_inAscii || m_inner > 0)
        return;
    const auto position = static_cast<std::uint64_t>(XML_GetCurrentByteIndex(m_parser.get()));
    for (std::size_t i = 0; i < characters.size(); ++i) {
        const char c = characters[i];
        if (c == ' ' || c == '\n' || c == '\t' || c == '\r') {
            takeToken();
        } else {
            if (m_token.empty())
                m_tokenBegin = position + i;
            m_token += c;
        }
    }
}

void Scanner::takeToken() {
    if (m_token.empty())
        return;
    double value = 0;
    const char* first = m_token.data() + (m_token.front() == '+' ? 1 : 0);
    const char* last = m_token.data() + m_token.size();
    const auto [end, status] = std::from_chars(first, last, value);
    if (end != last || status == std::errc::invalid_argument)
        stop(ErrorCode::Syntax,
             fmt::format("line {}: \"{:.40}\" in array \"{}\" is not a number", line(), m_token, m_array));
    else if (!std::isfinite(value))
        takeNonFinite(value);
    ++m_values;
    m_token.clear();
}

void Scanner::takeNonFinite(double value) {
    if (m_section != "PointData" && m_section != "CellData")
        return stop(ErrorCode::Syntax,
                    fmt::format("line {}: \"{}\" cannot stand among the coordinates or cells", line(), m_token));
    m_scan.nonFinite.push_back({m_section, m_array, m_scan.pieces - 1, m_values, value});
    m_toClean.emplace_back(m_tokenBegin, m_token.size());
}

void Scanner::end(std::string_view name) {
    if (m_inner > 0) {
        --m_inner;
        return;
    }
    if (name == "DataArray" && m_inline) {
        if (auto checked = m_inline->check(m_file.string()); !checked)
            stop(checked.error().code, checked.error().what, checked.error().remedy);
        m_inline.reset();
    }
    if (name != "DataArray" || !m_inAscii)
        return;
    takeToken();
    m_inAscii = false;
    const auto tuples = expectedTuples();
    if (tuples && *tuples * m_components != m_values)
        stop(ErrorCode::LengthMismatch, fmt::format("line {}: array \"{}\" holds {} numbers where {} belong", line(),
                                                    m_array, m_values, *tuples * m_components));
}

Done Scanner::feed(std::ifstream& stream) {
    constexpr int chunk = 1 << 20;
    while (!m_appended && !m_error) {
        void* buffer = XML_GetBuffer(m_parser.get(), chunk);
        if (buffer == nullptr)
            return fail(ErrorCode::MemoryLimit, "not enough memory to check the file", m_file.string());
        stream.read(static_cast<char*>(buffer), chunk);
        const auto got = static_cast<int>(stream.gcount());
        const bool last = stream.eof();
        if (XML_ParseBuffer(m_parser.get(), got, last) != XML_STATUS_OK)
            break;
        if (last)
            break;
    }
    return {};
}

Result<XmlScan> Scanner::parserFailure() {
    const auto code = XML_GetErrorCode(m_parser.get());
    if (m_scan.type.empty())
        return fail(ErrorCode::FileUnreadable, "this is not a VTK XML file", m_file.string(),
                    "Check that the right file was chosen");
    const bool cut = code == XML_ERROR_NO_ELEMENTS || code == XML_ERROR_UNCLOSED_TOKEN;
    return fail(cut ? ErrorCode::FileTruncated : ErrorCode::FileUnreadable,
                fmt::format("line {}: {}", line(), cut ? "the file ends in the middle" : XML_ErrorString(code)),
                m_file.string(), cut ? "It is probably cut short; copy or write it again" : writeAgain);
}

Done Scanner::checkTail() const {
    std::ifstream stream(m_file, std::ios::binary);
    constexpr std::uint64_t tail = 256;
    stream.seekg(static_cast<std::streamoff>(m_size > tail ? m_size - tail : 0));
    const std::string text((std::istreambuf_iterator<char>(stream)), {});
    if (text.find("</VTKFile>") == std::string::npos)
        return fail(ErrorCode::FileTruncated, "the file ends before its closing </VTKFile>", m_file.string(),
                    "It is probably cut short; copy or write it again");
    return {};
}

Result<XmlScan> Scanner::run() {
    std::ifstream stream(m_file, std::ios::binary);
    XML_SetUserData(m_parser.get(), this);
    XML_SetElementHandler(m_parser.get(), onStart, onEnd);
    XML_SetCharacterDataHandler(m_parser.get(), onText);
    if (auto fed = feed(stream); !fed)
        return tl::unexpected(fed.error());
    if (m_error)
        return tl::unexpected(*m_error);
    if (!m_appended && XML_GetErrorCode(m_parser.get()) != XML_ERROR_NONE)
        return parserFailure();
    if (m_appended)
        if (auto whole = checkTail().and_then(
                [&](const auto&) { return checkAppended(m_file, m_appendedBegin, m_base64, m_coding, m_blocks); });
            !whole)
            return tl::unexpected(whole.error());
    if (!m_toClean.empty()) {
        std::ifstream again(m_file, std::ios::binary);
        m_scan.cleanedText.assign(std::istreambuf_iterator<char>(again), {});
        for (const auto& [offset, length] : m_toClean)
            m_scan.cleanedText.replace(offset, length, length, '0');
    }
    return std::move(m_scan);
}

} // namespace

Done checkReadable(const std::filesystem::path& file) {
    std::error_code status;
    if (!std::filesystem::exists(file, status))
        return fail(ErrorCode::FileMissing, "the file does not exist", file.string(),
                    "Check its name and folder; paths in a survey are relative to the survey");
    if (!std::filesystem::is_regular_file(file, status))
        return fail(ErrorCode::FileUnreadable, "this is a folder or device, not a file", file.string(),
                    "Choose the result file itself");
    const std::ifstream stream(file, std::ios::binary);
    if (!stream)
        return fail(ErrorCode::FileUnreadable, "the file cannot be opened for reading", file.string(),
                    "Check its permissions");
    if (std::filesystem::file_size(file, status) == 0)
        return fail(ErrorCode::FileEmpty, "the file is empty", file.string(),
                    "The solver may not have finished writing it; write it again");
    return {};
}

Result<XmlScan> scanXmlGrid(const std::filesystem::path& file) {
    if (auto readable = checkReadable(file); !readable)
        return tl::unexpected(readable.error());
    return Scanner(file, std::filesystem::file_size(file)).run();
}

} // namespace pyro
