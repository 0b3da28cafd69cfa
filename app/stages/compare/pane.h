// One picture of a comparison: the field of a case, or of a difference, under the common camera.
#pragma once

#include "app/session/section_keeper.h"
#include "app/viewport/scene_widget.h"
#include "render/seen.h"

#include <QLabel>

namespace pyro {

// What a pane shows. `words` stands in place of a picture that is not there yet or cannot be.
// A measured place with its deviation.
struct PaneLabel {
    Point at{};
    QString text;
    QColor colour;
    bool beyond = false; // its uncertainty
};

struct PaneLook {
    QString title;
    QString figure; // of what is seen: "118.4 °C", "-13.8 … +0.4 K"
    QString words;
    std::shared_ptr<const FieldPicture> picture;
    std::shared_ptr<const CellOrders> orders;
    std::vector<std::size_t> visible;
    std::array<double, 2> range{};
    StripView strip;
    bool logarithmic = false;
    std::optional<LevelRule> isotherms;
    ShownUnit unit;
    bool isDifference = false; // has a scale of its own
    std::vector<PaneLabel> labels;
    bool onRight = false; // its words stand on the right: only that side of it is seen
};

class Pane : public SceneWidget {
    Q_OBJECT
public:
    explicit Pane(QWidget* parent = nullptr);
    void setLook(PaneLook look, const ViewState& view);
    const PaneLook& look() const { return m_look; }
    // The camera of the whole view: a narrower pane shows as much from side to side, and more above and below.
    void setCamera(const CameraState& camera);
    CameraState camera() const;
    void setWhole(const QSize& size) { m_whole = size; } // of all panes together
    void fit();
    void setMoving(bool moving);
    // Marks the place under this pixel and tells the value there; nothing: neither.
    void point(const std::optional<QPointF>& at);
    QString reading() const { return m_reading->text(); }

signals:
    void pointed(const std::optional<QPointF>& at);
    void turned();   // the camera moves
    void released(); // it stays

protected:
    void paintGL() override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void placeWords();

    PaneLook m_look;
    SectionKeeper m_sections;
    QLabel* m_title;
    QLabel* m_figure;
    QLabel* m_words;
    QLabel* m_reading;
    QWidget* m_cross;
    QWidget* m_scale;
    QPointF m_last;
    QSize m_whole;
    std::optional<CameraState> m_camera; // of the whole view, as last given or turned to
    double widening() const;             // how many times as much is seen from below to above
};

} // namespace pyro
