// Outer faces of parts found by the place of their centre.
#pragma once

#include "core/field/shell.h"
#include "core/field/vector_algebra.h"

#include <cmath>
#include <unordered_map>

namespace pyro {

struct PartFace {
    std::uint32_t part;
    std::uint32_t face; // of the part's shell
};

inline double squaredDistance(const Point& a, const Point& b) {
    const auto d = minus(a, b);
    return dot(d, d);
}

template <class Ids>
Point centroid(const Mesh& mesh, const Ids& ids) {
    Point sum{};
    for (const auto id : ids)
        for (std::size_t axis = 0; axis < 3; ++axis)
            sum[axis] += mesh.coordinates[3 * std::size_t{id} + axis] / static_cast<double>(ids.size());
    return sum;
}

// Faces found by their centroid on a lattice of a spacing that is fine against the faces asked for.
class FaceLookup {
public:
    FaceLookup(const Case& solved, std::span<const ShellView> shells, double spacing)
        : m_case(solved), m_shells(shells), m_spacing(spacing) {
        for (std::uint32_t part = 0; part < shells.size(); ++part)
            add(part);
    }
    FaceLookup(const Case& solved, std::span<const ShellView> shells, double spacing, std::uint32_t onlyPart)
        : m_case(solved), m_shells(shells), m_spacing(spacing) {
        add(onlyPart);
    }

    std::span<const std::uint32_t> nodes(PartFace at) const { return m_shells[at.part].face(at.face); }
    std::uint32_t cell(PartFace at) const { return m_shells[at.part].cell[at.face]; }

    // Faces whose centroid lies within `reach` of the place, and some that lie a little further.
    template <class Use>
    void near(const Point& at, double reach, Use use) const {
        const auto low = bin(minus(at, {reach, reach, reach}));
        const auto high = bin(minus(at, {-reach, -reach, -reach}));
        for (auto x = low[0]; x <= high[0]; ++x)
            for (auto y = low[1]; y <= high[1]; ++y)
                for (auto z = low[2]; z <= high[2]; ++z) {
                    const auto [from, to] = m_cells.equal_range(key({x, y, z}));
                    for (auto it = from; it != to; ++it)
                        use(it->second);
                }
    }
    // Those within one step of the lattice.
    template <class Use>
    void near(const Point& at, Use use) const {
        near(at, m_spacing, use);
    }

    // The node of a face that lies at a place; ~0 when there is none.
    std::uint32_t twin(const Point& at, PartFace candidate, double slack) const {
        for (const auto id : nodes(candidate))
            if (squaredDistance(at, m_case.parts[candidate.part].mesh.node(id)) <= slack * slack)
                return id;
        return ~0U;
    }
    // Whether every one of the nodes has its twin in the face.
    bool coincides(const Mesh& mesh, std::span<const std::uint32_t> own, PartFace candidate, double slack) const {
        if (own.size() > nodes(candidate).size())
            return false;
        for (const auto id : own)
            if (twin(mesh.node(id), candidate, slack) == ~0U)
                return false;
        return true;
    }

private:
    void add(std::uint32_t part) {
        for (std::uint32_t face = 0; face < m_shells[part].cell.size(); ++face)
            m_cells.emplace(key(bin(centroid(m_case.parts[part].mesh, nodes({part, face})))), PartFace{part, face});
    }
    std::array<long long, 3> bin(const Point& at) const {
        return {std::llround(at[0] / m_spacing), std::llround(at[1] / m_spacing), std::llround(at[2] / m_spacing)};
    }
    static std::uint64_t key(const std::array<long long, 3>& bin) {
        std::uint64_t hash = 0;
        for (const auto value : bin)
            hash = (hash ^ static_cast<std::uint64_t>(value)) * 0x9E3779B97F4A7C15ULL;
        return hash;
    }

    const Case& m_case;
    std::span<const ShellView> m_shells;
    double m_spacing;
    std::unordered_multimap<std::uint64_t, PartFace> m_cells;
};

} // namespace pyro
