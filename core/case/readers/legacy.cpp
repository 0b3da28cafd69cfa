#include "core/case/readers/legacy.h"

#include "core/case/readers/format.h"
#include "core/case/readers/legacy_lists.h"
#include "core/case/readers/remedies.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>
#include <fmt/format.h>
#include <fstream>
#include <limits>
#include <sstream>
#include <strings.h>
#include <vtkCellData.h>
#include <vtkDataObject.h>
#include <vtkDataSet.h>
#include <vtkDataSetReader.h>
#include <vtkFieldData.h>
#include <vtkNew.h>
#include <vtkPointData.h>

namespace pyro {
namespace {

// The head of a declaration: a word and the counts behind it.
struct Declared {
    const char* word;
    std::size_t counts;  // how many numbers follow
    std::size_t product; // of how many of them the size is
    double leastBytes;   // for each of what they count, at least, in text or binary
};
constexpr std::array<Declared, 13> declarations{{{"POINTS", 1, 1, 3},
                                                 {"CELLS", 2, 1, 1},
                                                 {"CELL_TYPES", 1, 1, 1},
                                                 {"VERTICES", 2, 1, 1},
                                                 {"LINES", 2, 1, 1},
                                                 {"POLYGONS", 2, 1, 1},
                                                 {"TRIANGLE_STRIPS", 2, 1, 1},
                                                 {"X_COORDINATES", 1, 1, 1},
                                                 {"Y_COORDINATES", 1, 1, 1},
                                                 {"Z_COORDINATES", 1, 1, 1},
                                                 {"DIMENSIONS", 3, 3, 0},
                                                 {"POINT_DATA", 1, 1, 0},
                                                 {"CELL_DATA", 1, 1, 0}}};

struct LegacyHead {
    std::string type; // STRUCTURED_POINTS ...
    bool ascii = false;
    int version = 0;         // before the point
    bool newerTypes = false; // whether an array's type has a name that the library's reader does not know
};

// Lines that declare something. Binary data may hold what looks like one, but hardly at the beginning of a line and
// followed by numbers.
class LegacyScan {
public:
    explicit LegacyScan(const std::filesystem::path& file) : m_file(file), m_size(std::filesystem::file_size(file)) {}

    Result<LegacyHead> run() {
        std::ifstream stream(m_file, std::ios::binary);
        std::array<std::string, 4> head;
        for (auto& line : head)
            if (!std::getline(stream, line))
                return stop(ErrorCode::FileTruncated, "the file ends within its head");
        if (!head[0].starts_with("# vtk DataFile Version"))
            return fail(ErrorCode::FileUnreadable, "this is not a legacy VTK file: its first line is another",
                        m_file.string(), "Check that the right file was chosen");
        m_head.version = std::atoi(head[0].c_str() + std::string_view("# vtk DataFile Version").size());
        const auto coding = upper(head[2]);
        if (coding != "ASCII" && coding != "BINARY")
            return stop(ErrorCode::Syntax, fmt::format("line 3: \"{:.40}\" is neither ASCII nor BINARY", head[2]));
        m_head.ascii = coding == "ASCII";
        std::istringstream words(head[3]);
        std::string word;
        words >> word >> m_head.type;
        m_head.type = upper(m_head.type);
        if (upper(word) == "FIELD")
            return fail(ErrorCode::NoCells, "the file holds field data only, no mesh", m_file.string(),
                        "Export the mesh together with the result");
        if (upper(word) != "DATASET")
            return stop(ErrorCode::Syntax, fmt::format("line 4: \"{:.40}\" where DATASET belongs", head[3]));
        std::string line;
        constexpr std::string_view newer = " vtktype";
        while (std::getline(stream, line))
            if (line.size() < 200) {
                // those of 64 bits are known
                if (line.size() > 12 && line.find(newer) != std::string::npos && !line.ends_with("int64"))
                    m_head.newerTypes = m_size < static_cast<std::uintmax_t>(std::numeric_limits<int>::max());
                if (auto checked = check(line, stream); !checked)
                    return tl::unexpected(checked.error());
            }
        return m_head;
    }

private:
    static std::string upper(std::string text) {
        while (!text.empty() && std::isspace(static_cast<unsigned char>(text.back())) != 0)
            text.pop_back();
        std::ranges::transform(text, text.begin(), [](unsigned char c) { return static_cast<char>(std::toupper(c)); });
        return text;
    }
    tl::unexpected<Error> stop(ErrorCode code, std::string what) const {
        return fail(code, std::move(what), m_file.string(), writeAgain);
    }

