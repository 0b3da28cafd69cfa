// One section in the sheet of the stage Field: on a closed card its name, place and switch, on an opened one everything
// that can be set.
#pragma once

#include "app/session/session.h"
#include "app/theme/switch.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSlider>

namespace pyro {

class SectionCard : public QFrame {
    Q_OBJECT
public:
    SectionCard(Session& session, std::size_t section, QWidget* parent = nullptr);
    void refresh();

protected:
    void mousePressEvent(QMouseEvent* event) override;

private:
    QWidget* buildEditor();
    const SectionView* view() const;
    // Changes this section of the view; edits of one gesture with the same key are one undo step.
    void edit(const QString& what, const std::function<void(SectionView&)>& change,
              GestureKind gesture = GestureKind::None);
    void setAxis(int axis);
    void setPosition(double millimetres, GestureKind gesture);
    void readTyped();
    void fillParts();
    std::array<double, 2> reach() const; // metres along the normal, of the whole case

    Session& m_session;
    std::size_t m_section;
    FieldLook m_field; // a copy, as the session's is made anew on every call
    QLabel* m_name;
    QLabel* m_place;
    Switch* m_shown;
    QWidget* m_editor;
    QDoubleSpinBox* m_position;
    QSlider* m_slider;
    QCheckBox* m_fill;
    QCheckBox* m_mesh;
    QCheckBox* m_opened;
    QLineEdit* m_normal;
    QMenu* m_parts;
    QList<QPushButton*> m_axes;
};

// "z = 6.5 mm" for a plane across an axis, "normal 0.20 0.00 0.98 through 35.5 52.0 10.0 mm" for others.
QString placeOfPlane(const Plane& plane);

} // namespace pyro
