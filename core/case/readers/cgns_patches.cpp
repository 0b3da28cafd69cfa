#include "core/case/readers/cell_sides.h"
#include "core/case/readers/cgns_mesh.h"
#include "core/case/readers/remedies.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <optional>
#include <vtkCellType.h>

namespace pyro {
namespace {

using Ring = std::vector<vtkIdType>;
using Index = std::array<cgsize_t, 3>;

struct PointSet {
    CGNS_ENUMT(PointSetType_t) type = CGNS_ENUMV(PointSetTypeNull);
    CGNS_ENUMT(GridLocation_t) location = CGNS_ENUMV(Vertex);
    std::vector<cgsize_t> numbers; // as in the file
    bool range() const { return type == CGNS_ENUMV(PointRange) || type == CGNS_ENUMV(ElementRange); }
    bool ofElements() const {
        return type == CGNS_ENUMV(ElementRange) || type == CGNS_ENUMV(ElementList) || location != CGNS_ENUMV(Vertex);
    }
};

std::span<const FaceNodes> facesOf(int vtkType) {
    const auto kind = straightKind(vtkType);
    return kind ? cellShape(*kind)->faces : std::span<const FaceNodes>();
}

// Positions of the corners of each face of a solid, of each edge of a plane cell.
std::vector<std::vector<std::size_t>> sidesOf(int vtkType, std::size_t nodes) {
    std::vector<std::vector<std::size_t>> out;
    for (const auto& face : facesOf(vtkType))
        out.emplace_back(face.node, face.node + face.count);
    if (!out.empty())
        return out;
    const bool three = vtkType == VTK_TRIANGLE || vtkType == VTK_QUADRATIC_TRIANGLE;
    const bool four = vtkType == VTK_QUAD || vtkType == VTK_QUADRATIC_QUAD || vtkType == VTK_BIQUADRATIC_QUAD;
    const std::size_t corners = three ? 3 : four ? 4 : vtkType == VTK_POLYGON ? nodes : 0;
    for (std::size_t i = 0; i < corners; ++i)
        out.push_back({i, (i + 1) % corners});
    return out;
}

class Patches {
public:
    Patches(const CgnsFile& file, const CgnsZone& zone, const CgnsMesh& mesh, Remarks& remarks)
        : m_file(file), m_zone(zone), m_mesh(mesh), m_remarks(remarks) {}

    Result<std::vector<CgnsPatch>> run() {
        int count = 0;
        if (cg_nbocos(m_file.id(), m_zone.base, m_zone.zone, &count) != CG_OK)
            return m_file.failure(fmt::format("zone \"{}\": its boundary conditions cannot be read", m_zone.name));
        std::vector<CgnsPatch> out;
        for (int i = 1; i <= count; ++i) {
            auto one = patch(i);
            if (!one)
                return tl::unexpected(one.error());
            if (one->faces.size() > 0)
                out.push_back(std::move(*one));
            else
                m_remarks.push_back(
                    {Severity::Note, "not-read",
                     fmt::format("the boundary condition \"{}\" of zone \"{}\" names no faces and is left out",
                                 one->name, m_zone.name),
                     m_file.path().string()});
        }
        return out;
    }

private:
    tl::unexpected<Error> stop(ErrorCode code, const std::string& name, const std::string& what) const {
        return fail(code, fmt::format("zone \"{}\", boundary condition \"{}\": {}", m_zone.name, name, what),
                    m_file.path().string(), writeAgain);
    }

