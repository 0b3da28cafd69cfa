#include "core/case/readers/cgns_mesh.h"

#include "core/case/readers/cgns_cells.h"
#include "core/case/readers/remedies.h"

#include <algorithm>
#include <cstdlib>
#include <fmt/format.h>
#include <vtkCellType.h>

namespace pyro {
namespace {

class ZoneReader {
public:
    ZoneReader(const CgnsFile& file, const CgnsZone& zone) : m_file(file), m_zone(zone) {}

    Result<CgnsMesh> run() {
        if (auto read = nodes(); !read)
            return tl::unexpected(read.error());
        if (m_zone.structured) {
            lattice();
            return std::move(m_mesh);
        }
        int sections = 0;
        if (cg_nsections(m_file.id(), m_zone.base, m_zone.zone, &sections) != CG_OK)
            return failure("its element sections");
        for (int section = 1; section <= sections; ++section)
            if (auto read = readSection(section); !read)
                return tl::unexpected(read.error());
        if (auto joined = polyhedraOfFaces(); !joined)
            return tl::unexpected(joined.error());
        return countCells();
    }

private:
    tl::unexpected<Error> failure(const std::string& what) const {
        return m_file.failure(fmt::format("zone \"{}\": {} cannot be read", m_zone.name, what));
    }
    tl::unexpected<Error> stop(ErrorCode code, const std::string& what) const {
        return fail(code, fmt::format("zone \"{}\": {}", m_zone.name, what), m_file.path().string(), writeAgain);
    }

    Done nodes() {
        std::array<cgsize_t, 3> from{1, 1, 1};
        std::array<cgsize_t, 3> to{1, 1, 1};
        std::size_t count = 1;
        for (int i = 0; i < m_zone.indices(); ++i) {
            to[static_cast<std::size_t>(i)] = m_zone.vertices(i);
            count *= static_cast<std::size_t>(m_zone.vertices(i));
        }
        m_mesh.nodes.at.assign(3 * count, 0.0);
        int coordinates = 0;
        if (cg_ncoords(m_file.id(), m_zone.base, m_zone.zone, &coordinates) != CG_OK)
            return failure("its coordinates");
        static constexpr std::array<std::string_view, 3> wanted{"CoordinateX", "CoordinateY", "CoordinateZ"};
        int found = 0;
        for (int i = 1; i <= coordinates; ++i) {
            CgnsName name{};
            CGNS_ENUMT(DataType_t) type = CGNS_ENUMV(DataTypeNull);
            if (cg_coord_info(m_file.id(), m_zone.base, m_zone.zone, i, &type, name.data()) != CG_OK)
                return failure("its coordinates");
            const auto axis = static_cast<std::size_t>(std::ranges::find(wanted, name.data()) - wanted.begin());
            if (axis >= wanted.size())
                return fail(ErrorCode::NotSupported,
                            fmt::format("zone \"{}\" has the coordinate \"{}\"; only Cartesian ones are read",
                                        m_zone.name, name.data()),
                            m_file.path().string(), "Export x, y and z");
            std::vector<double> values(count);
            if (cg_coord_read(m_file.id(), m_zone.base, m_zone.zone, name.data(), CGNS_ENUMV(RealDouble), from.data(),
                              to.data(), values.data()) != CG_OK)
                return failure(name.data());
            const auto scale = cgnsScale(m_file, m_zone, {{"GridCoordinates_t", 1}, {"DataArray_t", i}}, name.data());
            for (std::size_t node = 0; node < count; ++node)
                m_mesh.nodes.at[3 * node + axis] = values[node] * scale.factor + scale.offset;
            ++found;
        }
        return found >= m_zone.dimension
                   ? Done()
                   : Done(stop(ErrorCode::LengthMismatch, fmt::format("{} of its coordinates are there", found)));
    }

