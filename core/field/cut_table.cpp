#include "core/field/cut_table.h"

#include <algorithm>
#include <map>

namespace pyro {
namespace {

using Edge = std::array<std::uint8_t, 2>;

// The corners of a face in ring order; quadratic faces list them at even places.
std::vector<std::uint8_t> cornersOf(const FaceNodes& face) {
    std::vector<std::uint8_t> corners;
    for (int i = 0; i < face.count; i += face.count >= 6 ? 2 : 1)
        corners.push_back(face.node[i]);
    return corners;
}

class TableMaker {
public:
    explicit TableMaker(const CellShape& shape) {
        for (const auto& face : shape.faces)
            m_faces.push_back(cornersOf(face));
        for (const auto& face : m_faces)
            for (std::size_t i = 0; i < face.size(); ++i)
                addEdge(face[i], face[(i + 1) % face.size()]);
        m_table.begin.push_back(0);
        for (std::uint32_t pattern = 0; pattern < 1U << shape.corners; ++pattern) {
            addPolygons(pattern);
            m_table.begin.push_back(static_cast<std::uint32_t>(m_table.rings.size()));
        }
    }

    CutTable take() { return std::move(m_table); }

private:
    static Edge ordered(std::uint8_t a, std::uint8_t b) { return {std::min(a, b), std::max(a, b)}; }

    void addEdge(std::uint8_t a, std::uint8_t b) {
        if (m_number.try_emplace(ordered(a, b), static_cast<std::uint8_t>(m_table.edges.size())).second)
            m_table.edges.push_back(ordered(a, b));
    }

    // On each face every run of upper corners is cut off by a segment from the edge where the ring enters it to the
    // edge where it leaves. Two faces pass their common edge in opposite directions, so the segments link to rings.
    void addPolygons(std::uint32_t pattern) {
        std::map<std::uint8_t, std::uint8_t> next;
        for (const auto& face : m_faces)
            link(face, pattern, next);
        while (!next.empty()) {
            std::vector<std::uint8_t> ring;
            for (auto at = next.begin(); at != next.end(); at = next.find(ring.back())) {
                if (ring.empty())
                    ring.push_back(at->first);
                ring.push_back(at->second);
                next.erase(at);
            }
            ring.pop_back(); // the first edge again
            m_table.rings.push_back(static_cast<std::uint8_t>(ring.size()));
            m_table.rings.insert(m_table.rings.end(), ring.begin(), ring.end());
        }
    }

    void link(const std::vector<std::uint8_t>& face, std::uint32_t pattern,
              std::map<std::uint8_t, std::uint8_t>& next) const {
        const auto size = face.size();
        const auto upper = [&](std::size_t i) { return (pattern >> face[i % size] & 1U) != 0; };
        const auto edge = [&](std::size_t i) { return m_number.at(ordered(face[i % size], face[(i + 1) % size])); };
        for (std::size_t i = 0; i < size; ++i)
            if (!upper(i) && upper(i + 1)) {
                std::size_t last = i + 1;
                while (upper(last + 1))
                    ++last;
                next[edge(i)] = edge(last);
            }
    }

    std::vector<std::vector<std::uint8_t>> m_faces;
    std::map<Edge, std::uint8_t> m_number;
    CutTable m_table;
};

} // namespace

const CutTable* cutTable(CellType type) {
    static const auto tables = [] {
        std::array<std::vector<CutTable>, 256> all; // a list of none or one
        for (const auto volume : {CellType::Tetrahedron, CellType::Hexahedron, CellType::Wedge, CellType::Pyramid})
            all[static_cast<std::size_t>(volume)].push_back(TableMaker(*cellShape(volume)).take());
        return all;
    }();
    const auto& found = tables[static_cast<std::size_t>(type)];
    return found.empty() ? nullptr : &found.front();
}

} // namespace pyro