    Result<CgnsPatch> patch(int number) {
        CgnsName name{};
        auto type = CGNS_ENUMV(BCTypeNull);
        PointSet set;
        cgsize_t points = 0;
        std::array<int, 3> normal{};
        cgsize_t normals = 0;
        auto normalType = CGNS_ENUMV(DataTypeNull);
        int sets = 0;
        if (cg_boco_info(m_file.id(), m_zone.base, m_zone.zone, number, name.data(), &type, &set.type, &points,
                         normal.data(), &normals, &normalType, &sets) != CG_OK)
            return m_file.failure(
                fmt::format("zone \"{}\": boundary condition {} cannot be read", m_zone.name, number));
        CgnsPatch out{name.data(), false, {}};
        CgnsName family{};
        if (type == CGNS_ENUMV(FamilySpecified) &&
            cg_goto(m_file.id(), m_zone.base, "Zone_t", m_zone.zone, "ZoneBC_t", 1, "BC_t", number, "end") == CG_OK &&
            cg_famname_read(family.data()) == CG_OK) {
            out.name = family.data();
            out.family = true;
        }
        if (cg_boco_gridlocation_read(m_file.id(), m_zone.base, m_zone.zone, number, &set.location) != CG_OK)
            set.location = CGNS_ENUMV(Vertex);
        const auto width = static_cast<std::size_t>(m_zone.indices());
        if (points < 0 || static_cast<double>(points) > 1e9)
            return stop(ErrorCode::SizeAbsurd, out.name, fmt::format("declares {} points", points));
        set.numbers.resize(static_cast<std::size_t>(points) * width);
        std::vector<double> ignored(static_cast<std::size_t>(std::max<cgsize_t>(normals, 0)));
        if (cg_boco_read(m_file.id(), m_zone.base, m_zone.zone, number, set.numbers.data(),
                         normals > 0 ? ignored.data() : nullptr) != CG_OK)
            return m_file.failure(
                fmt::format("zone \"{}\": boundary condition \"{}\" cannot be read", m_zone.name, out.name));
        if (set.range() && points != 2)
            return stop(ErrorCode::LengthMismatch, out.name, fmt::format("its range has {} ends", points));
        auto made = m_zone.structured ? onLattice(set, out) : onElements(set, out);
        if (!made)
            return tl::unexpected(made.error());
        return out;
    }

    std::size_t axes() const { return static_cast<std::size_t>(m_zone.dimension); }

    // Of a structured zone: every face of the lattice on the range, or among the listed nodes or faces; edges of a
    // plane one.
    Done onLattice(const PointSet& set, CgnsPatch& out) {
        if (set.type == CGNS_ENUMV(PointRange)) {
            Index low{1, 1, 1};
            Index high{1, 1, 1};
            for (std::size_t i = 0; i < axes(); ++i) {
                low[i] = std::min(set.numbers[i], set.numbers[axes() + i]);
                high[i] = std::max(set.numbers[i], set.numbers[axes() + i]);
            }
            const auto flat = flatAxis(set.location, low, high);
            if (!flat)
                return stop(ErrorCode::NotSupported, out.name, "its range is no face of the zone");
            // faces counted by the cell that they bound: the last node is one further
            if (set.location != CGNS_ENUMV(Vertex))
                for (std::size_t i = 0; i < axes(); ++i)
                    high[i] += i == *flat ? 0 : 1;
            for (std::size_t i = 0; i < axes(); ++i)
                if (low[i] < 1 || high[i] > m_zone.vertices(static_cast<int>(i)))
                    return stop(ErrorCode::IndexOutOfRange, out.name, "its range leaves the zone");
            if (axes() == 2) {
                for (auto at = low; at[1 - *flat] < high[1 - *flat]; ++at[1 - *flat])
                    addFace(*flat, at, out);
                return {};
            }
            const auto one = (*flat + 1) % 3;
            const auto two = (*flat + 2) % 3;
            for (auto at = low; at[two] < high[two]; ++at[two])
                for (at[one] = low[one]; at[one] < high[one]; ++at[one])
                    addFace(*flat, at, out);
            return {};
        }
        if (set.type != CGNS_ENUMV(PointList))
            return stop(ErrorCode::NotSupported, out.name, "element numbers in a structured zone");
        if (set.location == CGNS_ENUMV(Vertex))
            return amongNodes(set, out);
        for (std::size_t i = 0; i + axes() <= set.numbers.size(); i += axes()) {
            const auto at = indexAt(set, i);
            const auto flat = flatAxis(set.location, at, at);
            if (!flat)
                return stop(ErrorCode::NotSupported, out.name, "its list of faces does not tell their direction");
            for (std::size_t axis = 0; axis < axes(); ++axis)
                if (at[axis] < 1 || at[axis] + (axis == *flat ? 0 : 1) > m_zone.vertices(static_cast<int>(axis)))
                    return stop(ErrorCode::IndexOutOfRange, out.name, "one of its faces lies outside of the zone");
            addFace(*flat, at, out);
        }
        return {};
    }

