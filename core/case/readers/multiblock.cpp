#include "core/case/readers/multiblock.h"

#include "core/case/inside_folder.h"
#include "core/case/readers/grid.h"
#include "core/case/readers/xml_scan.h"

#include <expat.h>
#include <fmt/format.h>
#include <fstream>
#include <map>
#include <memory>
#include <set>

namespace pyro {
namespace {

struct Contents {
    std::filesystem::path vtm;
    std::vector<std::string> groups; // names of the open Block elements
    BlockList list;
};

std::string attribute(const char** pairs, std::string_view key) {
    for (; *pairs != nullptr; pairs += 2)
        if (key == pairs[0])
            return pairs[1];
    return {};
}

Block::Group groupOf(const std::vector<std::string>& groups) {
    if (groups.empty())
        return Block::Group::Other;
    if (groups.front() == "parts")
        return Block::Group::Parts;
    return groups.front() == "boundaries" ? Block::Group::Boundaries : Block::Group::Other;
}

void leaveOut(Contents& contents, const char* code, const std::string& name, const std::string& why) {
    contents.list.remarks.push_back(
        {Severity::Serious, code, fmt::format("block \"{}\" is left out: {}", name, why), contents.vtm.string()});
}

void addBlock(Contents& contents, const std::string& name, const std::string& fileText) {
    if (fileText.empty()) // a piece that this process had none of
        return contents.list.remarks.push_back(
            {Severity::Note, "block-empty", fmt::format("block \"{}\" is empty", name), contents.vtm.string()});
    const auto file = insideFolder(contents.vtm, fileText);
    if (!file)
        return leaveOut(contents, "block-outside", name,
                        fmt::format("its file {} lies outside the folder of the .vtm", fileText));
    std::error_code status;
    if (!std::filesystem::is_regular_file(*file, status))
        return leaveOut(contents, "block-missing", name, fmt::format("its file {} does not exist", fileText));
    if (!isGridFile(*file))
        return leaveOut(contents, "block-format", name, fmt::format("files like {} are not read as blocks", fileText));
    std::string path;
    for (const auto& group : contents.groups)
        if (!group.empty() && (&group != &contents.groups.front() || groupOf(contents.groups) == Block::Group::Other))
            path += fmt::format("{}/", group);
    contents.list.blocks.push_back({name, *file, groupOf(contents.groups), path + name});
}

// Blocks of one kind that share a name are told apart by what they lie in.
void nameByPath(std::vector<Block>& blocks) {
    std::map<std::pair<Block::Group, std::string>, std::multiset<std::string>> paths;
    for (const auto& block : blocks)
        paths[{block.group, block.name}].insert(block.path);
    for (auto& block : blocks) {
        const auto& sharing = paths[{block.group, block.name}];
        if (sharing.size() > 1 && sharing.count(block.path) == 1)
            block.name = block.path;
    }
}

void onBlockStart(void* data, const char* element, const char** pairs) {
    auto& contents = *static_cast<Contents*>(data);
    if (std::string_view(element) == "Block")
        contents.groups.push_back(attribute(pairs, "name"));
    else if (std::string_view(element) == "DataSet")
        addBlock(contents, attribute(pairs, "name"), attribute(pairs, "file"));
}

void onBlockEnd(void* data, const char* element) {
    auto& contents = *static_cast<Contents*>(data);
    if (std::string_view(element) == "Block" && !contents.groups.empty())
        contents.groups.pop_back();
}

} // namespace

Result<BlockList> readBlockList(const std::filesystem::path& vtmFile) {
    const auto scan = scanXmlGrid(vtmFile);
    if (!scan)
        return tl::unexpected(scan.error());
    if (scan->type != "vtkMultiBlockDataSet")
        return fail(ErrorCode::FormatUnknown, fmt::format("the file holds \"{}\", not blocks", scan->type),
                    vtmFile.string(), "Give the file the ending that fits its content");
    std::ifstream stream(vtmFile, std::ios::binary);
    const std::string text((std::istreambuf_iterator<char>(stream)), {});
    Contents contents{vtmFile, {}, {}};
    const std::unique_ptr<std::remove_pointer_t<XML_Parser>, void (*)(XML_Parser)> parser(XML_ParserCreate(nullptr),
                                                                                          XML_ParserFree);
    XML_SetUserData(parser.get(), &contents);
    XML_SetElementHandler(parser.get(), onBlockStart, onBlockEnd);
    XML_Parse(parser.get(), text.data(), static_cast<int>(text.size()), XML_TRUE); // scanned above: well-formed
    if (contents.list.blocks.empty())
        return fail(ErrorCode::NoCells,
                    contents.list.remarks.empty() ? "the file names no blocks"
                                                  : "no block is left: " + contents.list.remarks.front().text,
                    vtmFile.string(), "Keep the folder of blocks beside the .vtm file");
    nameByPath(contents.list.blocks);
    return std::move(contents.list);
}

} // namespace pyro
