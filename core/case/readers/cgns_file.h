// An open CGNS file: bases, zones and units, by the format's own library (SIDS 3.4; "Mid-Level Library").
#pragma once

#include "core/feedback/error.h"

#include <array>
#include <cgnslib.h>
#include <filesystem>
#include <initializer_list>
#include <string>
#include <utility>
#include <vector>

namespace pyro {

using CgnsName = std::array<char, 33>; // names of nodes have at most 32 letters

struct CgnsZone {
    int base = 1; // as the library counts, from 1
    int zone = 1;
    std::string name;
    bool structured = false;
    int dimension = 3;              // of its cells
    int physical = 3;               // of space
    std::array<cgsize_t, 9> size{}; // as the library tells it
    int indices() const { return structured ? dimension : 1; }
    // Vertices and cells along an index, from 0; of an unstructured zone all of them.
    cgsize_t vertices(int index) const { return size[static_cast<std::size_t>(index)]; }
    cgsize_t cells(int index) const {
        return size[static_cast<std::size_t>(indices()) + static_cast<std::size_t>(index)];
    }
};

class CgnsFile {
public:
    // Errors: as scanCgns; FileUnreadable with what the library says.
    static Result<CgnsFile> open(const std::filesystem::path& file);
    ~CgnsFile();
    CgnsFile(CgnsFile&& other) noexcept;
    CgnsFile(const CgnsFile&) = delete;
    CgnsFile& operator=(const CgnsFile&) = delete;
    CgnsFile& operator=(CgnsFile&&) = delete;

    int id() const { return m_id; }
    const std::filesystem::path& path() const { return m_file; }
    const std::vector<std::filesystem::path>& linked() const { return m_linked; }
    // Zones of all bases whose cells are surfaces or volumes; names with the base before them where several bases have
    // some.
    Result<std::vector<CgnsZone>> zones() const;
    std::vector<double> times() const; // seconds, of the first base that has steps; NaN for steps that tell none
    // What the library says of its last failure.
    tl::unexpected<Error> failure(const std::string& doing) const;

private:
    CgnsFile(std::filesystem::path file, int id, std::vector<std::filesystem::path> linked)
        : m_file(std::move(file)), m_id(id), m_linked(std::move(linked)) {}
    double mostNumbers() const;

    std::filesystem::path m_file;
    int m_id; // negative: closed
    std::vector<std::filesystem::path> m_linked;
};

// How the values of an array become SI: value * factor + offset.
struct CgnsScale {
    double factor = 1;
    double offset = 0;
    bool nondimensional = false; // the file says that its values have no unit
    bool operator==(const CgnsScale&) const = default;
};
// Of an array that hangs below a zone by labels and numbers, the array itself last: {{"FlowSolution_t", 2},
// {"DataArray_t", 1}}. Units are those of the nearest node above that tells some; dimensions those of the array, else
// those that its standard name has.
CgnsScale cgnsScale(const CgnsFile& file, const CgnsZone& zone, const std::vector<std::pair<const char*, int>>& below,
                    const std::string& name);

} // namespace pyro
