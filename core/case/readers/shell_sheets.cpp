#include "core/case/readers/shell_sheets.h"

#include "core/field/cell_lattice.h"
#include "core/field/vector_algebra.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <queue>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkCellType.h>
#include <vtkFieldData.h>
#include <vtkIdList.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkUnsignedCharArray.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

// of half the thickness: folds sharper than 29 degrees between their sides are cut off
constexpr double longestMitre = 4;
constexpr double flatEigenvalue = 1e-4; // of the largest: directions in which the faces at a node say nothing

Point placeOf(vtkPointSet& grid, vtkIdType node) {
    Point at{};
    grid.GetPoint(node, at.data());
    return at;
}

// The vector whose part along each face's normal is 1, by least squares and no longer than need be.
Point mitre(const Eigen::Matrix3d& normals, const Eigen::Vector3d& sum) {
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> solver(normals);
    Eigen::Vector3d out = Eigen::Vector3d::Zero();
    for (int i = 0; i < 3; ++i)
        if (const double value = solver.eigenvalues()[i]; value > flatEigenvalue * solver.eigenvalues()[2])
            out += solver.eigenvectors().col(i) * (solver.eigenvectors().col(i).dot(sum) / value);
    return {out[0], out[1], out[2]};
}

// Whether step `at` of a lattice lies on the line between two corners.
bool between(const std::array<int, 3>& at, const std::array<int, 3>& a, const std::array<int, 3>& b) {
    const std::array<int, 2> line{b[0] - a[0], b[1] - a[1]};
    const std::array<int, 2> off{at[0] - a[0], at[1] - a[1]};
    return line[0] * off[1] == line[1] * off[0] && std::min(a[0], b[0]) <= at[0] && at[0] <= std::max(a[0], b[0]) &&
           std::min(a[1], b[1]) <= at[1] && at[1] <= std::max(a[1], b[1]);
}

} // namespace

ShellSheets::ShellSheets(std::span<const vtkSmartPointer<vtkPointSet>> grids,
                         std::span<const std::vector<std::uint32_t>> place)
    : m_grids(grids), m_places(place) {
    for (std::size_t grid = 0; grid < grids.size(); ++grid)
        addGrid(grid, *grids[grid]);
    m_parent.resize(m_node.size());
    std::iota(m_parent.begin(), m_parent.end(), std::size_t{0});
    findEdges();
    orient();
    uniteSheets();
    measureAcross();
}

void ShellSheets::addGrid(std::size_t grid, vtkPointSet& cells) {
    vtkNew<vtkIdList> ids;
    for (vtkIdType cell = 0; cell < cells.GetNumberOfCells(); ++cell) {
        cells.GetCellPoints(cell, ids);
        std::vector<vtkIdType> ring(ids->GetPointer(0), ids->GetPointer(0) + ids->GetNumberOfIds());
        switch (const int type = cells.GetCellType(cell)) {
        case VTK_TRIANGLE_STRIP:
            for (std::size_t i = 0; i + 3 <= ring.size(); ++i) { // every other one runs the other way round
                const std::array<vtkIdType, 3> triangle{ring[i], ring[i + 1 + i % 2], ring[i + 2 - i % 2]};
                addFace(grid, cell, triangle, nullptr);
            }
            break;
        case VTK_PIXEL:
            std::swap(ring[2], ring[3]);
            [[fallthrough]];
        case VTK_TRIANGLE:
        case VTK_QUAD:
        case VTK_POLYGON:
            addFace(grid, cell, ring, nullptr);
            break;
        default:
            if (const auto* lattice = CellLattice::of(static_cast<CellType>(type), ring.size());
                lattice != nullptr && lattice->dimension() == 2)
                addFace(grid, cell, ring, lattice);
        }
    }
}

void ShellSheets::addFace(std::size_t grid, vtkIdType cell, std::span<const vtkIdType> ring,
                          const CellLattice* lattice) {
    const auto corners = lattice == nullptr ? ring.size() : lattice->type() == CellType::CurvedTriangle ? 3 : 4;
    m_faces.push_back(
        {static_cast<std::uint32_t>(grid), static_cast<std::uint32_t>(corners), cell, m_node.size(), lattice});
    for (const auto node : ring) {
        m_node.push_back(node);
        m_place.push_back(m_places[grid][static_cast<std::size_t>(node)]);
    }
    addNormals(m_faces.back(), *m_grids[grid]);
}

