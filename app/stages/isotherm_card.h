// The isotherms in the sheet of the stage Field: switch, spacing, heavy lines, single values, labels.
#pragma once

#include "app/session/session.h"
#include "app/stages/card.h"
#include "app/theme/switch.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QSpinBox>

namespace pyro {

class IsothermCard : public FoldCard {
    Q_OBJECT
public:
    explicit IsothermCard(Session& session, QWidget* parent = nullptr);
    void refresh();

private:
    QWidget* buildEditor();
    void edit(const QString& what, const std::function<void(IsothermView&)>& change);
    void readSpacing();
    void readMarks();
    void readSurfaces();
    // Values typed in the unit on display, SI; complains and gives nothing when they are none.
    std::optional<std::vector<double>> typedValues(const QLineEdit& field);
    QString surfaceFacts() const;

    Session& m_session;
    QLabel* m_facts;
    Switch* m_shown;
    QLineEdit* m_spacing;
    QSpinBox* m_heavy;
    QLineEdit* m_marks;
    QLineEdit* m_surfaces;
    QLabel* m_above;
    QCheckBox* m_labels;
    QComboBox* m_ground;
};

} // namespace pyro
