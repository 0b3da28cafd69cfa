// Drawing without a window and without a display.
#pragma once

#include "render/field_scene.h"

#include <QImage>

namespace pyro {

// A context of EGL without a surface, drawn by the graphics card or in software. It is made, used and ends in one
// thread, which has no other; scenes that it drew must end before it.
class Headless {
public:
    // Errors: NotSupported, with what to install.
    static Result<std::unique_ptr<Headless>> open();
    ~Headless();
    Headless(const Headless&) = delete;
    Headless& operator=(const Headless&) = delete;

    // The scene takes the shape of the picture; its camera is set by `aim` once it has it, and `after` may ask for
    // pixels of places and for what is seen there. `clear`: what nothing covers is transparent.
    QImage draw(FieldScene& scene, const QSize& size, const std::function<void()>& aim,
                const std::function<void()>& after = {}, bool clear = false);

private:
    Headless() = default;
    void* m_display = nullptr;
    void* m_context = nullptr;
};

} // namespace pyro
