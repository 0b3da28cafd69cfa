#include "rig/grid.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro::rig {
namespace {

// Cell widths from one face to the middle of an interval of that half length.
std::vector<double> halfWidths(double half, const AxisRule& rule) {
    std::vector<double> widths;
    double sum = 0;
    for (double width = std::min(rule.fine, half); sum < half * (1 - 1e-9);
         width = std::min(width * rule.growth, rule.spacing)) {
        widths.push_back(width);
        sum += width;
    }
    for (auto& width : widths)
        width *= half / sum;
    return widths;
}

void addInterval(std::vector<double>& lines, double from, double to, const AxisRule& rule) {
    if (rule.fine == rule.spacing) {
        const auto count = static_cast<int>(std::ceil((to - from) / rule.spacing * (1 - 1e-9)));
        for (int i = 1; i < count; ++i)
            lines.push_back(from + (to - from) * i / count);
    } else {
        const auto widths = halfWidths(0.5 * (to - from), rule);
        double at = from;
        for (const double width : widths)
            lines.push_back(at += width);
        lines.back() = 0.5 * (from + to);
        at = lines.back();
        for (auto width = widths.rbegin(); width + 1 != widths.rend(); ++width)
            lines.push_back(at += *width);
    }
    lines.push_back(to);
}

// Cells whose middle lies within a span along one axis: from (included) to (excluded).
std::array<std::size_t, 2> cellsWithin(const Grid& grid, int axis, double from, double to) {
    std::size_t first = 0;
    while (first < grid.cells(axis) && grid.centre(axis, first) <= from)
        ++first;
    std::size_t last = first;
    while (last < grid.cells(axis) && grid.centre(axis, last) < to)
        ++last;
    return {first, last};
}

Result<Grid> gridOf(const Model& model, std::array<std::vector<double>, 3> lines) {
    Grid grid;
    grid.lines = std::move(lines);
    const double count = static_cast<double>(grid.cells(0)) * static_cast<double>(grid.cells(1)) *
                         static_cast<double>(grid.cells(2));
    if (count > 2147483647.0)
        return fail(ErrorCode::SizeAbsurd, "the grid has more than 2^31 cells", model.title, "Raise the spacing");
    grid.box.assign(static_cast<std::size_t>(count), -1);
    for (std::size_t b = 0; b < model.boxes.size(); ++b) {
        const auto& box = model.boxes[b];
        const auto x = cellsWithin(grid, 0, box.from[0], box.to[0]);
        const auto y = cellsWithin(grid, 1, box.from[1], box.to[1]);
        const auto z = cellsWithin(grid, 2, box.from[2], box.to[2]);
        for (auto k = z[0]; k < z[1]; ++k)
            for (auto j = y[0]; j < y[1]; ++j)
                for (auto i = x[0]; i < x[1]; ++i)
                    grid.box[grid.cell(i, j, k)] = static_cast<std::int32_t>(b);
    }
    std::vector<bool> left(model.boxes.size(), false);
    for (const auto box : grid.box)
        if (box >= 0)
            left[static_cast<std::size_t>(box)] = true;
    const auto gone = std::ranges::find(left, false);
    if (gone != left.end()) {
        const auto number = static_cast<std::size_t>(gone - left.begin());
        return fail(ErrorCode::WrongType,
                    fmt::format("nothing is left of box {}, part \"{}\": later boxes cover all of it", number,
                                model.boxes[number].part),
                    fmt::format("boxes.{}", number),
                    "Later boxes cut into earlier ones; change their order or take it away");
    }
    return grid;
}

} // namespace

Vec Grid::faceCentre(const Index& at, int axis, bool above) const {
    Vec middle{centre(0, at[0]), centre(1, at[1]), centre(2, at[2])};
    const auto a = static_cast<std::size_t>(axis);
    middle[a] = lines[a][at[a] + (above ? 1 : 0)];
    return middle;
}

std::ptrdiff_t Grid::neighbour(const Index& at, int axis, bool above) const {
    auto next = at;
    auto& index = next[static_cast<std::size_t>(axis)];
    if (above ? index + 1 >= cells(axis) : index == 0)
        return none;
    index = above ? index + 1 : index - 1;
    const auto other = cell(next[0], next[1], next[2]);
    return box[other] < 0 ? none : static_cast<std::ptrdiff_t>(other);
}

std::vector<double> gridLines(std::vector<double> faces, const AxisRule& rule) {
    std::ranges::sort(faces);
    const double slack = 1e-9 * (faces.back() - faces.front());
    const auto [first, last] = std::ranges::unique(faces, [&](double a, double b) { return std::abs(a - b) <= slack; });
    faces.erase(first, last);
    std::vector<double> lines{faces.front()};
    for (std::size_t i = 1; i < faces.size(); ++i)
        addInterval(lines, faces[i - 1], faces[i], rule);
    return lines;
}

Result<Grid> makeGrid(const Model& model) {
    std::array<std::vector<double>, 3> lines;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        std::vector<double> faces;
        for (const auto& box : model.boxes) {
            faces.push_back(box.from[axis]);
            faces.push_back(box.to[axis]);
        }
        lines[axis] = gridLines(std::move(faces), model.axes[axis]);
    }
    return gridOf(model, std::move(lines));
}

Result<Grid> halved(const Model& model, const Grid& grid) {
    std::array<std::vector<double>, 3> lines;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const auto& line = grid.lines[axis];
        if (line.size() == 2) {
            lines[axis] = line;
            continue;
        }
        for (std::size_t i = 0; i + 1 < line.size(); ++i) {
            lines[axis].push_back(line[i]);
            lines[axis].push_back(0.5 * (line[i] + line[i + 1]));
        }
        lines[axis].push_back(line.back());
    }
    return gridOf(model, std::move(lines));
}

} // namespace pyro::rig
