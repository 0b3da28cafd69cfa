#include "render/path_picture.h"

#include "core/field/seeds.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

// Spread over a boundary by area, a little within the part behind it.
std::vector<Point> onBoundary(const OpenedCase& opened, std::size_t boundary, std::size_t count) {
    const auto& mesh = opened.solved->boundaries[boundary].mesh;
    const auto& index = opened.index->boundaries[boundary];
    std::vector<double> upTo;
    double area = 0;
    for (std::size_t face = 0; face < mesh.cells(); ++face)
        upTo.push_back(area += index.cellMeasure[face]);
    std::vector<Point> seeds;
    for (std::size_t i = 0; i < std::min(count, mesh.cells()); ++i) {
        const double wanted = area * (static_cast<double>(i) + 0.5) /
                              static_cast<double>(std::min(count, mesh.cells()));
        const auto face = std::min(static_cast<std::size_t>(std::ranges::upper_bound(upTo, wanted) - upTo.begin()),
                                   mesh.cells() - 1);
        auto seed = mesh.cellCentre(face);
        for (std::size_t axis = 0; axis < 3; ++axis)
            seed[axis] -= 1e-3 * std::sqrt(index.cellMeasure[face]) * index.normal[3 * face + axis];
        seeds.push_back(seed);
    }
    return seeds;
}

// Only over the parts that have the field: the others would take seeds and give no line.
std::vector<Point> onSection(const Case& solved, const SectionPicture& section, const Quantity& followed,
                             std::size_t count) {
    std::vector<std::int32_t> triangles;
    for (std::size_t i = 0; i < section.part.size(); ++i)
        if (solved.parts[section.part[i]].find(followed.array, followed.on) != nullptr)
            triangles.insert(triangles.end(), section.triangles.begin() + static_cast<std::ptrdiff_t>(3 * i),
                             section.triangles.begin() + static_cast<std::ptrdiff_t>(3 * i + 3));
    std::vector<Point> seeds;
    for (const auto& seed : seedsOnTriangles(section.points, triangles, count))
        seeds.push_back(seed.at);
    return seeds;
}

class PathMaker {
public:
    PathMaker(const FieldPicture& picture, const CellOrders& orders, const Quantity& followed, const PathView& view,
              const PathSources& sources)
        : m_picture(picture), m_solved(*picture.opened.solved), m_followed(followed), m_view(view), m_sources(sources),
          m_field(followed.components == 1 ? VectorField::downhill(m_solved, orders.parts, followed.array)
                                           : VectorField(m_solved, orders.parts, followed.array, followed.on)) {
        m_out.fromGradient = followed.components == 1;
    }

    Result<PathPicture> run(Progress& progress) {
        const auto seeds = findSeeds();
        const auto lines = trace(seeds, progress);
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "following the paths was cancelled", m_solved.file);
        m_out.begin.push_back(0);
        for (const auto& line : lines)
            if (line.size() >= 2)
                add(line);
            else
                ++m_out.lost;
        countInSpans();
        if (m_out.lines() == 0 && m_out.why.empty())
            m_out.why = "no place to start from lies within the field of " + m_followed.name;
        return std::move(m_out);
    }

