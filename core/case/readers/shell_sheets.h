// Surface cells of one or several grids as sheets: faces that hang together over edges which just two have in common,
// with one side in front.
#pragma once

#include "core/case/case.h"

#include <span>
#include <unordered_map>
#include <vtkPointSet.h>

namespace pyro {

class CellLattice;

class ShellSheets {
public:
    // Grids as surfaceCells leaves them. `place` tells for each node of each which place it is at, so that nodes of
    // several grids can be at one.
    ShellSheets(std::span<const vtkSmartPointer<vtkPointSet>> grids, std::span<const std::vector<std::uint32_t>> place);

    // Of one of the grids: nodes at which it has several sheets occur once for each.
    struct Laid {
        vtkSmartPointer<vtkPointSet> grid;
        // for each node: from the middle towards the front, so long that faces at this distance are 1 apart; 0 for
        // nodes of no face
        std::vector<Point> across;
    };
    Laid laid(std::size_t grid) const;
    // The same vector at the nodes of an edge, given by the places of its ends; nothing where no face has this edge.
    // Where several sheets have it, of one.
    std::optional<std::array<Point, 2>> acrossEdge(std::uint32_t a, std::uint32_t b) const;
    // At a place, of one sheet; nothing where no face is.
    std::optional<Point> acrossAt(std::uint32_t place) const;

    std::uint64_t torn() const { return m_torn; } // see ThickShells
    std::uint64_t sharp() const { return m_sharp; }

private:
    struct Face {
        std::uint32_t grid;
        std::uint32_t corners;
        vtkIdType cell;
        std::size_t first;          // of its nodes
        const CellLattice* lattice; // null: straight
    };
    struct Edge { // of a face, from corner `at` to the next
        std::uint32_t low;
        std::uint32_t high;
        std::uint32_t face;
        std::uint32_t at;
        bool rising;
    };

    void addGrid(std::size_t grid, vtkPointSet& cells);
    void addFace(std::size_t grid, vtkIdType cell, std::span<const vtkIdType> ring, const CellLattice* lattice);
    void addNormals(const Face& face, vtkPointSet& cells);
    void findEdges();
    void uniteSheets();
    void orient();
    void measureAcross();
    std::size_t nodesOf(std::size_t face) const;
    std::vector<std::size_t> alongEdge(const Edge& edge) const; // positions of the nodes there
    std::size_t rootOf(std::size_t position) const;
    void unite(std::size_t a, std::size_t b);

    std::span<const vtkSmartPointer<vtkPointSet>> m_grids;
    std::span<const std::vector<std::uint32_t>> m_places;
    std::vector<Face> m_faces;
    std::vector<Edge> m_edges;                         // by their places
    std::vector<std::array<std::uint32_t, 2>> m_pairs; // of edges with just two faces
    std::vector<bool> m_turned;                        // per face: whether its front is its own back
    // Per position, a node of a face:
    std::vector<vtkIdType> m_node;
    std::vector<std::uint32_t> m_place;
    std::vector<Point> m_normal;
    std::vector<double> m_weight; // angle there
    mutable std::vector<std::size_t> m_parent;
    std::vector<Point> m_across;                              // valid at roots
    std::unordered_map<std::uint32_t, std::size_t> m_firstAt; // position by place
    std::uint64_t m_torn = 0;
    std::uint64_t m_sharp = 0;
};

} // namespace pyro
