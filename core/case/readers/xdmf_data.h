// The numbers of an XDMF file: DataItem elements of every form.
#pragma once

#include "core/case/readers/hdf_data.h"

#include <map>
#include <pugixml.hpp>

namespace pyro {

class XdmfData {
public:
    XdmfData(std::filesystem::path file, const pugi::xml_document& document)
        : m_file(std::move(file)), m_document(document) {}

    // The element itself, or what its attribute or text refers to within the file. Errors: Syntax when nothing is
    // there, or in a circle.
    Result<pugi::xml_node> resolved(pugi::xml_node element, const char* name) const;
    // The first child of that name, through references and xi:include. A null node where there is none.
    Result<pugi::xml_node> child(pugi::xml_node element, const char* name) const;
    // Errors: NotSupported for functions and coordinates; FileMissing for a file outside of the folder; LengthMismatch
    // where what is read is not as long as it is said to be; those of HdfFile::read.
    Result<HdfArray> numbers(pugi::xml_node dataItem);

    tl::unexpected<Error> syntax(const std::string& what, pugi::xml_node at) const;
    const std::filesystem::path& file() const { return m_file; }
    // The files that numbers were read from.
    std::vector<std::filesystem::path> sources() const;

private:
    Result<HdfArray> read(pugi::xml_node dataItem, int depth);
    Result<HdfArray> fromHdf(pugi::xml_node dataItem);
    Result<HdfArray> fromText(pugi::xml_node dataItem, std::uint64_t expected) const;
    Result<HdfArray> fromBinary(pugi::xml_node dataItem, std::uint64_t expected);
    Result<HdfArray> slab(pugi::xml_node dataItem, int depth);
    Result<std::filesystem::path> beside(const std::string& named) const;

    std::filesystem::path m_file;
    const pugi::xml_document& m_document;
    std::map<std::filesystem::path, std::shared_ptr<HdfFile>> m_open;
    std::vector<std::filesystem::path> m_binary;
};

} // namespace pyro