    Index indexAt(const PointSet& set, std::size_t first) const {
        Index at{1, 1, 1};
        std::copy_n(set.numbers.begin() + static_cast<std::ptrdiff_t>(first), axes(), at.begin());
        return at;
    }

    // The index that stays the same over the range.
    std::optional<std::size_t> flatAxis(CGNS_ENUMT(GridLocation_t) location, const Index& low,
                                        const Index& high) const {
        switch (location) {
        case CGNS_ENUMV(IFaceCenter):
            return 0;
        case CGNS_ENUMV(JFaceCenter):
            return 1;
        case CGNS_ENUMV(KFaceCenter):
            return axes() == 3 ? std::optional<std::size_t>(2) : std::nullopt;
        default:
            break;
        }
        std::optional<std::size_t> flat;
        for (std::size_t i = 0; i < axes(); ++i)
            if (low[i] == high[i]) {
                if (flat)
                    return std::nullopt; // a line, or a single face of unknown direction
                flat = i;
            }
        return flat;
    }

    vtkIdType nodeAt(const Index& at) const {
        return at[0] - 1 + vtkIdType{m_zone.vertices(0)} * (at[1] - 1 + vtkIdType{m_zone.vertices(1)} * (at[2] - 1));
    }
    void addFace(std::size_t flat, const Index& at, CgnsPatch& out) const {
        if (axes() == 2) {
            auto next = at;
            ++next[1 - flat];
            return out.faces.add(VTK_LINE, std::array{nodeAt(at), nodeAt(next)});
        }
        out.faces.add(VTK_QUAD, ringAt(flat, at));
    }
    std::array<vtkIdType, 4> ringAt(std::size_t flat, const Index& at) const {
        const auto moved = [&](bool first, bool second) {
            Index to = at;
            to[(flat + 1) % 3] += first ? 1 : 0;
            to[(flat + 2) % 3] += second ? 1 : 0;
            return nodeAt(to);
        };
        return {moved(false, false), moved(true, false), moved(true, true), moved(false, true)};
    }

    Done onElements(const PointSet& set, CgnsPatch& out) {
        if (!set.ofElements())
            return amongNodes(set, out);
        if (set.range()) {
            for (auto number = std::min(set.numbers[0], set.numbers[1]);
                 number <= std::max(set.numbers[0], set.numbers[1]); ++number)
                if (auto added = addElement(number, out); !added)
                    return added;
            return {};
        }
        for (const auto number : set.numbers)
            if (auto added = addElement(number, out); !added)
                return added;
        return {};
    }
    Done addElement(cgsize_t number, CgnsPatch& out) const {
        for (const auto& section : m_mesh.sections)
            if (section.holds(number)) {
                const auto at = static_cast<std::size_t>(number - section.first);
                if (section.dimension == m_zone.dimension - 1)
                    out.faces.add(section.cells.types[at], section.cells.row(at));
                return {};
            }
        return stop(ErrorCode::IndexOutOfRange, out.name,
                    fmt::format("it names element {}, which is not there", number));
    }

