#include "core/gauge/wall_trace.h"

#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace pyro {
namespace {

struct Segment {
    Point a;
    Point b;
};

// A face is met where its ring changes from one side of the plane to the other; nodes on the plane count as above.
void addSegments(const Mesh& mesh, const Plane& plane, std::vector<Segment>& out) {
    for (std::size_t face = 0; face < mesh.cells(); ++face) {
        const auto nodes = mesh.cell(face);
        const auto* shape = cellShape(mesh.type(face));
        const std::size_t corners = shape != nullptr && shape->corners > 0 ? static_cast<std::size_t>(shape->corners)
                                                                           : nodes.size();
        std::vector<Point> ends;
        for (std::size_t i = 0; i < corners; ++i) {
            const auto p = mesh.node(nodes[i]);
            const auto q = mesh.node(nodes[(i + 1) % corners]);
            const double low = distanceTo(plane, p);
            const double high = distanceTo(plane, q);
            if ((low < 0) == (high < 0))
                continue;
            const double share = low / (low - high);
            ends.push_back({p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1]), p[2] + share * (q[2] - p[2])});
        }
        if (ends.size() == 2 && ends[0] != ends[1])
            out.push_back({ends[0], ends[1]});
    }
}

double lengthAlong(const std::vector<Point>& line) {
    double sum = 0;
    for (std::size_t i = 1; i < line.size(); ++i)
        sum += std::sqrt(dot(minus(line[i], line[i - 1]), minus(line[i], line[i - 1])));
    return sum;
}

// Segments joined end to end; ends count as one place within a hair of the whole.
class Chain {
public:
    explicit Chain(const std::vector<Segment>& segments) : m_segments(segments), m_used(segments.size()) {
        double reach = 0;
        for (const auto& segment : segments)
            for (std::size_t axis = 0; axis < 3; ++axis)
                reach = std::max({reach, std::abs(segment.a[axis]), std::abs(segment.b[axis])});
        m_hair = reach > 0 ? 1e-7 * reach : 1e-12;
        for (std::size_t i = 0; i < segments.size(); ++i)
            for (const auto* end : {&segments[i].a, &segments[i].b})
                m_at.emplace(key(*end), i);
    }

    std::vector<Point> longest() {
        std::vector<Point> best;
        const auto take = [&](std::size_t first, const Point& from) {
            auto line = walk(first, from);
            if (lengthAlong(line) > lengthAlong(best))
                best = std::move(line);
        };
        for (std::size_t i = 0; i < m_segments.size(); ++i) // from the loose ends first
            for (const auto* end : {&m_segments[i].a, &m_segments[i].b})
                if (!m_used[i] && m_at.count(key(*end)) == 1)
                    take(i, *end);
        for (std::size_t i = 0; i < m_segments.size(); ++i)
            if (!m_used[i])
                take(i, m_segments[i].a);
        return best;
    }

private:
    using Key = std::array<long long, 3>;
    Key key(const Point& at) const {
        return {std::llround(at[0] / m_hair), std::llround(at[1] / m_hair), std::llround(at[2] / m_hair)};
    }

    std::vector<Point> walk(std::size_t at, Point from) {
        std::vector<Point> line{from};
        for (;;) {
            m_used[at] = true;
            from = key(m_segments[at].a) == key(from) ? m_segments[at].b : m_segments[at].a;
            line.push_back(from);
            const auto [begin, end] = m_at.equal_range(key(from));
            const auto next = std::find_if(begin, end, [&](const auto& one) { return !m_used[one.second]; });
            if (next == end)
                return line;
            at = next->second;
        }
    }

    const std::vector<Segment>& m_segments;
    std::vector<bool> m_used;
    double m_hair;
    std::multimap<Key, std::size_t> m_at;
};

} // namespace

std::vector<Point> wallTrace(std::span<const Mesh* const> walls, const Plane& unitPlane) {
    std::vector<Segment> segments;
    for (const auto* wall : walls)
        addSegments(*wall, unitPlane, segments);
    if (segments.empty())
        return {};
    auto line = Chain(segments).longest();
    if (line.size() > 2 && lengthAlong({line.front(), line.back()}) < 1e-9 * lengthAlong(line)) {
        line.pop_back();
        std::ranges::rotate(line, std::ranges::min_element(line));
        line.push_back(line.front());
    } else if (line.back() < line.front()) {
        std::ranges::reverse(line);
    }
    return line;
}

} // namespace pyro