    // Of a solid only how many cells there are: they need not be listed.
    void lattice() {
        CgnsSection section{m_zone.name, "structured", 1, m_zone.dimension, {}, 0};
        const vtkIdType nx = m_zone.vertices(0);
        const vtkIdType ny = m_zone.vertices(1);
        const bool solid = m_zone.dimension == 3;
        const vtkIdType layer = (nx - 1) * (ny - 1);
        const auto count = static_cast<std::size_t>(
            std::max<vtkIdType>(layer * (solid ? m_zone.vertices(2) - 1 : 1), 0));
        m_mesh.cells = count;
        if (solid)
            return;
        auto& cells = section.cells;
        cells.reserve(count, 4 * count);
        for (std::size_t cell = 0; cell < count; ++cell) {
            const auto first = static_cast<vtkIdType>(cell) % (nx - 1) + nx * (static_cast<vtkIdType>(cell) / (nx - 1));
            cells.add(VTK_QUAD, std::array{first, first + 1, first + 1 + nx, first + nx});
        }
        m_mesh.sections.push_back(std::move(section));
    }

    Done readSection(int number) {
        CgnsName name{};
        CGNS_ENUMT(ElementType_t) type = CGNS_ENUMV(ElementTypeNull);
        cgsize_t first = 0;
        cgsize_t last = 0;
        int boundary = 0;
        int parents = 0;
        cgsize_t size = 0;
        if (cg_section_read(m_file.id(), m_zone.base, m_zone.zone, number, name.data(), &type, &first, &last, &boundary,
                            &parents) != CG_OK ||
            cg_ElementDataSize(m_file.id(), m_zone.base, m_zone.zone, number, &size) != CG_OK)
            return failure(fmt::format("section {}", number));
        CgnsSection section{name.data(), cg_ElementTypeName(type), first, 0, {}, 0};
        const auto count = static_cast<std::size_t>(std::int64_t{last} - first + 1); // the library's may be 32 bits
        if (last < first || size < 0 || count > static_cast<std::size_t>(size) + 1)
            return stop(
                ErrorCode::LengthMismatch,
                fmt::format("section \"{}\" declares {} elements, its data hold {} numbers", name.data(), count, size));
        std::vector<cgsize_t> ids(static_cast<std::size_t>(size));
        std::vector<cgsize_t> offsets;
        std::vector<cgsize_t> parentOf(parents != 0 ? 4 * count : 0);
        const bool ragged = type == CGNS_ENUMV(MIXED) || type == CGNS_ENUMV(NGON_n) || type == CGNS_ENUMV(NFACE_n);
        if (ragged)
            offsets.resize(count + 1);
        const auto read = ragged ? cg_poly_elements_read(m_file.id(), m_zone.base, m_zone.zone, number, ids.data(),
                                                         offsets.data(), parents != 0 ? parentOf.data() : nullptr)
                                 : cg_elements_read(m_file.id(), m_zone.base, m_zone.zone, number, ids.data(), nullptr);
        if (read != CG_OK)
            return failure(fmt::format("section \"{}\"", name.data()));
        for (std::size_t i = 0; i + 1 < offsets.size(); ++i)
            if (offsets[i] < 0 || offsets[i + 1] < offsets[i] || offsets[i + 1] > size)
                return stop(ErrorCode::LengthMismatch,
                            fmt::format("the offsets of section \"{}\" do not fit its data", name.data()));
        Done made;
        if (type == CGNS_ENUMV(NFACE_n)) {
            m_cellFaces.push_back({m_mesh.sections.size(), std::move(ids), std::move(offsets)});
            section.dimension = 3; // its cells are made when all faces are known
        } else if (ragged) {
            made = addRagged(section, type == CGNS_ENUMV(MIXED), ids, offsets);
            if (type == CGNS_ENUMV(NGON_n) && parents != 0)
                m_parents.push_back({m_mesh.sections.size(), std::move(parentOf)});
        } else {
            made = addUniform(section, type, count, ids);
        }
        m_mesh.sections.push_back(std::move(section));
        return made;
    }

