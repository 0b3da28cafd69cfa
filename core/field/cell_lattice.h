// Curved cells: order 2 to 10 with their nodes on a regular lattice (Lagrange cells; Zienkiewicz, The Finite Element
// Method, vol. 1, "Higher order elements"). Local coordinates r, s, t run from 0 to 1; of triangles and tetrahedra
// corner 1 lies at r = 1, corner 2 at s = 1, corner 3 at t = 1; of wedges r and s run in the triangle, t along.
//
// Nodes: the corners in the order of the straight cell, then all others, r fastest, t slowest.
#pragma once

#include "core/case/cell_types.h"

#include <array>
#include <cstdint>
#include <span>
#include <vector>

namespace pyro {

using LocalPoint = std::array<double, 3>;

class CellLattice {
public:
    static constexpr int highestOrder = 10;

    // Null for cells that are not curved, and for a number of nodes that is no order of theirs. Made at first use;
    // thread-safe.
    static const CellLattice* of(CellType type, std::size_t nodes);
    static std::size_t nodesOf(CellType type, int order);

    CellType type() const { return m_type; }
    int order() const { return m_order; }
    std::size_t nodes() const { return m_at.size(); }
    int dimension() const;
    std::array<int, 3> step(std::size_t node) const { return m_at[node]; } // along r, s, t, 0 to order
    LocalPoint place(std::size_t node) const;
    LocalPoint centre() const;

    // The node at a step of the lattice; it must be within the cell.
    std::uint16_t nodeAt(const std::array<int, 3>& step) const;
    // Shape functions at a place, one for each node, and their slopes along r, s, t. Spans of nodes() entries; `slope`
    // may be empty.
    void shape(const LocalPoint& at, std::span<double> value, std::span<LocalPoint> slope) const;
    // Whether a place lies within the cell, to a hair.
    bool holds(const LocalPoint& at, double hair) const;

    // Straight cells between neighbouring nodes, which fill the cell: of a surface triangles or quadrangles. One that
    // is turned over has the same orientation as the cell.
    struct Piece {
        CellType type;
        std::uint8_t count;
        std::array<std::uint16_t, 8> node;
    };
    std::span<const Piece> pieces() const { return m_pieces; }
    // The same of the faces of a solid, in the order of its straight cell's faces and pointing the same way.
    struct FacePiece {
        std::uint8_t face;
        std::uint8_t count; // 3 or 4
        std::array<std::uint16_t, 4> node;
    };
    std::span<const FacePiece> facePieces() const { return m_facePieces; }
    // Neighbours along the lines of the lattice, each pair once.
    std::span<const std::array<std::uint16_t, 2>> edges() const { return m_edges; }

private:
    CellLattice(CellType type, int order);
    void addSolidPieces();
    void addSurfacePieces();
    void addFacePieces();
    void addEdges();
    bool within(const std::array<int, 3>& step) const;
    std::size_t slotOf(const std::array<int, 3>& step) const;

    CellType m_type;
    int m_order;
    std::vector<std::array<int, 3>> m_at; // per node
    std::vector<std::uint16_t> m_node;    // by step
    std::vector<Piece> m_pieces;
    std::vector<FacePiece> m_facePieces;
    std::vector<std::array<std::uint16_t, 2>> m_edges;
};

} // namespace pyro