    // Binary data have millions of what looks like a line: what does not begin as a declaration is not taken apart.
    static bool mayDeclare(const std::string& line) {
        const auto begin = line.find_first_not_of(" \t");
        if (begin == std::string::npos ||
            std::string_view("CDLPTVXYZcdlptvxyz").find(line[begin]) == std::string_view::npos)
            return false;
        return std::ranges::any_of(declarations, [&](const Declared& one) {
            return ::strncasecmp(line.c_str() + begin, one.word, std::strlen(one.word)) == 0;
        });
    }

    Done check(const std::string& line, std::istream& stream) const {
        if (!mayDeclare(line))
            return {};
        std::istringstream words(line);
        std::string word;
        words >> word;
        word = upper(word);
        const auto* found = std::ranges::find_if(declarations, [&](const Declared& one) { return word == one.word; });
        if (found == declarations.end())
            return {};
        double whole = 1;
        std::array<long long, 3> counts{};
        for (std::size_t i = 0; i < found->counts; ++i) {
            auto& count = counts[i];
            if (!(words >> count))
                return m_head.ascii ? Done(stop(ErrorCode::Syntax, fmt::format("\"{:.60}\" has no count", line)))
                                    : Done();
            if (count < 0)
                return stop(ErrorCode::Syntax, fmt::format("\"{:.60}\" has a negative count", line));
            if (i < found->product)
                whole *= static_cast<double>(count);
        }
        if (whole >= static_cast<double>(std::numeric_limits<std::uint32_t>::max()) ||
            whole * found->leastBytes > 1000.0 * static_cast<double>(m_size))
            return fail(ErrorCode::SizeAbsurd,
                        fmt::format("\"{:.60}\" is more than the {} bytes of the file can hold", line, m_size),
                        m_file.string(), "The sizes it declares cannot be true; have the solver write the file again");
        if (whole * found->leastBytes > static_cast<double>(m_size))
            return fail(ErrorCode::FileTruncated,
                        fmt::format("\"{:.60}\" needs more than the {} bytes of the file", line, m_size),
                        m_file.string(), "The file is probably cut short; copy or write it again");
        if (found->counts == 2)
            return walkLegacyList(stream, {line, counts[0], counts[1], m_head.ascii, m_head.version >= 5},
                                  m_file.string());
        if (!m_head.ascii) // what follows is no lines
            stream.seekg(bytesBehind(word, words) * counts[0], std::ios::cur);
        return {};
    }
    // Bytes for each that is declared; 0 where they are not known.
    static std::streamoff bytesBehind(const std::string& word, std::istringstream& rest) {
        if (word == "CELL_TYPES")
            return 4;
        std::string type;
        if (word != "POINTS" || !(rest >> type))
            return 0;
        type = upper(type);
        return type == "DOUBLE" || type == "VTKTYPEFLOAT64" ? 24 : type == "FLOAT" || type == "VTKTYPEFLOAT32" ? 12 : 0;
    }