    // Faces all of whose corners are among the nodes: those that sections hold, else those at the outside of the cells.
    Done amongNodes(const PointSet& set, CgnsPatch& out) {
        std::vector<bool> among(m_mesh.nodes.size(), false);
        const auto mark = [&](vtkIdType node) {
            if (node < 0 || static_cast<std::size_t>(node) >= among.size())
                return false;
            among[static_cast<std::size_t>(node)] = true;
            return true;
        };
        const auto missing = [&] {
            return stop(ErrorCode::IndexOutOfRange, out.name, "it names a node that is not there");
        };
        const auto width = static_cast<std::size_t>(m_zone.indices());
        if (set.range()) { // unstructured only
            for (auto node = std::min(set.numbers[0], set.numbers[1]); node <= std::max(set.numbers[0], set.numbers[1]);
                 ++node)
                if (!mark(node - 1))
                    return missing();
        } else {
            for (std::size_t i = 0; i + width <= set.numbers.size(); i += width) {
                if (width > 1)
                    for (int axis = 0; axis < m_zone.dimension; ++axis)
                        if (set.numbers[i + static_cast<std::size_t>(axis)] < 1 ||
                            set.numbers[i + static_cast<std::size_t>(axis)] > m_zone.vertices(axis))
                            return missing();
                if (!mark(width > 1 ? nodeAt(indexAt(set, i)) : set.numbers[i] - 1))
                    return missing();
            }
        }
        const auto all = [&](std::span<const vtkIdType> ring) {
            return std::ranges::all_of(ring, [&](auto node) { return among[static_cast<std::size_t>(node)]; });
        };
        for (const auto& section : m_mesh.sections)
            for (std::size_t i = 0; section.dimension == m_zone.dimension - 1 && i < section.cells.size(); ++i)
                if (all(section.cells.row(i)))
                    out.faces.add(section.cells.types[i], section.cells.row(i));
        if (m_zone.structured && axes() == 3)
            addLatticeSides(all, out);
        else if (out.faces.size() == 0)
            addOuterFaces(all, out);
        return {};
    }

    template <class All>
    void addLatticeSides(All all, CgnsPatch& out) const {
        for (std::size_t flat = 0; flat < 3; ++flat)
            for (const cgsize_t side : {cgsize_t{1}, m_zone.vertices(static_cast<int>(flat))})
                forFacesAcross(flat, side, [&](const Index& at) {
                    if (all(ringAt(flat, at)))
                        addFace(flat, at, out);
                });
    }
    // use(index of the lowest corner) for every face of the lattice whose index along one axis is the same.
    template <class Use>
    void forFacesAcross(std::size_t flat, cgsize_t side, Use use) const {
        const auto one = (flat + 1) % 3;
        const auto two = (flat + 2) % 3;
        Index at{1, 1, 1};
        at[flat] = side;
        for (at[two] = 1; at[two] < m_zone.vertices(static_cast<int>(two)); ++at[two])
            for (at[one] = 1; at[one] < m_zone.vertices(static_cast<int>(one)); ++at[one])
                use(at);
    }

    template <class All>
    void addOuterFaces(All all, CgnsPatch& out) const {
        struct Side {
            const CgnsSection* section;
            std::size_t cell;
            std::vector<std::size_t> corners; // of the cell
            int times;
        };
        std::map<Ring, Side> found; // by the sorted corners
        for (const auto& section : m_mesh.sections)
            for (std::size_t i = 0; section.dimension == m_zone.dimension && i < section.cells.size(); ++i)
                for (auto& corners : sidesOf(section.cells.types[i], section.cells.row(i).size())) {
                    Ring ring;
                    for (const auto corner : corners)
                        ring.push_back(section.cells.row(i)[corner]);
                    if (!all(ring))
                        continue;
                    std::ranges::sort(ring);
                    ++found.try_emplace(ring, Side{&section, i, std::move(corners), 0}).first->second.times;
                }
        for (const auto& [sorted, side] : found)
            if (side.times == 1)
                addSide(side.section->cells.types[side.cell], side.section->cells.row(side.cell), side.corners,
                        out.faces);
    }

    const CgnsFile& m_file;
    const CgnsZone& m_zone;
    const CgnsMesh& m_mesh;
    Remarks& m_remarks;
};

} // namespace

Result<std::vector<CgnsPatch>> readCgnsPatches(const CgnsFile& file, const CgnsZone& zone, const CgnsMesh& mesh,
                                               Remarks& remarks) {
    return Patches(file, zone, mesh, remarks).run();
}

} // namespace pyro
