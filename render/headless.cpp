#include "render/headless.h"

#include <EGL/egl.h>
#include <EGL/eglext.h>
#include <vtkGenericOpenGLRenderWindow.h>
#include <vtkObject.h>
#include <vtkUnsignedCharArray.h>

#include <mutex>

namespace pyro {
namespace {

tl::unexpected<Error> cannot(const std::string& why) {
    return fail(ErrorCode::NotSupported, "pictures cannot be drawn here: " + why, "EGL",
                "Install Debian's packages libegl1 and libgl1-mesa-dri, which draw without a display");
}

std::mutex displayUse;
int displayUsers = 0;

} // namespace

Result<std::unique_ptr<Headless>> Headless::open() {
    std::unique_ptr<Headless> made(new Headless);
    const auto displayOf = reinterpret_cast<PFNEGLGETPLATFORMDISPLAYEXTPROC>(
        eglGetProcAddress("eglGetPlatformDisplayEXT"));
    auto* display = displayOf != nullptr ? displayOf(EGL_PLATFORM_SURFACELESS_MESA, EGL_DEFAULT_DISPLAY, nullptr)
                                         : EGL_NO_DISPLAY;
    if (display == EGL_NO_DISPLAY || eglInitialize(display, nullptr, nullptr) == EGL_FALSE)
        return cannot("there is no EGL that works without a display");
    made->m_display = display;
    {
        const std::scoped_lock lock(displayUse);
        ++displayUsers;
    }
    eglBindAPI(EGL_OPENGL_API);
    constexpr std::array<EGLint, 5> wanted{EGL_SURFACE_TYPE, EGL_PBUFFER_BIT, EGL_RENDERABLE_TYPE, EGL_OPENGL_BIT,
                                           EGL_NONE};
    EGLConfig config = nullptr;
    EGLint count = 0;
    eglChooseConfig(display, wanted.data(), &config, 1, &count);
    constexpr std::array<EGLint, 7> version{
        EGL_CONTEXT_MAJOR_VERSION,           3,       EGL_CONTEXT_MINOR_VERSION, 2, EGL_CONTEXT_OPENGL_PROFILE_MASK,
        EGL_CONTEXT_OPENGL_CORE_PROFILE_BIT, EGL_NONE};
    auto* context = eglCreateContext(display, count > 0 ? config : nullptr, EGL_NO_CONTEXT, version.data());
    if (context == EGL_NO_CONTEXT || eglMakeCurrent(display, EGL_NO_SURFACE, EGL_NO_SURFACE, context) == EGL_FALSE)
        return cannot("OpenGL 3.2 is not to be had");
    made->m_context = context;
    return made;
}

Headless::~Headless() {
    if (m_display == nullptr)
        return;
    eglMakeCurrent(m_display, EGL_NO_SURFACE, EGL_NO_SURFACE, EGL_NO_CONTEXT);
    if (m_context != nullptr)
        eglDestroyContext(m_display, m_context);
    const std::scoped_lock lock(displayUse);
    if (--displayUsers == 0) // it is one for all threads
        eglTerminate(m_display);
}

QImage Headless::draw(FieldScene& scene, const QSize& size, const std::function<void()>& aim,
                      const std::function<void()>& after, bool clear) {
    vtkNew<vtkGenericOpenGLRenderWindow> window;
    window->AddRenderer(scene.renderer());
    window->SetMultiSamples(0);
    window->SetOwnContext(false);
    window->SetFrameBlitModeToNoBlit();
    window->SetReadyForRendering(true);
    window->SetIsCurrent(true);
    // The loader of OpenGL's functions looks for a display of X and complains that there is none; it finds them all.
    const int told = vtkObject::GetGlobalWarningDisplay();
    vtkObject::GlobalWarningDisplayOff();
    window->InitializeFromCurrentContext();
    window->OpenGLInit();
    window->SetSize(size.width(), size.height());
    aim();
    scene.renderer()->ResetCameraClippingRange();
    window->SetAlphaBitPlanes(1);
    scene.renderer()->SetBackgroundAlpha(clear ? 0 : 1);
    window->Render();
    vtkNew<vtkUnsignedCharArray> pixels;
    window->GetRGBACharPixelData(0, 0, size.width() - 1, size.height() - 1, 1, pixels, 0);
    vtkObject::SetGlobalWarningDisplay(told);
    // from below, as OpenGL has it
    auto image = QImage(pixels->GetPointer(0), size.width(), size.height(), 4 * qsizetype{size.width()},
                        QImage::Format_RGBA8888)
                     .mirrored()
                     .convertToFormat(clear ? QImage::Format_ARGB32 : QImage::Format_RGB32);
    if (after)
        after();
    scene.clear();
    window->RemoveRenderer(scene.renderer());
    window->Finalize();
    return image;
}

} // namespace pyro