private:
    std::vector<Point> findSeeds() {
        const auto count = static_cast<std::size_t>(m_view.lines);
        switch (m_view.start) {
        case PathStart::Hottest:
            return m_sources.hottest ? around(*m_sources.hottest, count) : std::vector<Point>();
        case PathStart::Boundary:
            if (const auto boundary = m_solved.boundaryNamed(m_view.from))
                return onBoundary(m_picture.opened, *boundary, count);
            m_out.why = "there is no boundary \"" + m_view.from + "\" in this case";
            return {};
        case PathStart::Section:
            if (m_sources.section && !m_sources.section->empty())
                return onSection(m_solved, *m_sources.section, m_followed, count);
            m_out.why = "\"" + m_view.from + "\" is no section that is shown and meets a visible part";
            return {};
        case PathStart::Place:
            return seedsAround(m_view.at, m_view.radius, count);
        case PathStart::Line:
            return seedsOnLine(m_view.at, m_view.to, count);
        case PathStart::Disk:
            if (const auto here = m_field.at(m_view.at);
                here && std::ranges::any_of(here->vector, [](double v) { return v != 0; }))
                return seedsOnDisk(m_view.at, here->vector, m_view.radius, count);
            m_out.why = "the middle of the disk lies outside the field of " + m_followed.name;
            return {};
        }
        return {};
    }

    std::vector<Point> around(const Point& place, std::size_t count) const {
        const auto here = m_field.at(place);
        return here ? seedsAround(place, 3 * m_field.cellSize(*here), count) : std::vector<Point>();
    }

    StreamRule rule() const {
        StreamRule made;
        double size = 0;
        for (const auto& part : m_picture.opened.index->parts)
            for (std::size_t axis = 0; axis < 3; ++axis)
                size = std::max(size, part.box[2 * axis + 1] - part.box[2 * axis]);
        made.longest = m_view.longest > 0 ? m_view.longest : 4 * size;
        made.forwards = m_view.forwards;
        made.backwards = m_view.backwards;
        return made;
    }

    std::vector<std::vector<StreamPoint>> trace(const std::vector<Point>& seeds, Progress& progress) const {
        std::vector<std::vector<StreamPoint>> lines(seeds.size());
        const auto how = rule();
        constexpr std::size_t chunk = 32;
        for (std::size_t from = 0; from < seeds.size() && !progress.cancelled(); from += chunk) {
            progress.report(static_cast<double>(from) / static_cast<double>(seeds.size()),
                            "following " + m_followed.name);
            tbb::parallel_for(from, std::min(from + chunk, seeds.size()),
                              [&](std::size_t i) { lines[i] = traceStream(m_field, seeds[i], how); });
        }
        return lines;
    }

    // The time a particle takes from point to point: distance over the mean speed of the two ends.
    void add(const std::vector<StreamPoint>& line) {
        double time = 0;
        double speedBefore = 0;
        for (std::size_t i = 0; i < line.size(); ++i) {
            const double speed = std::hypot(line[i].vector[0], line[i].vector[1], line[i].vector[2]);
            if (i > 0) {
                const auto& a = line[i - 1].at;
                const auto& b = line[i].at;
                time += 2 * std::hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]) / std::max(speed + speedBefore, 1e-300);
            }
            speedBefore = speed;
            for (const double at : line[i].at)
                m_out.points.push_back(static_cast<float>(at));
            m_out.values.push_back(static_cast<float>(valueAt(m_picture, line[i].part, line[i].place)));
            m_out.time.push_back(static_cast<float>(time));
        }
        m_durations.push_back(time);
        m_out.begin.push_back(static_cast<std::uint32_t>(m_out.values.size()));
    }

    // The slowest line lasts far longer than most, so that the median gives the pace.
    void countInSpans() {
        if (m_durations.empty())
            return;
        std::ranges::nth_element(m_durations,
                                 m_durations.begin() + static_cast<std::ptrdiff_t>(m_durations.size() / 2));
        m_out.span = m_durations[m_durations.size() / 2];
        for (auto& time : m_out.time)
            time = m_out.span > 0 ? static_cast<float>(time / m_out.span) : 0;
    }

    const FieldPicture& m_picture;
    const Case& m_solved;
    const Quantity& m_followed;
    const PathView& m_view;
    const PathSources& m_sources;
    VectorField m_field;
    std::vector<double> m_durations; // per line
    PathPicture m_out;
};

} // namespace

Result<PathPicture> makePaths(const FieldPicture& picture, const CellOrders& orders, const Quantity& followed,
                              const PathView& view, const PathSources& sources, Progress& progress) {
    return PathMaker(picture, orders, followed, view, sources).run(progress);
}

} // namespace pyro
