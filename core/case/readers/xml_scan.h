// readers: what runs in the child process pyrometer-reader only. Files are checked here before VTK's own readers,
// which are not safe on broken or hostile files, are let loose on them.
//
// This one reads the head of a VTK XML file (and all inline ASCII data) without allocating what it declares.
#pragma once

#include "core/feedback/error.h"

#include <cstdint>
#include <filesystem>

namespace pyro {

struct NonFiniteToken {
    std::string section; // "PointData" or "CellData"
    std::string array;
    int piece;
    std::uint64_t index; // position within the array's values of that piece
    double value;        // NaN or an infinity
};

struct XmlScan {
    std::string type; // "UnstructuredGrid", "PolyData", "vtkMultiBlockDataSet" ...
    int pieces = 0;
    std::uint64_t points = 0; // declared, over all pieces; of a structured file those of its whole extent
    std::uint64_t cells = 0;  // declared, over all pieces
    std::vector<std::uint64_t> pointsOfPiece;
    std::vector<std::uint64_t> cellsOfPiece;
    // VTK's ASCII parser stops silently at "nan"; such files are read from this cleaned text, and the
    // values are put back afterwards.
    std::vector<NonFiniteToken> nonFinite;
    std::string cleanedText; // empty unless nonFinite holds something
};

// Errors: FileMissing, FileEmpty, FileUnreadable (no VTK XML), FileTruncated, SizeAbsurd (declares far more
// than the file can hold), LengthMismatch, Syntax (text where numbers belong), each with line or array.
Result<XmlScan> scanXmlGrid(const std::filesystem::path& file);

// Also used before other formats: exists, is a file, is readable, is not empty.
Done checkReadable(const std::filesystem::path& file);

} // namespace pyro