    Done addElement(CgnsSection& to, const CgnsKind& kind, std::span<const cgsize_t> ids) {
        std::array<vtkIdType, 32> nodes{};
        for (std::size_t i = 0; i < ids.size(); ++i) {
            const auto node = ids[kind.order.empty() ? i : kind.order[i]];
            if (node < 1 || static_cast<std::size_t>(node) > m_mesh.nodes.size())
                return stop(ErrorCode::IndexOutOfRange,
                            fmt::format("element {} of \"{}\" refers to node {}, but there are {}",
                                        to.first + static_cast<cgsize_t>(to.cells.size()), to.name, node,
                                        m_mesh.nodes.size()));
            nodes[i] = node - 1;
        }
        to.dimension = std::max(to.dimension, kind.dimension);
        to.cells.add(kind.vtk, std::span(nodes).first(ids.size()));
        return {};
    }
    Result<const CgnsKind*> kindOf(const CgnsSection& section, cgsize_t type) const {
        if (const auto* kind = cgnsKind(static_cast<int>(type)))
            return kind;
        return fail(ErrorCode::NotSupported,
                    fmt::format("section \"{}\" of zone \"{}\" has elements of the type {}, which are not read",
                                section.name, m_zone.name,
                                cg_ElementTypeName(static_cast<CGNS_ENUMT(ElementType_t)>(type))),
                    m_file.path().string(), "Export linear or quadratic elements, or polyhedra");
    }

    Done addUniform(CgnsSection& to, CGNS_ENUMT(ElementType_t) type, std::size_t count,
                    const std::vector<cgsize_t>& ids) {
        const auto kind = kindOf(to, type);
        if (!kind)
            return tl::unexpected(kind.error());
        const auto each = static_cast<std::size_t>((*kind)->nodes);
        if (ids.size() != each * count)
            return stop(ErrorCode::LengthMismatch,
                        fmt::format("section \"{}\" has {} node numbers for {} elements of {}", to.name, ids.size(),
                                    count, each));
        to.cells.reserve(count, ids.size());
        for (std::size_t i = 0; i < count; ++i)
            if (auto added = addElement(to, **kind, std::span(ids).subspan(i * each, each)); !added)
                return added;
        return {};
    }

    Done addRagged(CgnsSection& to, bool mixed, const std::vector<cgsize_t>& ids,
                   const std::vector<cgsize_t>& offsets) {
        for (std::size_t i = 0; i + 1 < offsets.size(); ++i) {
            const auto row = std::span(ids).subspan(static_cast<std::size_t>(offsets[i]),
                                                    static_cast<std::size_t>(offsets[i + 1] - offsets[i]));
            if (!mixed) {
                if (row.size() < 3)
                    return stop(ErrorCode::LengthMismatch,
                                fmt::format("face {} of \"{}\" has {} nodes", i + 1, to.name, row.size()));
                if (auto added = addPolygon(to, row); !added)
                    return added;
                continue;
            }
            const auto kind = row.empty() ? Result<const CgnsKind*>(nullptr) : kindOf(to, row[0]);
            if (!kind)
                return tl::unexpected(kind.error());
            if (*kind == nullptr || row.size() != static_cast<std::size_t>((*kind)->nodes) + 1)
                return stop(ErrorCode::LengthMismatch,
                            fmt::format("element {} of \"{}\" does not have the nodes of its type",
                                        to.first + static_cast<cgsize_t>(i), to.name));
            if (auto added = addElement(to, **kind, row.subspan(1)); !added)
                return added;
        }
        return {};
    }
    Done addPolygon(CgnsSection& to, std::span<const cgsize_t> ring) {
        m_ring.clear();
        for (const auto node : ring) {
            if (node < 1 || static_cast<std::size_t>(node) > m_mesh.nodes.size())
                return stop(ErrorCode::IndexOutOfRange,
                            fmt::format("a face of \"{}\" refers to node {}, but there are {}", to.name, node,
                                        m_mesh.nodes.size()));
            m_ring.push_back(node - 1);
        }
        to.dimension = 2;
        to.cells.add(ring.size() == 3 ? VTK_TRIANGLE : ring.size() == 4 ? VTK_QUAD : VTK_POLYGON, m_ring);
        return {};
    }

    // The ring of a face by its element number. Errors: IndexOutOfRange.
    Result<std::span<const vtkIdType>> face(cgsize_t number) const {
        for (const auto& section : m_mesh.sections)
            if (section.dimension == 2 && section.holds(number))
                return section.cells.row(static_cast<std::size_t>(number - section.first));
        return stop(ErrorCode::IndexOutOfRange, fmt::format("a cell refers to face {}, which is not there", number));
    }

