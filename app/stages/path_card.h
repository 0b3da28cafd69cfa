// The paths of heat or flow in the sheet of the stage Field.
#pragma once

#include "app/session/session.h"
#include "app/theme/switch.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFrame>
#include <QLabel>
#include <QSpinBox>

namespace pyro {

class PathCard : public QFrame {
    Q_OBJECT
public:
    explicit PathCard(Session& session, QWidget* parent = nullptr);
    void refresh();

protected:
    void mousePressEvent(QMouseEvent* event) override;

private:
    QWidget* buildEditor();
    void edit(const QString& what, const std::function<void(PathView&)>& change);

    Session& m_session;
    QLabel* m_facts;
    Switch* m_shown;
    QWidget* m_editor;
    QComboBox* m_quantity;
    QComboBox* m_from;
    QSpinBox* m_lines;
    QCheckBox* m_ghost;
};

} // namespace pyro
