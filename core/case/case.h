// case: one solved result as flat arrays in the mapped case store. Every part and boundary owns its nodes and
// cells; node and cell numbers count from 0 within their region. Coordinates are metres.
#pragma once

#include "core/case/array_file.h"
#include "core/case/case_split.h"
#include "core/case/cell_types.h"
#include "core/case/joined_array.h"

#include <array>
#include <memory>
#include <optional>

namespace pyro {

using Point = std::array<double, 3>; // metres

enum class Location { Node, Cell };
std::string_view locationName(Location on); // "node", "cell"

struct Mesh {
    RealView coordinates;                        // 3 per node
    std::span<const std::uint32_t> connectivity; // node numbers, cell after cell
    // cells + 1 entries into connectivity; empty when all cells are alike
    std::span<const std::uint64_t> offsets;
    std::span<const std::uint8_t> types; // CellType, one per cell
    std::size_t nodesPerCell = 0;        // of all cells, when they are alike

    std::size_t nodes() const { return coordinates.size() / 3; }
    std::size_t cells() const { return types.size(); }
    Point node(std::size_t at) const { return {coordinates[3 * at], coordinates[3 * at + 1], coordinates[3 * at + 2]}; }
    std::span<const std::uint32_t> cell(std::size_t at) const {
        return offsets.empty() ? connectivity.subspan(at * nodesPerCell, nodesPerCell)
                               : connectivity.subspan(offsets[at], offsets[at + 1] - offsets[at]);
    }
    CellType type(std::size_t at) const { return static_cast<CellType>(types[at]); }
    // Mean of the cell's corner nodes.
    Point cellCentre(std::size_t at) const;
};

struct StoredArray {
    std::string name;
    Location on;
    int components;
    RealView values; // components per node or cell
    double min;      // of the finite values, of the magnitude for vectors; NaN when there is none
    double max;
    std::uint64_t notFinite = 0; // how many values are NaN or infinite
};

// The outer faces of a part that a boundary nobody named is made of.
struct PatchOf {
    std::uint32_t part;                   // position in Case::parts
    std::span<const std::uint32_t> faces; // of its shell, one for each cell of the boundary
};

struct Region {
    std::string name; // exactly as in the file
    Mesh mesh;
    int dimension = 3; // highest dimension among its cells
    // nodes along i, j, k of a part that is one whole structured grid, i fastest
    std::optional<std::array<std::size_t, 3>> lattice = {};
    std::uint64_t fileCells = 0; // cells in the file, before polyhedra were split
    std::uint64_t fileNodes = 0; // nodes in the file, of a plane case those of the plane; 0: made here
    // metres, of a part that is one of shells in the file: stored as the solid they are, half to each side
    std::optional<double> thickness = {};
    std::vector<StoredArray> arrays;
    // Of a surface with curved faces, whose pieces its cells are: their true areas, and what each node has of them
    // (Measures). Else empty.
    std::span<const double> extent = {};
    std::span<const double> share = {};
    std::span<const std::uint32_t> parentOf = {}; // which curved face of the file each cell is a piece of
    // where the faces of the part behind have taken the place of its own
    std::shared_ptr<const Mesh> asRead = {};
    std::optional<PatchOf> patchOf = {}; // of a boundary that the file does not name
    JoinedArrays joined = {};

    // By its name; a vector from three arrays by their joinedName.
    const StoredArray* find(std::string_view arrayName, Location on) const;
};

// A case of plane cells, stored one cell deep: nodes and cells of the file, and the same once more beyond the depth.
struct PlaneCase {
    Point normal;                            // unit length; the file's nodes are those at the lower end
    double depth;                            // metres
    bool given;                              // whether the survey says it; else heat flows are per metre
    std::optional<std::size_t> axis() const; // along which the depth runs; nothing where it runs along none
    bool operator==(const PlaneCase&) const = default;
};

// A grid alone in its file: the cell array of whole numbers that divides it into parts, empty where none does, and all
// that could.
struct LoneGrid {
    std::string dividedBy;
    std::vector<std::string> couldBe;
};

// Values that the file tells for the whole model along its times, such as what its solver monitored.
struct MonitoredInFile {
    std::vector<double> times;                                        // seconds
    std::vector<std::pair<std::string, std::vector<double>>> columns; // as many values as times
};

struct Case {
    std::string file;
    std::optional<LoneGrid> lone = {};
    std::optional<MonitoredInFile> monitored = {};
    std::optional<PlaneCase> plane = {};
    std::vector<Region> parts;
    std::vector<Region> boundaries;
    std::optional<double> time; // seconds, when the file tells it
    Remarks remarks;            // left by the reader
    std::shared_ptr<const ArrayFile> store;
    std::filesystem::path storeFile = {};          // where it lies
    CaseSplit split = {};                          // how boundaries nobody named were made
    std::shared_ptr<const ArrayFile> patches = {}; // what their regions point into
    // what boundaries with other faces than in the file point into
    std::shared_ptr<const std::vector<std::vector<double>>> made = {};

    // Position in `parts` or `boundaries`; nothing when there is no such name.
    std::optional<std::size_t> partNamed(std::string_view name) const;
    std::optional<std::size_t> boundaryNamed(std::string_view name) const;
    // The size of one of its regions (m2, m3) as it is told: of a plane case per depth, an area or a length.
    struct Extent {
        double value; // m, m2 or m3
        int dimension;
    };
    Extent extentOf(const Region& region, double size) const;
    // Nodes as they are told: those of the file, of a boundary that was made here its own, of a plane case those in the
    // plane.
    std::uint64_t nodesOf(const Region& region) const;
    // How many of `boundaries`, from the first, heat may pass through: where the file names some, outer faces that it
    // does not name are adiabatic, and what was made of them is only a place to measure; where it names none, all
    // count.
    std::size_t passable() const;
};

// The case in a mapped store; spans stay valid as long as the case lives. Errors: WrongVersion when the meta
// data are not those of this version.
Result<std::shared_ptr<const Case>> caseFromStore(std::shared_ptr<const ArrayFile> store);

constexpr int storeVersion = 7;

} // namespace pyro
