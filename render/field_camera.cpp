// The camera of the scene: parallel projection with z upwards, and the way between pixels and places.
#include "render/field_scene.h"

#include <algorithm>
#include <cmath>
#include <vtkCamera.h>

namespace pyro {
namespace {

constexpr double degree = 3.14159265358979323846 / 180;

} // namespace

CameraState FieldScene::camera() const {
    auto* camera = const_cast<vtkRenderer*>(m_renderer.GetPointer())->GetActiveCamera();
    CameraState state;
    camera->GetPosition(state.position.data());
    camera->GetFocalPoint(state.focus.data());
    camera->GetViewUp(state.up.data());
    state.scale = camera->GetParallelScale();
    return state;
}

void FieldScene::setCamera(const CameraState& state) {
    auto* camera = m_renderer->GetActiveCamera();
    camera->SetPosition(state.position.data());
    camera->SetFocalPoint(state.focus.data());
    camera->SetViewUp(state.up.data());
    camera->SetParallelScale(state.scale);
    resetClipping();
}

void FieldScene::resetClipping() { m_renderer->ResetCameraClippingRange(); }

std::array<double, 6> FieldScene::visibleBox() const {
    std::array<double, 6> box{1, -1, 1, -1, 1, -1};
    for (const auto& part : m_parts) {
        if (!part->visible)
            continue;
        std::array<double, 6> own{};
        part->surface->GetBounds(own.data());
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const bool first = box[0] > box[1] && axis == 0;
            if (first || (axis > 0 && box[2 * axis] > box[2 * axis + 1])) {
                box[2 * axis] = own[2 * axis];
                box[2 * axis + 1] = own[2 * axis + 1];
            } else {
                box[2 * axis] = std::min(box[2 * axis], own[2 * axis]);
                box[2 * axis + 1] = std::max(box[2 * axis + 1], own[2 * axis + 1]);
            }
        }
    }
    return box;
}

void FieldScene::aim(const Point& focus, double azimuth, double elevation, double distance) {
    const double az = azimuth * degree;
    const double el = std::clamp(elevation, -90.0, 90.0) * degree;
    const Point direction{std::cos(el) * std::cos(az), std::cos(el) * std::sin(az), std::sin(el)};
    auto* camera = m_renderer->GetActiveCamera();
    camera->SetFocalPoint(focus.data());
    camera->SetPosition(focus[0] + distance * direction[0], focus[1] + distance * direction[1],
                        focus[2] + distance * direction[2]);
    camera->SetViewUp(-std::sin(el) * std::cos(az), -std::sin(el) * std::sin(az), std::cos(el));
    resetClipping();
}

void FieldScene::fit() {
    const auto box = visibleBox();
    if (box[0] > box[1])
        return;
    // The smallest scale that holds all eight corners of the box in the present direction.
    auto* camera = m_renderer->GetActiveCamera();
    const Point centre{0.5 * (box[0] + box[1]), 0.5 * (box[2] + box[3]), 0.5 * (box[4] + box[5])};
    Point out{};
    Point up{};
    camera->GetDirectionOfProjection(out.data());
    camera->OrthogonalizeViewUp();
    camera->GetViewUp(up.data());
    const Point right{out[1] * up[2] - out[2] * up[1], out[2] * up[0] - out[0] * up[2],
                      out[0] * up[1] - out[1] * up[0]};
    double halfHeight = 0;
    double halfWidth = 0;
    double depth = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double half = 0.5 * (box[2 * axis + 1] - box[2 * axis]);
        halfHeight += std::abs(up[axis]) * half;
        halfWidth += std::abs(right[axis]) * half;
        depth += half;
    }
    const auto* size = m_renderer->GetSize();
    const double aspect = size[1] > 0 ? static_cast<double>(size[0]) / size[1] : 1.5;
    camera->SetFocalPoint(centre.data());
    camera->SetPosition(centre[0] - 4 * depth * out[0], centre[1] - 4 * depth * out[1], centre[2] - 4 * depth * out[2]);
    camera->SetParallelScale(1.12 * std::max({halfHeight, halfWidth / aspect, 1e-12}));
    resetClipping();
}