void ShellSheets::addNormals(const Face& face, vtkPointSet& cells) {
    const auto count = m_node.size() - face.first;
    std::vector<Point> at(count);
    for (std::size_t i = 0; i < count; ++i)
        at[i] = placeOf(cells, m_node[face.first + i]);
    if (face.lattice != nullptr) {
        std::vector<double> values(count);
        std::vector<LocalPoint> slopes(count);
        for (std::size_t i = 0; i < count; ++i) {
            face.lattice->shape(face.lattice->place(i), values, slopes);
            std::array<Point, 2> along{};
            for (std::size_t node = 0; node < count; ++node)
                for (std::size_t axis = 0; axis < 3; ++axis) {
                    along[0][axis] += slopes[node][0] * at[node][axis];
                    along[1][axis] += slopes[node][1] * at[node][axis];
                }
            m_normal.push_back(unit(cross(along[0], along[1])));
            m_weight.push_back(1);
        }
        return;
    }
    Point whole{}; // twice the area
    for (std::size_t i = 0; i < count; ++i) {
        const auto part = cross(minus(at[i], at[0]), minus(at[(i + 1) % count], at[0]));
        for (std::size_t axis = 0; axis < 3; ++axis)
            whole[axis] += part[axis];
    }
    for (std::size_t i = 0; i < count; ++i) {
        const auto next = unit(minus(at[(i + 1) % count], at[i]));
        const auto before = unit(minus(at[(i + count - 1) % count], at[i]));
        const auto corner = cross(next, before);
        // a quadrangle need not be plane
        m_normal.push_back(unit(count == 4 && dot(corner, whole) > 0 ? corner : whole));
        m_weight.push_back(std::acos(std::clamp(dot(next, before), -1.0, 1.0)));
    }
}

std::size_t ShellSheets::nodesOf(std::size_t face) const {
    return (face + 1 < m_faces.size() ? m_faces[face + 1].first : m_node.size()) - m_faces[face].first;
}

void ShellSheets::findEdges() {
    for (std::size_t i = 0; i < m_faces.size(); ++i)
        for (std::uint32_t at = 0; at < m_faces[i].corners; ++at) {
            const auto a = m_place[m_faces[i].first + at];
            const auto b = m_place[m_faces[i].first + (at + 1) % m_faces[i].corners];
            if (a != b)
                m_edges.push_back({std::min(a, b), std::max(a, b), static_cast<std::uint32_t>(i), at, a < b});
        }
    std::ranges::sort(m_edges, {}, [](const Edge& one) { return std::tuple(one.low, one.high, one.face, one.at); });
    for (std::size_t first = 0, last = 0; first < m_edges.size(); first = last) {
        while (last < m_edges.size() && m_edges[last].low == m_edges[first].low &&
               m_edges[last].high == m_edges[first].high)
            ++last;
        if (last - first == 2)
            m_pairs.push_back({static_cast<std::uint32_t>(first), static_cast<std::uint32_t>(first + 1)});
        else if (last - first > 2)
            ++m_torn;
    }
}

// From the first face of each piece on over its edges; a pair that would have to have two sides is none.
void ShellSheets::orient() {
    std::vector<std::vector<std::pair<std::uint32_t, std::uint32_t>>> next(m_faces.size()); // neighbour and pair
    for (std::uint32_t pair = 0; pair < m_pairs.size(); ++pair) {
        const auto a = m_edges[m_pairs[pair][0]].face;
        const auto b = m_edges[m_pairs[pair][1]].face;
        next[a].push_back({b, pair});
        next[b].push_back({a, pair});
    }
    m_turned.assign(m_faces.size(), false);
    std::vector<bool> seen(m_faces.size(), false);
    std::vector<bool> broken(m_pairs.size(), false);
    for (std::uint32_t start = 0; start < m_faces.size(); ++start) {
        if (seen[start])
            continue;
        seen[start] = true;
        std::queue<std::uint32_t> open({start});
        for (; !open.empty(); open.pop())
            for (const auto& [neighbour, pair] : next[open.front()]) {
                // they then look to different sides
                const bool same = m_edges[m_pairs[pair][0]].rising == m_edges[m_pairs[pair][1]].rising;
                const bool turned = m_turned[open.front()] != same;
                if (!seen[neighbour]) {
                    seen[neighbour] = true;
                    m_turned[neighbour] = turned;
                    open.push(neighbour);
                } else if (m_turned[neighbour] != turned) {
                    broken[pair] = true;
                }
            }
    }
    m_torn += static_cast<std::uint64_t>(std::ranges::count(broken, true));
    std::vector<std::array<std::uint32_t, 2>> kept;
    for (std::size_t pair = 0; pair < m_pairs.size(); ++pair)
        if (!broken[pair])
            kept.push_back(m_pairs[pair]);
    m_pairs = std::move(kept);
}

