#include "app/viewport/scene_widget.h"

#include <QOpenGLContext>
#include <QOpenGLExtraFunctions>
#include <vtkOpenGLFramebufferObject.h>
#include <vtkOpenGLState.h>

namespace pyro {

SceneWidget::SceneWidget(QWidget* parent) : QOpenGLWidget(parent) {
    m_window->AddRenderer(m_scene.renderer());
    m_window->SetMultiSamples(0);
    m_window->SetOwnContext(false);
    m_window->SetFrameBlitModeToNoBlit();
}

SceneWidget::~SceneWidget() {
    makeCurrent();
    m_scene.clear();
    m_window->Finalize();
    doneCurrent();
}

void SceneWidget::initializeGL() {
    m_window->SetReadyForRendering(true);
    m_window->SetIsCurrent(true); // Qt has made it so
    m_window->InitializeFromCurrentContext();
    m_window->OpenGLInit();
}

void SceneWidget::resizeGL(int width, int height) {
    const double ratio = devicePixelRatioF();
    m_window->SetSize(static_cast<int>(width * ratio), static_cast<int>(height * ratio));
}

void SceneWidget::paintGL() {
    m_window->SetReadyForRendering(true);
    m_window->SetIsCurrent(true); // Qt has made it so
    m_window->GetState()->Reset();
    m_window->GetState()->Push();
    if (!m_drawnOnce && !m_shown) {
        m_scene.showTriangle();
        m_window->Render();
        m_scene.clear();
    }
    m_drawnOnce = true;
    m_scene.renderer()->ResetCameraClippingRange();
    m_window->Render();
    m_window->GetState()->Pop();
    // VTK draws into its own framebuffer; it is copied into the widget's.
    auto* gl = QOpenGLContext::currentContext()->extraFunctions();
    const auto* size = m_window->GetSize();
    gl->glBindFramebuffer(GL_READ_FRAMEBUFFER, m_window->GetDisplayFramebuffer()->GetFBOIndex());
    gl->glBindFramebuffer(GL_DRAW_FRAMEBUFFER, defaultFramebufferObject());
    gl->glDisable(GL_SCISSOR_TEST);
    gl->glBlitFramebuffer(0, 0, size[0], size[1], 0, 0, size[0], size[1], GL_COLOR_BUFFER_BIT, GL_NEAREST);
    gl->glBindFramebuffer(GL_FRAMEBUFFER, defaultFramebufferObject());
    // Translucent parts leave their alpha behind, through which the window would shine.
    gl->glColorMask(GL_FALSE, GL_FALSE, GL_FALSE, GL_TRUE);
    gl->glClearColor(0, 0, 0, 1);
    gl->glClear(GL_COLOR_BUFFER_BIT);
    gl->glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
}

std::array<double, 2> SceneWidget::vtkPixel(const QPointF& at) const {
    const double ratio = devicePixelRatioF();
    return {at.x() * ratio, (height() - at.y()) * ratio};
}

QPointF SceneWidget::pixelOf(const Point& place) {
    const auto pixel = m_scene.toPixel(place);
    const double ratio = devicePixelRatioF();
    return {pixel[0] / ratio, height() - pixel[1] / ratio};
}

// The field alone, drawn anew into a framebuffer of another size.
QImage SceneWidget::drawnAt(double ratio) {
    makeCurrent();
    m_window->SetSize(static_cast<int>(width() * ratio), static_cast<int>(height() * ratio));
    m_window->SetReadyForRendering(true);
    m_window->SetIsCurrent(true);
    m_window->GetState()->Reset();
    m_window->GetState()->Push();
    m_window->Render();
    m_window->GetState()->Pop();
    const auto* size = m_window->GetSize();
    QImage image(size[0], size[1], QImage::Format_RGBA8888);
    auto* gl = QOpenGLContext::currentContext()->extraFunctions();
    gl->glBindFramebuffer(GL_READ_FRAMEBUFFER, m_window->GetDisplayFramebuffer()->GetFBOIndex());
    gl->glReadPixels(0, 0, size[0], size[1], GL_RGBA, GL_UNSIGNED_BYTE, image.bits());
    gl->glBindFramebuffer(GL_FRAMEBUFFER, defaultFramebufferObject());
    resizeGL(width(), height());
    doneCurrent();
    update();
    return image.mirrored().convertToFormat(QImage::Format_RGB32);
}

} // namespace pyro