void FieldScene::fitFirst() {
    if (m_picture && m_picture->opened.solved->plane) {
        auto from = m_picture->opened.solved->plane->normal;
        if (std::abs(from[1]) > std::max(std::abs(from[0]), std::abs(from[2])))
            from = {-from[0], -from[1], -from[2]}; // x to the right, z upwards
        const double level = std::hypot(from[0], from[1]);
        aim(camera().focus, level > 1e-9 ? std::atan2(from[1], from[0]) / degree : -90,
            std::atan2(from[2], level) / degree, 1);
    }
    fit();
}

void FieldScene::lookAlong(int axis, bool fromOtherSide) {
    const double sign = fromOtherSide ? -1 : 1;
    const std::array<std::array<double, 2>, 3> angles{
        {{sign > 0 ? 0.0 : 180.0, 0}, {sign > 0 ? 90.0 : -90.0, 0}, {-90, sign > 0 ? 90.0 : -90.0}}};
    const auto state = camera();
    aim(state.focus, angles[static_cast<std::size_t>(axis)][0], angles[static_cast<std::size_t>(axis)][1], 1);
    fit();
}

void FieldScene::flyTo(const Point& place, double radius) {
    auto state = camera();
    for (std::size_t axis = 0; axis < 3; ++axis) {
        state.position[axis] += place[axis] - state.focus[axis];
        state.focus[axis] = place[axis];
    }
    state.scale = radius;
    setCamera(state);
}

void FieldScene::orbit(double azimuthDegrees, double elevationDegrees) {
    const auto state = camera();
    Point out{};
    double distance = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        out[axis] = state.position[axis] - state.focus[axis];
        distance += out[axis] * out[axis];
    }
    distance = std::sqrt(distance);
    const double elevation = std::asin(std::clamp(out[2] / distance, -1.0, 1.0)) / degree;
    const double sine = out[2] / distance;
    // Straight from above or below the azimuth is read from the up direction.
    const double azimuth = std::abs(sine) > 0.9999 ? std::atan2(-state.up[1] * sine, -state.up[0] * sine) / degree
                                                   : std::atan2(out[1], out[0]) / degree;
    aim(state.focus, azimuth + azimuthDegrees, elevation + elevationDegrees, distance);
}

void FieldScene::pan(double dx, double dy) {
    auto state = camera();
    const double perPixel = 2 * state.scale / std::max(1, m_renderer->GetSize()[1]);
    Point out{};
    m_renderer->GetActiveCamera()->GetDirectionOfProjection(out.data());
    const auto& up = state.up;
    const Point right{out[1] * up[2] - out[2] * up[1], out[2] * up[0] - out[0] * up[2],
                      out[0] * up[1] - out[1] * up[0]};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double move = -perPixel * (dx * right[axis] + dy * up[axis]);
        state.position[axis] += move;
        state.focus[axis] += move;
    }
    setCamera(state);
}

void FieldScene::zoom(double factor, double x, double y) {
    const auto before = atFocalDepth(x, y);
    auto state = camera();
    state.scale /= factor;
    setCamera(state);
    const auto after = atFocalDepth(x, y);
    for (std::size_t axis = 0; axis < 3; ++axis) {
        state.position[axis] += before[axis] - after[axis];
        state.focus[axis] += before[axis] - after[axis];
    }
    setCamera(state);
}

std::array<Point, 2> FieldScene::rayThrough(double x, double y) {
    std::array<Point, 2> ray{};
    for (std::size_t end = 0; end < 2; ++end) {
        std::array<double, 4> world{};
        m_renderer->SetDisplayPoint(x, y, static_cast<double>(end));
        m_renderer->DisplayToWorld();
        m_renderer->GetWorldPoint(world.data());
        for (std::size_t axis = 0; axis < 3; ++axis)
            ray[end][axis] = world[axis] / world[3];
    }
    return ray;
}

Point FieldScene::atFocalDepth(double x, double y) {
    const auto ray = rayThrough(x, y);
    return {0.5 * (ray[0][0] + ray[1][0]), 0.5 * (ray[0][1] + ray[1][1]), 0.5 * (ray[0][2] + ray[1][2])};
}

Point FieldScene::toPixel(const Point& place) {
    m_renderer->SetWorldPoint(place[0], place[1], place[2], 1);
    m_renderer->WorldToDisplay();
    Point pixel{};
    m_renderer->GetDisplayPoint(pixel.data());
    return pixel;
}

} // namespace pyro
