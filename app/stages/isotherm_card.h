// The isotherms in the sheet of the stage Field: switch, spacing, heavy lines, single values, labels.
#pragma once

#include "app/session/session.h"
#include "app/theme/switch.h"

#include <QCheckBox>
#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QSpinBox>

namespace pyro {

class IsothermCard : public QFrame {
    Q_OBJECT
public:
    explicit IsothermCard(Session& session, QWidget* parent = nullptr);
    void refresh();

protected:
    void mousePressEvent(QMouseEvent* event) override;

private:
    QWidget* buildEditor();
    void edit(const QString& what, const std::function<void(IsothermView&)>& change);
    void readSpacing();
    void readMarks();
    QString unit() const;

    Session& m_session;
    QLabel* m_facts;
    Switch* m_shown;
    QWidget* m_editor;
    QLineEdit* m_spacing;
    QSpinBox* m_heavy;
    QLineEdit* m_marks;
    QCheckBox* m_labels;
};

} // namespace pyro