    Done polyhedraOfFaces() {
        if (m_cellFaces.empty())
            return polyhedraOfParents();
        std::vector<vtkIdType> stream;
        for (const auto& [at, ids, offsets] : m_cellFaces)
            for (std::size_t i = 0; i + 1 < offsets.size(); ++i) {
                stream.assign(1, offsets[i + 1] - offsets[i]);
                for (auto k = offsets[i]; k < offsets[i + 1]; ++k)
                    if (auto added = addFace(std::abs(ids[static_cast<std::size_t>(k)]), stream); !added)
                        return added;
                m_mesh.sections[at].cells.add(VTK_POLYHEDRON, stream);
            }
        return {};
    }
    Done addFace(cgsize_t number, std::vector<vtkIdType>& stream) const {
        const auto ring = face(number);
        if (!ring)
            return tl::unexpected(ring.error());
        stream.push_back(static_cast<vtkIdType>(ring->size()));
        stream.insert(stream.end(), ring->begin(), ring->end());
        return {};
    }

    // Without a list of faces for each cell, the cells on both sides of each face tell it.
    Done polyhedraOfParents() {
        const auto cells = static_cast<std::size_t>(m_zone.cells(0));
        std::vector<std::vector<cgsize_t>> faces;
        cgsize_t lowest = 0;
        for (const auto& [at, parents] : m_parents)
            for (const auto parent : parents)
                lowest = parent > 0 && (lowest == 0 || parent < lowest) ? parent : lowest;
        for (const auto& [at, parents] : m_parents) {
            const auto& section = m_mesh.sections[at];
            const auto count = section.cells.size();
            faces.resize(cells);
            // the left cells of all faces, then the right ones
            for (std::size_t i = 0; i < 2 * count && i < parents.size(); ++i) {
                if (parents[i] == 0)
                    continue;
                const auto cell = static_cast<std::size_t>(parents[i] - lowest);
                if (parents[i] < lowest || cell >= cells)
                    return stop(ErrorCode::IndexOutOfRange,
                                fmt::format("a face of \"{}\" belongs to cell {}, but there are {}", section.name,
                                            parents[i], cells));
                faces[cell].push_back(section.first + static_cast<cgsize_t>(i % count));
            }
        }
        if (faces.empty())
            return {};
        CgnsSection made{m_zone.name, "NFACE_n", lowest, 3, {}, 0};
        std::vector<vtkIdType> stream;
        for (const auto& one : faces) {
            stream.assign(1, static_cast<vtkIdType>(one.size()));
            for (const auto number : one)
                if (auto added = addFace(number, stream); !added)
                    return added;
            made.cells.add(VTK_POLYHEDRON, stream);
        }
        m_mesh.sections.push_back(std::move(made));
        return {};
    }

    Result<CgnsMesh> countCells() {
        std::ranges::stable_sort(m_mesh.sections, {}, &CgnsSection::first);
        for (auto& section : m_mesh.sections)
            if (section.dimension == m_zone.dimension) {
                section.firstCell = m_mesh.cells;
                m_mesh.cells += section.cells.size();
            }
        if (m_mesh.cells != static_cast<std::size_t>(m_zone.cells(0)))
            return stop(ErrorCode::LengthMismatch,
                        fmt::format("{} cells are declared, its sections hold {}", m_zone.cells(0), m_mesh.cells));
        return std::move(m_mesh);
    }

    struct CellFaces {
        std::size_t section;
        std::vector<cgsize_t> ids;
        std::vector<cgsize_t> offsets;
    };
    struct Parents {
        std::size_t section;
        std::vector<cgsize_t> cells;
    };
    const CgnsFile& m_file;
    const CgnsZone& m_zone;
    CgnsMesh m_mesh;
    std::vector<CellFaces> m_cellFaces;
    std::vector<Parents> m_parents;
    std::vector<vtkIdType> m_ring;
};

} // namespace

Result<CgnsMesh> readCgnsMesh(const CgnsFile& file, const CgnsZone& zone) { return ZoneReader(file, zone).run(); }

} // namespace pyro
