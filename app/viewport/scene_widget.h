// A widget that draws one scene: what the viewport and the panes of a comparison have in common.
#pragma once

#include "render/field_scene.h"

#include <QOpenGLWidget>
#include <vtkGenericOpenGLRenderWindow.h>

namespace pyro {

class SceneWidget : public QOpenGLWidget {
    Q_OBJECT
public:
    explicit SceneWidget(QWidget* parent = nullptr);
    ~SceneWidget() override;
    // Pixel of a place in widget coordinates.
    QPointF pixelOf(const Point& place);

protected:
    void initializeGL() override;
    void resizeGL(int width, int height) override;
    void paintGL() override;
    // Pixel of the scene, origin lower left.
    std::array<double, 2> vtkPixel(const QPointF& at) const;
    // The field alone, drawn anew into a framebuffer of another size.
    QImage drawnAt(double ratio);

    FieldScene m_scene;
    vtkNew<vtkGenericOpenGLRenderWindow> m_window;
    std::shared_ptr<const FieldPicture> m_shown;

private:
    bool m_drawnOnce = false;
};

// How far the mouse turns what is drawn, and how far it may move between press and release of a click.
constexpr double degreesPerPixel = 0.4;
constexpr double clickSlack = 4; // pixels

} // namespace pyro
