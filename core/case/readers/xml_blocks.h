// Blocks of binary numbers in VTK's XML files, in the text or appended: what their heads declare against what they hold
// (VTK File Formats, "XML File Formats").
#pragma once

#include "core/feedback/error.h"

#include <cstdint>
#include <filesystem>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace pyro {

struct BlockCoding {
    bool compressed = false;
    bool bigEndian = false;
    std::size_t headBytes = 4; // of each number of a head
};

struct DataBlock {
    std::string array;
    std::optional<std::uint64_t> bytes; // that it must hold, where that is known
    std::uint64_t offset = 0;           // of an appended one
};

// Numbers in the text, as base64, piece by piece.
class InlineBlock {
public:
    InlineBlock(BlockCoding coding, DataBlock block) : m_coding(coding), m_block(std::move(block)) {}
    void add(std::string_view characters);
    // Errors: LengthMismatch, FileTruncated or SizeAbsurd where more is declared than is there, Syntax; `where` names
    // the file.
    Done check(const std::string& where) const;

private:
    BlockCoding m_coding;
    DataBlock m_block;
    std::string m_head;        // its first characters
    std::uint64_t m_count = 0; // characters but blanks and padding
};

// Appended ones; `begin`: the byte in the file where the element AppendedData starts. Errors: as above.
Done checkAppended(const std::filesystem::path& file, std::uint64_t begin, bool base64, const BlockCoding& coding,
                   std::span<const DataBlock> blocks);

} // namespace pyro
