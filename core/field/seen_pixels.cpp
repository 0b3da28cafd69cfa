#include "core/field/seen_pixels.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

class Canvas {
public:
    Canvas(const PictureCamera& camera, std::size_t columns, std::size_t rows)
        : m_camera(camera), m_columns(columns), m_rows(rows), m_pixels(columns * rows) {}

    void add(const Region& part, std::uint32_t number, std::uint32_t cell, const std::array<std::uint32_t, 3>& nodes) {
        std::array<Point, 3> corners;
        for (std::size_t i = 0; i < 3; ++i)
            corners[i] = part.mesh.node(nodes[i]);
        const auto box = boxOf(corners);
        for (auto row = box[2]; row < box[3]; ++row)
            for (auto column = box[0]; column < box[1]; ++column)
                meet(corners, SeenPixel{number, cell, nodes, {}, 0}, column, row);
    }
    std::vector<SeenPixel> pixels() && { return std::move(m_pixels); }

private:
    // Columns and rows whose middles the triangle may cover; all of them where some of it lies behind the camera.
    std::array<std::size_t, 4> boxOf(const std::array<Point, 3>& corners) const {
        std::array<double, 4> box{1e9, -1e9, 1e9, -1e9};
        int ahead = 0;
        for (const auto& corner : corners) {
            const auto seen = m_camera.project(corner);
            ahead += !m_camera.isPinhole() || seen.depth > 0 ? 1 : 0;
            box = {std::min(box[0], seen.column), std::max(box[1], seen.column), std::min(box[2], seen.row),
                   std::max(box[3], seen.row)};
        }
        if (ahead == 0)
            return {};
        if (ahead < 3)
            return {0, m_columns, 0, m_rows};
        // a hair wider, so that what lies on an edge is found on one side at least
        const auto from = [](double at, std::size_t most) {
            return static_cast<std::size_t>(std::clamp(std::ceil(at - 0.5 - 1e-6), 0.0, static_cast<double>(most)));
        };
        const auto to = [](double at, std::size_t most) {
            return static_cast<std::size_t>(
                std::clamp(std::floor(at - 0.5 + 1e-6) + 1, 0.0, static_cast<double>(most)));
        };
        return {from(box[0], m_columns), to(box[1], m_columns), from(box[2], m_rows), to(box[3], m_rows)};
    }

    // The ray through the pixel's middle against the triangle (Moeller and Trumbore 1997).
    void meet(const std::array<Point, 3>& corners, SeenPixel candidate, std::size_t column, std::size_t row) {
        const double across = static_cast<double>(column) + 0.5;
        const double down = static_cast<double>(row) + 0.5;
        const auto from = m_camera.place(across, down, 0);
        const auto along = minus(m_camera.place(across, down, 1), from);
        const auto first = minus(corners[1], corners[0]);
        const auto second = minus(corners[2], corners[0]);
        const auto side = cross(along, second);
        const double size = dot(first, side);
        if (size == 0)
            return;
        const auto away = minus(from, corners[0]);
        const double b = dot(away, side) / size;
        const auto other = cross(away, first);
        const double c = dot(along, other) / size;
        constexpr double hair = 1e-9;
        if (b < -hair || c < -hair || b + c > 1 + hair)
            return;
        candidate.depth = dot(second, other) / size;
        auto& pixel = m_pixels[row * m_columns + column];
        if ((m_camera.isPinhole() && !(candidate.depth > 0)) || !(candidate.depth < pixel.depth))
            return;
        candidate.share = {1 - b - c, b, c};
        pixel = candidate;
    }

    const PictureCamera& m_camera;
    std::size_t m_columns;
    std::size_t m_rows;
    std::vector<SeenPixel> m_pixels;
};

} // namespace

std::vector<SeenPixel> seenPixels(const PictureCamera& camera, std::size_t columns, std::size_t rows,
                                  const Case& solved, const CaseIndex& index, std::span<const std::uint32_t> parts) {
    Canvas canvas(camera, columns, rows);
    for (const auto part : parts) {
        const auto& shell = index.parts[part].shell;
        for (std::size_t face = 0; face < shell.faces(); ++face) {
            const auto corners = shell.face(face);
            for (std::size_t i = 1; i + 1 < corners.size(); ++i)
                canvas.add(solved.parts[part], part, shell.cell[face], {corners[0], corners[i], corners[i + 1]});
        }
    }
    return std::move(canvas).pixels();
}

} // namespace pyro
