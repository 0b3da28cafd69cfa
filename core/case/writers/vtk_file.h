// writers: cases written as .vtu, .vtp and .vtm. Used by the rig and by tests.
#pragma once

#include "core/case/case.h"

namespace pyro {

struct ArrayData {
    std::string name;
    Location on;
    int components;
    std::vector<double> values;
};

struct BlockData {
    std::string name;
    bool boundary = false;
    std::vector<double> points; // 3 per node, metres
    std::vector<std::uint32_t> connectivity;
    std::vector<std::uint64_t> offsets{0}; // cells + 1
    std::vector<std::uint8_t> types;       // VTK cell types; boundaries hold polygons
    std::vector<ArrayData> arrays;
    std::optional<double> time = {}; // seconds; written as field data TimeValue
};

enum class Encoding { Appended, Raw, Ascii }; // appended: zlib; raw: appended, not compressed

// One file with the cells of one block: .vtu, or .vtp for boundaries. Errors: WriteFailed.
Done writeBlock(const BlockData& block, const std::filesystem::path& file, Encoding encoding = Encoding::Appended);

// A .vtm with the groups "parts" and "boundaries", its blocks in a folder beside it named after the stem.
// Files are numbered, names stand in the .vtm only, so that they may hold any character. Errors: WriteFailed.
Done writeCase(const std::vector<BlockData>& blocks, const std::filesystem::path& vtmFile,
               Encoding encoding = Encoding::Appended);

} // namespace pyro