    std::filesystem::path m_file;
    std::uintmax_t m_size;
    LegacyHead m_head;
};

// Arrays whose length is not that of the nodes or cells: what the library leaves behind where a file is cut short.
Done checkLengths(vtkDataSet& grid, const std::filesystem::path& file) {
    const auto check = [&](vtkDataSetAttributes& data, vtkIdType expected, const char* on) -> Done {
        for (int i = 0; i < data.GetNumberOfArrays(); ++i)
            if (auto* array = data.GetAbstractArray(i); array != nullptr && array->GetNumberOfTuples() != expected)
                return fail(ErrorCode::LengthMismatch,
                            fmt::format("array \"{}\" has {} entries for {} {}",
                                        array->GetName() != nullptr ? array->GetName() : "", array->GetNumberOfTuples(),
                                        expected, on),
                            file.string(), writeAgain);
        return {};
    };
    if (auto done = check(*grid.GetPointData(), grid.GetNumberOfPoints(), "nodes"); !done)
        return done;
    return check(*grid.GetCellData(), grid.GetNumberOfCells(), "cells");
}

std::optional<double> timeIn(vtkDataObject& object) {
    for (const char* name : {"TimeValue", "TIME"})
        if (auto* array = object.GetFieldData()->GetArray(name); array != nullptr && array->GetNumberOfValues() > 0)
            return array->GetComponent(0, 0);
    return std::nullopt;
}

// Names of types that newer versions of the format have and this reader does not know, as those that it does.
std::string withKnownTypes(std::string text) {
    constexpr std::array<std::pair<std::string_view, std::string_view>, 8> names{
        {{" vtktypeint8\n", " char\n"},
         {" vtktypeuint8\n", " unsigned_char\n"},
         {" vtktypeint16\n", " short\n"},
         {" vtktypeuint16\n", " unsigned_short\n"},
         {" vtktypeint32\n", " int\n"},
         {" vtktypeuint32\n", " unsigned_int\n"},
         {" vtktypefloat32\n", " float\n"},
         {" vtktypefloat64\n", " double\n"}}};
    for (const auto& [newer, known] : names)
        for (auto at = text.find(newer); at != std::string::npos; at = text.find(newer, at + known.size()))
            text.replace(at, newer.size(), known);
    return text;
}

void readAll(vtkDataSetReader& reader, const std::filesystem::path& file, bool newerTypes) {
    if (newerTypes) {
        std::ifstream stream(file, std::ios::binary);
        const auto text = withKnownTypes(std::string(std::istreambuf_iterator<char>(stream), {}));
        reader.ReadFromInputStringOn();
        reader.SetBinaryInputString(text.data(), static_cast<int>(text.size()));
    } else {
        reader.SetFileName(file.c_str());
    }
    reader.ReadAllScalarsOn();
    reader.ReadAllVectorsOn();
    reader.ReadAllTensorsOn();
    reader.ReadAllFieldsOn();
    reader.ReadAllColorScalarsOn();
    reader.ReadAllNormalsOn();
    reader.ReadAllTCoordsOn();
    reader.Update();
}

} // namespace

Result<vtkSmartPointer<vtkPointSet>> readLegacy(const std::filesystem::path& file) {
    if (auto readable = checkReadable(file); !readable)
        return tl::unexpected(readable.error());
    const auto head = LegacyScan(file).run();
    if (!head)
        return tl::unexpected(head.error());
    vtkNew<vtkDataSetReader> reader;
    const auto complaint = complaintDuring([&] { readAll(*reader, file, head->newerTypes); });
    if (!complaint.empty())
        return fail(ErrorCode::FileUnreadable, "its data cannot be read: " + complaint, file.string(),
                    "Copy the file again or have the solver write it again");
    auto* grid = reader->GetOutput();
    if (grid == nullptr)
        return fail(ErrorCode::FormatUnknown, fmt::format("the file holds \"{}\", which is no mesh", head->type),
                    file.string(), "Export a grid of cells");
    if (grid->GetNumberOfCells() == 0 || grid->GetNumberOfPoints() == 0)
        return fail(ErrorCode::NoCells, "the file has no cells", file.string(),
                    "Export the mesh together with the result");
    if (auto lengths = checkLengths(*grid, file); !lengths)
        return tl::unexpected(lengths.error());
    if (const auto time = timeIn(*grid)) { // under the name that the others have
        vtkNew<vtkFieldData> told;
        told->ShallowCopy(grid->GetFieldData());
        if (auto* array = told->GetArray("TIME"))
            array->SetName("TimeValue");
        grid->SetFieldData(told);
    }
    return asLatticeOrCells(*grid, file.string());
}

std::optional<double> legacyTime(const std::filesystem::path& file) {
    if (!checkReadable(file))
        return std::nullopt;
    std::ifstream stream(file, std::ios::binary);
    std::string text(1 << 16, '\0'); // the field data of the file stand before its grid, or not far from its head
    stream.read(text.data(), static_cast<std::streamsize>(text.size()));
    text.resize(static_cast<std::size_t>(stream.gcount()));
    if (text.find("TimeValue") == std::string::npos && text.find("TIME") == std::string::npos)
        return std::nullopt;
    const auto head = LegacyScan(file).run();
    if (!head)
        return std::nullopt;
    vtkNew<vtkDataSetReader> reader;
    complaintDuring([&] { readAll(*reader, file, head->newerTypes); });
    auto* grid = reader->GetOutput();
    return grid != nullptr ? timeIn(*grid) : std::nullopt;
}

} // namespace pyro