std::vector<std::size_t> ShellSheets::alongEdge(const Edge& edge) const {
    const auto& face = m_faces[edge.face];
    const std::size_t other = (edge.at + 1) % face.corners;
    if (face.lattice == nullptr)
        return {face.first + edge.at, face.first + other};
    std::vector<std::size_t> out;
    for (std::size_t node = 0; node < face.lattice->nodes(); ++node)
        if (between(face.lattice->step(node), face.lattice->step(edge.at), face.lattice->step(other)))
            out.push_back(face.first + node);
    return out;
}

std::size_t ShellSheets::rootOf(std::size_t position) const {
    while (m_parent[position] != position) {
        m_parent[position] = m_parent[m_parent[position]];
        position = m_parent[position];
    }
    return position;
}

void ShellSheets::unite(std::size_t a, std::size_t b) {
    a = rootOf(a);
    b = rootOf(b);
    m_parent[std::max(a, b)] = std::min(a, b);
}

void ShellSheets::uniteSheets() {
    for (const auto& [one, other] : m_pairs)
        for (const auto a : alongEdge(m_edges[one]))
            for (const auto b : alongEdge(m_edges[other]))
                if (m_place[a] == m_place[b])
                    unite(a, b);
    for (std::size_t face = 1; face < m_faces.size(); ++face) // triangles of one strip
        if (m_faces[face].cell == m_faces[face - 1].cell && m_faces[face].grid == m_faces[face - 1].grid)
            for (std::size_t i = 0; i < nodesOf(face - 1); ++i)
                for (std::size_t j = 0; j < nodesOf(face); ++j)
                    if (m_node[m_faces[face - 1].first + i] == m_node[m_faces[face].first + j])
                        unite(m_faces[face - 1].first + i, m_faces[face].first + j);
}

void ShellSheets::measureAcross() {
    std::vector<std::pair<std::size_t, std::size_t>> byRoot; // root, position
    std::vector<bool> turned;
    for (std::size_t face = 0; face < m_faces.size(); ++face)
        turned.insert(turned.end(), nodesOf(face), m_turned[face]);
    for (std::size_t position = 0; position < m_node.size(); ++position)
        byRoot.emplace_back(rootOf(position), position);
    std::ranges::sort(byRoot);
    for (std::size_t position = 0; position < m_node.size(); ++position)
        m_firstAt.try_emplace(m_place[position], position);
    m_across.assign(m_node.size(), Point{});
    for (std::size_t first = 0, last = 0; first < byRoot.size(); first = last) {
        Eigen::Matrix3d normals = Eigen::Matrix3d::Zero();
        Eigen::Vector3d sum = Eigen::Vector3d::Zero();
        for (; last < byRoot.size() && byRoot[last].first == byRoot[first].first; ++last) {
            const auto position = byRoot[last].second;
            const Eigen::Vector3d normal = Eigen::Map<const Eigen::Vector3d>(m_normal[position].data()) *
                                           (turned[position] ? -1 : 1);
            normals += m_weight[position] * normal * normal.transpose();
            sum += m_weight[position] * normal;
        }
        auto& across = m_across[byRoot[first].first];
        across = mitre(normals, sum);
        if (const double size = length(across); size > longestMitre) {
            ++m_sharp;
            for (auto& one : across)
                one *= longestMitre / size;
        }
    }
}

