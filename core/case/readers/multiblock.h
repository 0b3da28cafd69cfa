// The table of contents of a .vtm file. The blocks are read one by one by our own hand: VTK's multi-block reader
// replaces a missing block by the one before it and follows paths out of the folder.
#pragma once

#include "core/feedback/error.h"

#include <filesystem>

namespace pyro {

struct Block {
    std::string name;
    std::filesystem::path file;
    enum class Group { Parts, Boundaries, Other } group;
    std::string path = {}; // names of the blocks around it and its own, with "/" between
};

struct BlockList {
    std::vector<Block> blocks; // only those that exist inside the folder
    Remarks remarks;           // block-missing, block-outside, block-format
};

// Errors: as scanXmlGrid, and NoCells when no usable block is left.
Result<BlockList> readBlockList(const std::filesystem::path& vtmFile);

} // namespace pyro