ShellSheets::Laid ShellSheets::laid(std::size_t at) const {
    auto& flat = *m_grids[at];
    const auto nodes = static_cast<std::size_t>(flat.GetNumberOfPoints());
    Laid out{&flat, std::vector<Point>(nodes, Point{})};
    std::vector<std::size_t> rootAt(nodes, m_node.size());       // of the first sheet at each node
    std::map<std::pair<vtkIdType, std::size_t>, vtkIdType> more; // the numbers of those of further sheets
    std::vector<vtkIdType> copied;
    std::map<vtkIdType, std::vector<std::size_t>> sheeted; // cells with such nodes: their roots
    for (std::size_t face = 0; face < m_faces.size(); ++face) {
        if (m_faces[face].grid != at)
            continue;
        for (std::size_t i = 0; i < nodesOf(face); ++i) {
            const auto node = m_node[m_faces[face].first + i];
            const auto root = rootOf(m_faces[face].first + i);
            auto& first = rootAt[static_cast<std::size_t>(node)];
            if (first == m_node.size()) {
                first = root;
                out.across[static_cast<std::size_t>(node)] = m_across[root];
            } else if (first != root &&
                       more.try_emplace({node, root}, static_cast<vtkIdType>(out.across.size())).second) {
                copied.push_back(node);
                out.across.push_back(m_across[root]);
            }
            if (first != root)
                sheeted[m_faces[face].cell].push_back(m_faces[face].first + i);
        }
    }
    if (copied.empty())
        return out;
    vtkNew<vtkUnstructuredGrid> grid;
    vtkNew<vtkPoints> points;
    points->SetDataTypeToDouble();
    vtkNew<vtkIdList> from;
    for (std::size_t node = 0; node < out.across.size(); ++node) {
        from->InsertNextId(node < nodes ? static_cast<vtkIdType>(node) : copied[node - nodes]);
        points->InsertNextPoint(flat.GetPoint(from->GetId(static_cast<vtkIdType>(node))));
    }
    grid->SetPoints(points);
    grid->GetPointData()->CopyAllOn();
    grid->GetPointData()->CopyAllocate(flat.GetPointData(), from->GetNumberOfIds());
    for (vtkIdType node = 0; node < from->GetNumberOfIds(); ++node)
        grid->GetPointData()->CopyData(flat.GetPointData(), from->GetId(node), node);
    grid->Allocate(flat.GetNumberOfCells());
    vtkNew<vtkIdList> ids;
    for (vtkIdType cell = 0; cell < flat.GetNumberOfCells(); ++cell) {
        flat.GetCellPoints(cell, ids);
        if (const auto here = sheeted.find(cell); here != sheeted.end())
            for (vtkIdType i = 0; i < ids->GetNumberOfIds(); ++i)
                for (const auto position : here->second)
                    if (ids->GetId(i) == m_node[position]) {
                        ids->SetId(i, more.at({m_node[position], rootOf(position)}));
                        break;
                    }
        grid->InsertNextCell(flat.GetCellType(cell), ids);
    }
    grid->GetCellData()->ShallowCopy(flat.GetCellData());
    grid->GetFieldData()->ShallowCopy(flat.GetFieldData());
    out.grid = grid;
    return out;
}

std::optional<std::array<Point, 2>> ShellSheets::acrossEdge(std::uint32_t a, std::uint32_t b) const {
    const auto key = std::pair(std::min(a, b), std::max(a, b));
    const auto found = std::ranges::lower_bound(m_edges, key, {},
                                                [](const Edge& one) { return std::pair(one.low, one.high); });
    if (found == m_edges.end() || std::pair(found->low, found->high) != key)
        return std::nullopt;
    const auto& face = m_faces[found->face];
    const auto first = rootOf(face.first + found->at);
    const auto second = rootOf(face.first + (found->at + 1) % face.corners);
    return found->rising == (a < b) ? std::array{m_across[first], m_across[second]}
                                    : std::array{m_across[second], m_across[first]};
}

std::optional<Point> ShellSheets::acrossAt(std::uint32_t place) const {
    const auto found = m_firstAt.find(place);
    return found == m_firstAt.end() ? std::nullopt : std::optional(m_across[rootOf(found->second)]);
}

} // namespace pyro
